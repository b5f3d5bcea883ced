// Touching values from outside. A getter or a proxy may throw whenever it is touched: that makes the value unreadable, and
// no more.

import { DEV, explained } from '#development';
import { WRONG_USE } from './brand.ts';

/** Names that reach for what every object has: never those of a field. */
export const HOSTILE: readonly string[] = ['__proto__', 'constructor', 'prototype'];

/** Whether a field can have this name, or an entry this key: paths lead there. */
export const isName = (name: string): boolean => name !== '' && !name.includes('.') && !HOSTILE.includes(name);

/** Stands for a raw value that threw when it was read: no kind can read it. */
export const INACCESSIBLE: unique symbol = Symbol('inaccessible');

function guarded<T, U>(touch: () => T, otherwise: U): T | U {
  try {
    return touch();
  } catch {
    return otherwise;
  }
}

/** The type of a value as JSON has it; `'none'`: there is no value. */
export function jsonTypeOf(raw: unknown): string {
  if (raw === undefined || raw === null) return 'none';
  try {
    return Array.isArray(raw) ? 'array' : typeof raw;
  } catch {
    // A proxy that was revoked.
    return 'inaccessible';
  }
}

/** An object's own property; nothing where it has none. */
export const ownRaw = (of: object, key: string | number): unknown =>
  guarded(() => (Object.hasOwn(of, key) ? (of as Readonly<Record<string | number, unknown>>)[key] : undefined), INACCESSIBLE);

/** The names of an object's own properties; none where they cannot be read. */
export const ownKeys = (of: object): readonly string[] => guarded(() => Object.keys(of), []);

/** The length of a list; nothing where it cannot be read. */
export const lengthOf = (of: readonly unknown[]): number | undefined => guarded(() => of.length, undefined);

/** Up to this length it does not matter whether a list has holes. */
const MOST_HOLES = 100_000;

/** Whether a value is a list that consists of holes mostly: they take no memory, but would take as long to walk as entries. */
export const isHollow = (raw: unknown): boolean =>
  guarded(() => Array.isArray(raw) && raw.length > MOST_HOLES && Object.keys(raw).length < raw.length, false);

/** An own property of what may be an object; nothing where it is none, or has none. For values of the program's own. */
export function ownValue(of: unknown, key: string): unknown {
  return typeof of === 'object' && of !== null && Object.hasOwn(of, key) ? (of as Readonly<Record<string, unknown>>)[key] : undefined;
}

/**
 * What a function of the author returned that must answer at once.
 *
 * @param problem what the error says
 * @throws TypeError for a promise. (It is never waited for; so what it rejects with ends no process.)
 */
export function atOnce<T>(value: T, problem?: string): T {
  if (typeof value !== 'object' || value === null || typeof (value as { readonly then?: unknown }).then !== 'function') return value;
  Promise.resolve(value).catch(() => undefined);
  throw new TypeError(
    problem ??
      (DEV ? explained('A function that must answer at once returned a promise. Await nothing in it, or use an async rule.') : WRONG_USE),
  );
}

/** Whether a value has keys: a list has, too. */
export const isObjectLike = (value: unknown): value is Readonly<Record<string, unknown>> => typeof value === 'object' && value !== null;
