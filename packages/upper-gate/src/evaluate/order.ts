// The order of findings: the fields in the order of the schema; on one field, its own rules first, then those of the groups
// around it from the inside out; on a whole, behind all on its parts.

import { keysOf } from '../schema/finding.ts';
import type { Part } from '../schema/part.ts';
import type { Order } from '../schema/verdict.ts';

export const compareOrder = (a: Order, b: Order): number => b.depth - a.depth || a.index - b.index;

/** Behind every field: a whole, and what the schema does not know. */
const WHOLE = 1e9;
const UNKNOWN = 2e9;

/** The positions of the parts on a path, from the outside in. */
function positionsOn(root: Part, path: string): readonly number[] {
  if (path === '') return [WHOLE];
  let part: Part | undefined = root;
  const positions = keysOf(path).map((key) => {
    const found = part?.locate?.(key);
    part = found?.part;
    return found ? found.position : UNKNOWN;
  });
  return [...positions, WHOLE];
}

/** Brings what was reported into schema order; on one path, what came first stays first. */
export function sortByPath<T extends { readonly path: string }>(items: T[], root: Part): void {
  const positions = new Map(items.map((item) => [item, positionsOn(root, item.path)]));
  items.sort((one, other) => {
    const [a, b] = [positions.get(one)!, positions.get(other)!];
    let i = 0;
    while (i < a.length - 1 && a[i] === b[i]) i += 1;
    return a[i]! - b[i]!;
  });
}
