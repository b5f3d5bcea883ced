// Makes the nodes of a form from its schema.

import { groupAround } from '../evaluate/scopes.ts';
import { isField } from '../schema/field.ts';
import type { GroupPart } from '../schema/group.ts';
import type { LiveNode, NodeKit } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { FieldNode } from './fieldNode.ts';
import { GroupNode } from './groupNode.ts';
import type { BaseNode } from './node.ts';

/**
 * Makes a node and everything below. Nothing is validated yet.
 *
 * @param name by what name clauses of groups further out know it
 */
export function createNode(
  kit: NodeKit<Part>,
  parent: LiveNode<Part> | undefined,
  key: string,
  part: Part,
  initial: unknown,
  name = key,
): BaseNode {
  const node = part.createNode
    ? (part.createNode(kit, parent, key, initial) as BaseNode)
    : isField(part)
      ? new FieldNode(kit, parent, key, part, initial)
      : createGroup(kit, parent, key, part as GroupPart, initial, name);
  if (part.isLeftOut) {
    kit.rawFollowers += 1;
    node.ownApplies = !node.isLeftOut;
    if (!node.ownApplies) node.forEach((each) => (each.applies = false));
  }
  if (isField(part) && part.attached.length > 0) {
    const scope = groupAround(parent!) as LiveNode<Part>;
    part.attached.forEach((rule, i) => rule.attach!(rule, node, scope, { depth: node.depth, index: i + 1 }));
  }
  // Those on a list, or dictionary, are not on its rows, or entries, but on what is in them.
  if (!parent?.part.isOpen) for (const { scope, reach } of node.reaches) reach.attach(node, scope);
  return node;
}

function createGroup(
  kit: NodeKit<Part>,
  parent: LiveNode<Part> | undefined,
  key: string,
  part: GroupPart,
  initial: unknown,
  name: string,
): GroupNode {
  const node = new GroupNode(kit, parent, key, part, name);
  const { keys, parts } = part;
  for (let i = 0; i < keys.length; i += 1) node.children.push(createNode(kit, node, keys[i]!, parts[i]!, ownValue(initial, keys[i]!)));
  part.clauses.groupRules?.attach(node);
  return node;
}
