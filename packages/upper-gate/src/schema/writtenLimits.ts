// Limits that messages write as their kind does, not as their type is written.

import type { Part } from './part.ts';

/** A limit as its kind writes it. It is no text to messages: these would take it for a date. */
class WrittenLimit {
  readonly #text: string;
  constructor(text: string) {
    this.#text = text;
  }
  toString(): string {
    return this.#text;
  }
}

/** What writes the limits among the params of a rule. @param write how the kind writes one */
export const writtenLimits =
  (write: (limit: unknown, locale: string) => string): Part['writeLimits'] =>
  (params, names, locale) =>
    Object.fromEntries(
      names.filter((name) => params[name] !== undefined).map((name) => [name, new WrittenLimit(write(params[name], locale))]),
    );
