// One of several values: given once and for all, or by other fields and facts from outside.

import { DEV } from '#development';
import { notAllowed } from '../messages/english.ts';
import { assertUse } from '../schema/assertUse.ts';
import { asText, toOptions, type Options, type OptionValue } from '../schema/option.ts';
import { makeRule, type AnyRule, type Rule } from '../schema/rule.ts';
import type { RuleOptions, Verdict } from '../schema/verdict.ts';
import type { RuleName } from '../schema/vocabulary.ts';
import { firstOf, sayInstead } from './instead.ts';
import { isDepending, type Depending } from './limits.ts';
import { makeMoving } from './moving.ts';

const OTHER: Verdict = { code: 'notAllowed', text: notAllowed };

/** A rule that needs to know nothing but the value. */
interface OptionsRule extends AnyRule {
  readonly test: (value: unknown) => Verdict | undefined;
}

/** A rule that takes what is among options; of a list, each of its values. @param isShown whether the options are for the page */
export function amongst(name: RuleName, of: Options<OptionValue>, isShown: boolean, options?: RuleOptions | string): OptionsRule {
  assertUse(Array.isArray(of), DEV && `${name}() takes an array of values: ['a', 'b']. It got ${JSON.stringify(of)}.`);
  const all = toOptions<OptionValue>(of);
  const values = new Set<unknown>(all.map(({ value }) => value));
  const isAmong = (value: unknown): boolean => (Array.isArray(value) ? value.every((each) => values.has(each)) : values.has(value));
  const test = (value: unknown): Verdict | undefined => (isAmong(value) ? undefined : OTHER);
  return { ...makeRule<unknown>(name, { options: [...values] }, isShown ? { options: asText(of) } : {}, options), test };
}

/**
 * Requires one of some values. Code `notAllowed`. If the type should know them, use `choice()`; if the page should show them,
 * `choicesFrom()`.
 *
 * @param values fixed, or `depending` on other fields
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * text('Canal', oneOf(['Upper Reach', 'Lower Reach']))
 * .with(fieldRules({ lock: oneOf(depending((it) => LOCKS[it.canal])) }))
 */
export function oneOf<T extends OptionValue, B = unknown, L = unknown>(
  values: readonly T[] | Depending<B, L, readonly T[]>,
  options?: RuleOptions | string,
): Rule<Wide<T> | undefined, B, 'plain', L>;
export function oneOf(
  values: readonly OptionValue[] | Depending<never, never, readonly OptionValue[]>,
  options?: RuleOptions | string,
): AnyRule {
  return isDepending(values)
    ? values.toRule('oneOf', (now) => amongst('oneOf', now, false), options)
    : amongst('oneOf', values, false, options);
}

/** The type of the fields that such values fit. */
export type Wide<T> = T extends string ? string : T extends number ? number : boolean;

/**
 * Computes the options of a field from other fields or facts from outside. A value that is not one of them is `notAllowed`,
 * even if it was one before. `handle.options` and the elements of the page follow. While the function waits for a field, there
 * are no options, and the value is not validated.
 *
 * @param of returns the values, with labels where these say more, or undefined if every value is taken
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule, for `fieldRules()`
 *
 * @example
 * group({ harbour: choice('Harbour', ['Oster', 'Wester'], required()), berth: text('Berth') })
 *   .with(fieldRules({ berth: choicesFrom((it) => BERTHS[it.harbour]) }))
 */
export const choicesFrom = <T extends OptionValue, B, L = unknown>(
  of: (siblings: B, beside: L) => Options<T> | undefined,
  options?: RuleOptions | string,
): Rule<Wide<T> | readonly Wide<T>[] | undefined, B, 'plain', L> =>
  makeMoving('choicesFrom', of, (now) => amongst('choicesFrom', now, true), options, {
    givesOptions: true,
    whileWaiting: (live, target, reads) => sayInstead(live, target, firstOf(reads)),
  });
