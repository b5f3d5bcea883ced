// Writing numbers, dates and plurals in a language, through Intl.

import type { MessageParams } from './text.ts';

/** Words for something, as a function of what it is. */
export type Words = (params: MessageParams) => string;

/** A text for each plural category of a language (CLDR); `#` stands for the number. `other` serves where one is lacking. */
export type Forms = { readonly [category in Intl.LDMLPluralRule]?: string } & { readonly other: string };

/** What takes long to make is made once for each language, when it is first wanted. */
function once<T>(make: (locale: string) => T): (locale: string) => T {
  const made = new Map<string, T>();
  return (locale) => {
    const found = made.get(locale) ?? make(locale);
    made.set(locale, found);
    return found;
  };
}
/** The locale to write by in texts of a language: the one given, if it is of that language (`en-GB`), else the language. */
export const localeOf = (language: string, { locale }: { readonly locale?: string | undefined }): string =>
  locale?.startsWith(`${language}-`) ? locale : language;

const numbers = /* @__PURE__ */ once((locale) => new Intl.NumberFormat(locale, { maximumFractionDigits: 15 }));
const plain = /* @__PURE__ */ once((locale) => new Intl.NumberFormat(locale, { maximumFractionDigits: 15, useGrouping: false }));
const plurals = /* @__PURE__ */ once((locale) => new Intl.PluralRules(locale));

/** A number as people write it. Small whole ones, of which counters and limits are full, need no Intl in English. */
const inDigits = (locale: string, value: number): string =>
  /^en\b/.test(locale) && Number.isInteger(value) && value >= 0 && value < 1000 && !Object.is(value, -0)
    ? String(value)
    : numbers(locale).format(value);

/** A limit as people write it, a number without groups of digits. */
export const ungrouped = (limit: unknown, locale: string): string =>
  typeof limit === 'number' ? plain(locale).format(limit) : shown(locale, limit);

/** A number with its noun: `plural('en', 2, { one: '# row', other: '# rows' })` is `'2 rows'`. */
export function plural(locale: string, count: unknown, forms: Forms): string {
  const form = forms[plurals(locale).select(Number(count))] ?? forms.other;
  return form.replace('#', inDigits(locale, Number(count)));
}

/**
 * A limit as people write it: numbers, dates and months in the language, `'today'` as its word; times and texts as they are.
 *
 * @param week the words for a week; without them it stays as it is
 */
export function shown(locale: string, value: unknown, week?: Words): string {
  if (typeof value === 'number') return inDigits(locale, value);
  const text = String(value);
  if (text === 'today') return new Intl.RelativeTimeFormat(locale, { numeric: 'auto' }).format(0, 'day');
  const [, ofYear, ofWeek] = week === undefined ? [] : (/^(\d{4,6})-W(\d\d)$/.exec(text) ?? []);
  if (week !== undefined && ofWeek !== undefined)
    return week({ label: '', year: plain(locale).format(Number(ofYear)), week: inDigits(locale, Number(ofWeek)) });
  const style: Intl.DateTimeFormatOptions | undefined = /^\d{4}-\d\d-\d\d$/.test(text)
    ? { dateStyle: 'medium' }
    : /^\d{4}-\d\d$/.test(text)
      ? { year: 'numeric', month: 'long' }
      : /^\d{4}-\d\d-\d\dT/.test(text)
        ? { dateStyle: 'medium', timeStyle: 'short' }
        : undefined;
  // As if at Greenwich: the text knows no time zone, and must not be moved by one.
  return style
    ? new Intl.DateTimeFormat(locale, { ...style, timeZone: 'UTC' }).format(new Date(text.includes('T') ? `${text}Z` : text))
    : text;
}

/** A number of bytes in the unit that suits it. */
export function bytes(locale: string, value: unknown): string {
  const size = Number(value);
  const [unit, divisor] = size >= 1e6 ? ['megabyte', 1e6] : size >= 1e3 ? ['kilobyte', 1e3] : ['byte', 1];
  return new Intl.NumberFormat(locale, {
    style: 'unit',
    unit,
    unitDisplay: unit === 'byte' ? 'long' : 'short',
    maximumFractionDigits: 1,
  }).format(size / divisor);
}

/** Several texts, of which one is to be chosen: `'2 or 2.5'`. */
export const either = (locale: string, texts: Iterable<string>): string =>
  new Intl.ListFormat(locale, { type: 'disjunction' }).format(texts);

/** Seconds in the units of time, the longest first. */
const TIMES = [
  ['day', 86_400],
  ['hour', 3600],
  ['minute', 60],
  ['second', 1],
] as const;

/** A step with the unit in which HTML counts the steps of a kind: `'15 minutes'` for 900 of a time, `'2 weeks'`. Numbers have none. */
export function inSteps(locale: string, step: unknown, kind: string | undefined): string {
  if (typeof step !== 'number') return String(step);
  const isTime = kind === 'time' || kind === 'dateTime';
  const [unit, size] = isTime ? (TIMES.find((each) => step % each[1] === 0) ?? ['second', 1]) : [kind === 'date' ? 'day' : kind, 1];
  return unit === 'day' || unit === 'week' || unit === 'month' || isTime
    ? new Intl.NumberFormat(locale, { style: 'unit', unit: unit!, unitDisplay: 'long', maximumFractionDigits: 3 }).format(step / size)
    : shown(locale, step);
}

/** The values nearest to one that is on no step, as a message offers them; they may have been written already. */
export const nearestOf = (locale: string, nearest: unknown, week?: Words): string =>
  Array.isArray(nearest)
    ? either(
        locale,
        nearest.map((each) => shown(locale, each, week)),
      )
    : String(nearest);
