// English. Each rule imports just the texts that it can report, so that a bundle holds no others; imported as a whole
// (`import * as en`), the module is a complete catalogue.

import type { MessageParams } from './text.ts';

type P = MessageParams;

export const locale = 'en';

const plural = (count: unknown, one: string, other: string): string => `${shown(count)} ${Number(count) === 1 ? one : other}`;

/** Numbers as English writes them (1,200.5); dates and other texts as they are. */
const shown = (value: unknown): string =>
  typeof value === 'number' ? value.toLocaleString('en', { maximumFractionDigits: 20 }) : String(value);

const READABLE: Record<string, string> = {
  number: 'a number, such as 12 or 3.5',
  integer: 'a whole number',
  date: 'a date that exists, as year-month-day',
};

export const valueMissing = ({ label, kind }: P): string =>
  kind === 'boolean' ? `${label} must be ticked` : kind === 'choice' ? `${label}: choose one` : `${label} is required`;
export const badInput = ({ label, kind }: P): string => `${label}: enter ${READABLE[String(kind)] ?? 'a value that can be read'}`;
export const notAllowed = ({ label }: P): string => `${label}: choose one of the options`;
export const typeMismatch = ({ label }: P): string => `${label}: enter an address such as name@example.com`;
export const patternMismatch = ({ label }: P): string => `${label} does not have the expected form`;
export const tooShort = ({ label, min }: P): string => `${label} needs at least ${plural(min, 'character', 'characters')}`;
export const tooLong = ({ label, max }: P): string => `${label} takes at most ${plural(max, 'character', 'characters')}`;
export const rangeUnderflow = ({ label, min }: P): string =>
  typeof min === 'string' ? `${label} must not be before ${min}` : `${label} must be at least ${shown(min)}`;
export const rangeOverflow = ({ label, max }: P): string =>
  typeof max === 'string' ? `${label} must not be after ${max}` : `${label} must be at most ${shown(max)}`;
export const differs = ({ label, otherLabel }: P): string => `${label} must be the same as ${String(otherLabel)}`;
export const customError = ({ label }: P): string => `${label} is not right`;
export const unknown = ({ name }: P): string => `${String(name)} is not a field of this form`;
export const unanswered = ({ label }: P): string => `${label} could not be checked just now`;
export const refused = (): string => 'The server did not accept this, and did not say why';
export const crashed = ({ label }: P): string => `${label} could not be judged, because of a fault in this form`;
