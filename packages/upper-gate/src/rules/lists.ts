// Rules on lists as a whole.

import { duplicate } from '../messages/en.ts';
import { makeRule, type Rule, type RuleOptions, type Verdict } from '../schema/rule.ts';

/**
 * No two rows may be the same. The finding lies on each later one. Code `duplicate`.
 *
 * @param options `by`: the field of the row that must differ; default: the rows themselves
 *
 * @example
 * list('Crew', crewMember, noDuplicates({ by: 'name' }))
 * list('Ports of call', text('Port'), noDuplicates())
 */
export function noDuplicates(options?: RuleOptions | string): Rule<readonly unknown[]>;
export function noDuplicates<K extends string>(options: RuleOptions & { readonly by: K }): Rule<readonly { readonly [P in K]: unknown }[]>;
export function noDuplicates(options: (RuleOptions & { readonly by?: string }) | string = {}): Rule<readonly unknown[]> {
  const { by, ...rest } = typeof options === 'string' ? { message: options, by: undefined } : { by: undefined, ...options };
  const judge = (rows: readonly unknown[]): readonly Verdict[] => {
    const seen = new Map<unknown, number>();
    return rows.flatMap((row, index) => {
      const value = by === undefined ? row : (row as Readonly<Record<string, unknown>>)[by];
      if (value === undefined) return [];
      const key = typeof value === 'object' ? JSON.stringify(value) : value;
      const first = seen.get(key);
      if (first === undefined) seen.set(key, index);
      const path = by === undefined ? String(index) : `${index}.${by}`;
      return first === undefined ? [] : [{ code: 'duplicate', say: duplicate, path, params: { row: index + 1, first: first + 1 } }];
    });
  };
  return makeRule('noDuplicates', by === undefined ? {} : { by }, { judge: judge }, rest);
}
