// Rules that compare a field with another of its group.

import { differs } from '../messages/en.ts';
import { makeRule, type Rule, type RuleOptions, type Verdict } from '../schema/rule.ts';

const DIFFERS: Verdict = { code: 'differs', say: differs };

/**
 * The value must be the same as that of another field of the group. Code `differs`.
 *
 * @example
 * .rules({ emailAgain: sameAs('email') })
 */
export function sameAs<B, K extends keyof B & string>(other: K, options?: RuleOptions | string): Rule<B[K], B> {
  return makeRule(
    'sameAs',
    { other },
    { judge: (value: B[K], siblings: B) => (Object.is(value, siblings[other]) ? undefined : DIFFERS) },
    options,
  );
}
