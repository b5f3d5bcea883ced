// Limits that depend on other fields.

import { Branded } from '../schema/brand.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import type { Depending, MovingParts } from './limits.ts';
import { makeMoving } from './moving.ts';
import type { RuleName } from '../schema/vocabulary.ts';

class DependingLimits<B, L, T> extends Branded implements Depending<B, L, T> {
  readonly limits: (siblings: B, beside: L) => T | undefined;

  constructor(limits: (siblings: B, beside: L) => T | undefined) {
    super();
    this.limits = limits;
  }

  toRule(name: RuleName, make: (limits: T) => AnyRule, options: RuleOptions | string | undefined, more?: MovingParts): AnyRule {
    return makeMoving(name, this.limits, make, options, more);
  }
}

/**
 * Makes limits that depend on other fields, or on facts from outside, in place of fixed ones in `range`, `length`, `step` and
 * `oneOf`. Params, messages, hints, counters and the attributes of controls follow.
 *
 * @param limits gets the siblings, then the fields beside where it lies further in; returns what the rule takes: nothing for no
 *   limit. While it waits for a field without a value, there is none.
 * @returns what these rules take in place of limits
 *
 * @example
 * .with(fieldRules({ weight: range(depending((boat) => ({ max: HEAVIEST[boat.kind] }))) }))
 */
export const depending = <B, L, T>(limits: (siblings: B, beside: L) => T | undefined): Depending<B, L, T> => new DependingLimits(limits);
