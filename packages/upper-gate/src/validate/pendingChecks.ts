// The async rules of a walk: run where the sync rules found no error, a few at a time, within a time limit for all.

import { runAsyncRule } from '../evaluate/asyncRule.ts';
import { LONGEST_TIMER } from '../evaluate/timers.ts';
import { toFinding } from '../evaluate/finding.ts';
import { inLanguage } from '../messages/text.ts';
import { runOf, type Checks } from '../rules/asyncCheck/asyncCheck.ts';
import { assertNumber } from '../schema/assertUse.ts';
import { TOGETHER, type AnyRule } from '../schema/rule.ts';
import { blocks } from '../schema/severity.ts';
import { isFinding, isPendingCheck, type Entry, type PendingCheck } from './entries.ts';
import type { Walk } from './walk.ts';

export interface PendingOptions {
  readonly signal?: AbortSignal | undefined;
  readonly checks?: Checks | undefined;
  readonly concurrency?: number | undefined;
  readonly timeout?: number | undefined;
}

/** The rule with the function that `checks` puts in its place, if they do. */
function replaced(rule: AnyRule, checks: Checks): AnyRule {
  const { name } = rule.async!;
  if (name === undefined || !Object.hasOwn(checks, name)) return rule;
  const check = checks[name]!;
  return { ...rule, async: { ...rule.async!, run: runOf(check) } };
}

/** Runs the async rules, and puts what each finds where it stood. */
export async function runPendingChecks(
  walk: Walk,
  { signal, checks = {}, concurrency = 8, timeout = 10_000 }: PendingOptions,
): Promise<void> {
  const { entries, catalogue } = walk;
  assertNumber('concurrency', concurrency, 1);
  assertNumber('timeout', timeout, 0);
  const errors = entries.filter((entry) => isFinding(entry) && blocks(entry)).map(({ path }) => path);
  const hasError = (path: string): boolean => errors.some((at) => path === '' || at === path || at.startsWith(`${path}.`));
  const running = new Set<AbortController>();
  const ended = new AbortController();
  const end = (reason: unknown): void => {
    ended.abort(reason);
    running.forEach((controller) => controller.abort(reason));
  };
  const stop = (): void => end(signal!.reason);
  const timer = setTimeout(() => end(new Error(`No answer to all async rules within ${timeout} ms.`)), Math.min(timeout, LONGEST_TIMER));
  signal?.addEventListener('abort', stop);
  if (signal?.aborted) stop();

  const run = async ({ path, part, rule, value, scopes }: PendingCheck): Promise<readonly Entry[]> => {
    const controller = new AbortController();
    if (ended.signal.aborted) controller.abort(ended.signal.reason);
    running.add(controller);
    const { verdicts, error } = await runAsyncRule(
      replaced(rule, checks),
      value,
      scopes!,
      { kit: walk, path, label: inLanguage(part.label, catalogue) },
      (token) => token.readFrom(walk),
      true,
      controller,
    );
    running.delete(controller);
    const findings = verdicts.map((verdict) => toFinding(path, part, rule, verdict, catalogue));
    return error === undefined ? findings : [{ error, path, rule: rule.name }, ...findings];
  };
  const results: (readonly Entry[])[] = entries.map((entry) => [entry]);
  const due = entries.entries();
  const judge = async (i: number, entry: PendingCheck): Promise<void> => {
    results[i] = hasError(entry.path) ? [] : await run(entry);
  };
  // What is asked about together is one request, however many values there are.
  const isTogether = (entry: PendingCheck): boolean => TOGETHER in entry.rule.async!.run;
  const work = async (): Promise<void> => {
    for (const [i, entry] of due) if (isPendingCheck(entry) && !isTogether(entry)) await judge(i, entry);
  };
  await Promise.all([
    ...entries.map((entry, i) => (isPendingCheck(entry) && isTogether(entry) ? judge(i, entry) : undefined)),
    ...Array.from({ length: Math.min(concurrency, entries.length) }, work),
  ]);
  clearTimeout(timer);
  signal?.removeEventListener('abort', stop);
  walk.assertContext();
  entries.splice(0, entries.length, ...results.flat());
}
