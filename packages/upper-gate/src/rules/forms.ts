// Rules on the form of a text.

import { patternMismatch, typeMismatch } from '../messages/en.ts';
import { makeRule, type Rule, type RuleOptions, type Verdict } from '../schema/rule.ts';

const MISMATCH: Verdict = { code: 'patternMismatch', say: patternMismatch };
const NO_ADDRESS: Verdict = { code: 'typeMismatch', say: typeMismatch };

/**
 * The text must match a regular expression. Anchor it (`^...$`) to have the whole text judged. Code `patternMismatch`.
 *
 * @param shape what it should look like, in words; said in place of the general message
 *
 * @example
 * pattern(/^[A-Z]{2}-\d{4}$/, 'Two letters, a dash, four digits')
 */
export function pattern(expression: RegExp, shape?: RuleOptions | string): Rule<string | undefined> {
  // A sticky or global expression remembers where it stopped: the next text would be judged from there.
  const stateless = new RegExp(expression.source, expression.flags.replace(/[gy]/g, ''));
  return makeRule('pattern', { pattern: expression.source }, { judge: (value) => (stateless.test(value!) ? undefined : MISMATCH) }, shape);
}

// The "valid e-mail address" of the HTML standard.
const EMAIL =
  /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/;

/**
 * The text must be an e-mail address, as the HTML standard defines it (`a@b` is one). Code `typeMismatch`.
 *
 * @example
 * text('E-mail', required(), email())
 */
export function email(options?: RuleOptions | string): Rule<string | undefined> {
  return makeRule('email', {}, { judge: (value) => (EMAIL.test(value!) ? undefined : NO_ADDRESS) }, options);
}
