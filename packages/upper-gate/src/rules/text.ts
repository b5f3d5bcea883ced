// Rules on the form of a text.

import { DEV } from '#development';
import { patternMismatch } from '../messages/english.ts';
import { noCardNumber, noEmail, noIpAddress, noUrl } from '../messages/englishEnter.ts';
import type { TextType } from '../messages/codes.ts';
import type { Text } from '../messages/text.ts';
import { assertUse } from '../schema/assertUse.ts';
import type { Params } from '../schema/finding.ts';
import { isTooLong } from './length.ts';
import type { RuleName } from '../schema/vocabulary.ts';
import { makeRule, type Rule } from '../schema/rule.ts';
import type { RuleOptions, Verdict } from '../schema/verdict.ts';

/** A rule that a whole text is of a certain type. */
const typed = (
  name: TextType & RuleName,
  message: Text,
  params: Params,
  fits: (text: string) => boolean,
  options: RuleOptions | string | undefined,
): Rule<string | undefined> => {
  const mismatch: Verdict = { code: 'typeMismatch', text: message, params: { type: name } };
  return makeRule(name, params, { test: (value) => (fits(value) ? undefined : mismatch) }, options);
};

/**
 * Requires a text to match a regular expression. Anchor it (`^...$`) to match the whole text. It does not run on a text that
 * is longer than `length()` of the field allows. Code `patternMismatch`.
 *
 * @param expression the regular expression
 * @param shape what it should look like, in words; replaces the general message
 * @returns the rule
 *
 * @example
 * pattern(/^[A-Z]{2}-\d{4}$/, 'Two letters, a dash, four digits')
 */
export function pattern(expression: RegExp, shape?: RuleOptions | string): Rule<string | undefined> {
  assertUse((expression as unknown) instanceof RegExp, DEV && `pattern() takes a regular expression. It got ${String(expression)}.`);
  // A sticky or global expression remembers where it stopped: the next text would be matched from there.
  const stateless = new RegExp(expression.source, expression.flags.replace(/[gy]/g, ''));
  const mismatch: Verdict = { code: 'patternMismatch', text: patternMismatch };
  const params = { pattern: expression.source, flags: stateless.flags };
  return makeRule<string | undefined>(
    'pattern',
    params,
    { test: (value) => (stateless.test(value) ? undefined : mismatch), skips: isTooLong },
    shape,
  );
}

// The "valid e-mail address" of the HTML standard.
const EMAIL =
  /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/;

export interface EmailOptions extends RuleOptions {
  /** Whether the domain must have a dot, as public ones do. Default false, as in HTML. */
  readonly dot?: boolean;
  /** Whether several addresses are allowed, separated by commas. Default false. */
  readonly multiple?: boolean;
}

/**
 * Requires an e-mail address, as the HTML standard defines it (`a@b` is one). Code `typeMismatch`.
 *
 * @param options `dot` (a domain needs a dot), `multiple` (several, between commas), and what every rule takes
 * @returns the rule
 *
 * @example
 * text('E-mail', required(), email({ dot: true }))
 */
export function email(options: EmailOptions | string = {}): Rule<string | undefined> {
  const { dot = false, multiple = false, ...rest } = typeof options === 'string' ? { message: options } : options;
  const isAddress = (text: string): boolean => EMAIL.test(text) && (!dot || /@.*\./.test(text));
  return typed(
    'email',
    noEmail,
    { dot, multiple },
    (text) => (multiple ? text.split(',').every((one) => isAddress(one.trim())) : isAddress(text)),
    rest,
  );
}

export interface UrlOptions extends RuleOptions {
  /** The allowed schemes: `['https']`. Default: any, as in HTML. */
  readonly schemes?: readonly string[];
}

/**
 * Requires an absolute URL, as the URL standard reads it (any scheme). Code `typeMismatch`.
 *
 * @param options `schemes`, such as `['https']`, and what every rule takes
 * @returns the rule
 *
 * @example
 * text('Web site', url({ schemes: ['https', 'http'] }))
 */
export function url(options: UrlOptions | string = {}): Rule<string | undefined> {
  const { schemes, ...rest } = typeof options === 'string' ? { message: options } : { ...options };
  assertUse(
    schemes === undefined || Array.isArray(schemes),
    DEV && `url() takes an array of schemes: { schemes: ['https'] }. It got ${String(schemes)}.`,
  );
  const fits = (text: string): boolean => {
    // Half a pair of surrogates is no character; the parser would put another in its place.
    if (/\p{Surrogate}/u.test(text)) return false;
    try {
      const { protocol } = new URL(text);
      return !schemes || schemes.includes(protocol.slice(0, -1));
    } catch {
      return false;
    }
  };
  return typed('url', noUrl, schemes ? { schemes } : {}, fits, rest);
}

const BYTE = '(?:25[0-5]|2[0-4]\\d|1\\d\\d|[1-9]?\\d)';
const IPV4 = /* @__PURE__ */ new RegExp(`^${BYTE}(?:\\.${BYTE}){3}$`);

/** RFC 4291: eight groups of up to four hex digits, one run of zeros as `::`, the last two perhaps as IPv4. */
function isIpv6(text: string): boolean {
  const halves = text.split('::');
  if (halves.length > 2) return false;
  const groups = halves.flatMap((half) => (half === '' ? [] : half.split(':')));
  const last = groups.at(-1) ?? '';
  const tail = IPV4.test(last) && text.endsWith(last) ? 1 : 0;
  const size = groups.length + tail;
  return (
    groups.slice(0, groups.length - tail).every((group) => /^[\da-f]{1,4}$/i.test(group)) &&
    (halves.length === 2 ? size < 8 : size === 8 && halves[0] !== '')
  );
}

/**
 * Requires an IP address: IPv4 in four decimal numbers, IPv6 as in RFC 4291; no zone, no prefix. Code `typeMismatch`.
 *
 * @param options `version` (4 or 6; by default both), and what every rule takes
 * @returns the rule
 *
 * @example
 * text('Address of the gauge', ipAddress({ version: 4 }))
 */
export function ipAddress(options: (RuleOptions & { readonly version?: 4 | 6 }) | string = {}): Rule<string | undefined> {
  const { version, ...rest } = typeof options === 'string' ? { message: options, version: undefined } : { version: undefined, ...options };
  assertUse([undefined, 4, 6].includes(version), DEV && `ipAddress() takes version 4 or 6. It got ${String(version)}.`);
  const fits = (text: string): boolean => (version !== 6 && IPV4.test(text)) || (version !== 4 && isIpv6(text));
  return typed('ipAddress', noIpAddress, version === undefined ? {} : { version }, fits, rest);
}

/** The check digit of ISO/IEC 7812-1, annex B: from the right, every second digit doubled; their digits add up to tens. */
function hasCheckDigit(digits: string): boolean {
  let sum = 0;
  for (let i = 0; i < digits.length; i += 1) {
    const doubled = Number(digits.at(-1 - i)) * (1 + (i % 2));
    sum += doubled > 9 ? doubled - 9 : doubled;
  }
  return sum % 10 === 0;
}

/**
 * Requires a payment card number: 12 to 19 digits, with optional blanks or dashes between, and a correct check digit (ISO/IEC
 * 7812-1). Code `typeMismatch`. Does not check that the card exists.
 *
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * text('Card number', cardNumber())
 */
export function cardNumber(options?: RuleOptions | string): Rule<string | undefined> {
  return typed(
    'cardNumber',
    noCardNumber,
    {},
    (text) => /^\d(?:[ -]?\d){11,18}$/.test(text) && hasCheckDigit(text.replace(/\D/g, '')),
    options,
  );
}
