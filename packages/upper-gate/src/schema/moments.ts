// Dates and times. Their data is an ISO 8601 text, which knows no time zone and so surprises nobody.

import { incomplete } from '../messages/english.ts';
import { badDate, badDateTime, badMonth, badTime, badWeek } from '../messages/englishEnter.ts';
import type { Text } from '../messages/text.ts';
import { momentAt, type Moment, type MomentKind } from './calendar.ts';
import { FieldPart, Unreadable, unreadableAs, type Field, type FieldTraits, type Marks, type Optional, type RulesFor } from './field.ts';
import { dateNotation, translate, type Notation } from './localNotation.ts';
import type { FieldSettings, LabelOr, VALUE } from './node.ts';
import { UNREADABLE_INPUT } from './noValue.ts';
import { isObjectLike } from './safeAccess.ts';
import { nodeOf, toSettings } from './part.ts';

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

const WRITTEN: Pick<FieldTraits, 'holds' | 'json' | 'measures'> = { holds: 'value', json: 'string', measures: 'moment' };

/** What a control shows but does not give away: the browser says that there is something, not what. */
const INCOMPLETE = /* @__PURE__ */ new Unreadable({ code: 'badInput', text: incomplete, wordedAs: 'incomplete' });

/** What reads moments of a kind. @param bad what it yields for other texts @param toPlain from what is typed to what HTML writes */
const readAs =
  (name: MomentKind, bad: Unreadable, toPlain?: Notation['toPlain']) =>
  (raw: unknown): unknown => {
    if (raw === undefined || raw === null) return undefined;
    if (typeof raw !== 'string') return bad;
    const typed = raw.trim();
    if (typed === '') return undefined;
    if (typed === UNREADABLE_INPUT) return INCOMPLETE;
    if (momentAt(name, typed) === undefined) {
      const plain = toPlain?.(typed) ?? '';
      return momentAt(name, plain) === undefined ? bad : plain;
    }
    // HTML takes a blank between date and time, and writes a T.
    return typed.replace(' ', 'T');
  };

const moment = (name: MomentKind, enter: Text) => {
  const traits: FieldTraits = {
    ...WRITTEN,
    isStepped: !['time', 'dateTime'].includes(name),
    control: name === 'dateTime' ? 'datetime-local' : name,
  };
  const read = readAs(name, unreadableAs(enter));
  return function <M extends Marks = []>(
    settings: LabelOr<FieldSettings<string>>,
    ...rules: RulesFor<Moment, M>
  ): MomentField<Optional<string, M>> {
    return nodeOf(new FieldPart({ name, traits, read }, settings, rules));
  };
};

/** The settings of `date`. */
export interface DateSettings extends FieldSettings<string> {
  /**
   * A language by its tag, as whose dates are typed, in a control for text: `'de'`: 12.05.2027, `'en-US'`: 05/12/2027. `'auto'`: the
   * language of the form, or of the messages of a validation; a form writes its dates again when the language changes. `2027-05-12` is
   * read in every language. (`'en'` alone is American: month first. Give `'en-GB'` for day first.) Default: as HTML's control for dates holds them.
   */
  readonly locale?: string | undefined;
}

const DATES: FieldTraits = { ...WRITTEN, isStepped: true, control: 'date' };
const readDate = /* @__PURE__ */ readAs('date', /* @__PURE__ */ unreadableAs(badDate));
/** Dates as people write them are text to HTML. */
const TYPED: FieldTraits = { ...WRITTEN, isStepped: true };
/** A day in an example: one whose number is no month. */
const EXAMPLE = '2027-05-28';

/**
 * Makes a field for dates: `'2027-05-01'`. A date that the calendar doesn't have is `badInput`.
 *
 * @param settings its label, or label and settings
 * @param rules in the order in which they report
 * @returns the field
 *
 * @example
 * date('Arrival', required(), range({ min: 'today' }))
 * date({ label: 'Arrival', locale: 'auto' }) // typed as the language of the form writes dates; the data stays ISO 8601
 */
export function date<M extends Marks = []>(
  settings: LabelOr<DateSettings>,
  ...rules: RulesFor<Moment, M>
): MomentField<Optional<string, M>> {
  const { locale } = toSettings(settings);
  // Component kits call back with date objects.
  if (locale === undefined)
    return nodeOf(new FieldPart({ name: 'date', traits: DATES, read: readDate, write: (value) => dayOf(value) ?? value }, settings, rules));
  const make = (language: string) => {
    const { toPlain, toTyped } = dateNotation(language);
    const bad = new Unreadable({ code: 'badInput', text: badDate, params: { example: toTyped(EXAMPLE) } });
    return { read: readAs('date', bad, toPlain), toTyped };
  };
  const made = new Map<string, ReturnType<typeof make>>();
  const inLanguage = (language: string): ReturnType<typeof make> => {
    const tag = locale === 'auto' ? language : locale;
    const known = made.get(tag) ?? make(tag);
    made.set(tag, known);
    return known;
  };
  // (A language that is none is a mistake of the author: here, not at the first value.)
  if (locale !== 'auto') inLanguage(locale);
  const write = (value: unknown, language: string): unknown => {
    const day = dayOf(value) ?? value;
    return typeof day === 'string' && momentAt('date', day) !== undefined ? inLanguage(language).toTyped(day) : day;
  };
  const spec = {
    name: 'date',
    traits: TYPED,
    read: (raw: unknown, language: string) => inLanguage(language).read(raw),
    readJson: readDate,
    write,
    details: { locale },
    ...(locale === 'auto' && { translate }),
  } as const;
  return nodeOf(new FieldPart(spec, settings, rules));
}

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
