// Rules of an author that work like built-in ones.

import { devObject } from '#development';
import { followReads } from '../evaluate/follow.ts';
import type { Text } from '../messages/text.ts';
import { textIn, type RuleDefinition, type TextsByLanguage } from '../schema/definition.ts';
import { makeRule, type AnyRule, type Rule, type RuleBody } from '../schema/rule.ts';
import type { Severity } from '../schema/severity.ts';
import type { RuleOptions, Verdict } from '../schema/verdict.ts';
import type { KindName, ParamType } from '../schema/vocabulary.ts';
import { toResult, type CheckResult } from './crossField/check.ts';
import { attachCrossField } from './crossField/live.ts';

/** The type of a param. */
type ParamValue<T extends ParamType> = T extends 'number'
  ? number
  : T extends 'text'
    ? string
    : T extends 'flag'
      ? boolean
      : T extends 'limit'
        ? number | string
        : T extends 'texts'
          ? readonly string[]
          : T extends readonly (infer O)[]
            ? O
            : readonly (string | number | boolean)[];
/** The params of a rule, by their types. */
export type ParamsOf<S extends ParamTypes> = { readonly [P in keyof S]: ParamValue<S[P]> };

/**
 * The params of a rule with their types: `'number'`, `'text'`, `'flag'`, `'limit'`, `'texts'`, `'values'`, or a list of
 * allowed values.
 */
export interface ParamTypes {
  readonly [name: string]: ParamType;
}

/** The whole description of your own rule. */
export interface RuleRow<V, S extends ParamTypes, B, L> {
  /** Its name in documents, descriptions and `handle.params`. */
  readonly name: string;
  readonly params: S;
  /** Tests a value, which is never empty. Returns what `check` returns. */
  readonly test: (value: V, params: ParamsOf<S>, siblings: B, beside: L) => CheckResult;
  /** The message for `false`, by language. An application rewords it by its code: `{ own: { startsWith: '...' } }`. */
  readonly texts: TextsByLanguage;
  /** The kinds of fields and lists on which documents may use it. Default: all. */
  readonly fits?: readonly (KindName | 'list' | (string & {}))[];
  /** Default: its name. */
  readonly code?: string;
  /** Default `'error'`. */
  readonly severity?: Severity;
  /** Whether it reads siblings. A form then runs it again when they change. */
  readonly live?: boolean;
  /** A keyword of JSON Schema for its params: the value of its only param, or an object of them. */
  readonly keyword?: string;
  /** An attribute of HTML for its only param, a text or a number. */
  readonly attribute?: string;
}

/** Makes the rule. Also pass it to `fromJsonSchema` and `fieldFromAttributes`: `{ rules: [startsWith] }`. */
export interface DefinedRule<V = never, S extends ParamTypes = ParamTypes, B = never, L = never> {
  (
    ...args: [keyof S] extends [never] ? [options?: RuleOptions | string] : [params: ParamsOf<S>, options?: RuleOptions | string]
  ): Rule<V, B, 'plain', L>;
  readonly definition: RuleDefinition<AnyRule>;
}

/**
 * Defines a rule that works like a built-in one: a code, texts in several languages, params in messages and descriptions, a
 * notation in HTML and JSON Schema.
 *
 * @param row what the rule is: name, params, test, notations, texts
 * @returns makes the rule: takes its params, if it has any, then options as every rule does
 *
 * @example
 * const startsWith = defineRule({
 *   name: 'startsWith',
 *   params: { prefix: 'text' },
 *   test: (value: string, { prefix }) => value.startsWith(prefix),
 *   texts: { en: '{label} must start with {prefix}', de: '{label} muss mit {prefix} beginnen' },
 * });
 * text('Registration', startsWith({ prefix: 'OT-' }))
 */
export function defineRule<V, const S extends ParamTypes, B = unknown, L = unknown>(row: RuleRow<V, S, B, L>): DefinedRule<V, S, B, L> {
  devObject(row, 'defineRule() takes a row: defineRule({ name, test, texts })');
  const { test, live = false } = row;
  return definedBy(row, (params, verdict) => ({
    test: (value: V & {}, siblings: B, _now: unknown, beside: L) => {
      const result = test(value, params as ParamsOf<S>, siblings, beside);
      return result === false ? verdict : toResult(result);
    },
    follow: followReads,
    ...(live && { attach: attachCrossField }),
  }));
}

/** What tests a value, of a rule with such params; its verdict is that of `false`. */
type BodyOf = (params: object, verdict: Verdict) => RuleBody<never, never, never>;

/** Makes what makes a rule, by its description. */
export function definedBy<V, S extends ParamTypes, B, L>(
  row: Omit<RuleRow<V, S, B, L>, 'test' | 'live'>,
  bodyOf: BodyOf,
): DefinedRule<V, S, B, L> {
  const { name, params: types, texts, fits = 'any', code = name, severity, keyword, attribute } = row;
  const text: Text = textIn(texts);
  const verdict: Verdict = { code, text };
  const namesOf = (...of: readonly ParamType[]): readonly string[] => Object.keys(types).filter((param) => of.includes(types[param]!));
  const make = (params: object, options: RuleOptions | string | undefined): AnyRule =>
    makeRule<never, never, never>(
      name,
      params as Readonly<Record<string, unknown>>,
      { ...bodyOf(params, verdict), definition, limits: namesOf('limit'), quoted: namesOf('text', 'texts') },
      { ...(severity && { severity }), ...(typeof options === 'string' ? { message: options } : options) },
    );
  const definition: RuleDefinition<AnyRule> = { name, params: types, fits, keyword, attribute, make };
  const hasParams = Object.keys(types).length > 0;
  const defined = (...args: readonly unknown[]): AnyRule =>
    make(hasParams ? (args[0] as object) : {}, args[hasParams ? 1 : 0] as RuleOptions | string | undefined);
  return Object.assign(defined, { definition }) as never;
}
