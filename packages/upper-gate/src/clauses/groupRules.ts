// Rules on a group as a whole.

import { attachOwnRules } from '../evaluate/attachRule.ts';
import { walkOwnRules } from '../evaluate/walkRule.ts';
import type { Clause, Fields, Group, GroupRules, Under } from '../schema/group.ts';
import type { DATA } from '../schema/node.ts';
import type { AnyRule, Mark, Rule } from '../schema/rule.ts';
import { addClauses, makeClause } from './makeClause.ts';

/** Behind all rules of the group on its fields. */
const LAST = 1e6;

const GROUP_RULES: GroupRules = {
  walk: walkOwnRules,
  attach: (node) => attachOwnRules(node, LAST),
};

/**
 * Adds rules on the group as a whole: a clause for `.with()`. Their findings are on the group, or on the field in their `path`.
 *
 * @param rules the rules; each gets the data of the group
 * @returns the clause
 * @throws TypeError, when it is added, for what is no rule
 *
 * @example
 * .with(groupRules(check((boat) => boat.lengthM * boat.beam < 90, 'This boat does not fit the chamber')))
 */
export const groupRules = <F extends Fields, C>(
  ...rules: readonly Rule<
    { [X in keyof NoInfer<F>]: X extends keyof NoInfer<C> ? Under<F[X], F[X][typeof DATA], NoInfer<C>[X]> : F[X][typeof DATA] },
    unknown,
    Mark
  >[]
): Clause<F, C, Group<F, C>> =>
  makeClause((group) => addClauses(group, { groupRules: GROUP_RULES }, [...group.ruleList, ...(rules as readonly AnyRule[])]));
