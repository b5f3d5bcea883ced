// What a clause says about the parts in its group, by the names on the way to them.

import type { ReachOf } from '../schema/group.ts';
import type { Placed, Part } from '../schema/part.ts';
import type { LiveNode } from '../schema/kit.ts';

/** Attaches what a clause says about a part to its node in a live form. */
type Attach<T> = (items: ReachOf<T>['items'], node: LiveNode<Part>, scope: LiveNode<Part>) => void;

class Branch<T> implements ReachOf<T> {
  readonly items: { readonly what: T; readonly index: number }[] = [];
  readonly below = new Map<string, Branch<T>>();
  readonly #attach: Attach<T>;

  constructor(attach: Attach<T>) {
    this.#attach = attach;
  }

  attach(node: LiveNode<Part>, scope: LiveNode<Part>): void {
    this.#attach(this.items, node, scope);
  }

  /** The branch under a name; a new one if there is none yet. */
  grow(name: string): Branch<T> {
    const found = this.below.get(name) ?? new Branch(this.#attach);
    this.below.set(name, found);
    return found;
  }
}

/** Makes a list of what a clause says into branches. */
export function reachOf<T>(list: readonly Placed<T>[], attach: Attach<T>): ReachOf<T> {
  const root = new Branch(attach);
  list.forEach(({ way, what }, index) => way.reduce((branch, name) => branch.grow(name), root).items.push({ what, index }));
  return root;
}
