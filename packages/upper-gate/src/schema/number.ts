// Numbers.

import { FieldPart, UNREADABLE, type Field, type Optional, type RulesFor } from './field.ts';
import type { Settings } from './node.ts';

// HTML's "valid floating-point number": no plus sign, no white space, no dot without a digit after it.
const NUMBER = /^-?(?:\d+(?:\.\d+)?|\.\d+)(?:[eE][+-]?\d+)?$/;

const read = (raw: unknown): unknown => {
  let value = raw;
  if (typeof raw === 'string') {
    const typed = raw.trim();
    if (typed === '') return undefined;
    if (!NUMBER.test(typed)) return UNREADABLE;
    value = Number(typed);
  }
  if (value === undefined || value === null) return undefined;
  return typeof value === 'number' && Number.isFinite(value) ? value : UNREADABLE;
};

const readInteger = (raw: unknown): unknown => {
  const value = read(raw);
  // Beyond the safe range a number is no longer the one that was typed.
  return typeof value !== 'number' || Number.isSafeInteger(value) ? value : UNREADABLE;
};

const write = (value: unknown): unknown => (typeof value === 'number' ? String(value) : (value ?? ''));

const numeric = (name: string, reader: (raw: unknown) => unknown) =>
  function <Q extends string = never>(
    settings: string | Settings,
    ...rules: RulesFor<number, Q>
  ): Field<Optional<number, Q>, string | number> {
    return new FieldPart({ name, read: reader, write, blank: undefined, empty: '' }, settings, rules) as never;
  };

/**
 * A field of numbers, read from the text of a control as HTML reads numbers (`12`, `-0.5`, `1e3`); anything else is
 * `badInput`.
 *
 * @example
 * number('Beam (m)', required(), range({ min: 0.5, max: 5.2 }))
 */
export const number = /* @__PURE__ */ numeric('number', read);

/**
 * A field of whole numbers within the safe range of JavaScript (about ±9 · 10¹⁵); anything else is `badInput`.
 *
 * @example
 * integer('Crew', range({ min: 1, max: 12 }))
 */
export const integer = /* @__PURE__ */ numeric('integer', readInteger);
