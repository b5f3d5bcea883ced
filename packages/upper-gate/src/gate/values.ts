// Reading plain values that come from outside.

/** An object's own property; nothing where it has none, or is no object. */
export function ownValue(of: unknown, key: string): unknown {
  return typeof of === 'object' && of !== null && Object.hasOwn(of, key) ? (of as Readonly<Record<string, unknown>>)[key] : undefined;
}
