// One of several.

import { notAllowed } from '../messages/en.ts';
import { FieldPart, Unreadable, type Field, type Optional, type RulesFor } from './field.ts';
import type { Settings } from './node.ts';

/**
 * A field that takes one of the given values; any other is `notAllowed`.
 *
 * @param settings its label, or label and settings
 * @param of the values, as the controls hold them
 *
 * @example
 * choice('Kind', ['barge', 'canoe', 'yacht'], required()) // data: 'barge' | 'canoe' | 'yacht'
 */
export function choice<const T extends string, Q extends string = never>(
  settings: string | Settings,
  of: readonly T[],
  ...rules: RulesFor<NoInfer<T>, Q>
): Field<Optional<T, Q>, T | ''> {
  if (of.length === 0)
    throw new TypeError('A choice needs at least one value to choose from. Give the values as a list: choice("Kind", ["barge", "canoe"]).');
  const values = new Set<unknown>(of);
  const other = new Unreadable({ code: 'notAllowed', say: notAllowed, params: { options: of } });
  const read = (raw: unknown): unknown => (raw === '' || raw === undefined || raw === null ? undefined : values.has(raw) ? raw : other);
  const how = { name: 'choice', read, write: (value: unknown) => value ?? '', blank: undefined, empty: '', options: of };
  return new FieldPart(how, settings, rules) as never;
}
