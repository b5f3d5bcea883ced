// Ranges and steps of numbers and moments.

import { inSteps, nearestOf, shown } from '../messages/formats.ts';
import { DEV, devObject } from '#development';
import { rangeOverflow, rangeUnderflow, stepMismatch, week } from '../messages/english.ts';
import { formatText, type Catalogue, type MessageParams } from '../messages/text.ts';
import { assertUse } from '../schema/assertUse.ts';
import { kindOfMoment, momentAt, momentText, today, type Moment, type MomentKind } from '../schema/calendar.ts';
import type { Params } from '../schema/finding.ts';
import { makeRule, type AnyRule, type Rule } from '../schema/rule.ts';
import type { Clock, RuleOptions, RuleResult, Verdict } from '../schema/verdict.ts';
import { isDepending, type Depending } from './limits.ts';

type Limit = number | string;

const UNDER: Verdict = { code: 'rangeUnderflow', text: rangeUnderflow };
const OVER: Verdict = { code: 'rangeOverflow', text: rangeOverflow };
const OFF: Verdict = { code: 'stepMismatch', text: stepMismatch };

/** The params of `range` and `step`. */
const LIMITS = ['min', 'max', 'above', 'below', 'step', 'base', 'nearest'];

/** The limits as people read them. */
function writeLimits(params: Params, { locale = 'en', kind }: MessageParams, catalogue: Catalogue | undefined): Params {
  const own = catalogue?.week;
  // (A catalogue without words for weeks leaves them as they are.)
  const weeks = !catalogue ? week : own === undefined ? undefined : (its: MessageParams) => formatText(own, its, catalogue);
  const write = (name: string): string =>
    name === 'step'
      ? inSteps(locale, params[name], kind)
      : name === 'nearest'
        ? nearestOf(locale, params[name], weeks)
        : shown(locale, params[name], weeks);
  return Object.fromEntries(LIMITS.filter((name) => params[name] !== undefined).map((name) => [name, write(name)]));
}

/** The number line of a kind's values, and the length of a step of 1 on it. */
interface Line {
  readonly at: (value: Limit) => number;
  /** The inverse: nothing where there is no such value. */
  readonly valueAt: (at: number) => Limit | undefined;
  readonly unit: number;
  /** Where steps are counted from if no limit says. */
  readonly origin: number;
}

const NUMBERS: Line = { at: Number, valueAt: (at) => at, unit: 1, origin: 0 };
const DAY = 86_400_000;
// Steps as HTML counts them: days, weeks, months, seconds. Weeks begin on Mondays; that before 1970 was December 29.
const UNITS: Readonly<Record<MomentKind, number>> = { date: DAY, week: 7 * DAY, month: 1, time: 1000, dateTime: 1000 };

function lineOf(value: Limit): Line {
  if (typeof value === 'number') return NUMBERS;
  const kind = kindOfMoment(value) ?? 'date';
  return {
    at: (text) => momentAt(kind, String(text)) ?? NaN,
    valueAt: (at) => momentText(kind, at),
    unit: UNITS[kind],
    origin: kind === 'week' ? -3 * DAY : 0,
  };
}

/** A number as written in decimals: `12.5` is 125 · 10^-1. */
export function decimal(value: number): readonly [digits: bigint, exponent: number] {
  const [mantissa = '', exponent = '0'] = value.toExponential().split('e');
  const [whole = '', fraction = ''] = mantissa.split('.');
  return [BigInt(whole + fraction), Number(exponent) - fraction.length];
}

/**
 * The steps from a base below and above a value that lies on none. In decimals, exactly: 0.3 is three steps of 0.1. The tolerance
 * is the browsers': what single precision cannot tell apart.
 *
 * @returns nothing for a value on a step
 */
function stepsAround(value: number, base: number, step: number): readonly [below: number, above: number] | undefined {
  if (!Number.isFinite(value) || !Number.isFinite(base)) return undefined;
  const parts = [value, base, step].map(decimal);
  const exponent = Math.min(...parts.map((part) => part[1]));
  // Numbers so far apart that no step between them could be verdicts.
  if (parts.some((part) => part[1] - exponent > 400)) return undefined;
  const [at, from, size] = parts.map(([digits, power]) => digits * 10n ** BigInt(power - exponent)) as [bigint, bigint, bigint];
  const over = (((at - from) % size) + size) % size;
  if ((over < size - over ? over : size - over) << 24n <= size) return undefined;
  const toNumber = (digits: bigint): number => Number(`${digits}e${exponent}`);
  return [toNumber(at - over), toNumber(at - over + size)];
}

