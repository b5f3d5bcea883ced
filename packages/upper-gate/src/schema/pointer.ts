// JSON Pointer (RFC 6901).

/** The pointer of keys on the way to a value. */
export const pointerOf = (keys: readonly (string | number)[]): string =>
  keys.map((key) => `/${String(key).replace(/~/g, '~0').replace(/\//g, '~1')}`).join('');

/** The keys that a pointer names. */
export const keysIn = (pointer: string): readonly string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((token) => token.replace(/~1/g, '/').replace(/~0/g, '~'));
