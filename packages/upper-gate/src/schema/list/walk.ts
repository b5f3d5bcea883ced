// How a whole value of a list is walked: row by row, then the rules on the list itself.

import type { Part, Walker } from '../part.ts';
import { isHollow, jsonTypeOf, lengthOf, ownRaw } from '../safeAccess.ts';

/** @returns the data of the rows, `NO_VALUE` for those that have none; or `NO_VALUE` if it is no list */
export function walkList(list: Part & { readonly part: Part }, raw: unknown, walker: Walker): unknown {
  const type = jsonTypeOf(raw);
  const rows = type === 'none' || raw === '' ? [] : (raw as readonly unknown[]);
  const size = type === 'array' || rows !== raw ? lengthOf(rows) : undefined;
  if (size === undefined || isHollow(rows)) return walker.reject(list);
  const { missing } = walker;
  const data: unknown[] = [];
  for (let i = 0; i < size; i += 1) data.push(walker.child(list.part, ownRaw(rows, i), i));
  walker.close(data, missing);
  walker.rules(list, data);
  return data;
}
