// The difference of two values of data, as JSON writes it: a merge patch (RFC 7396) or a JSON Patch (RFC 6902). A key
// without a value is a key that is not there.

import { isPlain, type Json } from '../schema/json.ts';
import { pointerOf } from '../schema/pointer.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { asJson } from '../schema/travel.ts';

/** A step of a JSON Patch (RFC 6902). */
export type PatchOperation =
  { readonly op: 'add' | 'replace'; readonly path: string; readonly value: Json } | { readonly op: 'remove'; readonly path: string };

type Fields = Readonly<Record<string, unknown>>;
const keysOf = (a: Fields, b: Fields): readonly string[] => [...new Set([...Object.keys(a), ...Object.keys(b)])];

/** The keys on the way to a value. (Those of data from outside may have dots.) */
type Keys = readonly string[];

/** What an object is compared by, if it says so itself, as dates do. */
function comparable(value: unknown): unknown {
  const { toJSON } = (typeof value === 'object' && value !== null ? value : {}) as { toJSON?: unknown };
  return typeof toJSON === 'function' ? (toJSON.call(value) as unknown) : value;
}

/** Whether two values are the same data: files by identity. */
export function sameData(before: unknown, after: unknown): boolean {
  const [a, b] = [comparable(before), comparable(after)];
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((each, i) => sameData(each, b[i]));
  if (isPlain(a) && isPlain(b)) return keysOf(a, b).every((key) => sameData(ownValue(a, key), ownValue(b, key)));
  return Object.is(a, b);
}

/**
 * The merge patch that makes one value the other; nothing if they are the same.
 *
 * @throws TypeError for what JSON cannot hold, and for `null` as a value, which means "remove" there
 */
export function mergePatchOf(before: unknown, after: unknown, keys: Keys = []): Json | undefined {
  if (sameData(before, after)) return undefined;
  if (after === undefined) return null;
  if (after === null)
    throw new TypeError(`"${keys.join('.')}" holds null, which removes a value in a merge patch (RFC 7396). Use toJsonPatch().`);
  if (!isPlain(after)) return asJson(after, keys);
  const old = isPlain(before) ? before : {};
  return Object.fromEntries(
    keysOf(old, after).flatMap((key) => {
      const inner = mergePatchOf(ownValue(old, key), ownValue(after, key), [...keys, key]);
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
  const path = pointerOf(keys);
  if (after === undefined) return [{ op: 'remove', path }];
  if (isPlain(before) && isPlain(after))
    return keysOf(before, after).flatMap((key) => jsonPatchOf(ownValue(before, key), ownValue(after, key), [...keys, key]));
  return [{ op: before === undefined ? 'add' : 'replace', path, value: asJson(after, keys) }];
}
