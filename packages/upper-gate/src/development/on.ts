// Mistakes of the developer who uses the library are told in development. Under the import condition `production`, which
// bundlers set for what they ship, this module is replaced by ./off.ts, and the checks with their texts are gone.

/**
 * Tells a mistake in a declaration or a call.
 *
 * @param mistake what is wrong and what to do, or nothing (or `false`) where all is well
 * @throws TypeError with that text
 */
export function demand(mistake: () => string | false | undefined): void {
  const text = mistake();
  if (text) throw new TypeError(text);
}

const told = new WeakMap<object, Set<string>>();

/**
 * Tells mistakes that do not stop anything, on the console, each once.
 *
 * @param about the form or gate that they are in
 * @param mistakes what is wrong and what to do
 */
export function tellOnce(about: object, mistakes: () => Iterable<string | false | undefined>): void {
  const before = told.get(about) ?? new Set();
  told.set(about, before);
  for (const text of mistakes()) {
    if (!text || before.has(text)) continue;
    before.add(text);
    console.warn(`Upper Gate: ${text}`);
  }
}
