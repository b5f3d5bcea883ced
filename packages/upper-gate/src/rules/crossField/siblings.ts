// Rules that compare a field with another of its group: one whose values can be compared with its own. (The condition on
// `K` is written out each time, since a name for it would stand in error messages in place of the fields that fit.)

import { differs, duplicate, rangeOverflow, rangeUnderflow } from '../../messages/english.ts';
import { position, type Moment } from '../../schema/calendar.ts';
import { attachCrossField } from './live.ts';
import { makeRule, type Rule } from '../../schema/rule.ts';
import type { RuleOptions, Verdict } from '../../schema/verdict.ts';

/** A rule on a field and another; passes if the other is empty, unless it says otherwise. */
const compare = <V, B>(
  name: 'sameAs' | 'differsFrom' | 'after' | 'before',
  params: { readonly other: string; readonly orSame?: boolean },
  holds: (value: unknown, other: unknown) => boolean,
  verdict: Verdict | ((value: unknown) => Verdict),
  options: RuleOptions | string | undefined,
): Rule<V, B> => {
  const test = (value: unknown, siblings: B): Verdict | undefined =>
    holds(value, siblings[params.other as keyof B]) ? undefined : typeof verdict === 'function' ? verdict(value) : verdict;
  return makeRule<V, B>(name, params, { test, attach: attachCrossField }, options);
};

const UNDER: Verdict = { code: 'rangeUnderflow', text: rangeUnderflow };
const OVER: Verdict = { code: 'rangeOverflow', text: rangeOverflow };

/** A rule on a field that comes behind another (`after`), or before it. */
export function compareOrder<V, B>(name: 'after' | 'before', other: string, options: OrSame | string): Rule<V, B> {
  const direction = name === 'after' ? 1 : -1;
  const verdict = name === 'after' ? UNDER : OVER;
  const { orSame = false, ...rest } = typeof options === 'string' ? { message: options } : options;
  const holds = (value: unknown, its: unknown): boolean => {
    const distance = its === undefined ? direction : position(value) - position(its);
    return distance * direction > 0 || (orSame && distance === 0);
  };
  // Of numbers, messages speak of more and less.
  const worded = (value: unknown): Verdict => (typeof value === 'number' ? { ...verdict, params: { numeric: true } } : verdict);
  return compare(name, { other, orSame }, holds, worded, rest);
}

/**
 * Requires the same value as in another field of the group. Code `differs`.
 *
 * @param other the name of the other field
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * .with(fieldRules({ emailAgain: sameAs('email') }))
 */
export function sameAs<
  V,
  B,
  K extends { [X in keyof B]: [V] extends [NonNullable<B[X]>] ? X : [NonNullable<B[X]>] extends [V] ? X : never }[keyof B] & string,
>(other: K, options?: RuleOptions | string): Rule<V, B> {
  return compare('sameAs', { other }, Object.is, { code: 'differs', text: differs }, options);
}

/**
 * Requires another value than in another field of the group. Code `duplicate`.
 *
 * @param other the name of the other field
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * .with(fieldRules({ secondPhone: differsFrom('phone') }))
 */
export function differsFrom<
  V,
  B,
  K extends { [X in keyof B]: [V] extends [NonNullable<B[X]>] ? X : [NonNullable<B[X]>] extends [V] ? X : never }[keyof B] & string,
>(other: K, options?: RuleOptions | string): Rule<V, B> {
  return compare('differsFrom', { other }, (value, its) => !Object.is(value, its), { code: 'duplicate', text: duplicate }, options);
}

/**
 * Requires the number, date or time to be after that of another field; with `orSame`, the same is allowed. Code
 * `rangeUnderflow`.
 *
 * @param other the name of the other field
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * .with(fieldRules({ departure: after('arrival', { orSame: true }) }))
 */
export function after<
  V,
  B,
  K extends ([V] extends [number | Moment]
    ? { [X in keyof B]: [V] extends [NonNullable<B[X]>] ? X : [NonNullable<B[X]>] extends [V] ? X : never }[keyof B] & string
    : never),
>(other: K, options: OrSame | string = {}): Rule<V, B> {
  return compareOrder('after', other, options);
}

/**
 * Requires the number, date or time to be before that of another field; with `orSame`, the same is allowed. Code
 * `rangeOverflow`.
 *
 * @param other the name of the other field
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * .with(fieldRules({ arrival: before('departure') }))
 */
export function before<
  V,
  B,
  K extends ([V] extends [number | Moment]
    ? { [X in keyof B]: [V] extends [NonNullable<B[X]>] ? X : [NonNullable<B[X]>] extends [V] ? X : never }[keyof B] & string
    : never),
>(other: K, options: OrSame | string = {}): Rule<V, B> {
  return compareOrder('before', other, options);
}

export interface OrSame extends RuleOptions {
  /** Whether the same value is allowed. Default false. */
  readonly orSame?: boolean;
}
