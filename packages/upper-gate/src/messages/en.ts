// English. Each rule imports just the texts that it can report, so that a bundle holds no others; imported as a whole
// (`import * as en`), the module is a complete catalogue.

import {
  badColor,
  badDate,
  badDateTime,
  badInteger,
  badMonth,
  badNumber,
  badTime,
  badValue,
  badWeek,
  noCardNumber,
  noEmail,
  noIpAddress,
  noUrl,
  otherType,
} from './enEnter.ts';
import { bytes, plural, shown } from './formats.ts';
import type { MessageParams as P } from './text.ts';

export const locale = 'en';

const LEGIBLE: Readonly<Record<string, typeof badValue>> = {
  number: badNumber,
  integer: badInteger,
  date: badDate,
  time: badTime,
  dateTime: badDateTime,
  month: badMonth,
  week: badWeek,
  color: badColor,
};
const TYPES: Readonly<Record<string, typeof badValue>> = { email: noEmail, url: noUrl, ipAddress: noIpAddress, cardNumber: noCardNumber };

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
export const badInput = (p: P): string => (LEGIBLE[String(p['kind'])] ?? badValue)(p);
export const notAllowed = ({ label }: P): string => `${label}: choose one of the options`;
export const typeMismatch = (p: P): string => (TYPES[String(p['type'])] ?? otherType)(p);
export const patternMismatch = ({ label }: P): string => `${label} does not have the expected form`;
export const tooShort = ({ label, min }: P): string => `${label} needs at least ${signs(min)}`;
export const tooLong = ({ label, max }: P): string => `${label} takes at most ${signs(max)}`;
export const tooFew = ({ label, kind, min }: P): string => `${label} needs at least ${things(kind, min)}`;
export const tooMany = ({ label, kind, max }: P): string => `${label} takes at most ${things(kind, max)}`;
export const rangeUnderflow = ({ label, min, above, otherLabel, orSame }: P): string =>
  typeof otherLabel === 'string'
    ? `${label} must ${orSame === true ? 'not be before' : 'be after'} ${otherLabel}`
    : `${label} must ${typeof min === 'string' ? 'not be before' : above === undefined ? 'be at least' : 'be more than'} ${shown('en', min ?? above)}`;
export const rangeOverflow = ({ label, max, below, otherLabel, orSame }: P): string =>
  typeof otherLabel === 'string'
    ? `${label} must ${orSame === true ? 'not be after' : 'be before'} ${otherLabel}`
    : `${label} must ${typeof max === 'string' ? 'not be after' : below === undefined ? 'be at most' : 'be less than'} ${shown('en', max ?? below)}`;
export const stepMismatch = ({ label, step }: P): string => `${label} must be one of the steps of ${shown('en', step)}`;
export const differs = ({ label, otherLabel }: P): string => `${label} must be the same as ${String(otherLabel)}`;
export const duplicate = ({ label, otherLabel, first }: P): string =>
  typeof otherLabel === 'string'
    ? `${label} must not be the same as ${otherLabel}`
    : `${label}: this is there already, in row ${shown('en', first)}`;
export const fileTooLarge = ({ label, file, max }: P): string => `${label}: ${String(file)} is larger than ${bytes('en', max)}`;
export const fileType = ({ label, file, accept }: P): string => `${label}: ${String(file)} is not of the right type (${String(accept)})`;
/** Not of a finding: what a counter says. */
export const count = ({ used, max }: P): string => `${shown('en', used)} of ${shown('en', max)}`;
/** Not of a finding: what stands above a list of all errors. */
export const summary = ({ count }: P): string =>
  plural('en', count, { one: '# entry needs another look', other: '# entries need another look' });
export const customError = ({ label }: P): string => `${label} is not right`;
export const unknown = ({ name }: P): string => `${String(name)} is not a field of this form`;
export const unanswered = ({ label }: P): string => `${label} could not be checked just now`;
export const refused = (): string => 'The server did not accept this, and did not say why';
export const crashed = ({ label }: P): string => `${label} could not be judged, because of a fault in this form`;
