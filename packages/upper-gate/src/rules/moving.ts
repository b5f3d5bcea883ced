// Rules whose params depend on other fields, or on facts from outside.

import { walkRule } from '../evaluate/walkRule.ts';
import { atOnce } from '../schema/safeAccess.ts';
import { makeRule, type AnyRule, type Rule } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import { attachCrossField } from './crossField/live.ts';
import type { MovingParts } from './limits.ts';
import type { RuleName } from '../schema/vocabulary.ts';

/**
 * Builds a rule of limits that depend on other fields.
 *
 * @param name the name of the rule
 * @param limits returns them, or nothing if there are none
 * @param make makes the rule for limits
 * @param more what else the rule declares for its field
 */
export function makeMoving<V, B, L, T>(
  name: RuleName,
  limits: (siblings: B, beside: L) => T | undefined,
  make: (limits: T) => AnyRule,
  options: RuleOptions | string | undefined,
  more: MovingParts = {},
): Rule<V, B, 'plain', L> {
  const moving = (siblings: B, beside: L): AnyRule | undefined => {
    const now = atOnce(limits(siblings, beside));
    return now === undefined ? undefined : make(now);
  };
  return makeRule<V, B, L>(name, {}, { moving, author: limits, attach: attachCrossField, walk: walkRule, ...more }, options);
}
