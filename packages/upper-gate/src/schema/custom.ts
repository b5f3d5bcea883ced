// Custom kinds, for values that no built-in kind covers.

import { devObject } from '#development';
import { badValue } from '../messages/englishEnter.ts';
import { asIs } from '../messages/text.ts';
import { makeField, Unreadable, type Field, type Kind, type Marks, type Optional, type RulesFor } from './field.ts';
import { swapSource } from './context/running.ts';
import type { Json } from './json.ts';
import type { FieldSettings, LabelOr } from './node.ts';
import { INACCESSIBLE } from './safeAccess.ts';
import { readBack, type Travelling } from './travel.ts';

/** How a custom kind reads and writes. */
export interface CustomKind<T, R> extends Travelling<T> {
  /** Reads data from what the control holds: `undefined` if it is empty, `unreadable()` if it cannot be read. */
  readonly read: (raw: unknown) => T | Unreadable | undefined;
  /** Converts data, or what the control holds already, to what the control can hold. Default: unchanged. */
  readonly write?: (value: T | R) => R;
  /** What an empty control holds. Default `''`. */
  readonly empty?: R;
  /** Whether two raw values are the same. Default `Object.is`. */
  readonly same?: (a: R, b: R) => boolean;
}

/**
 * Marks a value that cannot be read: the finding is `badInput`, and no rule of the field runs.
 *
 * @param message what to enter; default: the general message
 * @returns what `read` returns
 */
export const unreadable = (message?: string): Unreadable =>
  new Unreadable({ code: 'badInput', text: badValue, message: message === undefined ? undefined : asIs(message) });

/** Facts from outside are for rules: a value reads the same whatever they are. */
function withoutContext<T>(callback: () => T): T {
  const source = swapSource(undefined);
  try {
    return callback();
  } finally {
    swapSource(source);
  }
}

const UNREADABLE_VALUE = /* @__PURE__ */ unreadable();

/** An author's kind, whose functions may take a language, too. */
interface OwnKind<T, R> extends Omit<CustomKind<T, R>, 'read' | 'write'> {
  readonly read: (raw: unknown, locale: string) => unknown;
  readonly write?: ((value: T | R, locale: string) => R) | undefined;
}

/** How an author's kind reads what controls and JSON hold. @param bad for what it cannot read, whatever it says */
export function ownReading<T, R>(
  { read, write, toJson, fromJson }: OwnKind<T, R>,
  bad: Unreadable,
): Pick<Kind, 'read' | 'readJson' | 'writeJson'> {
  /** (What threw when it was touched, or is of another type than the kind's in JSON, no author should have to expect.) */
  const reading = (raw: unknown, how: () => unknown): unknown => (raw === INACCESSIBLE ? bad : withoutContext(how));
  const there = (data: unknown): unknown => {
    let raw = data;
    try {
      if (write) raw = write(data as T, 'en');
    } catch {
      // It is written for data, and this is none.
      return bad;
    }
    return read(raw, 'en');
  };
  const readJson = (json: unknown): unknown =>
    json === undefined || json === null ? read(json, 'en') : fromJson ? fromJson(json as Json) : readBack(json, there, bad);
  return {
    read: (raw, locale) => reading(raw, () => read(raw, locale)),
    readJson: (json) => reading(json, () => readJson(json)),
    ...(toJson && { writeJson: toJson as (data: unknown) => unknown }),
  };
}

/**
 * Makes a field of a custom kind.
 *
 * @param settings the label, or settings with a label
 * @param how reads and writes its value; `toJson` and `fromJson` say how data travel that are no JSON
 * @param rules the rules of the field, in the order in which they report
 * @returns the field
 *
 * @example
 * const position = custom('Position', {
 *   read: (raw: unknown) => {
 *     if (raw === '' || raw === undefined) return undefined;
 *     const [, km] = /^km (\d+)$/.exec(String(raw)) ?? [];
 *     return km === undefined ? unreadable('Position: as on the posts, km 12') : Number(km);
 *   },
 *   write: (value) => (typeof value === 'number' ? `km ${value}` : value),
 * }, required());
 */
export function custom<T, R = unknown, M extends Marks = []>(
  settings: LabelOr<FieldSettings<NoInfer<T>>>,
  how: CustomKind<T, R>,
  ...rules: RulesFor<NoInfer<T>, M>
): Field<Optional<T, M>, R> {
  devObject(how, 'custom() takes how its values are read: custom("Position", { read, write })');
  const { write, empty, same } = how;
  return makeField(
    {
      name: 'custom',
      traits: { holds: 'value', json: 'any' },
      ...ownReading(how, UNREADABLE_VALUE),
      ...(write && { write: write as (value: unknown) => unknown }),
      ...(empty !== undefined && { emptyRaw: empty }),
      ...(same && { same: same as (a: unknown, b: unknown) => boolean }),
    },
    settings,
    rules,
  );
}
