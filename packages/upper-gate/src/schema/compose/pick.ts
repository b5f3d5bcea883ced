// A group with fewer fields.

import { DEV, explain } from '#development';
import { assertUse } from '../assertUse.ts';
import { GroupPart, type Fields, type Group } from '../group.ts';
import type { Node } from '../node.ts';
import { nodeOf, type Part } from '../part.ts';
import { groupPartOf } from './extend.ts';

/** The options of `pick` and `omit`. */
export interface PickOptions {
  /**
   * With `'drop'`, the clauses of the group are left out, since they may read missing fields. By default, a group that has
   * any is refused.
   */
  readonly clauses?: 'drop';
}

function choose(name: string, base: Node, isWanted: (key: string) => boolean, names: readonly string[], { clauses }: PickOptions): Part {
  const part = groupPartOf(base, name);
  const unknown = names.find((key) => !part.positions.has(key));
  assertUse(
    unknown === undefined,
    DEV && `${name}() names the field "${unknown}", which the group does not have. It has: ${part.keys.join(', ')}.`,
  );
  assertUse(
    clauses === 'drop' || Object.keys(part.clauses).length === 0,
    DEV &&
      explain(
        'rules-left-behind',
        `${name}() would leave out the clauses of the group, which may read other fields. Write { clauses: 'drop' }, or call ${name}() before .with(...).`,
      ),
  );
  return new GroupPart(part.settings, Object.fromEntries(Object.entries(part.fields).filter(([key]) => isWanted(key))));
}

/**
 * Makes a group of some fields of another, in their order there.
 *
 * @param base the group
 * @param names the fields to keep
 * @param options `clauses: 'drop'` leaves out conditions and rules, too
 * @returns a new group
 * @throws TypeError for a name that it lacks; for a group with clauses, unless `clauses: 'drop'`
 *
 * @example
 * const contact = pick(passage, ['email', 'phone'], { clauses: 'drop' });
 */
export function pick<F extends Fields, C, const P extends keyof F & string>(
  base: Group<F, C>,
  names: readonly P[],
  options: PickOptions = {},
): Group<Pick<F, P>> {
  const wanted = new Set<string>(names);
  return nodeOf(choose('pick', base, (key) => wanted.has(key), names, options));
}

/**
 * Makes a group of all fields of another except some.
 *
 * @param base the group
 * @param names the fields to leave out
 * @param options `clauses: 'drop'` leaves out conditions and rules, too
 * @returns a new group
 * @throws TypeError as `pick`
 *
 * @example
 * const withoutCrew = omit(passage, ['crew'], { clauses: 'drop' });
 */
export function omit<F extends Fields, C, const P extends keyof F & string>(
  base: Group<F, C>,
  names: readonly P[],
  options: PickOptions = {},
): Group<Omit<F, P>> {
  const unwanted = new Set<string>(names);
  return nodeOf(choose('omit', base, (key) => !unwanted.has(key), names, options));
}
