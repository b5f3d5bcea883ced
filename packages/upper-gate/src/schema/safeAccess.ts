// Touching values from outside. A getter or a proxy may throw whenever it is touched: that makes the value illegible, and
// no more.

/** Names that reach for what every object has: never those of a field. */
export const HOSTILE: readonly string[] = ['__proto__', 'constructor', 'prototype'];

/** Stands for a raw value that threw when it was read: no kind can read it. */
export const INACCESSIBLE: unique symbol = Symbol('illegible');

function guarded<T, U>(touch: () => T, otherwise: U): T | U {
  try {
    return touch();
  } catch {
    return otherwise;
  }
}

/** What a raw value is made of, as far as groups and lists want to know; `'none'`: nothing was given. */
export const shapeOf = (raw: unknown): 'none' | 'object' | 'list' | 'other' =>
  raw === undefined || raw === null
    ? 'none'
    : typeof raw === 'object'
      ? guarded(() => (Array.isArray(raw) ? 'list' : 'object'), 'other')
      : 'other';

/** An object's own property; nothing where it has none. */
export const ownRaw = (of: object, key: string | number): unknown =>
  guarded(() => (Object.hasOwn(of, key) ? (of as Readonly<Record<string | number, unknown>>)[key] : undefined), INACCESSIBLE);

/** The names of an object's own properties; none where they cannot be had. */
export const ownKeys = (of: object): readonly string[] => guarded(() => Object.keys(of), []);

/** The length of a list; nothing where it cannot be had. */
export const lengthOf = (of: readonly unknown[]): number | undefined => guarded(() => of.length, undefined);
