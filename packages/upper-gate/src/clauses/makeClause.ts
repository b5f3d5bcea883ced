// Makes a clause from what it does to a group.

import { brand } from '../schema/brand.ts';
import type { Clause, Fields, GroupPart } from '../schema/group.ts';

/** @param add makes the group with the clause from the one without it */
export const makeClause = <F extends Fields, C, G>(add: (group: GroupPart) => GroupPart): Clause<F, C, G> =>
  Object.assign(add, brand) as unknown as Clause<F, C, G>;
