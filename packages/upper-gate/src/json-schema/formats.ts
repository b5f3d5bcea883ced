// Formats of texts that JSON Schema has and forms do not.

import type { TextType } from '../messages/codes.ts';
import { noTimestamp, noUuid, noZonedTime } from '../messages/englishEnter.ts';
import type { Text } from '../messages/text.ts';
import { momentAt } from '../schema/calendar.ts';
import type { Params } from '../schema/finding.ts';
import { makeRule, type Rule } from '../schema/rule.ts';
import type { RuleOptions, Verdict } from '../schema/verdict.ts';

const format = (
  name: 'timestamp' | 'uuid',
  type: TextType,
  text: Text,
  params: Params,
  fits: (text: string) => boolean,
  options: RuleOptions,
): Rule<string | undefined> => {
  const mismatch: Verdict = { code: 'typeMismatch', text, params: { type } };
  return makeRule<string | undefined>(name, params, { test: (value) => (fits(value) ? undefined : mismatch) }, options);
};

/** RFC 3339's full-time: hours, minutes, seconds (a leap second at the end of a day in UTC), zone. */
function isTime(text: string): boolean {
  const [, hours, minutes, seconds, sign, ahead = '0', by = '0'] =
    /^(\d\d):(\d\d):(\d\d)(?:\.\d+)?(?:z|([+-])(\d\d):(\d\d))$/i.exec(text) ?? [];
  if (hours === undefined || Number(hours) > 23 || Number(minutes) > 59 || Number(ahead) > 23 || Number(by) > 59) return false;
  const offset = (Number(ahead) * 60 + Number(by)) * (sign === '-' ? -1 : 1);
  const inUtc = (Number(hours) * 60 + Number(minutes) - offset + 2880) % 1440;
  return Number(seconds) < 60 || (Number(seconds) === 60 && inUtc === 1439);
}

/** A moment with its time zone, or a time of day with it, as in RFC 3339. Code `typeMismatch`. */
export const timestamp = (name: 'date-time' | 'time', options: RuleOptions): Rule<string | undefined> =>
  format(
    'timestamp',
    name === 'time' ? 'time' : 'timestamp',
    name === 'time' ? noZonedTime : noTimestamp,
    { format: name },
    (text) =>
      name === 'time'
        ? isTime(text)
        : /^\d{4}-\d\d-\d\dt/i.test(text) && momentAt('date', text.slice(0, 10)) !== undefined && isTime(text.slice(11)),
    options,
  );

/** A UUID, as in RFC 9562. Code `typeMismatch`. */
export const uuid = (options: RuleOptions): Rule<string | undefined> =>
  format('uuid', 'uuid', noUuid, {}, (text) => /^[\da-f]{8}-[\da-f]{4}-[\da-f]{4}-[\da-f]{4}-[\da-f]{12}$/i.test(text), options);
