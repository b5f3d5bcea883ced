// One of several, or some of several.

import { devAssert } from '#development';
import { notAllowed } from '../messages/english.ts';
import { makeField, Unreadable, UNREADABLE, type Field, type Option, type Optional, type RulesFor } from './field.ts';
import type { LabelOr, Settings } from './node.ts';

/** The values of a choice: as such, or with labels. */
export type Options<T extends string> = readonly (T | Option<T>)[];

/** The options of a choice, and the verdict on a value that is not one of them. */
function readOptions(of: Options<string>) {
  devAssert(() => of.length === 0 && 'A choice needs at least one value. Pass the values as an array: choice("Kind", ["barge", "canoe"]).');
  const options = of.map((option) => (typeof option === 'string' ? { value: option, label: option } : option));
  const values = options.map(({ value }) => value);
  return {
    options,
    values: new Set<unknown>(values),
    other: new Unreadable({ code: 'notAllowed', text: notAllowed, params: { options: values } }),
  };
}

/**
 * A field that takes one of the given values; any other is `notAllowed`.
 *
 * @param settings its label, or label and settings
 * @param of the values as the controls hold them, or `{ value, label }`
 *
 * @example
 * choice('Kind', ['barge', 'canoe', 'yacht'], required()) // data: 'barge' | 'canoe' | 'yacht'
 * choice('Side', [{ value: 'p', label: 'Port' }, { value: 's', label: 'Starboard' }])
 */
export function choice<const T extends string, Q extends string = never>(
  settings: LabelOr<Settings>,
  of: Options<T>,
  ...rules: RulesFor<NoInfer<T>, Q>
): Field<Optional<T, Q>, T | ''> {
  const { options, values, other } = readOptions(of);
  const read = (raw: unknown): unknown => (raw === '' || raw === undefined || raw === null ? undefined : values.has(raw) ? raw : other);
  return makeField({ name: 'choice', read, options }, settings, rules);
}

/** The data of a list in which nothing was chosen. */
export const NONE: readonly never[] = Object.freeze([]);

/** Whether two lists hold the same values in the same order. */
export const sameList = (a: unknown, b: unknown): boolean =>
  Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((value, i) => Object.is(value, b[i]));

/**
 * A field that takes any number of the given values: checkboxes of one name, or a select of several. Its data is always
 * a list, empty where nothing was chosen.
 *
 * @example
 * choices('Safety kit', ['life jackets', 'horn', 'lights'], required(), length({ min: 2 }))
 */
export function choices<const T extends string, Q extends string = never>(
  settings: LabelOr<Settings>,
  of: Options<T>,
  ...rules: RulesFor<readonly NoInfer<T>[], Q>
): Field<readonly T[], readonly T[]> {
  const { options, values, other } = readOptions(of);
  const read = (raw: unknown): unknown => {
    if (raw === '' || raw === undefined || raw === null) return NONE;
    // A form with a single box ticked may hand over its value alone.
    const list: readonly unknown[] = Array.isArray(raw) ? raw : [raw];
    if (list.length === 0) return NONE;
    return list.every((value) => values.has(value)) ? [...list] : typeof raw === 'object' && !Array.isArray(raw) ? UNREADABLE : other;
  };
  const write = (value: unknown): unknown => (typeof value === 'string' ? [value].filter(Boolean) : value);
  return makeField(
    { name: 'choices', jsonType: 'array', read, write, emptyData: NONE, emptyRaw: NONE, same: sameList, options },
    settings,
    rules,
  );
}
