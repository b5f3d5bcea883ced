// The limits of a rule where they depend on other fields, or on facts from outside. What makes them, `depending`, brings the
// code that follows them, so that fixed limits don't load that.

import { isBranded, type Branded } from '../schema/brand.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import type { RuleName } from '../schema/vocabulary.ts';

/** Limits as a function of other fields, made by `depending`. */
export interface Depending<in B = never, in L = never, out T = unknown> extends Branded {
  /** Returns the limits, or nothing if there are none. */
  readonly limits: (siblings: B, beside: L) => T | undefined;
  /**
   * Builds the rule that follows them.
   *
   * @param name the name of the rule
   * @param make makes the rule for limits
   * @param options the options of the rule
   * @param more what else the rule declares for its field
   * @returns the rule
   */
  toRule(name: RuleName, make: (limits: T) => AnyRule, options: RuleOptions | string | undefined, more?: MovingParts): AnyRule;
}

/** What a rule whose params move declares for its field. */
export type MovingParts = Pick<AnyRule, 'attributes' | 'givesOptions' | 'limits' | 'whileWaiting' | 'writes'>;

/** Whether limits depend on other fields. */
export const isDepending = (limits: unknown): limits is Depending => isBranded(limits) && 'limits' in limits;
