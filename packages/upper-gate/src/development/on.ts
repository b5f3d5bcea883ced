// Mistakes of the developer who uses the library are warned in development. Under the import condition `production`, which
// bundlers set for what they ship, this module is replaced by ./off.ts, and the checks with their texts are gone.

/**
 * Tells a mistake in a declaration or a call.
 *
 * @param mistake what is wrong and what to do, or nothing (or `false`) where all is well
 * @throws TypeError with that text
 */
export function assert(mistake: () => string | false | undefined): void {
  const text = mistake();
  if (text) throw new TypeError(text);
}

const warned = new WeakMap<object, Set<string>>();

/**
 * Tells mistakes that do not stop anything, on the console, each once.
 *
 * @param about the form or gate that they are in
 * @param mistakes what is wrong and what to do
 */
export function warnOnce(about: object, mistakes: () => Iterable<string | false | undefined>): void {
  const before = warned.get(about) ?? new Set();
  warned.set(about, before);
  for (const text of mistakes()) {
    if (!text || before.has(text)) continue;
    before.add(text);
    console.warn(`Upper Gate: ${text}`);
  }
}
