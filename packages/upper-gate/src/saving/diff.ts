// The difference of two values of data, as JSON writes it: a merge patch (RFC 7396) or a JSON Patch (RFC 6902). A key
// without a value is a key that is not there.

import type { Json } from '../schema/anyJson.ts';

/** A step of a JSON Patch (RFC 6902). */
export type PatchOperation =
  { readonly op: 'add' | 'replace'; readonly path: string; readonly value: Json } | { readonly op: 'remove'; readonly path: string };

type Fields = Readonly<Record<string, unknown>>;
const isPlain = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype;
const keysOf = (a: Fields, b: Fields): readonly string[] => [...new Set([...Object.keys(a), ...Object.keys(b)])];

/** The keys on the way to a value. (Those of data from outside may have dots.) */
type Keys = readonly string[];
const pointerOf = (keys: Keys): string => keys.map((key) => `/${key.replace(/~/g, '~0').replace(/\//g, '~1')}`).join('');

/** What stands for an object in JSON, if it says so itself, as dates do. */
function asJson(value: unknown): unknown {
  const { toJSON } = (typeof value === 'object' && value !== null ? value : {}) as { toJSON?: unknown };
  return typeof toJSON === 'function' ? (toJSON.call(value) as unknown) : value;
}

/** Whether two values are the same data: files by identity. */
export function sameData(before: unknown, after: unknown): boolean {
  const [a, b] = [asJson(before), asJson(after)];
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((each, i) => sameData(each, b[i]));
  if (isPlain(a) && isPlain(b)) return keysOf(a, b).every((key) => sameData(a[key], b[key]));
  return Object.is(a, b);
}

/** A value as JSON holds it. @throws TypeError for what it cannot hold */
function toJson(given: unknown, keys: Keys): Json {
  const value = asJson(given);
  if (value === null || typeof value === 'string' || typeof value === 'boolean') return value;
  if (typeof value === 'number' && Number.isFinite(value)) return value;
  if (Array.isArray(value)) return value.map((each, i) => (each === undefined ? null : toJson(each, [...keys, String(i)])));
  if (isPlain(value))
    return Object.fromEntries(
      Object.entries(value).flatMap(([key, each]) => (each === undefined ? [] : [[key, toJson(each, [...keys, key])]])),
    );
  const what = typeof value === 'object' ? `a ${value.constructor.name}` : typeof value === 'number' ? String(value) : `a ${typeof value}`;
  // Whether there is such a value the user decides: production builds say it, too.
  throw new TypeError(
    `"${keys.join('.')}" holds ${what}, which JSON cannot hold. Send it by itself, or make the patch from a form without that field.`,
  );
}

/**
 * The merge patch that makes one value the other; nothing if they are the same.
 *
 * @throws TypeError for what JSON cannot hold, and for `null` as a value, which means "remove" there
 */
export function mergePatchOf(before: unknown, after: unknown, keys: Keys = []): Json | undefined {
  if (sameData(before, after)) return undefined;
  const value = asJson(after);
  if (value === undefined) return null;
  if (value === null)
    throw new TypeError(`"${keys.join('.')}" holds null, which removes a value in a merge patch (RFC 7396). Use toJsonPatch().`);
  if (!isPlain(value)) return toJson(value, keys);
  const old = isPlain(before) ? before : {};
  return Object.fromEntries(
    keysOf(old, value).flatMap((key) => {
      const inner = mergePatchOf(old[key], value[key], [...keys, key]);
      return inner === undefined ? [] : [[key, inner]];
    }),
  );
}

/**
 * The JSON Patch that makes one value the other. Lists are replaced as a whole.
 *
 * @throws TypeError for what JSON cannot hold
 */
export function jsonPatchOf(before: unknown, after: unknown, keys: Keys = []): readonly PatchOperation[] {
  if (sameData(before, after)) return [];
  const [old, now] = [asJson(before), asJson(after)];
  const path = pointerOf(keys);
  if (now === undefined) return [{ op: 'remove', path }];
  if (isPlain(old) && isPlain(now)) return keysOf(old, now).flatMap((key) => jsonPatchOf(old[key], now[key], [...keys, key]));
  return [{ op: old === undefined ? 'add' : 'replace', path, value: toJson(now, keys) }];
}
