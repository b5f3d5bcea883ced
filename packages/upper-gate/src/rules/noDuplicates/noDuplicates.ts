// No two rows of a list may be the same.

import { duplicate } from '../../messages/english.ts';
import { isFile } from '../../schema/files.ts';
import { makeRule, type Rule } from '../../schema/rule.ts';
import type { RuleOptions, Verdict } from '../../schema/verdict.ts';
import { WAITING } from '../../schema/noValue.ts';
import { attachRowIndex, type Distinct } from './rowIndex.ts';

/** What JSON cannot tell apart, or not write at all: files by what is known of them, large integers by their digits. */
const asText = (_: string, value: unknown): unknown =>
  isFile(value) ? `${value.name} ${value.size} ${value.type}` : typeof value === 'bigint' ? `${value}n` : value;

/**
 * Requires rows to differ. The finding is on each later one. Code `duplicate`.
 *
 * @param options `by`: the field of the row that must differ; default: the rows themselves
 * @returns the rule
 *
 * @example
 * list('Crew', crewMember, noDuplicates({ by: 'name' }))
 * list('Ports of call', text('Port'), noDuplicates())
 */
export function noDuplicates(options?: RuleOptions | string): Rule<readonly unknown[]>;
export function noDuplicates<K extends string>(options: RuleOptions & { readonly by: K }): Rule<readonly { readonly [P in K]: unknown }[]>;
export function noDuplicates(options: (RuleOptions & { readonly by?: string }) | string = {}): Rule<readonly unknown[]> {
  const { by, ...rest } = typeof options === 'string' ? { message: options, by: undefined } : { by: undefined, ...options };
  const distinct: Distinct = {
    by,
    keyOf(look) {
      try {
        const value = by === undefined ? look() : (look() as Readonly<Record<string, unknown>> | undefined)?.[by];
        return typeof value === 'object' ? JSON.stringify(value, asText) : value;
      } catch (error) {
        // A row that has no value yet is no duplicate; the others are compared all the same.
        if (error === WAITING) return undefined;
        throw error;
      }
    },
    verdict: (index, first) => ({
      code: 'duplicate',
      text: duplicate,
      path: by === undefined ? String(index) : `${index}.${by}`,
      params: { row: index + 1, first: first + 1 },
    }),
  };
  const test = (rows: readonly unknown[]): readonly Verdict[] => {
    const seen = new Map<unknown, number>();
    const verdicts: Verdict[] = [];
    for (let index = 0; index < rows.length; index += 1) {
      const key = distinct.keyOf(() => rows[index]);
      const first = seen.get(key);
      if (key === undefined) continue;
      if (first === undefined) seen.set(key, index);
      else verdicts.push(distinct.verdict(index, first));
    }
    return verdicts;
  };
  return makeRule(
    'noDuplicates',
    by === undefined ? {} : { by },
    { test, attach: (rule, list, _, order) => attachRowIndex(distinct, rule, list, order) },
    rest,
  );
}
