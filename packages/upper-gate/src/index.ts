/**
 * Declare rules and schemas for form fields, validate values, and run live forms.
 *
 * @module upper-gate
 */

export { text, type TextSettings } from './schema/text.ts';
export { integer, number, type NumberSettings } from './schema/number.ts';
export { boolean } from './schema/boolean.ts';
export { choice, choices } from './schema/choice.ts';
export { date, dateTime, month, time, week, type DateSettings, type MomentField } from './schema/moments.ts';
export type { Moment } from './schema/calendar.ts';
export { anyJson } from './schema/anyJson.ts';
export type { Json } from './schema/json.ts';
export { jsonOf, type Travelling, valuesOf } from './schema/travel.ts';
export { color } from './schema/color.ts';
export { file, type FileLike, files } from './schema/files.ts';
export { custom, type CustomKind, unreadable } from './schema/custom.ts';
export { interval } from './rules/crossField/interval.ts';
export { type Clause, type Fields, group, type Group, type GroupSettings, type OneOrMore } from './schema/group.ts';
export { appliesWhen } from './clauses/appliesWhen/appliesWhen.ts';
export { fieldRules } from './clauses/fieldRules/fieldRules.ts';
export { groupRules } from './clauses/groupRules.ts';
export { extend } from './schema/compose/extend.ts';
export { mapped, type Mapping } from './schema/compose/mapped.ts';
export { partial, type PartialGroup } from './schema/compose/partial.ts';
export { omit, pick, type PickOptions } from './schema/compose/pick.ts';
export { dictionary, type Dictionary } from './schema/dictionary/dictionary.ts';
export { recursive, type Recursive } from './schema/recursive.ts';
export { list, type List } from './schema/list/list.ts';
export { type Cases, variant, type Variant, type VariantData } from './schema/variant/variant.ts';
export type { Field, Marks, Optional, RulesFor } from './schema/field.ts';
export type { Option, Options, OptionValue, TextOptions } from './schema/option.ts';
export { hasAsyncRules, isSchema } from './schema/part.ts';
export { context, isContext, type Context, type ContextOptions, type ContextValue } from './schema/context/context.ts';
export type { DataOf, InJson, Node, RawOf, Settings } from './schema/node.ts';
export type { FormClock } from './schema/kit.ts';
export type { At, KnownPath, PathOf, PathsOf } from './schema/paths.ts';
export type { AsyncCheckRun, Mark, Rule } from './schema/rule.ts';
export type { Clock, RuleOptions, Stage } from './schema/verdict.ts';
export type { FieldHolding, Holding, JsonType, Traits } from './schema/traits.ts';
export { type Finding, keysOf, type Params, pathOf, toJsonPointer } from './schema/finding.ts';
export type { Severity } from './schema/severity.ts';
export type { Fault } from './schema/walker.ts';
export type { ValueSource } from './validate/walk.ts';
export { mustBeTrue, required } from './rules/required.ts';
export { requiredWhen } from './rules/crossField/requiredWhen.ts';
export { length, type LengthLimits } from './rules/length.ts';
export { range, type RangeLimits, step } from './rules/range.ts';
export { cardNumber, email, type EmailOptions, ipAddress, pattern, url, type UrlOptions } from './rules/text.ts';
export { asyncChoicesFrom, type AsyncChoicesOptions } from './rules/asyncChoicesFrom/asyncChoicesFrom.ts';
export { choicesFrom, oneOf } from './rules/options.ts';
export { depending } from './rules/depending.ts';
export type { Depending } from './rules/limits.ts';
export { after, before, differsFrom, type OrSame, sameAs } from './rules/crossField/siblings.ts';
export { noDuplicates } from './rules/noDuplicates/noDuplicates.ts';
export { fileSize, fileType } from './rules/files.ts';
export { askTogether, type TogetherRun } from './rules/asyncCheck/askTogether.ts';
export { asyncCheck, type AsyncCheckOptions, type Checks } from './rules/asyncCheck/asyncCheck.ts';
export { check, type CheckFinding, type CheckResult } from './rules/crossField/check.ts';
export { defineAsyncRule, type AsyncRuleRow } from './rules/defineAsyncRule.ts';
export { defineRule, type DefinedRule, type ParamTypes, type RuleRow } from './rules/defineRule.ts';
export { defineKind, type DefinedKind, type KindRow } from './schema/defineKind.ts';
export type { TextsByLanguage } from './schema/definition.ts';
export {
  validate,
  validateAsync,
  type ValidationResult,
  type ValidateBaseOptions,
  type ValidateAsyncOptions,
  type ValidateOptions,
} from './validate/validate.ts';
export { createGate } from './gate/createGate.ts';
export type { AnyGate, Failed, Gate, GateEvents, GateOptions, GateState, ListOf, Passed, ValidateGateOptions } from './gate/gate.ts';
export { type Draft, type DraftOptions, type DraftStorage, keepDraft } from './gate/draft.ts';
export type { DataSoFar, FieldState } from './gate/fieldState.ts';
export type { Handle, ListHandle, Row } from './gate/handle.ts';
export type { Values } from './gate/values.ts';
export type { Outcome, Status, SubmitRun } from './gate/submission.ts';
export type { FocusOnRefusal } from './gate/store.ts';
export type { GivenFinding, ProblemDetails, ReadRefusal } from './gate/serverAnswer.ts';
export type { Catalogue, Label, MessageParams, Text } from './messages/text.ts';
