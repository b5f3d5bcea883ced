// Puts what a server, or the program, found on the fields that it names.

import { keysOf } from '../schema/finding.ts';
import type { LiveNode } from '../schema/kit.ts';
import type { Found } from '../schema/verdict.ts';
import type { BaseNode } from './node.ts';
import type { ServerVerdict } from './serverAnswer.ts';
import type { FormStore } from './store.ts';
import { reveal } from './timing.ts';

/**
 * Puts the findings of a server, or of the program, on the fields that they name; what names no field goes to the nearest
 * group around it.
 *
 * @param sent what nodes held when the form was sent, at least of those that hold something else now: rows are found again that
 *   have moved since; findings on fields that hold another value, or on rows that are gone, are dropped
 */
export function addVerdicts(store: FormStore, verdicts: readonly ServerVerdict[], sent?: ReadonlyMap<LiveNode, unknown>): void {
  store.batch(() => {
    const byNode = new Map<BaseNode, Found[]>();
    for (const { path, verdict } of verdicts) {
      const node = nearest(store.root, path, sent);
      const isOther = sent?.has(node) === true && !node.part.traits.hasParts && !Object.is(sent.get(node), node.raw);
      if (node.removed || isOther) continue;
      const found = byNode.get(node);
      if (found) found.push({ rule: undefined, verdict });
      else byNode.set(node, [{ rule: undefined, verdict }]);
    }
    for (const [node, found] of byNode) {
      node.ownVerdicts().add(found);
      reveal(node);
    }
  });
}

/** The node that a path names, or the last one on the way to it; rows as they were when the path was written. */
function nearest(root: BaseNode, path: string, sent: ReadonlyMap<LiveNode, unknown> | undefined): BaseNode {
  let node = root;
  for (const key of keysOf(path)) {
    const rows = node.rows && (sent?.get(node) as readonly BaseNode[] | undefined);
    const next = rows ? rows[Number(key)] : node.child(key);
    if (next === undefined || !(next.applies || next.removed)) return node;
    node = next;
  }
  return node;
}
