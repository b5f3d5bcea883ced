// The formats of texts and numbers that a standard defines clearly enough to be validated. Every other one is an annotation.

import { momentAt } from '../../schema/calendar.ts';
import { email, ipAddress, url } from '../../rules/text.ts';
import type { AnyRule, RunnableRule } from '../../schema/rule.ts';
import { timestamp, uuid } from '../formats.ts';

/** What a rule on texts accepts. */
const by = (rule: unknown): ((text: string) => boolean) => {
  const { test }: RunnableRule = rule as AnyRule;
  return (text) => test!(text, undefined, () => new Date(), undefined) === undefined;
};
const isUrl = by(url());

const HOSTNAME = /^(?=.{1,253}\.?$)[a-z\d](?:[a-z\d-]{0,61}[a-z\d])?(?:\.[a-z\d](?:[a-z\d-]{0,61}[a-z\d])?)*\.?$/i;
/** ISO 8601, as in appendix A of RFC 3339. */
const DURATION = /^P(?!$)(?:\d+W|(?:\d+Y)?(?:\d+M)?(?:\d+D)?(?:T(?!$)(?:\d+H)?(?:\d+M)?(?:\d+S)?)?)$/;
const POINTER = /^(?:\/(?:[^/~]|~[01])*)*$/;
const RELATIVE_POINTER = /^(?:0|[1-9]\d*)(?:#|(?:\/(?:[^/~]|~[01])*)*)$/;
const BASE64 = /^(?:[A-Za-z\d+/]{4})*(?:[A-Za-z\d+/]{2}==|[A-Za-z\d+/]{3}=)?$/;
/** What RFC 3986 allows in a reference. */
const REFERENCE = /^(?:[a-z][a-z\d+.-]*:)?(?:[\w\-.~!$&'()*+,;=:@/?[\]]|%[\da-f]{2})*(?:#(?:[\w\-.~!$&'()*+,;=:@/?]|%[\da-f]{2})*)?$/i;

function isExpression(text: string): boolean {
  try {
    new RegExp(text, 'u');
    return true;
  } catch {
    return false;
  }
}

const between =
  (least: number, most: number) =>
  (value: number): boolean =>
    Number.isInteger(value) && value >= least && value <= most;

/** Whether a text is of a format. */
export const TEXT_FORMATS: Readonly<Record<string, (text: string) => boolean>> = {
  date: (text) => momentAt('date', text) !== undefined && text.length === 10,
  'date-time': by(timestamp('date-time', {})),
  time: by(timestamp('time', {})),
  duration: (text) => DURATION.test(text),
  email: by(email()),
  hostname: (text) => HOSTNAME.test(text),
  ipv4: by(ipAddress({ version: 4 })),
  ipv6: by(ipAddress({ version: 6 })),
  uri: (text) => isUrl(text) && REFERENCE.test(text),
  'uri-reference': (text) => REFERENCE.test(text),
  uuid: by(uuid({})),
  'json-pointer': (text) => POINTER.test(text),
  'relative-json-pointer': (text) => RELATIVE_POINTER.test(text),
  regex: isExpression,
  byte: (text) => BASE64.test(text),
};
/** Whether a number is of a format. */
export const NUMBER_FORMATS: Readonly<Record<string, (value: number) => boolean>> = {
  int32: between(-(2 ** 31), 2 ** 31 - 1),
  int64: between(-(2 ** 63), 2 ** 63),
};

/** Whether a format is one that is validated. */
export const isFormat = (format: unknown): boolean =>
  Object.hasOwn(TEXT_FORMATS, String(format)) || Object.hasOwn(NUMBER_FORMATS, String(format));
