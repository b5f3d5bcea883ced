// Limits that messages write as their kind does, not as their type is written.

import type { Params } from './finding.ts';

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

/** The params of a rule that are limits of the value. */
const LIMITS = ['min', 'max', 'above', 'below', 'step', 'base'];

/** What writes the limits among the params of a finding. @param write how the kind writes one */
export const writtenLimits =
  (write: (limit: unknown, locale: string) => string) =>
  (params: Params, locale: string): Params =>
    Object.fromEntries(
      LIMITS.filter((name) => params[name] !== undefined).map((name) => [name, new WrittenLimit(write(params[name], locale))]),
    );
