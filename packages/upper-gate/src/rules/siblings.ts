// Rules that compare a field with another of its group.

import { differs, duplicate, rangeOverflow, rangeUnderflow } from '../messages/en.ts';
import { position } from '../schema/calendar.ts';
import { makeRule, type Rule, type RuleOptions, type Verdict } from '../schema/rule.ts';

/** A rule on a field and another; passes if the other is empty, unless it says otherwise. */
const compare = <B, K extends keyof B & string>(
  name: 'sameAs' | 'differsFrom' | 'after' | 'before',
  params: { readonly other: K; readonly orSame?: boolean },
  holds: (value: unknown, other: unknown) => boolean,
  verdict: Verdict,
  options: RuleOptions | string | undefined,
): Rule<B[K], B> =>
  makeRule(name, params, { test: (value: B[K], siblings: B) => (holds(value, siblings[params.other]) ? undefined : verdict) }, options);

/**
 * The value must be the same as that of another field of the group. Code `differs`.
 *
 * @example
 * .rules({ emailAgain: sameAs('email') })
 */
export function sameAs<B, K extends keyof B & string>(other: K, options?: RuleOptions | string): Rule<B[K], B> {
  return compare('sameAs', { other }, Object.is, { code: 'differs', text: differs }, options);
}

/**
 * The value must not be the same as that of another field of the group. Code `duplicate`.
 *
 * @example
 * .rules({ secondPhone: differsFrom('phone') })
 */
export function differsFrom<B, K extends keyof B & string>(other: K, options?: RuleOptions | string): Rule<B[K], B> {
  return compare('differsFrom', { other }, (value, its) => !Object.is(value, its), { code: 'duplicate', text: duplicate }, options);
}

/**
 * The number, date or time must lie after that of another field; with `orSame`, or at it. Code `rangeUnderflow`.
 *
 * @example
 * .rules({ departure: after('arrival', { orSame: true }) })
 */
export function after<B, K extends keyof B & string>(other: K, options: OrSame | string = {}): Rule<B[K], B> {
  const { orSame = false, ...rest } = typeof options === 'string' ? { message: options } : options;
  const holds = (value: unknown, its: unknown): boolean =>
    its === undefined || position(value) > position(its) || (orSame && position(value) === position(its));
  return compare('after', { other, orSame }, holds, { code: 'rangeUnderflow', text: rangeUnderflow }, rest);
}

/**
 * The number, date or time must lie before that of another field; with `orSame`, or at it. Code `rangeOverflow`.
 *
 * @example
 * .rules({ arrival: before('departure') })
 */
export function before<B, K extends keyof B & string>(other: K, options: OrSame | string = {}): Rule<B[K], B> {
  const { orSame = false, ...rest } = typeof options === 'string' ? { message: options } : options;
  const holds = (value: unknown, its: unknown): boolean =>
    its === undefined || position(value) < position(its) || (orSame && position(value) === position(its));
  return compare('before', { other, orSame }, holds, { code: 'rangeOverflow', text: rangeOverflow }, rest);
}

export interface OrSame extends RuleOptions {
  /** Whether the same value is taken too. Default false. */
  readonly orSame?: boolean;
}
