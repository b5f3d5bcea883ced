// Values as a language writes them: digits, dates, and writing again in another language what a form holds.

import { momentAt } from './calendar.ts';
import type { TranslatedField } from './field.ts';

/** Marks of the direction of writing, which nobody types. */
const MARKS = /[\u061c\u200e\u200f]/g;

/** Writes what is typed with the digits of ASCII. @param locale the language whose digits are read, too */
export function withPlainDigits(locale: string): (typed: string) => string {
  const digits = Array.from(new Intl.NumberFormat(locale, { useGrouping: false }).format(9876543210)).reverse();
  const own = new Map(digits.map((digit, value) => [digit, String(value)]));
  return (typed) => typed.replace(MARKS, '').replace(/\p{Nd}/gu, (digit) => own.get(digit) ?? digit);
}

/** Writes a value of a form in another language. What cannot be read stays as it was typed. */
export function translate(field: TranslatedField, before: string | undefined): void {
  const again = (raw: unknown): unknown => {
    const value = field.readIn(raw, before);
    return value === undefined ? raw : field.writeData(value);
  };
  field.initial = again(field.initial);
  field.saved = again(field.saved);
  field.raw = again(field.raw);
  field.readRaw();
  field.runRules();
}

/** From what is typed in a language to what HTML writes, and back. */
export interface Notation {
  readonly toPlain: (typed: string) => string;
  readonly toTyped: (plain: string) => string;
}

const UNITS: readonly string[] = ['year', 'month', 'day'];

/** Dates as a language writes them in digits: in its order, with its signs or those that people type in their place. */
export function dateNotation(locale: string): Notation {
  const format = new Intl.DateTimeFormat(locale, {
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    timeZone: 'UTC',
    calendar: 'gregory',
    numberingSystem: 'latn',
  });
  const parts = format.formatToParts(0);
  const order = parts.map(({ type }): string => type).filter((type) => UNITS.includes(type));
  const signs = [...new Set(parts.map(({ type, value }) => (type === 'literal' ? value : '')).join(''))].filter((sign) =>
    /[^\s\\\]^-]/.test(sign),
  );
  const between = `[-./\\s${signs.join('')}]`;
  const typedDate = new RegExp(
    `^${order.map((type) => (type === 'year' ? '(\\d{4})' : '(\\d{1,2})')).join(`${between}+`)}${between}*$`,
    'u',
  );
  const plainDigits = withPlainDigits(locale);
  return {
    toPlain(typed) {
      const found = typedDate.exec(plainDigits(typed));
      return found ? UNITS.map((unit) => found[order.indexOf(unit) + 1]!.padStart(2, '0')).join('-') : typed;
    },
    // (Other years are not written in four digits.)
    toTyped: (plain) => (/^[1-9]\d{3}-/.test(plain) ? format.format(new Date(momentAt('date', plain)!)).replace(MARKS, '') : plain),
  };
}
