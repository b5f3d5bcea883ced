// A custom rule: a function.

import { DEV, explained } from '#development';
import { followReads } from '../../evaluate/follow.ts';
import { customError } from '../../messages/english.ts';
import type { Label } from '../../messages/text.ts';
import { WRONG_USE } from '../../schema/brand.ts';
import { attachCrossField } from './live.ts';
import { makeRule, type Rule } from '../../schema/rule.ts';
import type { RuleOptions, RuleResult, Verdict } from '../../schema/verdict.ts';
import { isSeverity, type Severity } from '../../schema/severity.ts';

/** A finding that a custom rule returns. */
export interface CheckFinding {
  /** The message, or one for each language: `{ en: '...', fr: '...' }`. */
  readonly message: Label;
  readonly code?: string;
  /** Default: that of the rule. */
  readonly severity?: Severity;
  /** The field it belongs to, relative to the value that was validated: `'beam'` in a rule on the group. */
  readonly path?: string;
  readonly params?: Readonly<Record<string, unknown>>;
}

/** The result of a custom rule: `true` or nothing if the value is right; else `false`, a message, or one or more findings. */
// eslint-disable-next-line @typescript-eslint/no-invalid-void-type -- a rule that returns nothing accepts the value
export type CheckResult = boolean | string | CheckFinding | readonly CheckFinding[] | undefined | void;

const FAILED: Verdict = { code: 'customError', text: customError };

/**
 * What the result of a rule means.
 *
 * @throws TypeError for anything else than a `CheckResult`, so that a rule with a mistake never accepts a value
 */
export function toResult(result: unknown): RuleResult {
  if (result === true || result === undefined) return undefined;
  if (result === false) return FAILED;
  if (typeof result === 'string') return { code: 'customError', message: result };
  if (Array.isArray(result)) return result.flatMap((each) => toResult(each) ?? []);
  if (isFinding(result)) return { code: 'customError', ...result };
  throw new TypeError(
    DEV ? explained(`A rule returns true, false, a message, or a finding ({ message, ... }). It returned ${nameOf(result)}.`) : WRONG_USE,
  );
}

function isFinding(result: unknown): result is CheckFinding {
  const { message, severity = 'error' } = (result ?? {}) as Partial<CheckFinding>;
  return (typeof message === 'string' || (typeof message === 'object' && (message as unknown) !== null)) && isSeverity(severity);
}

const nameOf = (result: unknown): string =>
  typeof result !== 'object' || result === null
    ? result === null
      ? 'null'
      : `a ${typeof result}`
    : 'then' in result
      ? 'a promise: use asyncCheck()'
      : 'message' in result
        ? 'a finding with a severity or message that does not exist'
        : 'an object without a message';

/**
 * Makes a custom rule. It does not run on empty values.
 *
 * @param test gets the value, and in `fieldRules()` the siblings; returns `true` (right), `false`, a message, or a finding
 * @param options the message for `false`, or options
 * @returns the rule
 *
 * @example
 * check((name) => name !== 'Titanic', 'Choose another name')
 * .with(fieldRules({ beam: check((beam, boat) => beam < boat.lengthM || `Wider than long: ${beam} m`) }))
 */
export function check<V, B = unknown, L = unknown>(
  test: (value: V, siblings: B, beside: L) => CheckResult,
  options?: RuleOptions | string,
): Rule<V, B, 'plain', L> {
  return makeRule<V, B, L>(
    'check',
    {},
    {
      test: (value, siblings, _now, beside) => toResult(test(value, siblings, beside)),
      author: test,
      attach: attachCrossField,
      follow: followReads,
    },
    options,
  );
}
