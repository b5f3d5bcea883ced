// The classes of the nodes of kinds that bring their own.

import type { BaseNodeClass, NodeClass, NodeKit } from './kit.ts';
import type { Part } from './part.ts';

/**
 * Makes the class of a kind of node, once for each class that it extends: each copy of the library has its own.
 *
 * @param make makes the class
 * @returns the class for a form
 */
export function nodeClass(make: (Base: BaseNodeClass<Part>) => NodeClass<Part>): (kit: NodeKit<Part>) => NodeClass<Part> {
  const made = new WeakMap<BaseNodeClass<Part>, NodeClass<Part>>();
  return ({ BaseNode }) => {
    const known = made.get(BaseNode) ?? make(BaseNode);
    made.set(BaseNode, known);
    return known;
  };
}
