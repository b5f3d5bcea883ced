// Whether fields in a part apply only under conditions, and whose.

import { isGroup, type GroupPart } from '../schema/group.ts';
import { within, type Part } from '../schema/part.ts';

const known = new WeakMap<Part, GroupPart | undefined>();

/** The first group with conditions in a part, or the part itself; it brings what sees which fields apply. */
export function conditionalGroupIn(part: Part): GroupPart | undefined {
  if (known.has(part)) return known.get(part);
  let found: GroupPart | undefined;
  within(part, (each) => {
    if (isGroup(each) && each.clauses.conditions) found = each;
    return found !== undefined;
  });
  known.set(part, found);
  return found;
}
