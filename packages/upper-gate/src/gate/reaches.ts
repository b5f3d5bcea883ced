// What the clauses of groups say of what is in them, as it comes down the tree of a form.

import type { LiveNode } from '../schema/kit.ts';
import type { Part, Reach } from '../schema/part.ts';

/** What a clause says about a part, and the node of the group that it is a clause of. */
export interface ScopedReach {
  readonly scope: LiveNode<Part>;
  readonly reach: Reach;
}

/** A node, and what clauses say of what is in it. */
interface ReachedNode extends LiveNode<Part> {
  readonly reaches: readonly ScopedReach[];
}

const NOTHING: readonly never[] = [];

/** What clauses say of a part in a node, those of the innermost group first. @param name by what name they know it */
export function reachesIn(parent: ReachedNode | undefined, name: string): readonly ScopedReach[] {
  if (parent === undefined) return NOTHING;
  // The name of a list, or dictionary, stands for each of its rows, or entries.
  if (parent.part.isOpen) return parent.reaches;
  const own = parent.part.clauses?.reaches ?? NOTHING;
  if (own.length + parent.reaches.length === 0) return NOTHING;
  return [...own.map((reach) => ({ scope: parent, reach })), ...parent.reaches].flatMap(({ scope, reach }): readonly ScopedReach[] => {
    const inner = reach.below.get(name);
    return inner ? [{ scope, reach: inner }] : NOTHING;
  });
}
