// English. Each rule imports just the texts that it can report, so that a bundle holds no others. As a whole, the
// module is a complete catalogue: ./en.ts.

import type { ReadKind, TextType } from './codes.ts';
import {
  badColor,
  badDate,
  badDateTime,
  badInteger,
  badJson,
  badMonth,
  badNumber,
  badTime,
  badValue,
  badWeek,
  noCardNumber,
  noEmail,
  noIpAddress,
  noTimestamp,
  noUrl,
  noUuid,
  noZonedTime,
} from './englishEnter.ts';
import { fileTypes } from './fileTypes.ts';
import { bytes, inSteps, localeOf, nearestOf, shown } from './formats.ts';
import type { MessageParams as P } from './text.ts';

export const locale = 'en';

const READ_KINDS: Readonly<Record<ReadKind, typeof badValue>> = {
  number: badNumber,
  integer: badInteger,
  date: badDate,
  time: badTime,
  dateTime: badDateTime,
  month: badMonth,
  week: badWeek,
  color: badColor,
  anyJson: badJson,
};
const TYPES: Readonly<Record<TextType, typeof badValue>> = {
  email: noEmail,
  url: noUrl,
  ipAddress: noIpAddress,
  cardNumber: noCardNumber,
  timestamp: noTimestamp,
  time: noZonedTime,
  uuid: noUuid,
};
const of = <T>(table: Readonly<Record<string, T>>, key: unknown): T | undefined =>
  Object.hasOwn(table, String(key)) ? table[String(key)] : undefined;

/** A value as people write it: in British English, where that is the language. */
const written = (p: P, value: unknown): string => shown(localeOf(locale, p), value, week);
/** A number that counts something. */
const number = (p: P, value: unknown): string => (Number(value) < 1000 ? String(value) : Number(value).toLocaleString(localeOf(locale, p)));
/** The same with its noun. English needs no plural rules but this: one, or not. */
const counted = (p: P, count: unknown, one: string, other = `${one}s`): string => `${number(p, count)} ${count === 1 ? one : other}`;

/** The number of rows, choices or files, each with its own wording. */
const amount = (p: P, most: string, count: unknown): string =>
  p.holds === 'options' || p.holds === 'files'
    ? `Choose at ${most} ${counted(p, count, p.holds === 'files' ? 'file' : 'option')} for ${p.label}`
    : `${p.label} must have at ${most} ${counted(p, count, 'entry', 'entries')}`;
/** A number compared with that of another field. */
const compared = (p: P, most: string, beyond: string): string =>
  `be ${p['orSame'] === true ? `at ${most}` : beyond} ${String(p['otherLabel'])}`;

export const valueMissing = ({ label, holds }: P): string =>
  holds === 'flag'
    ? `Tick “${label}” to continue`
    : holds === 'option' || holds === 'options'
      ? `Choose an option for ${label}`
      : `${label} is required`;
export const badInput = (p: P): string => (of(READ_KINDS, p.kind) ?? badValue)(p);
export const notAllowed = ({ label }: P): string => `Choose one of the options for ${label}`;
export const typeMismatch = (p: P): string => (of(TYPES, p['type']) ?? badValue)(p);
export const patternMismatch = ({ label }: P): string => `Check the format of ${label}`;
export const tooShort = (p: P): string => `${p.label} must have at least ${counted(p, p['min'], 'character')}`;
export const tooLong = (p: P): string => `${p.label} must have at most ${counted(p, p['max'], 'character')}`;
export const tooFew = (p: P): string => amount(p, 'least', p['min']);
export const tooMany = (p: P): string => amount(p, 'most', p['max']);
export const rangeUnderflow = (p: P): string => {
  const { label, min, above, otherLabel, orSame, numeric } = p;
  return `${label} must ${
    typeof otherLabel !== 'string'
      ? typeof min === 'string'
        ? `be ${written(p, min)} or later`
        : above === undefined
          ? `be at least ${written(p, min)}`
          : `be more than ${written(p, above)}`
      : numeric === true
        ? compared(p, 'least', 'more than')
        : `${orSame === true ? 'not be before' : 'be after'} ${otherLabel}`
  }`;
};
export const rangeOverflow = (p: P): string => {
  const { label, max, below, otherLabel, orSame, numeric } = p;
  return `${label} must ${
    typeof otherLabel !== 'string'
      ? typeof max === 'string'
        ? `be ${written(p, max)} or earlier`
        : below === undefined
          ? `be at most ${written(p, max)}`
          : `be less than ${written(p, below)}`
      : numeric === true
        ? compared(p, 'most', 'less than')
        : `${orSame === true ? 'not be after' : 'be before'} ${otherLabel}`
  }`;
};
export const stepMismatch = (p: P): string => {
  const at = localeOf(locale, p);
  const such = p['nearest'] === undefined ? '' : `, such as ${nearestOf(at, p['nearest'], week)}`;
  return `${p.label} must be in steps of ${inSteps(at, p['step'], p.kind)}${such}`;
};
export const differs = ({ label, otherLabel }: P): string => `${label} must be the same as ${String(otherLabel)}`;
export const duplicate = (p: P): string =>
  typeof p['otherLabel'] === 'string'
    ? `${p.label} must not be the same as ${p['otherLabel']}`
    : `${p.label} is already used in row ${number(p, p['first'])}`;
