// A custom rule that waits for an answer.

import { devAssert, got } from '#development';
import { walkRule } from '../../evaluate/walkRule.ts';
import { makeRule, TOGETHER, type AsyncCheckRun, type Rule } from '../../schema/rule.ts';
import type { RuleOptions, RuleResult, Stage } from '../../schema/verdict.ts';
import { attachAsync } from './runner.ts';
import { toResult, type CheckResult } from '../crossField/check.ts';

/** Functions that replace those of async rules, by the names of the rules: a server has its own. */
export interface Checks {
  readonly [name: string]: (value: never, run: AsyncCheckRun<never, never>) => CheckResult | Promise<CheckResult>;
}

/** The options of an async rule, beside those of every rule. */
export interface AsyncCheckOptions extends RuleOptions {
  /** A name, by which `checks` of `validateAsync` and of a server replace the function. */
  readonly name?: string;
  /** `'change'`: while typing; `'blur'`: on leaving the field; `'submit'`. Default: that of the form. */
  readonly on?: Stage;
  /** Milliseconds without a change before it runs, at `'change'`. Default 300. */
  readonly debounce?: number;
  /** Milliseconds until it counts as unanswered. Default 10 000. */
  readonly timeout?: number;
  /** How many answers are remembered for each field, by value. Default 50. */
  readonly cache?: number;
  /**
   * What a missing answer means: a warning, or an error. Default: a warning in a form, since the server validates again; an
   * error in `validateAsync`, on a server and in the command, since they decide.
   */
  readonly unanswered?: 'warn' | 'block';
}

/** What an async rule runs: the function of its author, and what its answer means. */
export const runOf = <V, R>(test: (value: V, run: R) => unknown): ((value: V, run: R) => Promise<RuleResult>) =>
  Object.assign(async (value: V, run: R) => toResult(await test(value, run)), TOGETHER in test && { [TOGETHER]: true });

export const ASYNC_DEFAULTS = { debounce: 300, timeout: 10_000, cache: 50, unanswered: undefined } as const;

/**
 * Makes a rule that waits for an answer, from a server or elsewhere. It runs only if the other rules of the field found no
 * error, never on an empty value, and once at a time for each field. A late answer to an old value has no effect.
 *
 * @param test gets the value and `{ signal, siblings }`; resolves to what `check` returns. If it rejects, no answer came; a
 *   `ReferenceError` or `TypeError` (but that of `fetch` for a lost connection) is an error in the rule (`crashed`).
 * @param options `message`, `code`, `severity`, `on`, and `debounce`, `timeout`, `cache`, `name`, `unanswered`
 * @returns the rule
 *
 * @example
 * const isKnown = asyncCheck(
 *   async (number: string, { signal }) => {
 *     const reply = await fetch(`/register/${encodeURIComponent(number)}`, { signal });
 *     return (await reply.json()).known || 'This number is not on the register';
 *   },
 *   { debounce: 400 },
 * );
 * text('Registration', isKnown)
 */
export function asyncCheck<V, B = unknown, L = unknown>(
  test: (value: V, run: AsyncCheckRun<B, L>) => CheckResult | Promise<CheckResult>,
  options: AsyncCheckOptions | string = {},
): Rule<V, B, 'plain', L> {
  devAssert(() => typeof test !== 'function' && `asyncCheck() takes a function. ${got(test)}`);
  const { name, debounce, timeout, cache, unanswered, ...rest } = {
    ...ASYNC_DEFAULTS,
    name: undefined,
    ...(typeof options === 'string' ? { message: options } : options),
  };
  return makeRule(
    'asyncCheck',
    {},
    { async: { name, run: runOf(test), debounce, timeout, cache, unanswered }, author: test, attach: attachAsync, walk: walkRule },
    rest,
  );
}
