// The rules of a field whose functions may read facts from outside, in one form: they run again when such a fact changes.

import { swapSource } from '../schema/context/running.ts';
import type { FollowingNode, Readable } from '../schema/kit.ts';
import { createWatch, recordedBy } from './tracking.ts';

/** Runs the rules of a field. Most read no fact, and need no watch. */
export function followReads<T>(node: FollowingNode, run: () => T): T {
  const { kit } = node;
  const recorder = {
    recordRead(what: Readable) {
      node.ownWatch ??= createWatch(node, () => kit.start(node));
      node.ownWatch.recordRead(what);
    },
  };
  const outer = swapSource(kit);
  try {
    return node.ownWatch ? node.ownWatch.track(run) : recordedBy(kit, recorder, run);
  } finally {
    swapSource(outer);
  }
}