/** The verdict on a value that lies on no step, with the values nearest to it that the limits allow. */
function offStep(
  line: Line,
  value: Limit,
  base: number,
  step: number,
  isWithin: (at: number) => boolean = () => true,
): Verdict | undefined {
  const around = stepsAround(line.at(value), base, step * line.unit);
  const nearest = around
    ?.filter(isWithin)
    .map(line.valueAt)
    .filter((each) => each !== undefined);
  return nearest && (nearest.length > 0 ? { ...OFF, params: { nearest } } : OFF);
}

/** Limits of a number, or of a date or time as an ISO text. */
export interface RangeLimits<T extends Limit> {
  readonly min?: T;
  readonly max?: T;
  /** Of a number: more than this; in place of `min`. */
  readonly above?: number;
  /** Of a number: less than this; in place of `max`. */
  readonly below?: number;
  /** The step from `min` (else from zero, or 1970): numbers, days, weeks, months, or seconds for times. */
  readonly step?: number;
}

/** What is wrong with limits: what they should be instead. */
function wrongLimits(limits: RangeLimits<Limit>): string | undefined {
  if (typeof limits !== 'object') return 'an object of limits, or depending(...) with a function';
  const { min, max, above, below, step } = limits;
  const at = (limit: Limit | undefined): number | undefined =>
    limit === undefined || limit === 'today'
      ? undefined
      : typeof limit === 'number'
        ? limit
        : (momentAt(kindOfMoment(limit) ?? 'date', limit) ?? NaN);
  const [low, high] = [at(min), at(max)];
  if ([low, high, above, below].some(Number.isNaN)) return "numbers, ISO dates and times, and 'today'";
  if ((min !== undefined && above !== undefined) || (max !== undefined && below !== undefined))
    return 'min or above, max or below, not both';
  if (step !== undefined && !(step > 0)) return 'a step above zero';
  const isTime = typeof min === 'string' && kindOfMoment(min) === 'time';
  return low !== undefined && high !== undefined && low > high && !isTime ? 'min not above max' : undefined;
}

/**
 * Limits a number, or a date or time as an ISO text. `min` and `max` are allowed values, `above` and `below` are not.
 * `'today'` is the day on which the rule runs. Times whose `min` is after `max` reach over midnight, as in HTML. Codes
 * `rangeUnderflow`, `rangeOverflow`, `stepMismatch`.
 *
 * @param limits fixed, or `depending` on other fields
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 * @throws TypeError for a `min` above `max` (but of times), or a step that is not above zero; for such limits that depend on other
 *   fields the finding is `crashed`
 *
 * @example
 * number('Beam (m)', range({ min: 0.5, max: 5.2 }))
 * .with(fieldRules({ beam: range(depending((boat) => ({ max: WIDEST[boat.kind] }))) }))
 * date('Arrival', range({ min: 'today', max: '2027-10-31' }))
 * time('Lockage', range({ min: '07:00', max: '19:00', step: 900 }))
 */
export function range<T extends Limit, B = unknown, L = unknown>(
  limits: RangeLimits<T> | Depending<B, L, RangeLimits<T>>,
  options?: RuleOptions | string,
): Rule<(T extends number ? number : Moment) | undefined, B, 'plain', L>;
export function range(limits: RangeLimits<Limit> | Depending<never, never, RangeLimits<Limit>>, options?: RuleOptions | string): AnyRule {
  return isDepending(limits)
    ? limits.toRule('range', (now) => rangeOf(now, undefined), options, {
        attributes: limitAttributes,
        limits: LIMITS,
        writes: writeLimits,
      })
    : rangeOf(limits, options);
}

/** The attributes of limits that HTML has. What day it is today is not known to it. */
const limitAttributes = (params: Params): Readonly<Record<string, string>> =>
  Object.fromEntries(
    ['min', 'max', 'step'].flatMap((name) => {
      const limit = params[name];
      return limit === undefined || limit === 'today' ? [] : [[name, `${limit as Limit}`]];
    }),
  );

