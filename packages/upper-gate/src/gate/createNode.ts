// Makes the nodes of a form from its schema.

import { runConditions } from '../evaluate/applies.ts';
import { isField } from '../schema/field.ts';
import type { GroupPart } from '../schema/group.ts';
import type { LiveNode, NodeKit } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import { LiveCondition } from './condition.ts';
import { FieldNode } from './fieldNode.ts';
import { GroupNode } from './groupNode.ts';
import type { BaseNode } from './node.ts';
import { ownValue } from '../schema/safeAccess.ts';

/** Makes a node and everything below. Nothing is validated yet. */
export function createNode(
  kit: NodeKit<Part>,
  parent: LiveNode<Part> | undefined,
  key: string,
  part: Part,
  initial: unknown,
): LiveNode<Part> {
  if (part.createNode) return part.createNode(kit, parent, key, initial);
  if (!isField(part)) return createGroup(kit, parent, key, part as GroupPart, initial);
  const node = new FieldNode(kit, parent, key, part, initial);
  if (part.async.length > 0)
    part.ruleList.forEach((rule, i) => rule.async && node.attach(rule, groupAround(parent!), { depth: node.depth, index: i + 1 }));
  return node;
}

function createGroup(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, part: GroupPart, initial: unknown): GroupNode {
  const node = new GroupNode(kit, parent, key, part);
  const { keys, parts } = part;
  for (let i = 0; i < keys.length; i += 1)
    node.children.push(createNode(kit, node, keys[i]!, parts[i]!, ownValue(initial, keys[i]!)) as BaseNode);
  for (const [name, predicates] of part.conditions) {
    const target = node.child(name)!;
    target.condition = new LiveCondition(target, () => runConditions(predicates, node.readForRule(), target));
  }
  part.stepRules.forEach(({ key: name, rule }, index) =>
    (name === undefined ? node : node.child(name)!).attach(rule, node, { depth: node.depth, index }),
  );
  return node;
}

/** The nearest group at or around a node: its fields are the siblings. */
const groupAround = (node: LiveNode<Part>): LiveNode<Part> => (node instanceof GroupNode || !node.parent ? node : groupAround(node.parent));
