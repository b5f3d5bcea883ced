// English. Each rule imports just the texts that it can report, so that a bundle holds no others; imported as a whole
// (`import * as en`), the module is a complete catalogue.

import { bytes, plural, shown } from './formats.ts';
import type { MessageParams as P } from './text.ts';

export const locale = 'en';

const LEGIBLE: Readonly<Record<string, string>> = {
  number: 'a number, such as 12 or 3.5',
  integer: 'a whole number',
  date: 'a date that exists, as year-month-day',
  time: 'a time, as hours:minutes',
  dateTime: 'a date and a time that exist',
  month: 'a month, as year-month',
  week: 'a week that exists, as 2027-W18',
  color: 'a colour, as #14505c',
};

const TYPES: Readonly<Record<string, string>> = {
  email: 'an address such as name@example.com',
  url: 'an address such as https://example.com',
  ipAddress: 'an IP address',
  cardNumber: 'a card number without a slip',
};

const things = (kind: unknown, count: unknown): string =>
  plural(
    'en',
    count,
    kind === 'files'
      ? { one: '# file', other: '# files' }
      : kind === 'choices'
        ? { one: '# option', other: '# options' }
        : { one: '# entry', other: '# entries' },
  );

const signs = (count: unknown): string => plural('en', count, { one: '# character', other: '# characters' });

export const valueMissing = ({ label, kind }: P): string =>
  kind === 'boolean'
    ? `${label} must be ticked`
    : kind === 'choice' || kind === 'choices'
      ? `${label}: choose one`
      : `${label} is required`;
export const badInput = ({ label, kind }: P): string => `${label}: enter ${LEGIBLE[String(kind)] ?? 'a value that can be read'}`;
export const notAllowed = ({ label }: P): string => `${label}: choose one of the options`;
export const typeMismatch = ({ label, type }: P): string => `${label}: enter ${TYPES[String(type)] ?? 'a value of the right type'}`;
export const patternMismatch = ({ label }: P): string => `${label} does not have the expected form`;
export const tooShort = ({ label, min }: P): string => `${label} needs at least ${signs(min)}`;
export const tooLong = ({ label, max }: P): string => `${label} takes at most ${signs(max)}`;
export const tooFew = ({ label, kind, min }: P): string => `${label} needs at least ${things(kind, min)}`;
export const tooMany = ({ label, kind, max }: P): string => `${label} takes at most ${things(kind, max)}`;
export const rangeUnderflow = ({ label, min, otherLabel, orSame }: P): string =>
  typeof otherLabel === 'string'
    ? `${label} must ${orSame === true ? 'not be before' : 'be after'} ${otherLabel}`
    : `${label} must ${typeof min === 'string' ? 'not be before' : 'be at least'} ${shown('en', min)}`;
export const rangeOverflow = ({ label, max, otherLabel, orSame }: P): string =>
  typeof otherLabel === 'string'
    ? `${label} must ${orSame === true ? 'not be after' : 'be before'} ${otherLabel}`
    : `${label} must ${typeof max === 'string' ? 'not be after' : 'be at most'} ${shown('en', max)}`;
export const stepMismatch = ({ label, step }: P): string => `${label} must be one of the steps of ${shown('en', step)}`;
export const differs = ({ label, otherLabel }: P): string => `${label} must be the same as ${String(otherLabel)}`;
export const duplicate = ({ label, otherLabel, first }: P): string =>
  typeof otherLabel === 'string'
    ? `${label} must not be the same as ${otherLabel}`
    : `${label}: this is there already, in row ${shown('en', first)}`;
export const fileTooLarge = ({ label, file, max }: P): string => `${label}: ${String(file)} is larger than ${bytes('en', max)}`;
export const fileType = ({ label, file, accept }: P): string => `${label}: ${String(file)} is not of the right type (${String(accept)})`;
export const customError = ({ label }: P): string => `${label} is not right`;
export const unknown = ({ name }: P): string => `${String(name)} is not a field of this form`;
export const unanswered = ({ label }: P): string => `${label} could not be checked just now`;
export const refused = (): string => 'The server did not accept this, and did not say why';
export const crashed = ({ label }: P): string => `${label} could not be judged, because of a fault in this form`;
