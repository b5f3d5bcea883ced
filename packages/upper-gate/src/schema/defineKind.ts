// Kinds of an author that work like built-in ones.

import { devObject } from '#development';
import { writtenLimits } from './writtenLimits.ts';
import { ownReading, type CustomKind } from './custom.ts';
import { textIn, type KindDefinition, type TextsByLanguage } from './definition.ts';
import { translate } from './localNotation.ts';
import { isUnreadable, makeField, Unreadable, type Field, type FieldTraits, type Marks, type Optional, type RulesFor } from './field.ts';
import type { FieldSettings, LabelOr, Settings } from './node.ts';
import type { AnyRule } from './rule.ts';
import type { FieldHolding } from './traits.ts';

/** The whole description of your own kind. */
export interface KindRow<T, R> extends Omit<CustomKind<T, R>, 'read' | 'write'>, Omit<FieldTraits, 'hasParts' | 'holds'> {
  /** Its name in documents, descriptions and `handle.kind`. */
  readonly name: string;
  /** Reads data from what the control holds, in a language: `undefined` if it is empty, `unreadable()` if it cannot be read. */
  readonly read: (raw: unknown, locale: string) => T | Unreadable | undefined;
  /** Converts data, or what the control holds already, to what the control can hold, in a language. Default: unchanged. */
  readonly write?: (value: T | R, locale: string) => R;
  /** What it holds. Default `'value'`. */
  readonly holds?: FieldHolding;
  /** The TypeScript type of its data, as text: for `upper-gate convert --to types`. */
  readonly type: string;
  /** The message for a value that cannot be read, by language. */
  readonly texts: TextsByLanguage;
  /** The `format` that stands for it in JSON Schema. */
  readonly format?: string;
  /** Writes a limit in messages and hints: `5.00`, not `500`. Default: by its type. */
  readonly writeLimit?: (limit: T, locale: string) => string;
}

/** Makes fields of the kind. Also pass it to `fromJsonSchema`: `{ kinds: [money] }`. */
export interface DefinedKind<T = unknown, R = unknown> {
  <M extends Marks = []>(settings: LabelOr<FieldSettings<T>>, ...rules: RulesFor<T, M>): Field<Optional<T, M>, R>;
  readonly definition: KindDefinition;
}

/**
 * Defines a kind of field that works like a built-in one: a notation in HTML and JSON Schema, messages in several languages.
 *
 * @param row what the kind is: name, reading, writing, notations, texts; `toJson` and `fromJson` where data are no JSON
 * @returns makes a field: takes its label, or label and settings, then rules
 *
 * @example
 * const money = defineKind<number, string>({
 *   name: 'money',
 *   read: (raw) => (raw === '' || raw === undefined ? undefined : /^\d+\.\d\d$/.test(String(raw)) ? Math.round(Number(raw) * 100) : unreadable()),
 *   write: (value) => (typeof value === 'number' ? (value / 100).toFixed(2) : value),
 *   json: 'number', type: 'number',
 *   texts: { en: 'Enter an amount for {label}, such as 3.50' },
 *   writeLimit: (cents) => (cents / 100).toFixed(2),
 * });
 * money('Toll', required(), range({ min: 500 })) // Toll must be at least 5.00
 */
export function defineKind<T, R>(row: KindRow<T, R>): DefinedKind<T, R> {
  devObject(row, 'defineKind() takes a row: defineKind({ name, read, json, type, texts })');
  const { name, read, write, empty, same, type, texts, format, writeLimit } = row;
  const { holds = 'value', json, measures = json === 'number' ? 'number' : undefined, isStepped, control } = row;
  const traits: FieldTraits = { holds, json, ...(measures && { measures }), ...(isStepped && { isStepped }), ...(control && { control }) };
  const bad = new Unreadable({ code: 'badInput', text: textIn(texts), wordedAs: name });
  /** An unreadable value asks for the right one by the texts of the kind, unless `read` gives a text. */
  const worded = (value: unknown): unknown => (isUnreadable(value) && value.verdict.message === undefined ? bad : value);
  const { read: readOwn, readJson, ...travelling } = ownReading<T, R>(row, bad);
  const makePart = (settings: LabelOr<Settings>, rules: readonly unknown[]): Field<never, R> =>
    makeField(
      {
        name,
        traits,
        read: (raw, locale) => worded(readOwn(raw, locale)),
        ...travelling,
        readJson: (json) => worded(readJson!(json)),
        ...(write && { write: write as (value: unknown, locale: string) => unknown }),
        ...(empty !== undefined && { emptyRaw: empty }),
        // (One that reads by the language, writes by it, too.)
        ...(write && read.length > 1 && { translate }),
        ...(same && { same: same as (a: unknown, b: unknown) => boolean }),
        ...(writeLimit && { writeLimits: writtenLimits(writeLimit as (limit: unknown, locale: string) => string) }),
        definition,
      },
      settings,
      rules as readonly AnyRule[],
    );
  const definition: KindDefinition = { name, type, traits, format, make: makePart };
  const defined = (settings: LabelOr<Settings>, ...rules: readonly unknown[]): unknown => makePart(settings, rules);
  return Object.assign(defined, { definition }) as never;
}
