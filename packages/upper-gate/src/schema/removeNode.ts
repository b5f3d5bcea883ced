// What becomes of a row, or an entry, that is in its form no more.

import type { Count, LiveNode } from './kit.ts';

const COUNTS: readonly Count[] = ['errors', 'found', 'pending', 'dirty', 'touched'];

/** Takes a node out of what is counted and run. */
export function removeNode(removed: LiveNode): void {
  removed.forEach((node) => {
    node.applies = false;
    node.stopRules();
    // It lets go of what it has read.
    if (node.condition) node.kit.schedule(node.condition);
    node.kit.markChanged(node);
  });
  for (const what of COUNTS) removed.parent!.count(what, -removed[what]);
  removed.forEach((node) => (node.removed = true));
}
