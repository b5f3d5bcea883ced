// How far events have come at a node: which rules have had their moment, and whether what they find is shown.

import { BLUR, rank } from '../evaluate/stage.ts';
import type { Reporter } from '../schema/verdict.ts';
import type { BaseNode } from './node.ts';

/** The rank of the event from which the findings of a node are shown. */
function revealStage({ part, kit }: BaseNode): number {
  const { reveal } = part.settings;
  return reveal === undefined ? kit.revealRank : rank(reveal);
}

/** Shows what is found at a node, from now on. */
export function reveal(node: BaseNode): void {
  if (node.revealed) return;
  node.revealed = true;
  node.kit.markChanged(node);
}

/** An event that may show findings has come to a node. */
export function come(node: BaseNode, event: number): void {
  if (node.seen < event) {
    node.seen = event;
    node.kit.markChanged(node);
  }
  if (revealStage(node) <= event) reveal(node);
}

/** An event has come to a node. */
function advance(node: BaseNode, event: number): void {
  node.asyncEnabled = true;
  if (node.stage < event) {
    const isLate = (rule: Reporter): boolean => !node.isDue(rule);
    const hasLate = node.part.ruleList.some(isLate) || !!node.liveRules?.some(({ rule }) => isLate(rule));
    node.stage = event;
    if (hasLate) node.runRules();
  }
  node.kit.updateAsync(node, event);
}

/** The user has left a field: the groups around it were left, too. */
export function leave(node: BaseNode): void {
  const { kit } = node;
  if (!kit.beginEdit(node)) return;
  try {
    kit.tracer?.left(node);
    if (!node.visited) node.count('touched', 1);
    node.visited = true;
    come(node, BLUR);
    for (let at: BaseNode | undefined = node; at !== undefined; at = at.parent) advance(at, BLUR);
  } finally {
    kit.end();
  }
}
