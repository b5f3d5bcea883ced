// A group with more fields.

import { DEV } from '#development';
import { assertUse } from '../assertUse.ts';
import { assertNames, GroupPart, isGroup, type Fields, type Group } from '../group.ts';
import type { DATA, Node } from '../node.ts';
import { nodeOf, partOf } from '../part.ts';

/** The part of a group. @throws TypeError for anything else */
export function groupPartOf(node: Node, name: string): GroupPart {
  const part = partOf(node);
  assertUse(isGroup(part), DEV && `${name}() takes a group. It got a ${part.kind}.`);
  return part;
}

/**
 * Makes a group with further fields. It keeps settings, conditions and rules. A field of the same name is replaced: its data
 * must fit wherever the old data was used, since rules read it.
 *
 * @param base the group
 * @param fields the further fields, by name
 * @returns a new group
 * @throws TypeError for a name that no field can have, or a field that is replaced by one of another JSON type
 *
 * @example
 * const barge = extend(boat, { tonnes: number('Tonnes', required()) });
 */
export function extend<F extends Fields, C, G extends Fields>(
  base: Group<F, C>,
  fields: G & { readonly [P in keyof G & keyof F]: Node<F[P][typeof DATA]> },
): Group<Omit<F, keyof G> & G, C> {
  const part = groupPartOf(base, 'extend');
  assertNames(fields);
  const extended = new GroupPart(part.settings, { ...part.fields, ...fields }, part.clauses, part.ruleList);
  for (const key of Object.keys(fields)) {
    const before = part.locate(key)?.part.traits.json;
    const now = extended.locate(key)!.part.traits.json;
    assertUse(
      before === undefined || before === now,
      DEV &&
        `extend() replaces "${key}", whose values are of type ${before}, by a field of type ${now}. Rules read it: give the field another name.`,
    );
  }
  return nodeOf(extended);
}
