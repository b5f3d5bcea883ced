// Upper Gate: declare rules and schemas for form fields, run them at the right moment, show what they find.

export { text, type TextSettings } from './schema/text.ts';
export { number, integer } from './schema/number.ts';
export { boolean } from './schema/boolean.ts';
export { choice } from './schema/choice.ts';
export { date } from './schema/date.ts';
export { group, type Fields, type Group, type OneOrMore } from './schema/group.ts';
export type { Field } from './schema/field.ts';
export { isSchema, type DataOf, type Node, type RawOf, type Settings } from './schema/node.ts';
export type { AskContext, Rule, RuleOptions, Stage } from './schema/rule.ts';
export { pointer, type Finding, type Params, type Severity } from './schema/finding.ts';
export type { Fault } from './schema/run.ts';
export { required, requiredWhen } from './rules/required.ts';
export { length, range } from './rules/limits.ts';
export { email, pattern } from './rules/forms.ts';
export { sameAs } from './rules/siblings.ts';
export { asyncCheck, check, type Answer, type Answered, type AskOptions } from './rules/check.ts';
export {
  validate,
  validateAsync,
  type Judged,
  type JudgeOptions,
  type ValidateAsyncOptions,
  type ValidateOptions,
} from './validate/validate.ts';
export { createGate, type Gate, type GateEvents, type GateOptions, type GateState } from './gate/createGate.ts';
export type { Values } from './gate/values.ts';
export type { FieldState, Handle } from './gate/handle.ts';
export type { Connection } from './gate/cell.ts';
export type { FocusOnRefusal, Outcome, Status, SubmitContext } from './gate/submission.ts';
export type { GivenFinding, ProblemDetails } from './gate/refusal.ts';
export type { At, PathOf } from './schema/paths.ts';
export type { Catalogue, MessageParams, Text } from './messages/text.ts';
