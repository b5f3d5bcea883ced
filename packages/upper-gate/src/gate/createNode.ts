// Makes the nodes of a form from its schema.

import { runConditions } from '../evaluate/applies.ts';
import { isField } from '../schema/field.ts';
import type { GroupPart } from '../schema/group.ts';
import type { LiveNode, NodeKit } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { LiveCondition } from './condition.ts';
import { FieldNode } from './fieldNode.ts';
import { GroupNode } from './groupNode.ts';
import type { BaseNode } from './node.ts';
import { groupAround, scopesOf } from './scopes.ts';

/**
 * Makes a node and everything below. Nothing is validated yet.
 *
 * @param step by what steps of groups further out name it
 */
export function createNode(
  kit: NodeKit<Part>,
  parent: LiveNode<Part> | undefined,
  key: string,
  part: Part,
  initial: unknown,
  step = key,
): BaseNode {
  const node = part.createNode
    ? (part.createNode(kit, parent, key, initial) as BaseNode)
    : isField(part)
      ? new FieldNode(kit, parent, key, part, initial)
      : createGroup(kit, parent, key, part as GroupPart, initial, step);
  if (isField(part) && part.attached.length > 0) {
    const scope = groupAround(parent!) as LiveNode<Part>;
    part.attached.forEach((rule, i) => node.attach(rule, scope, { depth: node.depth, index: i + 1 }));
  }
  // Those on a list are not on its rows, but on what is in them.
  if (node.steps.length > 0 && parent?.rows === undefined) attachSteps(node);
  return node;
}

function createGroup(
  kit: NodeKit<Part>,
  parent: LiveNode<Part> | undefined,
  key: string,
  part: GroupPart,
  initial: unknown,
  step: string,
): GroupNode {
  const node = new GroupNode(kit, parent, key, part, step);
  const { keys, parts } = part;
  for (let i = 0; i < keys.length; i += 1) node.children.push(createNode(kit, node, keys[i]!, parts[i]!, ownValue(initial, keys[i]!)));
  for (const { rule, index } of part.steps.rules) node.attach(rule, node, { depth: node.depth, index });
  return node;
}

/** Attaches what the steps of the groups around a node say of it. */
function attachSteps(node: BaseNode): void {
  const conditions = node.steps.flatMap(({ scope, tree }) =>
    tree.conditions.map((when) => ({ when, depth: scope.depth, scopes: () => scopesOf(node, scope) })),
  );
  if (conditions.length > 0) node.condition = new LiveCondition(node, () => runConditions(conditions, node));
  for (const { scope, tree } of node.steps)
    for (const { rule, index } of tree.rules) node.attach(rule, scope, { depth: scope.depth, index });
}
