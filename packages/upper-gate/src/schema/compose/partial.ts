// A group of which fields may be left out: for updates of a part.

import { GroupPart, type Fields, type Group } from '../group.ts';
import type { CHILDREN, DATA, Node, RAW } from '../node.ts';
import { nodeOf } from '../part.ts';
import { groupPartOf } from './extend.ts';

/** The fields of a group, any of which may be left out. */
export interface PartialGroup<F extends Fields> extends Node<
  { [P in keyof F]?: F[P][typeof DATA] },
  { [P in keyof F]?: F[P][typeof RAW] },
  F
> {
  readonly [DATA]: { [P in keyof F]?: F[P][typeof DATA] };
  readonly [RAW]: { [P in keyof F]?: F[P][typeof RAW] };
  readonly [CHILDREN]: F;
  readonly fields: F;
}

/**
 * Makes a group in which any field may be left out. A missing field is left out of the data, and none of its rules run. A
 * present one, even `null` or `''`, obeys its rules. Rules and conditions between fields are gone: apply the update, then
 * validate the whole with the whole schema.
 *
 * @param base the group
 * @returns a new group
 *
 * @example
 * const update = validate(partial(passage), { beam: '3.5' });
 * if (update.ok) Object.assign(stored, update.data); // { beam: 3.5 }
 */
export function partial<F extends Fields, C>(base: Group<F, C>): PartialGroup<F> {
  const part = groupPartOf(base, 'partial');
  return nodeOf(new GroupPart(part.settings, part.fields, {}, [], true));
}
