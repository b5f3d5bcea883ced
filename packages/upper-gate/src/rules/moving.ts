// Rules whose limits depend on other fields, or on facts from outside: `range((boat) => limits)`.

import { makeRule, type AnyRule, type Rule } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import type { RuleName } from '../schema/vocabulary.ts';
import { attachCrossField } from './crossField/live.ts';

/** Limits, as a function of the siblings (then of the fields beside, where it lies further in); none where it returns nothing. */
export type Moving<B, L, T> = (siblings: B, beside: L) => T | undefined;

/**
 * Builds a rule of a function of its limits.
 *
 * @param make makes the rule for limits
 * @param more what else it says of its field
 */
export function makeMoving<V, B, L, T>(
  name: RuleName,
  limits: Moving<B, L, T>,
  make: (limits: T) => AnyRule,
  options: RuleOptions | string | undefined,
  more: Pick<AnyRule, 'attributes' | 'givesOptions'> = {},
): Rule<V, B, never, L> {
  const moving = (siblings: B, beside: L): AnyRule | undefined => {
    const now = limits(siblings, beside);
    return now === undefined ? undefined : make(now);
  };
  return makeRule<V, B, L>(name, {}, { moving, author: limits, attach: attachCrossField, ...more }, options);
}
