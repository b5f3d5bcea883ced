// Putting questions to the network: one with a time limit, and all those of a judging.

import { unanswered } from '../messages/en.ts';
import { verdictOf, type Checks } from '../rules/check.ts';
import type { Finding } from '../schema/finding.ts';
import type { AsyncRuleSpec, Verdict } from '../schema/rule.ts';
import { CRASHED, isPendingCheck, toFinding, type Entry, type PendingCheck, type Walk } from '../schema/walk.ts';
import { WAITING } from '../schema/siblings.ts';

/** The verdict on a question that no answer came to. */
function noAnswer(ask: AsyncRuleSpec<never, never>, reason: 'timeout' | 'failed'): Verdict {
  return {
    code: 'unanswered',
    text: unanswered,
    ignoresOptions: true,
    severity: ask.unanswered === 'block' ? 'error' : 'warning',
    params: { reason },
  };
}

/** What came of one question: verdicts (none: content), and what went wrong, if anything. */
export interface Reply {
  readonly verdicts: readonly Verdict[];
  /** Whether they are an answer: only such are worth keeping. */
  readonly answered: boolean;
  /** What was thrown, for the developer. */
  readonly error?: unknown;
}

const TIME_IS_UP = Symbol('time is up');

/**
 * Puts one question, at most for as long as its rule allows. Never rejects.
 *
 * @param controller aborting it ends the question, which then counts as unanswered; it is aborted when the time is up
 */
export async function runAsyncRule(
  ask: AsyncRuleSpec<never, never>,
  value: unknown,
  siblings: unknown,
  controller: AbortController,
): Promise<Reply> {
  let timer: unknown;
  let said: unknown;
  const { signal } = controller;
  try {
    signal.throwIfAborted();
    said = await Promise.race([
      ask.run(value as never, { signal, siblings: siblings as never }),
      new Promise((_, reject) => {
        timer = setTimeout(() => reject(TIME_IS_UP), ask.timeout);
        signal.addEventListener('abort', () => reject(signal.reason));
      }),
    ]);
  } catch (error) {
    // A sibling that has no value yet: the rule waits, and is asked again when that sibling changes.
    if (error === WAITING) return { verdicts: [], answered: false };
    if (error !== TIME_IS_UP) return { verdicts: [noAnswer(ask, 'failed')], answered: false, error };
    controller.abort();
    return { verdicts: [noAnswer(ask, 'timeout')], answered: false, error: new Error(`No answer within ${ask.timeout} ms.`) };
  } finally {
    clearTimeout(timer);
  }
  try {
    return { verdicts: [verdictOf(said) ?? []].flat(), answered: true };
  } catch (error) {
    return { verdicts: [CRASHED], answered: false, error };
  }
}

/**
 * Puts the questions of a judging, all at once, where the quick rules found no error; and sets each answer where its
 * question stood.
 */
export async function runPendingChecks({ entries, catalogue }: Walk, outer: AbortSignal | undefined, checks: Checks = {}): Promise<void> {
  const errors = entries.filter((entry): entry is Finding => 'severity' in entry && entry.severity === 'error').map(({ path }) => path);
  const answer = async (question: PendingCheck): Promise<readonly Entry[]> => {
    const { path, part, rule, value, siblings } = question;
    if (errors.some((at) => path === '' || at === path || at.startsWith(`${path}.`))) return [];
    const controller = new AbortController();
    const stop = (): void => controller.abort(outer?.reason);
    outer?.addEventListener('abort', stop);
    if (outer?.aborted) stop();
    const ask = rule.async!;
    const run = ask.name !== undefined && Object.hasOwn(checks, ask.name) ? checks[ask.name]! : ask.run;
    const { verdicts, error } = await runAsyncRule({ ...ask, run }, value, siblings, controller);
    outer?.removeEventListener('abort', stop);
    const findings = verdicts.map((verdict) => toFinding(path, part, rule, verdict, catalogue));
    return error === undefined ? findings : [{ error, path, rule: rule.name }, ...findings];
  };
  const answers = await Promise.all(entries.map((entry) => (isPendingCheck(entry) ? answer(entry) : Promise.resolve([entry]))));
  entries.splice(0, entries.length, ...answers.flat());
}
