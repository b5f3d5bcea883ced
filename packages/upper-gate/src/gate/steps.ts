// The steps of the groups around a node: which of them are on it, and what these may read.

import { isGroup, type StepTree } from '../schema/group.ts';
import type { LiveNode, Recorder, Scopes } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';

/** What a group says of a node, and of what is in it. */
export interface ScopedSteps {
  readonly scope: LiveNode<Part>;
  readonly tree: StepTree;
}

/** A node, as far as steps are concerned. */
interface SteppedNode extends LiveNode<Part> {
  readonly steps: readonly ScopedSteps[];
}

const NOTHING: readonly never[] = [];

/** The steps on a node, those of the innermost group first. @param step by what they name it */
export function stepsOn(parent: SteppedNode | undefined, step: string): readonly ScopedSteps[] {
  if (parent === undefined) return NOTHING;
  const { part, steps } = parent;
  // A list's key stands for each of its rows.
  if (parent.rows !== undefined) return steps;
  const own = isGroup(part) ? part.steps.below.get(step) : undefined;
  if (own === undefined && steps.length === 0) return NOTHING;
  const others = steps.flatMap(({ scope, tree }): readonly ScopedSteps[] => {
    const inner = tree.below.get(step);
    return inner ? [{ scope, tree: inner }] : NOTHING;
  });
  return own ? [{ scope: parent, tree: own }, ...others] : others;
}

/** What a rule or condition of a group may read, on a node in it. @param by records it; default: the callback under way */
export function scopesOf(node: LiveNode, scope: LiveNode, by?: Recorder): Scopes {
  const siblings = scope.readForRule(by);
  const { parent } = node;
  // Most are on fields of the group itself.
  if (node === scope || parent === undefined || parent === scope) return [siblings, siblings];
  return [siblings, groupAround(parent).readForRule(by, scope.depth)];
}

/** The nearest group at or around a node. */
export const groupAround = (node: LiveNode): LiveNode =>
  node.parent === undefined || isGroup(node.part as Part) ? node : groupAround(node.parent);
