// How long a text may be, how many rows, choices or files there may be.

import { DEV, devObject } from '#development';
import { tooFew, tooLong, tooMany, tooShort } from '../messages/english.ts';
import { assertUse } from '../schema/assertUse.ts';
import type { Params } from '../schema/finding.ts';
import { makeRule, type AnyRule, type Rule } from '../schema/rule.ts';
import type { Traits } from '../schema/traits.ts';
import type { RuleOptions, Verdict } from '../schema/verdict.ts';
import { isDepending, type Depending } from './limits.ts';

/** The limits of `length`: a number of characters, choices, files or rows. */
export interface LengthLimits {
  readonly min?: number;
  readonly max?: number;
  /**
   * `'characters'`: as people count, an emoji or a letter with its accents is one. `'codePoints'`: as JSON Schema counts.
   * Default: UTF-16 units, as HTML counts.
   */
  readonly count?: 'characters' | 'codePoints';
}

const SHORT: Verdict = { code: 'tooShort', text: tooShort };
const LONG: Verdict = { code: 'tooLong', text: tooLong };
const FEW: Verdict = { code: 'tooFew', text: tooFew };
const MANY: Verdict = { code: 'tooMany', text: tooMany };

/** How much of a text is taken apart at a time. */
const PIECE = 1000;

/** Counts characters as people see them, in pieces: a segmenter takes quadratic time and memory for a long text. */
function countCharacters(text: string, most: number): number {
  const segmenter = new Intl.Segmenter();
  let count = 0;
  let size = PIECE;
  for (let rest = text; rest !== '' && count <= most;) {
    const starts = Array.from(segmenter.segment(rest.slice(0, size)), ({ index }) => index);
    // The last character may go on in the next piece; one that fills its piece needs a larger one.
    const end = size < rest.length ? starts.pop()! : rest.length;
    count += starts.length;
    size = end === 0 ? size * 2 : PIECE;
    rest = rest.slice(end);
  }
  return count;
}

function countCodePoints(text: string, most: number): number {
  let count = 0;
  for (let i = 0; i < text.length && count <= most; count += 1) i += text.codePointAt(i)! > 0xffff ? 2 : 1;
  return count;
}

/**
 * The length of a text: in UTF-16 units, code points, or characters as people see them (Unicode's extended grapheme clusters).
 *
 * @param most where counting may stop: more than that is all the same
 */
export const lengthOf = (text: string, count: unknown, most = Infinity): number =>
  count === undefined ? text.length : count === 'characters' ? countCharacters(text, most) : countCodePoints(text, most);

/**
 * Limits the length of a text (codes `tooShort`, `tooLong`), or the number of choices, files or rows (`tooFew`, `tooMany`).
 * Both limits are allowed values.
 *
 * @param limits fixed, or `depending` on other fields
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 * @throws TypeError for limits that are not whole numbers, or a `min` above `max`
 *
 * @example
 * text('Vessel name', length({ min: 2, max: 40 }))
 * .with(fieldRules({ crew: length(depending((boat) => ({ max: boat.kind === 'canoe' ? 3 : 12 }))) }))
 * list('Crew', crewMember, length({ min: 1, max: 12 }))
 */
export function length<B = unknown, L = unknown>(
  limits: LengthLimits | Depending<B, L, LengthLimits>,
  options?: RuleOptions | string,
): Rule<string | readonly unknown[] | undefined, B, 'plain', L>;
export function length(limits: LengthLimits | Depending<never, never, LengthLimits>, options?: RuleOptions | string): AnyRule {
  return isDepending(limits)
    ? limits.toRule('length', (now) => lengthRule(now, undefined), options, { attributes: textAttributes })
    : lengthRule(limits, options);
}

/** What HTML can say: it counts in UTF-16 units. (Not `maxlength`: it would cut off what is pasted.) */
const textAttributes = ({ min, count }: Params, { measures }: Traits): Readonly<Record<string, string>> =>
  measures === 'text' && min !== undefined && count === undefined ? { minlength: `${min as number}` } : {};

function lengthRule(limits: LengthLimits, options: RuleOptions | string | undefined): AnyRule {
  devObject(limits, 'length() takes limits: length({ min: 2, max: 40 })');
  const { min = 0, max = Infinity, count } = limits;
  assertUse(
    typeof limits === 'object',
    DEV && 'length() takes an object of limits. Write length({ max: 40 }), or length(depending((siblings) => ({ max: 40 }))).',
  );
  assertUse(
    Number.isInteger(min) && min >= 0 && (Number.isInteger(max) || max === Infinity) && min <= max,
    DEV && `length() takes whole numbers from 0, min not above max. It got ${JSON.stringify(limits)}.`,
  );
  const test = (value: string | readonly unknown[]): Verdict | undefined => {
    const text = typeof value === 'string';
    const size = text ? lengthOf(value, count, max === Infinity ? min : max) : value.length;
    if (size < min) return text ? SHORT : FEW;
    if (size > max) return text ? LONG : MANY;
    return undefined;
  };
  return makeRule<string | readonly unknown[] | undefined>('length', { ...limits }, { test }, options);
}

/** Whether a text is longer than a `length()` among rules allows: what may take long on it need not run. */
export const isTooLong = (text: string, rules: readonly AnyRule[]): boolean =>
  rules.some(({ name, params, definition }) => {
    const max = Number(params['max'] ?? Infinity);
    return name === 'length' && !definition && lengthOf(text, params['count'], max) > max;
  });
