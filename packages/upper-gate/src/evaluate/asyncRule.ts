// One run of an async rule, with its time limit.

import { unanswered } from '../messages/english.ts';
import type { ContextToken } from '../schema/context/context.ts';
import { swapSource } from '../schema/context/running.ts';
import { FORM, type AnyRule, type AsyncCheckRun, type RunnableAsync } from '../schema/rule.ts';
import type { RuleResult, Verdict } from '../schema/verdict.ts';
import type { Scopes } from '../schema/kit.ts';
import { LONGEST_TIMER } from './timers.ts';
import { CRASHED } from './rule.ts';
import { verdictsIn } from './verdicts.ts';
import { WAITING } from '../schema/noValue.ts';

/** What came of a run. */
export interface Reply {
  /** None if the value is right, or the rule waits. */
  readonly verdicts: readonly Verdict[];
  /** Whether they are an answer: only such are worth keeping. */
  readonly answered: boolean;
  /** What was thrown, for the developer. */
  readonly error?: unknown;
}

const TIME_IS_UP = Symbol('time is up');

/** Whether the author's code is at fault, not the connection: `fetch` rejects with a TypeError too when it cannot connect. */
function isCrash(error: unknown): boolean {
  try {
    return error instanceof ReferenceError || (error instanceof TypeError && !/fetch|network|load failed/i.test(error.message));
  } catch {
    // An error that cannot be read does not come from a connection.
    return true;
  }
}

/** What sets the time limit. */
interface Timers {
  setTimeout(callback: () => void, milliseconds: number): unknown;
  clearTimeout(timer: unknown): void;
}

/** The finding that no answer came. @param blocks whether that counts as an error if the rule does not say */
export const unansweredVerdict = (rule: AnyRule, reason: 'timeout' | 'failed', blocks: boolean): Verdict => ({
  code: 'unanswered',
  text: unanswered,
  ignoresOptions: true,
  severity: (rule.async!.unanswered ?? (blocks ? 'block' : 'warn')) === 'block' ? 'error' : 'warning',
  params: { reason },
  ...rule.async!.lacking,
});

/**
 * Runs an async rule, at most as long as it allows. Never rejects.
 *
 * @param rule the rule
 * @param value the value of its field
 * @param scopes what it may read
 * @param of where the value stands, what it is called, and the form that it is in
 * @param read what a token of context is worth
 * @param blocks whether the value counts as wrong if no answer comes and the rule does not say
 * @param controller aborting it ends the run, which then counts as unanswered; it is aborted when the time is up
 * @param timers default: those of the system
 */
export async function runAsyncRule(
  rule: AnyRule,
  value: unknown,
  [siblings, beside]: Scopes,
  of: Pick<AsyncCheckRun<unknown>, 'path' | 'label'> & { readonly kit: object },
  read: (token: ContextToken) => unknown,
  blocks: boolean,
  controller: AbortController,
  timers: Timers = globalThis,
): Promise<Reply> {
  const { timeout } = rule.async!;
  const { run }: RunnableAsync = rule.async!;
  const { signal } = controller;
  let timer: unknown;
  let stop: (() => void) | undefined;
  const start = (): unknown => {
    // Later on, its reads could not be distinguished from those of others: so it reads facts with `read` from the start.
    const outer = swapSource(undefined);
    try {
      return run(value, {
        [FORM]: of.kit,
        path: of.path,
        label: of.label,
        signal,
        siblings,
        beside,
        read: read as AsyncCheckRun<unknown>['read'],
      });
    } finally {
      swapSource(outer);
    }
  };
  try {
    signal.throwIfAborted();
    const result = await Promise.race([
      start(),
      new Promise<never>((_, reject) => {
        timer = timers.setTimeout(() => reject(TIME_IS_UP), Math.min(timeout, LONGEST_TIMER));
        signal.addEventListener('abort', (stop = () => reject(signal.reason)));
      }),
    ]);
    return { verdicts: verdictsIn(result as RuleResult), answered: true };
  } catch (error) {
    // A sibling without a value: the rule waits, and runs again when that sibling changes.
    if (error === WAITING) return { verdicts: [], answered: false };
    if (error === TIME_IS_UP) {
      controller.abort();
      return {
        verdicts: [unansweredVerdict(rule, 'timeout', blocks)],
        answered: false,
        error: new Error(`No answer within ${timeout} ms.`),
      };
    }
    return { verdicts: [isCrash(error) ? CRASHED : unansweredVerdict(rule, 'failed', blocks)], answered: false, error };
  } finally {
    timers.clearTimeout(timer);
    if (stop) signal.removeEventListener('abort', stop);
  }
}
