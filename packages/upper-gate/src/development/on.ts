// Help for the developer who uses the library. Under the import condition `production`, which bundlers set for what they
// ship, ./off.ts takes the place of this module: minifiers then drop the texts
// that stand behind `DEV`, and the calls of the functions with all that they are given.
// Nothing that decides whether a value passes depends on this module.

import { explain, explained, type Explained } from './explain.ts';

export { explain, explained };
export { declared, placeOf, startRecording } from './places.ts';

/** A part of a form, for `fieldsBelow`. */
export interface NamedNode {
  readonly path: string;
  readonly part: { readonly traits: { readonly hasParts?: boolean } };
  forEach(callback: (node: NamedNode) => void): void;
}

/** The paths of the fields below a node, from it on. */
export function fieldsBelow(node: NamedNode): readonly string[] {
  const paths: string[] = [];
  const start = node.path === '' ? 0 : node.path.length + 1;
  node.forEach((each) => !each.part.traits.hasParts && paths.push(each.path.slice(start)));
  return paths;
}

/** Whether this is a development build, whose errors explain themselves: `assertUse(isRight, DEV && '...')`. */
export const DEV: boolean = true;

/**
 * Throws at a mistake that has no effect on any verdict.
 *
 * @param mistake what is wrong and what to do, or nothing (or `false`) if all is well
 * @throws TypeError with that text
 */
export function devAssert(mistake: () => string | false | undefined): void {
  const text = mistake();
  if (text) throw new TypeError(explained(text));
}

/** An error as a text, whatever was thrown. */
export function told(error: unknown): string {
  try {
    return String(error);
  } catch {
    return 'something that is no text';
  }
}

/** What a function got in place of what it takes. */
export function got(value: unknown): string {
  if (typeof value === 'function') return `It got the function ${value.name || 'without a name'}; call it if it returns one.`;
  if (typeof value === 'object' && value !== null) return `It got ${Array.isArray(value) ? 'an array' : 'an object'}.`;
  return `It got ${typeof value === 'string' ? JSON.stringify(value) : told(value)}.`;
}

/** Throws, at a mistake that has no effect on any verdict, for what is no object. @param what what the caller takes, and an example */
export const devObject = (value: unknown, what: string): void =>
  devAssert(() => (typeof value !== 'object' || value === null) && `${what}. ${got(value)}`);

const warned = new WeakMap<object, Set<string>>();

/**
 * Warns about mistakes that do not stop anything, on the console, once each.
 *
 * @param about the form or gate that they are in
 * @param mistakes what is wrong and what to do
 */
export function warnOnce(about: object, mistakes: () => Iterable<Explained | false | undefined>): void {
  const before = warned.get(about) ?? new Set();
  warned.set(about, before);
  for (const text of mistakes()) {
    if (!text || before.has(text)) continue;
    before.add(text);
    console.warn(`Upper Gate: ${text}`);
  }
}
