// How a whole value of a list is walked: row by row, then the rules on the list itself.

import { walkOwnRules } from '../../evaluate/walkRule.ts';
import type { Part } from '../part.ts';
import { isHollow, jsonTypeOf, lengthOf, ownRaw } from '../safeAccess.ts';
import type { Walker } from '../walker.ts';

/** A raw value as a list, and its length; nothing if it is none. */
export function rowsOf(raw: unknown): readonly [rows: readonly unknown[], size: number] | undefined {
  const type = jsonTypeOf(raw);
  const rows = type === 'none' || raw === '' ? [] : (raw as readonly unknown[]);
  const size = type === 'array' || rows !== raw ? lengthOf(rows) : undefined;
  return size === undefined || isHollow(rows) ? undefined : [rows, size];
}

/** @returns the data of the rows, `NO_VALUE` for those that have none; or `NO_VALUE` if it is no list */
export function walkList(list: Part & { readonly part: Part }, raw: unknown, walker: Walker): unknown {
  const found = rowsOf(raw);
  if (found === undefined) return walker.reject(list);
  const [rows, size] = found;
  const { missing, entries } = walker;
  const start = entries.length;
  const data: unknown[] = [];
  for (let i = 0; i < size; i += 1) data.push(walker.child(list.part, ownRaw(rows, i), i));
  walker.close(data, missing);
  walker.raw = raw;
  walker.start = start;
  walkOwnRules(list, data, walker);
  return data;
}
