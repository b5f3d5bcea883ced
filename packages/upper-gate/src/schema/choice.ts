// One of several, or some of several.

import { devAssert, got } from '#development';
import { notAllowed } from '../messages/english.ts';
import { makeField, Unreadable, UNREADABLE, type Field, type Marks, type Optional, type RulesFor } from './field.ts';
import type { FieldSettings, LabelOr } from './node.ts';
import { asText, toOptions, type Options, type OptionValue } from './option.ts';
import type { JsonType } from './traits.ts';
import type { Mark, Rule } from './rule.ts';

/** The options of a choice, and how one of them is read. */
function readOptions(of: Options<OptionValue>) {
  devAssert(() => !Array.isArray(of) && `A choice takes an array of its values: choice("Kind", ["barge", "canoe"]). ${got(of)}`);
  devAssert(() => of.length === 0 && 'A choice needs at least one value. Pass the values as an array: choice("Kind", ["barge", "canoe"]).');
  const options = toOptions(of);
  const values = options.map(({ value }) => value);
  const byText = new Map<unknown, OptionValue>(values.map((value) => [String(value), value]));
  const types = new Set(values.map((value) => typeof value as JsonType));
  return {
    options,
    json: types.size > 1 ? 'any' : ([...types][0] ?? 'string'),
    /** What a control holds is text, whatever is chosen. @returns nothing for what is no option */
    find: (raw: unknown): OptionValue | undefined => byText.get(typeof raw === 'number' || typeof raw === 'boolean' ? String(raw) : raw),
    /** The same for JSON, which has the types of the options. */
    findJson: (raw: unknown): OptionValue | undefined => (values.includes(raw as OptionValue) ? (raw as OptionValue) : undefined),
    other: new Unreadable({ code: 'notAllowed', text: notAllowed, params: { options: values } }),
  };
}

const isNone = (raw: unknown): boolean => raw === '' || raw === undefined || raw === null;
const toText = (value: unknown): unknown => (typeof value === 'number' || typeof value === 'boolean' ? String(value) : value);

/**
 * Makes a field for one of the given values; any other is `notAllowed`.
 *
 * @param settings its label, or label and settings
 * @param of the values, or `{ value, label }`; numbers and booleans are the data, while controls hold them as text
 * @param rules the rules of the field, in the order in which they report
 * @returns the field
 *
 * @example
 * choice('Kind', ['barge', 'canoe', 'yacht'], required()) // data: 'barge' | 'canoe' | 'yacht'
 * choice('Side', [{ value: 'p', label: 'Port' }, { value: 's', label: 'Starboard' }])
 * choice('Chamber', [1, 2, 3]) // data: 1 | 2 | 3 | undefined
 */
export function choice<const T extends OptionValue, M extends Marks = []>(
  settings: LabelOr<FieldSettings<NoInfer<T>>>,
  of: Options<T>,
  ...rules: RulesFor<NoInfer<T>, M>
): Field<Optional<T, M>, T | `${T}` | ''> {
  const { options, json, find, findJson, other } = readOptions(of);
  const reading =
    (found: typeof find) =>
    (raw: unknown): unknown =>
      isNone(raw) ? undefined : (found(raw) ?? other);
  return makeField(
    {
      name: 'choice',
      traits: { holds: 'option', json },
      read: reading(find),
      readJson: reading(findJson),
      write: toText,
      options,
      textOptions: asText(options),
    },
    settings,
    rules,
  );
}

/** The data of a list in which nothing was chosen. */
export const NONE: readonly never[] = Object.freeze([]);

/** Whether two lists hold the same values in the same order. */
export const sameList = (a: unknown, b: unknown): boolean =>
  Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((value, i) => Object.is(value, b[i]));

/**
 * Makes a field for any number of the given values: checkboxes of one name, or a select with `multiple`. Its data is always a
 * list, empty without a choice.
 *
 * @param settings the label, or settings with a label
 * @param of the values, or `{ value, label }`
 * @param rules the rules of the field, in the order in which they report
 * @returns the field
 *
 * @example
 * choices('Safety kit', ['life jackets', 'horn', 'lights'], required(), length({ min: 2 }))
 */
export function choices<const T extends OptionValue>(
  settings: LabelOr<FieldSettings<readonly NoInfer<T>[]>>,
  of: Options<T>,
  ...rules: readonly Rule<readonly NoInfer<T>[], unknown, Mark>[]
): Field<readonly T[], readonly (T | `${T}`)[]> {
  const { options, find, findJson, other } = readOptions(of);
  const reading =
    (found: typeof find) =>
    (raw: unknown): unknown => {
      if (isNone(raw)) return NONE;
      // A form with a single box ticked may hand over its value alone.
      const list: readonly unknown[] = Array.isArray(raw) ? raw : [raw];
      if (list.length === 0) return NONE;
      const chosen = list.map(found);
      return !chosen.includes(undefined) ? chosen : typeof raw === 'object' && !Array.isArray(raw) ? UNREADABLE : other;
    };
  const write = (value: unknown): unknown => {
    const text = toText(value);
    return Array.isArray(value) ? value.map(toText) : typeof text === 'string' ? [text].filter(Boolean) : value;
  };
  return makeField(
    {
      name: 'choices',
      traits: { holds: 'options', json: 'array' },
      read: reading(find),
      readJson: reading(findJson),
      write,
      emptyData: NONE,
      emptyRaw: NONE,
      same: sameList,
      options,
      textOptions: asText(options),
    },
    settings,
    rules,
  );
}
