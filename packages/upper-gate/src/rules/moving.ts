// Rules whose limits depend on other fields, or on facts from outside: `range(depending((boat) => limits))`.

import { Branded, isBranded } from '../schema/brand.ts';
import type { AttachRule } from '../schema/kit.ts';
import { makeRule, type AnyRule, type Rule } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';

/**
 * Limits as a function of other fields, made by `depending`. It brings the code that runs it again in a form, so that fixed
 * limits don't load that.
 */
export class Depending<in B = never, in L = never, out T = unknown> extends Branded {
  /** Returns the limits, or nothing if there are none. */
  readonly limits: (siblings: B, beside: L) => T | undefined;
  readonly attach: AttachRule<AnyRule>;

  constructor(limits: (siblings: B, beside: L) => T | undefined, attach: AttachRule<AnyRule>) {
    super();
    this.limits = limits;
    this.attach = attach;
  }
}

/** Whether limits depend on other fields. */
export const isDepending = (limits: unknown): limits is Depending => isBranded(limits) && 'limits' in limits;

/**
 * Builds a rule of limits that depend on other fields.
 *
 * @param name the name of the rule
 * @param depending the function of the limits, and what runs it again
 * @param make makes the rule for limits
 * @param more what else the rule declares for its field
 */
export function makeMoving<V, B, L, T>(
  name: string,
  { limits, attach }: Depending<B, L, T>,
  make: (limits: T) => AnyRule,
  options: RuleOptions | string | undefined,
  more: Pick<AnyRule, 'attributes' | 'givesOptions'> = {},
): Rule<V, B, 'plain', L> {
  const moving = (siblings: B, beside: L): AnyRule | undefined => {
    const now = limits(siblings, beside);
    return now === undefined ? undefined : make(now);
  };
  return makeRule<V, B, L>(name, {}, { moving, author: limits, attach, ...more }, options);
}