export const fileTooLarge = (p: P): string =>
  `${String(p['file'])} is too large for ${p.label}: choose a file of at most ${bytes(localeOf(locale, p), p['max'])}`;
export const fileType = (p: P): string =>
  `${String(p['file'])} has the wrong type for ${p.label}: choose a file of type ${fileTypes(localeOf(locale, p), p['accept'], mediaType)}`;
export const customError = ({ label }: P): string => `Check ${label}`;
export const unknown = ({ name }: P): string => `${String(name)} is not a field of this form`;
/** In place of `unanswered`, where it is the options that could not be loaded. */
export const notLoaded = ({ label }: P): string => `The options for ${label} could not be loaded right now`;
export const unanswered = ({ label }: P): string => `${label} could not be checked right now`;
export const crashed = ({ label }: P): string => `${label} could not be checked because of an error in this form`;
export const refused = (): string => 'The server rejected this without giving a reason';
export const failed = (): string => 'This could not be sent. Try again';
/** In place of `badInput`, of what a control shows but does not give away: half a date. */
export const incomplete = ({ label }: P): string => `Complete or correct ${label}`;
/** In place of `valueMissing`, where there is nothing to choose from as long as another field has no value. */
export const firstOther = ({ otherLabel, otherHolds }: P): string =>
  `${otherHolds === 'option' || otherHolds === 'options' ? 'Choose' : 'Fill in'} ${String(otherLabel)} first`;
/** A week of a year, in a message. */
export const week = ({ week: number, year }: P): string => `week ${String(number)} of ${String(year)}`;
/** The files of a media type, such as `image`, in a message. */
export const mediaType = ({ type }: P): string => String(type);
/** Belongs to no finding: the text of a counter. */
export const count = (p: P): string => `${number(p, p['used'])} of ${number(p, p['max'])}`;
/** What a box says that is ticked, or not, where it is read as text. */
export const yes = (): string => 'Yes';
export const no = (): string => 'No';
/** Belongs to no finding: the heading of the summary of all errors. */
export const summary = (p: P): string => `Check ${counted(p, p['count'], 'entry', 'entries')}`;
/** The same where nothing is wrong but that something could not be checked. */
export const unchecked = (): string => 'This could not be checked right now. Try again';
/** Belongs to no finding: what a group of boxes is, of which one must be ticked. */
export const required = (): string => 'required';
// Belong to no finding: what is announced to screen reader users.
export const checking = ({ label }: P): string => `Checking ${label}`;
export const sending = (): string => 'Sending';
export const sent = (): string => 'Sent';
export const interrupted = (): string => 'Not sent, because the form was changed while it was checked';
export const stillRefused = ({ summary }: P): string => `Still not sent. ${String(summary)}`;
export const reset = (): string => 'The form was reset';
export const rowAdded = (p: P): string => `${p.label} ${number(p, p['row'])} added`;
export const rowRemoved = (p: P): string => `${p.label} ${number(p, p['row'])} removed`;
export const rowMoved = (p: P): string => `${p.label} ${number(p, p['row'])} moved to ${number(p, p['to'])}`;
