// Numbers.

import { badInteger, badNumber } from '../messages/englishEnter.ts';
import { ungrouped } from '../messages/formats.ts';
import type { Text } from '../messages/text.ts';
import { makeField, type FieldTraits, Unreadable, type Field, type Marks, type Optional, type RulesFor } from './field.ts';
import { translate, withPlainDigits, type Notation } from './localNotation.ts';
import type { FieldSettings, LabelOr } from './node.ts';
import { toSettings } from './part.ts';
import { writtenLimits } from './writtenLimits.ts';

/** The settings of `number` and `integer`. */
export interface NumberSettings extends FieldSettings<number> {
  /** The decimal sign that people type, in place of the dot: `','`. */
  readonly decimal?: string;
  /**
   * A language by its tag, whose decimal sign, grouping and digits are read (`'de'`: 1.234,5). `'auto'`: the language of the form, or
   * of the messages of a validation; a form writes its numbers again when the language changes.
   */
  readonly locale?: string;
  /** Whether messages, hints and reviews group the digits: 1,204 or 1204. Default true; false for years, gauges and numbers of things. */
  readonly useGrouping?: boolean;
}

// HTML's "valid floating-point number": no plus sign, no white space, no dot without a digit after it.
export const NUMBER = /^-?(?:\d+(?:\.\d+)?|\.\d+)(?:[eE][+-]?\d+)?$/;

/** A whole number of a few digits, as most are; -1 for every other text. An expression takes ten times as long (bench: P1). */
function digitsIn(text: string): number {
  const { length } = text;
  if (length === 0 || length > 9) return -1;
  let value = 0;
  for (let i = 0; i < length; i += 1) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return -1;
    value = value * 10 + digit;
  }
  return value;
}

function notation({
  decimal,
  locale,
}: {
  readonly decimal: string | undefined;
  readonly locale: string | undefined;
}): Notation | undefined {
  if (decimal === undefined && locale === undefined) return undefined;
  const parts = locale === undefined ? [] : new Intl.NumberFormat(locale, { useGrouping: true }).formatToParts(-1234567.8);
  const sign = (type: string): string | undefined => parts.find((part) => part.type === type)?.value;
  const point = decimal ?? sign('decimal') ?? '.';
  const grouping = sign('group');
  // People type a plain blank for the narrow ones that a language writes.
  const separator = grouping === undefined ? '(?!)' : grouping.trim() === '' ? '\\s' : `\\${grouping}`;
  const plainDigits = locale === undefined ? undefined : withPlainDigits(locale);
  const grouped = new RegExp(`^-?\\d{1,3}(?:${separator}\\d{2,3})*${separator}\\d{3}(?!\\d)`);
  return {
    toPlain(given) {
      const typed = plainDigits ? plainDigits(given) : given;
      const whole = grouped.exec(typed)?.[0] ?? '';
      const rest = typed.slice(whole.length);
      // A dot is no decimal sign here: what follows would be misread by a factor.
      if (point !== '.' && rest.includes('.')) return typed.replace('.', '?');
      return whole.replace(new RegExp(separator, 'g'), '') + rest.replace(point, '.');
    },
    toTyped: (plain) => plain.replace('.', point),
  };
}

/** Numbers in local notation are text to HTML. */
const LOCAL: FieldTraits = { holds: 'value', json: 'number', measures: 'number' };

const WITHOUT_GROUPS = /* @__PURE__ */ writtenLimits(ungrouped);

const numeric = (name: 'number' | 'integer', fits: (value: number) => boolean, enter: Text) => {
  const plain: FieldTraits = { ...LOCAL, isStepped: name === 'integer', control: 'number' };
  return function <M extends Marks = []>(
    settings: LabelOr<NumberSettings>,
    ...rules: RulesFor<number, M>
  ): Field<Optional<number, M>, string | number> {
    const { decimal, locale, useGrouping = true } = toSettings(settings);
    const followsLanguage = locale === 'auto';
    const make = (language: string | undefined) => {
      const local = notation({ decimal, locale: language });
      // What to type: a number as this field reads it, whatever the language of the message.
      const example = local ? local.toTyped('3.5') : '3.5';
      return { local, bad: new Unreadable({ code: 'badInput', text: enter, ...(name === 'number' && { params: { example } }) }) };
    };
    // Most numbers are of one notation.
    const fixed = followsLanguage ? undefined : make(locale);
    const made = new Map<string, ReturnType<typeof make>>();
    const inLanguage = (language: string): ReturnType<typeof make> => {
      if (fixed !== undefined) return fixed;
      let of = made.get(language);
      if (!of) made.set(language, (of = make(language)));
      return of;
    };
    const read = (raw: unknown, language: string): unknown => {
      let value = raw;
      if (typeof raw === 'string') {
        const digits = digitsIn(raw);
        if (digits >= 0) return digits;
      }
      const { local, bad } = inLanguage(language);
      if (typeof raw === 'string') {
        const typed = raw.trim();
        if (typed === '') return undefined;
        const plain = local ? local.toPlain(typed) : typed;
        value = NUMBER.test(plain) ? Number(plain) : NaN;
      }
      if (value === undefined || value === null) return undefined;
      // Minus zero is zero.
      return typeof value === 'number' && fits(value) ? value + 0 : bad;
    };
    const write = (value: unknown, language: string): unknown => {
      if (typeof value !== 'number') return value;
      const { local } = inLanguage(language);
      return local ? local.toTyped(String(value)) : String(value);
    };
    return makeField(
      {
        name,
        traits: decimal === undefined && locale === undefined ? plain : LOCAL,
        read,
        write,
        details: { decimal, locale, useGrouping },
        ...(!useGrouping && { writeLimits: WITHOUT_GROUPS }),
        ...(followsLanguage && { translate }),
      },
      settings,
      rules,
    );
  };
};

/**
 * Makes a field for numbers, read from text as HTML reads numbers (`12`, `-0.5`, `1e3`), or as a language writes them.
 * Anything else is `badInput`.
 *
 * @example
 * number('Beam (m)', required(), range({ min: 0.5, max: 5.2 }))
 * number({ label: 'Toll (€)', locale: 'de' }) // reads 1.234,50
 * number({ label: 'Toll (€)', locale: 'auto' }) // by the language of the form
 */
export const number = /* @__PURE__ */ numeric('number', Number.isFinite, badNumber);

/**
 * Makes a field for whole numbers. Anything else is `badInput`, and so are numbers beyond the safe range of JavaScript (about
 * ±9 · 10¹⁵), which would not be the ones that were typed.
 *
 * @example
 * integer('Crew', range({ min: 1, max: 12 }))
 * integer({ label: 'Built in', useGrouping: false }, range({ min: 1850 })) // Built in must be at least 1850
 */
export const integer = /* @__PURE__ */ numeric('integer', Number.isSafeInteger, badInteger);
