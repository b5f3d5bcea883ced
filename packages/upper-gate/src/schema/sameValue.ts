// Whether two values are the same: those that a field reads, params of findings.

/**
 * Whether two values are the same: numbers, texts and dates by value, lists and plain objects by what is in them,
 * everything else (files, functions, what cannot be read) by identity.
 *
 * @example
 * sameValue({ min: 2 }, { min: 2 }) // true
 */
export function sameValue(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object') return false;
  try {
    return sameInside(a, b);
  } catch {
    // One of them cannot be read, or contains itself.
    return false;
  }
}

function sameInside(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (a instanceof Date && b instanceof Date) return a.getTime() === b.getTime();
  if (!isComposite(a) || !isComposite(b) || Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((key) => Object.hasOwn(b, key) && sameInside(a[key], b[key]));
}

const isComposite = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && (Array.isArray(value) || Object.getPrototypeOf(value) === Object.prototype);
