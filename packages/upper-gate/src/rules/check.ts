// Rules of the author's own: a function, or a question to the network.

import { customError } from '../messages/en.ts';
import type { Label } from '../messages/text.ts';
import type { Severity } from '../schema/finding.ts';
import { makeRule, type AsyncCheckRun, type Rule, type RuleOptions, type Stage, type RuleResult, type Verdict } from '../schema/rule.ts';

/** A finding as an author's rule gives it. */
export interface CheckFinding {
  /** Also in several languages: `{ en: '...', fr: '...' }`. */
  readonly message: Label;
  readonly code?: string;
  /** Default: that of the rule. */
  readonly severity?: Severity;
  /** The field it belongs to, relative to the value that was judged: `'beam'` in a rule on the group. */
  readonly path?: string;
  readonly params?: Readonly<Record<string, unknown>>;
}

/**
 * What an author's rule says: `true` or nothing when content; `false`, a message, a finding, or several findings when not.
 */
// eslint-disable-next-line @typescript-eslint/no-invalid-void-type -- a rule that says nothing is content
export type CheckResult = boolean | string | CheckFinding | readonly CheckFinding[] | undefined | void;

const REFUSED: Verdict = { code: 'customError', text: customError };

/**
 * What an answer means.
 *
 * @throws TypeError for anything that is no answer, so that a rule with a slip is never taken for a content one
 */
export function verdictOf(answer: unknown): RuleResult {
  if (answer === true || answer === undefined) return undefined;
  if (answer === false) return REFUSED;
  if (typeof answer === 'string') return { ...REFUSED, message: answer };
  if (Array.isArray(answer)) return answer.flatMap((each) => verdictOf(each) ?? []);
  if (typeof answer === 'object' && answer !== null && isLabel((answer as Partial<CheckFinding>).message))
    return { ...REFUSED, ...(answer as CheckFinding) };
  throw new TypeError(`A rule answers true, false, a message, or a finding ({ message, ... }). It answered ${describe(answer)}.`);
}

const isLabel = (text: unknown): boolean => typeof text === 'string' || (typeof text === 'object' && text !== null);

const describe = (answer: unknown): string =>
  typeof answer !== 'object' || answer === null
    ? `with ${answer === null ? 'null' : `a ${typeof answer}`}`
    : 'then' in answer
      ? 'with a promise: declare it with asyncCheck()'
      : 'with an object without a message';

/**
 * A rule of one's own. Not asked about empty values.
 *
 * @param judge gets the value, and in a group's `.rules()` the siblings; says `true` (content), `false`, a message, or a finding
 * @param options the message for `false`, or options
 *
 * @example
 * check((name) => name !== 'Titanic', 'Not that name, please')
 * check((beam, boat) => beam < boat.lengthM || `Wider than long: ${beam} m`)
 */
export function check<V, B = unknown>(test: (value: V, siblings: B) => CheckResult, options?: RuleOptions | string): Rule<V, B> {
  return makeRule('check', {}, { test: (value: V, siblings: B) => verdictOf(test(value, siblings)), author: test }, options);
}

/** Functions that take the place of those of network rules, by the names that these have: on a server, its own. */
export interface Checks {
  readonly [name: string]: (value: never, context: AsyncCheckRun<never>) => CheckResult | Promise<CheckResult>;
}

/** What a network rule takes beside the options of every rule. */
export interface AsyncCheckOptions extends RuleOptions {
  /** A name, by which `checks` of `validateAsync` and of the server put another function in its place. */
  readonly name?: string;
  /** `'change'`: as one types; `'blur'`: on leaving the field; `'submit'`. Default: that of the form. */
  readonly on?: Stage;
  /** Milliseconds without a change before the question is put, at `'change'`. Default 300. */
  readonly debounce?: number;
  /** Milliseconds until it counts as unanswered. Default 10 000. */
  readonly timeout?: number;
  /** How many answers are kept per field, by value. Default 50. */
  readonly cache?: number;
  /** What it means that no answer came: a warning (default; the server decides), or an error. */
  readonly unanswered?: 'warn' | 'block';
}

export const ASYNC_DEFAULTS = { debounce: 300, timeout: 10_000, cache: 50, unanswered: 'warn' } as const;

/**
 * A rule that asks over the network. It runs only when the field's other rules found no error, never for an empty value,
 * one run at a time per field; a late answer to an old value has no effect.
 *
 * @param ask gets the value and `{ signal, siblings }`; resolves as `check` answers. A rejection means that no answer came.
 *
 * @example
 * asyncCheck(async (number, { signal }) => {
 *   const reply = await fetch(`/register/${encodeURIComponent(number)}`, { signal });
 *   return (await reply.json()).known || 'This number is not on the register';
 * }, { debounce: 400 })
 */
export function asyncCheck<V, B = unknown>(
  ask: (value: V, context: AsyncCheckRun<B>) => CheckResult | Promise<CheckResult>,
  options: AsyncCheckOptions | string = {},
): Rule<V, B> {
  const { name, debounce, timeout, cache, unanswered, ...rest } = {
    ...ASYNC_DEFAULTS,
    name: undefined,
    ...(typeof options === 'string' ? { message: options } : options),
  };
  return makeRule('asyncCheck', {}, { async: { name, run: ask, debounce, timeout, cache, unanswered } }, rest);
}
