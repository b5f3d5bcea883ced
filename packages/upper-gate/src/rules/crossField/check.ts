// A custom rule: a function.

import { DEV, explained } from '#development';
import { followReads } from '../../evaluate/follow.ts';
import { customError } from '../../messages/english.ts';
import { asIs, isLabel, type Label } from '../../messages/text.ts';
import { WRONG_USE } from '../../schema/brand.ts';
import { attachCrossField } from './live.ts';
import { makeRule, type Rule } from '../../schema/rule.ts';
import type { RuleOptions, RuleResult, Verdict } from '../../schema/verdict.ts';
import { atOnce, isObjectLike } from '../../schema/safeAccess.ts';
import { isSeverity, type Severity } from '../../schema/severity.ts';

/** A finding that a custom rule returns: with a message, or with a code that a catalogue has a text for. */
export type CheckFinding = {
  /** Default: that of the rule. */
  readonly severity?: Severity;
  /** The field it belongs to, relative to the value that was validated: `'beam'` in a rule on the group. */
  readonly path?: string;
  /** For the text of the code, which may have slots for them. */
  readonly params?: Readonly<Record<string, unknown>>;
} & (
  | {
      /** The message as it is shown, or one for each language: `{ en: '...', fr: '...' }`. Braces in it are braces. */
      readonly message: Label;
      readonly code?: string;
    }
  | { readonly message?: undefined; readonly code: string }
);

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
  let given: readonly unknown[];
  let verdicts: readonly (Verdict | undefined)[];
  try {
    atOnce(result);
    given = Array.isArray(result) ? (result as unknown[]).flat(Infinity) : [result];
    verdicts = given.map((each) => (each === false ? FAILED : verdictOf(each)));
  } catch (cause) {
    if (cause instanceof TypeError) throw cause;
    // It throws when it is read, or never ends.
    throw new TypeError(DEV ? explained('What a rule returned cannot be read.') : WRONG_USE, { cause });
  }
  const wrong = given.findIndex((each, i) => verdicts[i] === undefined && each !== true && each !== undefined);
  if (wrong >= 0)
    throw new TypeError(
      DEV
        ? explained(`A rule returns true, false, a message, or a finding ({ message, ... }). It returned ${nameOf(given[wrong])}.`)
        : WRONG_USE,
    );
  return verdicts.filter((each) => each !== undefined);
}

const CODE = 'customError';

/** The verdict that a message or finding is; nothing for what is none. Each property is read once. */
function verdictOf(given: unknown): Verdict | undefined {
  if (typeof given === 'string') return { code: CODE, message: asIs(given) };
  if (!isObjectLike(given)) return undefined;
  const { params } = given;
  // (Plain JavaScript may have null where there is nothing.)
  const [message, code, severity, path] = [given['message'], given['code'], given['severity'], given['path']].map(
    (each) => each ?? undefined,
  );
  const isWorded = message === undefined ? code !== undefined : isLabel(message);
  if (!isWorded || !isText(code) || !isText(path) || !(severity === undefined || isSeverity(severity))) return undefined;
  return {
    code: code ?? CODE,
    ...(isLabel(message) && { message: asIs(message) }),
    severity,
    path,
    params: isObjectLike(params) ? { ...params } : undefined,
  };
}

const isText = (value: unknown): value is string | undefined => value === undefined || typeof value === 'string';

/** What something is, for the developer who wants to know what is wrong with it. */
function nameOf(result: unknown): string {
  if (typeof result !== 'object' || result === null) return result === null ? 'null' : `a ${typeof result}`;
  return 'message' in result ? 'a finding with a message, code, path or severity that is none' : 'an object without a message';
}

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
