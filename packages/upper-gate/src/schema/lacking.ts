// What cannot be validated yet: a fact from outside was not given, or options have not come. It is not valid, though nothing was found.

import type { Kit, Lacking, LiveNode } from './kit.ts';

class LackingNodes implements Lacking {
  readonly #themselves = new Map<LiveNode, number>();
  readonly #below = new Map<LiveNode, number>();

  add(node: LiveNode, by: 1 | -1): void {
    count(this.#themselves, node, by);
    for (let at: LiveNode | undefined = node; at !== undefined; at = at.parent) count(this.#below, at, by);
    node.kit.markChanged(node);
  }

  isAt(node: LiveNode): boolean {
    return this.#themselves.has(node);
  }

  isBelow(node: LiveNode): boolean {
    return this.#below.has(node);
  }
}

function count(counts: Map<LiveNode, number>, node: LiveNode, by: number): void {
  const now = (counts.get(node) ?? 0) + by;
  if (now > 0) counts.set(node, now);
  else counts.delete(node);
}

/** The nodes of a form that lack something. */
export const lackingIn = (kit: Kit): Lacking => (kit.lackingNodes ??= new LackingNodes());
