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
import { bytes, shown } from './formats.ts';
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

/** A number with its noun. English needs no plural rules but this: one, or not. */
const number = (value: unknown): string => (Number(value) < 1000 ? String(value) : Number(value).toLocaleString(locale));
const counted = (count: unknown, one: string, other = `${one}s`): string => `${number(count)} ${count === 1 ? one : other}`;

/** The number of rows, choices or files, each with its own wording. */
const amount = ({ label, holds }: P, most: string, count: unknown): string =>
  holds === 'options' || holds === 'files'
    ? `Choose at ${most} ${counted(count, holds === 'files' ? 'file' : 'option')} for ${label}`
    : `${label} must have at ${most} ${counted(count, 'entry', 'entries')}`;

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
export const tooShort = ({ label, min }: P): string => `${label} must have at least ${counted(min, 'character')}`;
export const tooLong = ({ label, max }: P): string => `${label} must have at most ${counted(max, 'character')}`;
export const tooFew = (p: P): string => amount(p, 'least', p['min']);
export const tooMany = (p: P): string => amount(p, 'most', p['max']);
export const rangeUnderflow = ({ label, min, above, otherLabel, orSame }: P): string =>
  `${label} must ${
    typeof otherLabel === 'string'
      ? `${orSame === true ? 'not be before' : 'be after'} ${otherLabel}`
      : typeof min === 'string'
        ? `be ${shown('en', min)} or later`
        : above === undefined
          ? `be at least ${shown('en', min)}`
          : `be more than ${shown('en', above)}`
  }`;
export const rangeOverflow = ({ label, max, below, otherLabel, orSame }: P): string =>
  `${label} must ${
    typeof otherLabel === 'string'
      ? `${orSame === true ? 'not be after' : 'be before'} ${otherLabel}`
      : typeof max === 'string'
        ? `be ${shown('en', max)} or earlier`
        : below === undefined
          ? `be at most ${shown('en', max)}`
          : `be less than ${shown('en', below)}`
  }`;
export const stepMismatch = ({ label, step }: P): string => `${label} must be in steps of ${shown('en', step)}`;
export const differs = ({ label, otherLabel }: P): string => `${label} must be the same as ${String(otherLabel)}`;
export const duplicate = ({ label, otherLabel, first }: P): string =>
  typeof otherLabel === 'string'
    ? `${label} must not be the same as ${otherLabel}`
    : `${label} is already used in row ${shown('en', first)}`;
export const fileTooLarge = ({ label, file, max }: P): string =>
  `${String(file)} is too large for ${label}: choose a file of at most ${bytes('en', max)}`;
export const fileType = ({ label, file, accept }: P): string => `${String(file)} has the wrong type for ${label}: choose ${String(accept)}`;
export const customError = ({ label }: P): string => `Check ${label}`;
export const unknown = ({ name }: P): string => `${String(name)} is not a field of this form`;
export const unanswered = ({ label }: P): string => `${label} could not be checked right now`;
export const crashed = ({ label }: P): string => `${label} could not be checked because of an error in this form`;
export const refused = (): string => 'The server rejected this without giving a reason';
export const failed = (): string => 'This could not be sent. Try again';
/** Belongs to no finding: the text of a counter. */
export const count = ({ used, max }: P): string => `${number(used)} of ${number(max)}`;
/** What a box says that is ticked, or not, where it is read as text. */
export const yes = (): string => 'Yes';
export const no = (): string => 'No';
/** Belongs to no finding: the heading of the summary of all errors. */
export const summary = ({ count }: P): string => `Check ${counted(count, 'entry', 'entries')}`;
/** Belongs to no finding: what a group of boxes is, of which one must be ticked. */
export const required = (): string => 'required';
// Belong to no finding: what is announced to screen reader users.
export const checking = ({ label }: P): string => `Checking ${label}`;
export const sending = (): string => 'Sending';
export const sent = (): string => 'Sent';
export const interrupted = (): string => 'Not sent, because the form was changed while it was checked';
export const stillRefused = ({ summary }: P): string => `Still not sent. ${String(summary)}`;
export const reset = (): string => 'The form was reset';
export const rowAdded = ({ label, row }: P): string => `${label} ${number(row)} added`;
export const rowRemoved = ({ label, row }: P): string => `${label} ${number(row)} removed`;
export const rowMoved = ({ label, row, to }: P): string => `${label} ${number(row)} moved to ${number(to)}`;
