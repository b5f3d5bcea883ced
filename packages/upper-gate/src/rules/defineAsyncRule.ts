// Rules of an author that wait for an answer, and else work like built-in ones.

import { walkRule } from '../evaluate/walkRule.ts';
import type { AsyncCheckRun } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import { ASYNC_DEFAULTS, type AsyncCheckOptions } from './asyncCheck/asyncCheck.ts';
import { attachAsync } from './asyncCheck/runner.ts';
import { toResult, type CheckResult } from './crossField/check.ts';
import { definedBy, type DefinedRule, type ParamsOf, type ParamTypes, type RuleRow } from './defineRule.ts';

/** The description of your own async rule: that of a rule, and how it waits. Servers replace its function by its name (`checks`). */
export interface AsyncRuleRow<V, S extends ParamTypes, B, L>
  extends Omit<RuleRow<V, S, B, L>, 'test' | 'live'>, Omit<AsyncCheckOptions, keyof RuleOptions | 'name'> {
  /** Tests a value, which is never empty, and resolves to what `check` returns. */
  readonly test: (value: V, params: ParamsOf<S>, run: AsyncCheckRun<B, L>) => CheckResult | Promise<CheckResult>;
}

/**
 * Defines an async rule that works like a built-in one: see `defineRule` for its texts and notations, `asyncCheck` for how it runs.
 *
 * @param row what the rule is: name, params, test, texts, and `debounce`, `timeout`, `cache`, `unanswered`
 * @returns makes the rule: takes its params, if it has any, then options as every rule does
 *
 * @example
 * const registered = defineAsyncRule({
 *   name: 'registered',
 *   params: { country: 'text' },
 *   test: async (number: string, { country }, { signal }) => (await fetch(`/register/${country}/${number}`, { signal })).ok,
 *   texts: { en: '{label} is not on the register of {country}' },
 *   debounce: 400,
 * });
 * text('Registration', registered({ country: 'NL' }))
 */
export function defineAsyncRule<V, const S extends ParamTypes, B = unknown, L = unknown>(
  row: AsyncRuleRow<V, S, B, L>,
): DefinedRule<V, S, B, L> {
  const { debounce, timeout, cache, unanswered } = { ...ASYNC_DEFAULTS, ...row };
  return definedBy(row, (params, verdict) => {
    const run = async (value: V, context: AsyncCheckRun<B, L>): Promise<unknown> => {
      const result = await row.test(value, params as ParamsOf<S>, context);
      return result === false ? verdict : toResult(result);
    };
    return { async: { name: row.name, run, debounce, timeout, cache, unanswered }, author: row.test, attach: attachAsync, walk: walkRule };
  });
}
