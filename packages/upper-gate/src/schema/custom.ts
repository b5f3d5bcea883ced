// Custom kinds, for values that no built-in kind covers.

import { badValue } from '../messages/englishEnter.ts';
import { asIs } from '../messages/text.ts';
import { makeField, Unreadable, type Field, type Marks, type Optional, type RulesFor } from './field.ts';
import { swapSource } from './context/running.ts';
import type { FieldSettings, LabelOr } from './node.ts';

/** How a custom kind reads and writes. */
export interface CustomKind<T, R> {
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
export function withoutContext<T>(callback: () => T): T {
  const source = swapSource(undefined);
  try {
    return callback();
  } finally {
    swapSource(source);
  }
}

/**
 * Makes a field of a custom kind.
 *
 * @param settings the label, or settings with a label
 * @param how reads and writes its value
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
  { read, write, empty, same }: CustomKind<T, R>,
  ...rules: RulesFor<NoInfer<T>, M>
): Field<Optional<T, M>, R> {
  return makeField(
    {
      name: 'custom',
      traits: { holds: 'value', json: 'any' },
      read: (raw) => withoutContext(() => read(raw)),
      ...(write && { write: write as (value: unknown) => unknown }),
      ...(empty !== undefined && { emptyRaw: empty }),
      ...(same && { same: same as (a: unknown, b: unknown) => boolean }),
    },
    settings,
    rules,
  );
}
