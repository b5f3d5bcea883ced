// Reading the values of options.

import { InvalidArgumentError } from 'commander';
import type { Slice } from './read/formats.ts';

/** @throws InvalidArgumentError, as all of these, with what the option takes */
export function wholeNumber(text: string): number {
  if (!/^\d+$/.test(text)) throw new InvalidArgumentError('It takes a whole number.');
  return Number(text);
}

/** `3/8`. */
export function slice(text: string): Slice {
  const [, part = 0, of = 0] = /^(\d{1,6})\/(\d{1,6})$/.exec(text)?.map(Number) ?? [];
  if (part < 1 || part > of) throw new InvalidArgumentError('It takes a part and their number, as in 3/8.');
  return { part, of };
}

/** One character, or `tab`. */
export function delimiter(text: string): string {
  const character = text === 'tab' ? '\t' : text;
  if (!/^[^"\r\n]$/u.test(character)) throw new InvalidArgumentError('It takes one character, or the word tab.');
  return character;
}

const MOST_WORKERS = 64;
/** A number of threads. */
export function workers(text: string): number {
  const count = wholeNumber(text);
  if (count < 1 || count > MOST_WORKERS) throw new InvalidArgumentError(`It takes a number from 1 to ${MOST_WORKERS}.`);
  return count;
}
