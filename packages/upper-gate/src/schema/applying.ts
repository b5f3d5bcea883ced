// Whether a part of a live form applies: its conditions hold, and it is not disabled.

import type { LiveNode } from './kit.ts';

/** Deeper than any group: no condition has taken it away, so no callback waits for it. (A small integer takes no extra memory.) */
export const NOT_TAKEN = 1e9;

/**
 * Sets whether a node applies, once its conditions or its disabling have changed. As in HTML, a disabled field is neither validated
 * nor sent.
 *
 * @param takenAt the depth of the group whose condition does not hold
 */
export function setApplies(target: LiveNode, conditionHolds: boolean, disabled: boolean, takenAt = target.takenAt): void {
  const { kit } = target;
  target.conditionHolds = conditionHolds;
  target.disabled = disabled;
  const applies = conditionHolds && !disabled && !target.isLeftOut;
  if (target.takenAt !== takenAt) {
    target.takenAt = takenAt;
    kit.changed(target);
  }
  if (target.ownApplies === applies) return;
  target.ownApplies = applies;
  kit.changed(target);
  target.forEach((node) => {
    node.applies = node.ownApplies && !node.removed && (node.parent === undefined || node.parent.applies);
    kit.markChanged(node);
    if (node.applies) {
      node.runRules();
      kit.updateAsync(node, 0);
    } else node.stopRules();
  });
  // Rules of the groups around it may have findings for it.
  for (let at = target.parent; at !== undefined; at = at.parent) at.namingReports?.forEach((report) => report.place());
}
