// Makes a clause from what it does to a group.

import { brand } from '../schema/brand.ts';
import { GroupPart, type Clause, type Clauses, type Fields } from '../schema/group.ts';

/** @param add makes the group with the clause from the one without it */
export const makeClause = <F extends Fields, C, G>(add: (group: GroupPart) => GroupPart): Clause<F, C, G> =>
  Object.assign(add, brand) as unknown as Clause<F, C, G>;

/** A group with further clauses, in place of those of their kind. @param groupRules the rules on it as a whole */
export function addClauses(group: GroupPart, added: Clauses, groupRules = group.ruleList): GroupPart {
  const clauses = { ...group.clauses, ...added };
  const reaches = [clauses.conditions, clauses.fieldRules].flatMap((clause) => clause?.reach ?? []);
  return new GroupPart(group.settings, group.fields, { ...clauses, reaches }, groupRules, group.isPartial);
}
