// The values to choose from, fetched: from a server or elsewhere.

import { notLoaded } from '../../messages/english.ts';
import { reportedBy } from '../../evaluate/rule.ts';
import { walkRule } from '../../evaluate/walkRule.ts';
import type { Options, OptionValue } from '../../schema/option.ts';
import { makeRule, type AsyncCheckRun, type Rule } from '../../schema/rule.ts';
import type { RuleOptions } from '../../schema/verdict.ts';
import { ASYNC_DEFAULTS } from '../asyncCheck/asyncCheck.ts';
import { amongst, type Wide } from '../options.ts';
import { attachAsyncChoices } from './live.ts';

export interface AsyncChoicesOptions extends RuleOptions {
  /** A name, by which `checks` of `validateAsync` and of a server replace the rule. */
  readonly name?: string;
  /** Milliseconds until it counts as unanswered. Default 10 000. */
  readonly timeout?: number;
  /** What a missing answer means; see `asyncCheck`. */
  readonly unanswered?: 'warn' | 'block';
}

/**
 * Fetches the options of a field: when the form is made, and again when something changes that the function has read. Until
 * they arrive, the field is pending. A value that is not one of them is `notAllowed`. If they cannot be fetched, the finding
 * is `unanswered`, and the next edit or submit tries again.
 *
 * @param load gets `{ signal, siblings, beside, read }`; resolves to the values, with labels where these say more
 * @param options `message`, `code`, `timeout`, `name`, `unanswered`
 * @returns the rule, for `fieldRules()`
 *
 * @example
 * .with(fieldRules({
 *   berth: asyncChoicesFrom(async ({ siblings, signal }) => {
 *     const reply = await fetch(`/harbours/${siblings.harbour}/berths`, { signal });
 *     return (await reply.json()) as string[];
 *   }),
 * }))
 */
export function asyncChoicesFrom<T extends OptionValue, B, L = unknown>(
  load: (run: AsyncCheckRun<B, L>) => Promise<Options<T>> | Options<T>,
  options: AsyncChoicesOptions | string = {},
): Rule<Wide<T> | readonly Wide<T>[] | undefined, B, 'plain', L> {
  const { name, timeout, unanswered, ...rest } = {
    ...ASYNC_DEFAULTS,
    name: undefined,
    ...(typeof options === 'string' ? { message: options } : options),
  };
  const run = async (value: unknown, context: AsyncCheckRun<B, L>) => {
    const now = amongst('asyncChoicesFrom', await load(context), true);
    return reportedBy(now, now.test(value));
  };
  return makeRule<Wide<T> | readonly Wide<T>[] | undefined, B, L>(
    'asyncChoicesFrom',
    {},
    {
      // (Beside an error of the field, which cannot be met without options, it goes without saying.)
      async: { ...ASYNC_DEFAULTS, name, timeout, unanswered, run, lacking: { text: notLoaded, wordedAs: 'notLoaded', givesWay: true } },
      author: load,
      attach: attachAsyncChoices,
      walk: walkRule,
      givesOptions: true,
    },
    rest,
  );
}
