// What the clauses of the groups around a node may read.

import { isGroup } from '../schema/group.ts';
import type { LiveNode, Recorder, Scopes } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';

/** What a rule or condition of a group may read, on a node in it. @param by records it; default: the callback under way */
export function scopesOf(node: LiveNode, scope: LiveNode, by?: Recorder): Scopes {
  const siblings = scope.readForRule(by);
  const { parent } = node;
  // Most are on fields of the group itself.
  if (node === scope || parent === undefined || parent === scope) return [siblings, siblings];
  return [siblings, groupAround(parent).readForRule(by, scope.depth)];
}

/** The nearest group at or around a node. */
export const groupAround = (node: LiveNode): LiveNode =>
  node.parent === undefined || isGroup(node.part as Part) ? node : groupAround(node.parent);
