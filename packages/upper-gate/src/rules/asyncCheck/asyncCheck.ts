// A custom rule that waits for an answer.

import { makeRule, type AsyncCheckRun, type Rule } from '../../schema/rule.ts';
import type { RuleOptions, Stage } from '../../schema/verdict.ts';
import { attachAsync } from './runner.ts';
import { toResult, type CheckResult } from '../crossField/check.ts';

/** Functions that take the place of those of async rules, by the names that these have: on a server, its own. */
export interface Checks {
  readonly [name: string]: (value: never, run: AsyncCheckRun<never, never>) => CheckResult | Promise<CheckResult>;
}

/** What an async rule takes beside the options of every rule. */
export interface AsyncCheckOptions extends RuleOptions {
  /** A name, by which `checks` of `validateAsync` and of the server put another function in its place. */
  readonly name?: string;
  /** `'change'`: while typing; `'blur'`: on leaving the field; `'submit'`. Default: that of the form. */
  readonly on?: Stage;
  /** Milliseconds without a change before it runs, at `'change'`. Default 300. */
  readonly debounce?: number;
  /** Milliseconds until it counts as unanswered. Default 10 000. */
  readonly timeout?: number;
  /** How many answers are kept per field, by value. Default 50. */
  readonly cache?: number;
  /**
   * What it means that no answer came: a warning, or an error. Default: a warning in a form, whose server validates again;
   * an error in `validateAsync`, on a server and in the command, which have the last word.
   */
  readonly unanswered?: 'warn' | 'block';
}

export const ASYNC_DEFAULTS = { debounce: 300, timeout: 10_000, cache: 50, unanswered: undefined } as const;

/**
 * A rule that waits for an answer, from a server or elsewhere. It runs only if the field's other rules found no error,
 * never on an empty value, once at a time per field; a late answer to an old value has no effect.
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
): Rule<V, B, never, L> {
  const { name, debounce, timeout, cache, unanswered, ...rest } = {
    ...ASYNC_DEFAULTS,
    name: undefined,
    ...(typeof options === 'string' ? { message: options } : options),
  };
  const run = async (value: V, context: AsyncCheckRun<B, L>) => toResult(await test(value, context));
  return makeRule(
    'asyncCheck',
    {},
    { async: { name, run, debounce, timeout, cache, unanswered }, author: test, attach: attachAsync },
    rest,
  );
}
