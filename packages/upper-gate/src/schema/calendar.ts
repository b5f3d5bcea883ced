// Dates and times as ISO 8601 texts, as HTML's controls hold them: whether the calendar has them, and where on a line
// they lie, so that they can be compared and stepped. No time zone comes into it.

/** The kinds of moments, each with the length of its unit on the line: months, or milliseconds. */
export type MomentKind = 'date' | 'time' | 'dateTime' | 'month' | 'week';

declare const MOMENT: unique symbol;
/**
 * A date or time as an ISO 8601 text, for rules. The brand exists only for the compiler: it distinguishes dates and times from
 * other texts, which have no order in time.
 */
export type Moment = string & { readonly [MOMENT]: true };

const DAY = 86_400_000;

const DATE = /^(\d{4,6})-(\d\d)-(\d\d)$/;
const MONTH = /^(\d{4,6})-(\d\d)$/;
const WEEK = /^(\d{4,6})-W(\d\d)$/;
const TIME = /^(\d\d):(\d\d)(?::(\d\d)(?:\.(\d{1,3}))?)?$/;

/**
 * Midnight of a day (month from 1) in milliseconds since 1970, in the proleptic Gregorian calendar; days may roll over. Counted in
 * years that begin in March, so that the leap day comes last: 153 days in five months from there. (A `Date` takes three times as
 * long.)
 */
function midnight(year: number, month: number, day: number): number {
  const { floor } = Math;
  const y = month > 2 ? year : year - 1;
  const days = 365 * y + floor(y / 4) - floor(y / 100) + floor(y / 400) + floor((153 * ((month + 9) % 12) + 2) / 5) + day;
  return (days - 719_469) * DAY;
}

/** The Monday of week 1: that of the week with January 4 (ISO 8601). */
function firstMonday(year: number): number {
  const fourth = midnight(year, 1, 4);
  return fourth - ((new Date(fourth).getUTCDay() + 6) % 7) * DAY;
}

// The last year and day that a Date can hold; HTML's controls end there too.
const LAST = 8.64e15;
const isYear = (year: number): boolean => year >= 1 && year <= 275_760;

const READERS: Readonly<Record<MomentKind, (text: string) => number | undefined>> = {
  date(text) {
    if (!DATE.test(text)) return undefined;
    // (Slices: an array of what an expression matched takes three times as long.)
    const { length } = text;
    const [year, month, day] = [
      Number(text.slice(0, length - 6)),
      Number(text.slice(length - 5, length - 3)),
      Number(text.slice(length - 2)),
    ];
    const at = midnight(year, month, day);
    const isThere = isYear(year) && month >= 1 && month <= 12 && day >= 1 && at < midnight(year, month + 1, 1) && at <= LAST;
    return isThere ? at : undefined;
  },
  time(text) {
    const [whole, hours = NaN, minutes = NaN, seconds = '0', fraction = '0'] = TIME.exec(text) ?? [];
    if (whole === undefined || !(Number(hours) < 24 && Number(minutes) < 60 && Number(seconds) < 60)) return undefined;
    return ((Number(hours) * 60 + Number(minutes)) * 60 + Number(seconds)) * 1000 + Number(fraction.padEnd(3, '0'));
  },
  dateTime(text) {
    const [day, time] = text.split(/[T ]/, 2) as [string, string?];
    const at = READERS.date(day);
    const within = READERS.time(time ?? '');
    return at === undefined || within === undefined || at + within > LAST ? undefined : at + within;
  },
  month(text) {
    const [, year, month] = (MONTH.exec(text) ?? []).map(Number) as [number, number, number];
    return isYear(year) && month >= 1 && month <= 12 && midnight(year, month, 1) <= LAST ? (year - 1970) * 12 + month - 1 : undefined;
  },
  week(text) {
    const [, year, week] = (WEEK.exec(text) ?? []).map(Number) as [number, number, number];
    if (!isYear(year) || !(week >= 1)) return undefined;
    const at = firstMonday(year) + (week - 1) * 7 * DAY;
    return at < firstMonday(year + 1) || (year === 275_760 && week <= 37) ? at : undefined;
  },
};

/**
 * The position of a moment on the number line of its kind: months since January 1970 for months, else milliseconds since then (for
 * times: since midnight).
 *
 * @returns nothing for a text that is no such moment, or one that the calendar does not have
 *
 * @example
 * momentAt('date', '1970-01-02') // 86400000
 * momentAt('week', '2026-W53') // 1798416000000; 2027 has no week 53
 */
export const momentAt = (kind: MomentKind, text: string): number | undefined => READERS[kind](text);

/** What kind of moment a text looks like; nothing for other texts. */
export const kindOfMoment = (text: string): MomentKind | undefined =>
  TIME.test(text)
    ? 'time'
    : DATE.test(text)
      ? 'date'
      : MONTH.test(text)
        ? 'month'
        : WEEK.test(text)
          ? 'week'
          : /^\d{4,6}-\d\d-\d\d[T ]/.test(text)
            ? 'dateTime'
            : undefined;

/** The position of a value on its line: a number, or a moment. */
export const position = (value: unknown): number =>
  typeof value === 'string' ? (momentAt(kindOfMoment(value) ?? 'date', value) ?? NaN) : Number(value);

const pad = (number: number): string => String(number).padStart(2, '0');

/** The week in which a day lies, by its midnight. */
function weekAt(at: number): string {
  const year = new Date(at).getUTCFullYear();
  const weekYear = at < firstMonday(year) ? year - 1 : at < firstMonday(year + 1) ? year : year + 1;
  return `${String(weekYear).padStart(4, '0')}-W${pad(Math.floor((at - firstMonday(weekYear)) / DAY / 7) + 1)}`;
}

/**
 * The moment of a kind at a position on its line: the inverse of `momentAt`.
 *
 * @returns nothing where the calendar has none
 */
export function momentText(kind: MomentKind, at: number): string | undefined {
  const from = new Date(kind === 'month' ? midnight(1970, 1, 1) : at);
  if (kind === 'month') from.setUTCMonth(at);
  if (Number.isNaN(from.getTime())) return undefined;
  const [day, time] = from.toISOString().replace(/^\+0+/, '').split('T') as [string, string];
  // Seconds are only written where there are some.
  const clock = time.replace(/(:00)?\.000Z$|Z$/, '');
  const text =
    kind === 'time'
      ? clock
      : kind === 'dateTime'
        ? `${day}T${clock}`
        : kind === 'week'
          ? weekAt(at)
          : kind === 'month'
            ? day.slice(0, -3)
            : day;
  return momentAt(kind, text) === at ? text : undefined;
}

/** Today on the local calendar, written as a kind of moment; for `dateTime` its first minute, or its last. @throws TypeError without a time */
export function today(kind: MomentKind, now: Date, end: 'first' | 'last'): string {
  // Nothing could be compared with it, so everything would pass.
  if (Number.isNaN(now.getTime())) throw new TypeError('The clock has no time.');
  const [year, month, day] = [now.getFullYear(), now.getMonth() + 1, now.getDate()];
  const date = `${String(year).padStart(4, '0')}-${pad(month)}-${pad(day)}`;
  if (kind === 'month') return date.slice(0, -3);
  if (kind === 'dateTime') return `${date}T${end === 'first' ? '00:00' : '23:59:59.999'}`;
  if (kind !== 'week') return date;
  return weekAt(midnight(year, month, day));
}
