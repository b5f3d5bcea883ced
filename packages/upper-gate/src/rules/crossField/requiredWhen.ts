// A rule that requires a value while other fields say so.

import { makeRule, type Rule } from '../../schema/rule.ts';
import type { RuleOptions } from '../../schema/verdict.ts';
import { attachCrossField } from './live.ts';

/**
 * Requires a value while a condition on the siblings holds. Code `valueMissing`.
 *
 * @param when reads the siblings; runs again when one that it read changes. While it waits for a field without a value, it
 *   does not require.
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * .with(fieldRules({ phone: requiredWhen((boat) => boat.callBack) }))
 */
export function requiredWhen<B, L = unknown>(
  when: (siblings: B, beside: L) => boolean | undefined,
  options?: RuleOptions | string,
): Rule<unknown, B, 'plain', L> {
  return makeRule<unknown, B, L>('requiredWhen', {}, { requires: when, author: when, attach: attachCrossField }, options);
}
