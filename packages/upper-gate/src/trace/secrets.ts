// What must not enter a trace: the values of private fields, and texts that may have been made from them.

import type { BaseNode } from '../gate/node.ts';
import { isAdded, type StoredVerdict } from '../gate/findings.ts';
import type { Readable, TracedRule } from '../schema/kit.ts';

/** The outermost part at or around a node that is private. */
export function privateAround(node: BaseNode): BaseNode | undefined {
  let found: BaseNode | undefined;
  for (let at: BaseNode | undefined = node; at; at = at.parent) if (at.part.settings.private) found = at;
  return found;
}

/** The path of a node, without names that the user may have made up: keys of a dictionary in something private. */
export function openPath(node: BaseNode): string {
  if (!privateAround(node)) return node.path;
  let open = node;
  for (let at = node.parent; at; at = at.parent) if (at.part.traits.holds === 'entries' && privateAround(at)) open = at;
  return open.path;
}

/** Whether something in a part is private. */
export function holdsPrivate(node: BaseNode): boolean {
  let is = false;
  node.forEach(({ part }) => (is ||= part.settings.private === true));
  return is;
}

/** Whether what was read may be, or hold, something private. */
export const readsPrivate = (reads: readonly Readable[]): boolean =>
  reads.some((read) => 'part' in read && (privateAround(read as BaseNode) !== undefined || (read as BaseNode).part.settings.private));

/** Whether what a rule finds is worded by a function of the author. */
export const isAuthored = (rule: TracedRule): boolean => rule.author !== undefined || 'definition' in rule;

/** Whether a finding may have been made of anything: a server said so, or a function of the author. */
export const mayBeMadeOf = (stored: StoredVerdict): boolean => isAdded(stored) || (stored.rule !== undefined && isAuthored(stored.rule));

/** What stands in place of a secret. */
const HIDDEN = '(private)';
/** Shorter texts would be found everywhere. Where they might be told, they are left out by their place. */
const SHORTEST = 3;
const MOST = 1000;

/** The private texts that a form has held. */
export class Secrets {
  readonly #texts = new Set<string>();

  /** Notes what a private node holds, whatever it is made of. */
  note(node: BaseNode): void {
    this.add(node.raw);
  }

  add(value: unknown, depth = 0): void {
    if (typeof value === 'string' || typeof value === 'number' || typeof value === 'bigint') {
      const text = String(value);
      if (text.length >= SHORTEST) this.#texts.add(text);
      if (this.#texts.size > MOST) this.#texts.delete(this.#texts.values().next().value!);
    } else if (typeof value === 'object' && value !== null && depth < 10)
      for (const [key, inner] of Object.entries(value)) {
        if (!Array.isArray(value)) this.add(key, depth + 1);
        this.add(inner, depth + 1);
      }
  }

  /** A text without what is private in it. */
  scrub(text: string): string {
    let clean = text;
    // The longest first: another may be a part of it.
    for (const secret of [...this.#texts].sort((a, b) => b.length - a.length)) clean = clean.split(secret).join(HIDDEN);
    return clean;
  }
}
