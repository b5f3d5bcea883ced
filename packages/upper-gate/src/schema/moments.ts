// Dates and times. Their data is an ISO 8601 text, which knows no time zone and so surprises nobody.

import { badDate, badDateTime, badMonth, badTime, badWeek } from '../messages/englishEnter.ts';
import type { Text } from '../messages/text.ts';
import { momentAt, type Moment, type MomentKind } from './calendar.ts';
import { FieldPart, unreadableAs, type Field, type FieldTraits, type Marks, type Optional, type RulesFor } from './field.ts';
import type { FieldSettings, LabelOr, VALUE } from './node.ts';
import { isObjectLike } from './safeAccess.ts';
import { nodeOf } from './part.ts';

/** A field of dates or times. Its data is a text that rules know as a date or time. */
export interface MomentField<out D = unknown> extends Field<D, string> {
  readonly [VALUE]: Moment;
}

/** A calendar day as an object, as several libraries have it. */
interface Day {
  readonly year: unknown;
  readonly month: unknown;
  readonly day: unknown;
}

/** The day of a date object as a text: the one that it shows where the user is, whatever the time zone. */
function dayOf(value: unknown): string | undefined {
  if (!isObjectLike(value)) return undefined;
  const { year, month, day } =
    value instanceof Date ? { year: value.getFullYear(), month: value.getMonth() + 1, day: value.getDate() } : (value as Partial<Day>);
  const parts = [year, month, day];
  if (!parts.every(Number.isInteger)) return undefined;
  return parts.map((part, i) => String(part).padStart(i === 0 ? 4 : 2, '0')).join('-');
}

const moment = (name: MomentKind, enter: Text) => {
  const bad = unreadableAs(enter);
  const traits: FieldTraits = {
    holds: 'value',
    json: 'string',
    measures: 'moment',
    isStepped: !['time', 'dateTime'].includes(name),
    control: name === 'dateTime' ? 'datetime-local' : name,
  };
  const read = (raw: unknown): unknown => {
    if (raw === undefined || raw === null) return undefined;
    if (typeof raw !== 'string') return bad;
    const typed = raw.trim();
    if (typed === '') return undefined;
    // HTML takes a blank between date and time, and writes a T.
    return momentAt(name, typed) === undefined ? bad : typed.replace(' ', 'T');
  };
  // Component kits call back with date objects.
  const write = (value: unknown): unknown => (name === 'date' ? (dayOf(value) ?? value) : value);
  return function <M extends Marks = []>(
    settings: LabelOr<FieldSettings<string>>,
    ...rules: RulesFor<Moment, M>
  ): MomentField<Optional<string, M>> {
    return nodeOf(new FieldPart({ name, traits, read, write }, settings, rules));
  };
};

/**
 * Makes a field for dates: `'2027-05-01'`. A date that the calendar doesn't have is `badInput`.
 *
 * @example
 * date('Arrival', required(), range({ min: 'today' }))
 */
export const date = /* @__PURE__ */ moment('date', badDate);

/**
 * Makes a field for times of day: `'09:30'`, `'09:30:15.5'`.
 *
 * @example
 * time('From', range({ min: '07:00', max: '19:00', step: 900 })) // quarters of an hour
 */
export const time = /* @__PURE__ */ moment('time', badTime);

/**
 * Makes a field for dates with a time: `'2027-05-01T09:30'`, without a time zone.
 *
 * @example
 * dateTime('Departure', required())
 */
export const dateTime = /* @__PURE__ */ moment('dateTime', badDateTime);

/**
 * Makes a field for months: `'2027-05'`.
 *
 * @example
 * month('Season begins', range({ min: '2027-03' }))
 */
export const month = /* @__PURE__ */ moment('month', badMonth);

/**
 * Makes a field for ISO weeks: `'2027-W18'`. Week 53 exists only in years that have one.
 *
 * @example
 * week('Week of the passage')
 */
export const week = /* @__PURE__ */ moment('week', badWeek);
