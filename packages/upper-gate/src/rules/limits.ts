// Limits: lengths and ranges.

import { rangeOverflow, rangeUnderflow, tooLong, tooShort } from '../messages/en.ts';
import { makeRule, type Rule, type RuleOptions, type Verdict } from '../schema/rule.ts';

const SHORT: Verdict = { code: 'tooShort', say: tooShort };
const LONG: Verdict = { code: 'tooLong', say: tooLong };
const UNDER: Verdict = { code: 'rangeUnderflow', say: rangeUnderflow };
const OVER: Verdict = { code: 'rangeOverflow', say: rangeOverflow };

/**
 * How long a text may be, in UTF-16 units, as HTML's `minlength` and `maxlength` count. Codes `tooShort`, `tooLong`.
 *
 * @throws TypeError for limits that are not whole numbers, or a `min` above `max`
 *
 * @example
 * text('Vessel name', length({ min: 2, max: 40 }))
 */
export function length(limits: { readonly min?: number; readonly max?: number }, options?: RuleOptions | string): Rule<string | undefined> {
  const { min = 0, max = Infinity } = limits;
  if (!(Number.isInteger(min) && min >= 0 && (Number.isInteger(max) || max === Infinity) && min <= max)) {
    throw new TypeError(`length() takes whole numbers from 0, min not above max. It got ${JSON.stringify(limits)}.`);
  }
  const judge = (value: string): Verdict | undefined => (value.length < min ? SHORT : value.length > max ? LONG : undefined);
  return makeRule('length', limits, { judge: judge as Rule<string | undefined>['judge'] & {} }, options);
}

/**
 * The range of a number, or of a date as an ISO text; both ends belong to it. Codes `rangeUnderflow`, `rangeOverflow`.
 *
 * @throws TypeError for a `min` above `max`
 *
 * @example
 * number('Beam (m)', range({ min: 0.5, max: 5.2 }))
 * date('Arrival', range({ min: '2027-04-01', max: '2027-10-31' }))
 */
export function range<T extends number | string>(
  limits: { readonly min?: T; readonly max?: T },
  options?: RuleOptions | string,
): Rule<(T extends number ? number : string) | undefined> {
  const min: number | string | undefined = limits.min;
  const max: number | string | undefined = limits.max;
  if (min !== undefined && max !== undefined && !(min <= max))
    throw new TypeError(`range() takes min not above max. It got ${JSON.stringify(limits)}.`);
  const judge = (value: number | string): Verdict | undefined =>
    min !== undefined && value < min ? UNDER : max !== undefined && value > max ? OVER : undefined;
  return makeRule('range', limits, { judge: judge as never }, options);
}
