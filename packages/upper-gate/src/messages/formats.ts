// Writing numbers, dates and plurals in a language, through Intl.

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
const numbers = /* @__PURE__ */ once((locale) => new Intl.NumberFormat(locale, { maximumFractionDigits: 15 }));
const plain = /* @__PURE__ */ once((locale) => new Intl.NumberFormat(locale, { maximumFractionDigits: 15, useGrouping: false }));
const plurals = /* @__PURE__ */ once((locale) => new Intl.PluralRules(locale));

/** A number as people write it. Small whole ones, of which counters and limits are full, need no Intl in English. */
const inDigits = (locale: string, value: number): string =>
  locale === 'en' && Number.isInteger(value) && value >= 0 && value < 1000 && !Object.is(value, -0)
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

/** A limit as people write it: numbers, dates and months in the language; times, weeks and texts as they are. */
export function shown(locale: string, value: unknown): string {
  if (typeof value === 'number') return inDigits(locale, value);
  const text = String(value);
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
