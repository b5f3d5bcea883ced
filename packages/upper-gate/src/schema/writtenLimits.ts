// Limits that messages write as their kind does, not as their type is written.

import { either } from '../messages/formats.ts';
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
  (params, names, locale) => {
    // (The values nearest to one that is on no step are several.)
    const text = (limit: unknown): string => (Array.isArray(limit) ? either(locale, limit.map(text)) : write(limit, locale));
    return Object.fromEntries(
      names.filter((name) => params[name] !== undefined).map((name) => [name, new WrittenLimit(text(params[name]))]),
    );
  };
