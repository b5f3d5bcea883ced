// Calendar dates.

import { FieldPart, UNREADABLE, type Field, type Optional, type RulesFor } from './field.ts';
import type { Settings } from './node.ts';

const DATE = /^(\d{4,6})-(\d\d)-(\d\d)$/;

/** The number of days in a month (1 to 12) of the proleptic Gregorian calendar, as HTML counts them. */
function daysIn(year: number, month: number): number {
  const leap = year % 400 === 0 || (year % 4 === 0 && year % 100 !== 0);
  return month === 2 ? (leap ? 29 : 28) : month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

const read = (raw: unknown): unknown => {
  if (raw === undefined || raw === null) return undefined;
  if (typeof raw !== 'string') return UNREADABLE;
  const typed = raw.trim();
  if (typed === '') return undefined;
  const parts = DATE.exec(typed);
  if (parts === null) return UNREADABLE;
  const [year, month, day] = [Number(parts[1]), Number(parts[2]), Number(parts[3])];
  return year > 0 && year <= 275760 && month >= 1 && month <= 12 && day >= 1 && day <= daysIn(year, month) ? typed : UNREADABLE;
};

/**
 * A field of calendar dates. Its data is an ISO 8601 text (`'2027-05-01'`), which knows no time zone; a date that the
 * calendar does not have is `badInput`.
 *
 * @example
 * date('Arrival', required(), range({ min: '2027-04-01' }))
 */
export function date<Q extends string = never>(
  settings: string | Settings,
  ...rules: RulesFor<string, Q>
): Field<Optional<string, Q>, string> {
  return new FieldPart({ name: 'date', read, write: (value) => value ?? '', blank: undefined, empty: '' }, settings, rules) as never;
}
