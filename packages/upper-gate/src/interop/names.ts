// From the names of a form's controls to nested values: `crew.0.name`.

import { keysOf, pathOf } from '../schema/finding.ts';
import { assertNumber } from '../schema/assertUse.ts';
import { HOSTILE } from '../schema/safeAccess.ts';

/** Limits: how many values, how deep, and how long their lists. */
export interface NestLimits {
  readonly keys: number;
  readonly depth: number;
  readonly listLength: number;
}

/** The values exceed a limit (their number, depth or length); the message names it. */
export class LimitError extends RangeError {}

const isIndex = (key: string): boolean => /^(0|[1-9]\d*)$/.test(key);
type Box = Record<string, unknown> | unknown[];
const isBox = (value: unknown): value is Box =>
  typeof value === 'object' && value !== null && [Object.prototype, Array.prototype].includes(Object.getPrototypeOf(value) as object);

/** What a row costs that nobody sent, but that the index of a later one implies: how many values it counts for. */
export type RowCost = (list: string) => number;

/**
 * Nests named values. A name that comes several times holds a list. A name that doesn't fit beside another (`a` and `a.b`), or
 * is hostile, is dropped.
 *
 * @param entries pairs of a name and a value
 * @param limits how many keys, how deep, how long
 * @param rowCost default: 1
 * @returns the nested values
 * @throws LimitError for more, deeper or longer than the limits allow; TypeError for a limit that is not a number
 *
 * @example
 * nestNames([['crew.0.name', 'Ada'], ['kit', 'horn'], ['kit', 'lights']], limits) // { crew: [{ name: 'Ada' }], kit: ['horn', 'lights'] }
 */
export function nestNames(
  entries: Iterable<readonly [name: string, value: unknown]>,
  limits: NestLimits,
  rowCost: RowCost = () => 1,
): Record<string, unknown> {
  for (const name of ['keys', 'depth', 'listLength'] as const) assertNumber(`limits.${name}`, limits[name], 0);
  const root: Record<string, unknown> = {};
  let count = 0;
  const spend = (values: number): void => {
    count += values;
    if (count > limits.keys) throw new LimitError(`At most ${limits.keys} values are accepted, rows without values included.`);
  };
  for (const [name, value] of entries) {
    spend(1);
    const keys = name === '' ? [name] : keysOf(name);
    if (keys.length > limits.depth) throw new LimitError(`Values can be nested at most ${limits.depth} levels deep.`);
    if (!keys.some((key) => HOSTILE.includes(key)))
      place(root, keys, value, (list, length, at) => {
        if (at >= limits.listLength) throw new LimitError(`A list can have at most ${limits.listLength} entries.`);
        if (at > length) spend((at - length) * rowCost(list));
      });
  }
  return root;
}

/** @param reach called before a list is made to hold an index */
function place(root: Box, keys: readonly string[], value: unknown, reach: (list: string, length: number, index: number) => void): void {
  let box = root;
  for (let at = 0; ; at += 1) {
    const key = keys[at]!;
    if (Array.isArray(box)) {
      if (!isIndex(key)) return;
      const index = Number(key);
      if (index >= box.length) reach(pathOf(keys.slice(0, at)), box.length, index);
      // No holes: what is not named is a row without values.
      while (box.length < index) box.push(undefined);
    }
    const boxes = box as Record<string, unknown>;
    const before = Object.hasOwn(boxes, key) ? boxes[key] : undefined;
    if (at === keys.length - 1) {
      if (before === undefined) boxes[key] = value;
      else if (Array.isArray(before) && !before.some(isBox)) before.push(value);
      else if (!isBox(before)) boxes[key] = [before, value];
      return;
    }
    if (before !== undefined && !isBox(before)) return;
    boxes[key] = box = before ?? (isIndex(keys[at + 1]!) ? [] : {});
  }
}
