// Rules that require a value.

import { makeRule, type Mark, type Rule } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';

/**
 * Requires a value: a text that is not empty, a choice, a ticked box, a row. Code `valueMissing`. The type of the data loses
 * its `undefined`, unless the `severity` does not block.
 *
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * text('Vessel name', required())
 * text('Vessel name', required('Enter a name that we can call you by'))
 */
export function required(options: RuleOptions & { readonly severity: 'warning' | 'notice' }): Rule<unknown>;
export function required(options?: (RuleOptions & { readonly severity?: 'error' }) | string): Rule<unknown, unknown, 'required'>;
export function required(options?: RuleOptions | string): Rule<unknown, unknown, Mark> {
  return makeRule<unknown, Mark>('required', {}, { requires: () => true }, options);
}

/**
 * Requires a ticked box: the same as `required()`, with a clearer name. Code `valueMissing`.
 *
 * @example
 * boolean('I have read the by-laws', mustBeTrue())
 */
export const mustBeTrue: (options?: (RuleOptions & { readonly severity?: 'error' }) | string) => Rule<boolean, unknown, 'required'> =
  required;
