// What becomes of a row, or an entry, that is in its form no more.

import type { LiveNode } from './kit.ts';

/** Takes a node out of what is counted and run. */
export function removeNode(removed: LiveNode): void {
  removed.forEach((node) => {
    node.applies = false;
    node.stopRules();
    // It lets go of what it has read.
    if (node.condition) node.kit.schedule(node.condition);
    node.kit.markChanged(node);
  });
  removed.parent!.count(-removed.errors, -removed.found, -removed.pending, -removed.dirty, -removed.touched);
  removed.forEach((node) => (node.removed = true));
}
