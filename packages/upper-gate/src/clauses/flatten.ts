// What is written for the fields of a group, nested like the data: as a list, with the way to each field.

import { DEV } from '#development';
import { assertUse, wrongUse } from '../schema/assertUse.ts';
import { isBranded } from '../schema/brand.ts';
import type { GroupPart } from '../schema/group.ts';
import { insideOf, type Part, type Placed, type Way } from '../schema/part.ts';

/** What a clause takes: by field, nested like the data. */
export interface Written<T> {
  readonly [key: string]: T | Written<T> | undefined;
}

/** The error of a clause that names a field which is not there. */
export const unknownField = (clause: string, at: string, names: readonly string[]): TypeError =>
  wrongUse(DEV && `${clause}() names the field "${at}", which the group does not have. There are: ${names.join(', ') || 'none'}.`);

/**
 * Lists what was written for fields of a group, here and further in.
 *
 * @param clause its name, for errors
 * @param check throws for what does not fit the clause
 * @throws TypeError for a field that the group does not have
 */
export function flatten<T>(
  group: GroupPart,
  written: object,
  clause: string,
  check: (at: string, given: readonly unknown[]) => readonly T[],
): readonly Placed<T>[] {
  const below = (part: Part, given: object, before: Way): readonly Placed<T>[] =>
    Object.entries(given).flatMap(([key, value]: [string, unknown]): readonly Placed<T>[] => {
      if (value === undefined) return [];
      const way = [...before, key];
      const inner = insideOf(part, key);
      if (!inner) throw unknownField(clause, way.join('.'), part.insideNames?.() ?? []);
      // A rule is an object as well, with a brand.
      const isNested = typeof value === 'object' && value !== null && !Array.isArray(value) && !isBranded(value);
      if (isNested && inner.part.traits.hasParts) return below(inner.part, value, way);
      assertUse(!inner.isBetween, DEV && `${clause}() got a rule for the case "${way.join('.')}". Name its fields: { ${key}: { ... } }.`);
      return check(way.join('.'), [value].flat()).map((what) => ({ way, what }));
    });
  return below(group, written, []);
}
