// A merge patch of a client (RFC 7396), applied to what is stored.

import { inspect } from './inspect.ts';
import { LimitError } from '../interop/names.ts';
import { limitsOf, type Limits } from './limits.ts';

type Fields = Readonly<Record<string, unknown>>;
const isObject = (value: unknown): value is Fields => typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Applies a merge patch (RFC 7396) to a stored value, and returns a new one. The result
 * may be invalid: validate it with the whole schema.
 *
 * @param stored the data as `jsonOf` has written them
 * @param patch what a client sent, as `readForm` reads it
 * @param limits as of `readForm`
 * @returns the new whole; of a patch that is no object, the patch itself
 * @throws RangeError for a patch beyond the limits; `readForm` with the same limits has turned it down before
 *
 * @example
 * applyMergePatch({ vessel: 'Otter', tug: 'Heron' }, { vessel: 'Ibis', tug: null }) // { vessel: 'Ibis' }
 */
export function applyMergePatch(stored: unknown, patch: unknown, limits: Limits = {}): unknown {
  const all = limitsOf(limits);
  inspect(patch, all);
  if (new TextEncoder().encode(JSON.stringify(patch)).length > all.bytes)
    throw new LimitError(`A patch can have at most ${all.bytes} bytes.`);
  return merge(stored, patch);
}

function merge(stored: unknown, patch: unknown): unknown {
  if (!isObject(patch)) return patch;
  const merged = new Map(Object.entries(isObject(stored) ? stored : {}));
  for (const [key, value] of Object.entries(patch)) {
    if (value === null) merged.delete(key);
    else merged.set(key, merge(merged.get(key), value));
  }
  return Object.fromEntries(merged);
}
