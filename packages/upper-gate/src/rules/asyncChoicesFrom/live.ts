// Values to choose from in one form, which are fetched: idle -> loading -> settled. A change of what was read by then sends it
// back to idle, so that no late answer counts.

import { LatestRun, recorderOf } from '../../evaluate/latestRun.ts';
import { NodeReport } from '../../evaluate/report.ts';
import { createWatch } from '../../evaluate/tracking.ts';
import { runAsyncRule, type Reply } from '../../evaluate/asyncRule.ts';
import { NO_SCOPES, runRule } from '../../evaluate/rule.ts';
import { scopesOf } from '../../evaluate/scopes.ts';
import { verdictsIn } from '../../evaluate/verdicts.ts';
import { lackingIn } from '../../schema/lacking.ts';
import type { Instead, Job, LiveNode, LiveRule } from '../../schema/kit.ts';
import type { Options, OptionValue } from '../../schema/option.ts';
import type { AnyRule, AsyncCheckRun } from '../../schema/rule.ts';
import type { Order, Verdict } from '../../schema/verdict.ts';
import { firstOf, sayInstead } from '../instead.ts';
import { amongst } from '../options.ts';

/** Milliseconds after a failure in which the next is not worth a try. */
const PAUSE = 1000;

const NOTHING: readonly never[] = [];

/** Attaches a rule that fetches the values to choose from. */
export function attachAsyncChoices(rule: AnyRule, target: LiveNode, scope: LiveNode, order: Order): void {
  const { kit } = target;
  const { clock } = kit;
  const report = new NodeReport(target, rule, order);
  const latest = new LatestRun();
  let isSettled = false;
  let failure: readonly Verdict[] = NOTHING;
  let failedAt = 0;
  /** The rule of the values that have come. */
  let now: AnyRule | undefined;
  const choosing: AnyRule = { ...rule, moving: () => now };

  let isPending = false;

  const become = (options: AnyRule | undefined, failed: readonly Verdict[]): void => {
    const isLacking = latest.current !== undefined;
    if (isLacking !== isPending) lackingIn(kit).add(target, isLacking ? 1 : -1);
    const by = (latest.current ? 1 : 0) - (isPending ? 1 : 0);
    isPending = latest.current !== undefined;
    failure = failed;
    live.now = now = options;
    kit.tracer?.came(
      target,
      rule,
      isPending ? 'running' : options || failed.length > 0 ? 'settled' : 'idle',
      failed,
      options !== undefined,
      watch.reads,
      latest.current,
      options?.options,
    );
    if (by === 0) kit.markChanged(target);
    else target.count('pending', by);
  };
  const stop = (): void => {
    isSettled = false;
    if (latest.abort() || now || failure.length > 0) become(undefined, NOTHING);
    watch.untrack();
    sayInstead(live, target, undefined);
    report.set(NOTHING);
  };
  const watch = createWatch(target, () => {
    stop();
    live.schedule();
  });

  const start = (): void => {
    const run = latest.begin();
    become(undefined, NOTHING);
    const recorder = recorderOf(latest, run, watch);
    let loaded: AnyRule | undefined;
    const load = rule.author as (context: AsyncCheckRun<never, never>) => Promise<Options<OptionValue>>;
    const answer = kit.answerAsync?.(rule, target, recorder);
    const loading = async (value: never, context: AsyncCheckRun<never, never>): Promise<void> => {
      loaded = amongst('asyncChoicesFrom', (await (answer ? answer(value, context) : load(context))) as Options<OptionValue>, true);
      if (run !== latest.current) kit.tracer?.cameLate(target, rule, run);
    };
    const scopes = scopesOf(target, scope, recorder);
    const read: Parameters<typeof runAsyncRule>[4] = (token) => kit.readContext(token, recorder);
    void runAsyncRule({ ...rule, async: { ...rule.async!, run: loading } }, undefined, scopes, target, read, false, run, clock).then(
      (reply) => run === latest.current && kit.batch(() => conclude(run, reply, loaded)),
    );
  };
  const conclude = (run: AbortController, { verdicts, error }: Reply, loaded: AnyRule | undefined): void => {
    isSettled = true;
    if (error !== undefined) {
      failedAt = clock.now().getTime();
      kit.fault(error, target, rule.name);
    }
    latest.end(run);
    become(loaded, verdicts);
    const [failed] = verdicts;
    sayInstead(live, target, failed ? { verdict: failed } : loaded ? undefined : firstOf(watch.reads));
    validateValue();
    kit.updateAsync(target, 0);
  };
  const validateValue = (): void => {
    report.set(now && target.isDue(rule) ? verdictsIn(runRule(choosing, target, NO_SCOPES, target)) : failure);
  };

  const live: { now: AnyRule | undefined; instead?: Instead | undefined } & Omit<LiveRule, 'now' | 'instead'> & Job = {
    rule,
    now: undefined,
    requires: false,
    isQueued: false,
    schedule: () => kit.schedule(live),
    stop,
    run() {
      if (!target.applies) return stop();
      const isWorthATry = failure.length > 0 && clock.now().getTime() - failedAt >= PAUSE;
      if (isWorthATry) stop();
      if (!isSettled && !latest.current) start();
      else if (isSettled) validateValue();
    },
  };
  (target.liveRules ??= []).push(live);
}