function rangeOf(limits: RangeLimits<Limit>, options: RuleOptions | string | undefined): AnyRule {
  devObject(limits, 'range() takes limits: range({ min: 1, max: 12 })');
  const { min, max, above = -Infinity, below = Infinity, step } = limits;
  const wrong = wrongLimits(limits);
  assertUse(!wrong, DEV && `range() takes ${wrong}. It got ${JSON.stringify(limits)}.`);
  const [lowest, highest] = [typeof min === 'number' ? min : -Infinity, typeof max === 'number' ? max : Infinity];
  const test = (value: Limit, _siblings: unknown, now: Clock): RuleResult => {
    // Most values are numbers that are right.
    if (typeof value === 'number' && step === undefined && value >= lowest && value <= highest && value > above && value < below)
      return undefined;
    // Both limits as they are known now; those that are "today" become known when the rule runs.
    const line = lineOf(value);
    const at = line.at(value);
    const low = min === 'today' ? today(kindOfMoment(String(value)) ?? 'date', now(), 'first') : min;
    const high = max === 'today' ? today(kindOfMoment(String(value)) ?? 'date', now(), 'last') : max;
    const from = low === undefined ? -Infinity : line.at(low);
    const to = high === undefined ? Infinity : line.at(high);
    // Times wrap round midnight: outside is then between the two.
    const wraps = from > to && typeof value === 'string' && line.unit === 1000;
    const isUnder = (its: number): boolean => (wraps ? its < from && its > to : its < from || its <= above);
    const isOver = (its: number): boolean => (wraps ? its < from && its > to : its > to || its >= below);
    const verdicts: Verdict[] = [];
    // (Of "today" as a limit of dates with a time, the day is what people know.)
    if (isUnder(at)) verdicts.push(low === min ? UNDER : { ...UNDER, params: { min: String(low).split('T')[0] } });
    if (isOver(at)) verdicts.push(high === max ? OVER : { ...OVER, params: { max: String(high).split('T')[0] } });
    const off = step && offStep(line, value, low === undefined ? line.origin : from, step, (its) => !isUnder(its) && !isOver(its));
    if (off) verdicts.push(off);
    return verdicts.length > 0 ? verdicts : undefined;
  };
  return makeRule<Limit | undefined>('range', { ...limits }, { test, limits: LIMITS, writes: writeLimits }, options);
}

/**
 * Allows only multiples of a step, counted from a base. Code `stepMismatch`.
 *
 * @param size in numbers, days, weeks, months, or seconds for times; or `depending` on other fields
 * @param base where to count from; default zero, or 1970
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * number('Toll', step(0.05))
 * time('Lockage', step(900)) // quarters of an hour
 * date('Market day', step(7, '2027-05-01')) // Saturdays
 */
export function step<T extends Limit = Limit, B = unknown, L = unknown>(
  size: number | Depending<B, L, number>,
  base?: T,
  options?: RuleOptions | string,
): Rule<(T extends number ? number : Moment) | undefined, B, 'plain', L>;
export function step(size: number | Depending<never, never, number>, base?: Limit, options?: RuleOptions | string): AnyRule {
  return isDepending(size)
    ? size.toRule('step', (now) => stepOf(now, base, undefined), options, {
        attributes: limitAttributes,
        limits: LIMITS,
        writes: writeLimits,
      })
    : stepOf(size, base, options);
}

function stepOf(size: number, base: Limit | undefined, options: RuleOptions | string | undefined): AnyRule {
  assertUse(
    !wrongLimits({ step: size, ...(base !== undefined && { min: base }) }) && base !== 'today',
    DEV && `step() takes a number above zero, and a number or ISO date as base. It got ${size}, ${String(base)}.`,
  );
  const test = (value: Limit): Verdict | undefined => {
    const line = lineOf(value);
    return offStep(line, value, base === undefined ? line.origin : line.at(base), size);
  };
  return makeRule<Limit | undefined>(
    'step',
    base === undefined ? { step: size } : { step: size, base },
    { test, limits: LIMITS, writes: writeLimits },
    options,
  );
}
