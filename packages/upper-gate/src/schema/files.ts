// Files: those of a browser, or what is known of them elsewhere.

import { NONE, sameList } from './choice.ts';
import { makeField, UNREADABLE, type Field, type Marks, type Optional, type RulesFor } from './field.ts';
import type { LabelOr, Settings } from './node.ts';
import type { Mark, Rule } from './rule.ts';
import { isWellFormed } from './wellFormed.ts';

/** What the rules need to know of a file. A browser's `File` is one. */
export interface FileLike {
  readonly name: string;
  /** In bytes. */
  readonly size: number;
  /** Its media type, such as `'image/png'`; `''` if unknown. */
  readonly type: string;
}

/** Whether a value is all that is known of a file. */
export function isFile(value: unknown): value is FileLike {
  const { name, size, type } = (value ?? {}) as Partial<FileLike>;
  return typeof name === 'string' && typeof size === 'number' && size >= 0 && typeof type === 'string';
}

/** Whether a value is all that is known of a file, in texts that databases take. */
const isStorable = (value: unknown): value is FileLike => isFile(value) && [value.name, value.type].every(isWellFormed);

/** A file has content. What came as JSON has none: a client could make it up. */
const readFile = (value: unknown): unknown =>
  isStorable(value) && typeof (value as { readonly slice?: unknown }).slice === 'function' ? value : UNREADABLE;

/** What is known of a file: nothing but that, and no path in its name. */
const readMetadata = (value: unknown): unknown =>
  isStorable(value) ? { name: value.name.replace(/^.*[/\\]/s, ''), size: value.size, type: value.type } : UNREADABLE;

/** HTML's forms send a nameless file of no bytes where none was picked. */
const isNone = (value: unknown): boolean =>
  value === undefined || value === null || value === '' || (isFile(value) && value.name === '' && value.size === 0);

/**
 * Makes a field for one file.
 *
 * @param settings the label, or settings with a label
 * @param rules the rules of the field, in the order in which they report
 * @returns the field
 *
 * @example
 * file('Insurance', required(), fileSize({ max: 2_000_000 }), fileType('.pdf,image/*'))
 */
export function file<T extends FileLike = FileLike, M extends Marks = []>(
  settings: LabelOr<Settings>,
  ...rules: RulesFor<FileLike, M>
): Field<Optional<T, M>, T | null> {
  const reader = (readOne: (value: unknown) => unknown) => (raw: unknown) => {
    // A control of one file may hand over a list of one.
    const one: unknown = Array.isArray(raw) && raw.length < 2 ? raw[0] : raw;
    return isNone(one) ? undefined : readOne(one);
  };
  return makeField(
    {
      name: 'file',
      traits: { holds: 'file', json: 'object', control: 'file' },
      read: reader(readFile),
      readJson: reader(readMetadata),
      emptyRaw: null,
    },
    settings,
    rules,
  );
}

/**
 * Makes a field for any number of files. Its data is always a list.
 *
 * @param settings the label, or settings with a label
 * @param rules the rules of the field, in the order in which they report
 * @returns the field
 *
 * @example
 * files('Photos', length({ max: 4 }), fileType('image/*'))
 */
export function files<T extends FileLike = FileLike>(
  settings: LabelOr<Settings>,
  ...rules: readonly Rule<readonly FileLike[], unknown, Mark>[]
): Field<readonly T[], readonly T[]> {
  const reader = (readOne: (value: unknown) => unknown) => (raw: unknown) => {
    const list = (Array.isArray(raw) ? raw : [raw]).filter((value) => !isNone(value)).map(readOne);
    return list.length === 0 ? NONE : list.includes(UNREADABLE) ? UNREADABLE : list;
  };
  return makeField(
    {
      name: 'files',
      traits: { holds: 'files', json: 'array', control: 'file' },
      read: reader(readFile),
      readJson: reader(readMetadata),
      emptyData: NONE,
      emptyRaw: NONE,
      same: sameList,
    },
    settings,
    rules,
  );
}
