// The steps of the groups around a part, in a form or a value that is validated: which of them are on it.

import { isGroup, type StepTree } from '../schema/group.ts';
import type { Part } from '../schema/part.ts';

/** What a group declares for a part, and for the parts in it. */
export interface ScopedSteps<S> {
  readonly scope: S;
  readonly tree: StepTree;
}

/** A part in its place, as far as steps are concerned. */
interface Stepped<S> {
  readonly part: Part;
  readonly steps: readonly ScopedSteps<S>[];
}

const NOTHING: readonly never[] = [];

/** The steps on what is in a place, those of the innermost group first. @param step by what they name it */
export function stepsOn<S extends Stepped<S>>(parent: S, step: string): readonly ScopedSteps<S>[] {
  const { part, steps } = parent;
  const own = isGroup(part) ? part.steps.below.get(step) : undefined;
  if (own === undefined && steps.length === 0) return NOTHING;
  const others = steps.flatMap(({ scope, tree }): readonly ScopedSteps<S>[] => {
    const inner = tree.below.get(step);
    return inner ? [{ scope, tree: inner }] : NOTHING;
  });
  return own ? [{ scope: parent, tree: own }, ...others] : others;
}
