// One async rule in one form: idle -> waiting (for a pause in typing) -> running -> settled. Any change of the value, or of
// what the run has read by then, sends it back to idle at once, so that at most one run is in flight and no late answer
// counts.

import { LatestRun, recorderOf } from '../../evaluate/latestRun.ts';
import { NodeReport } from '../../evaluate/report.ts';
import { createWatch } from '../../evaluate/tracking.ts';
import { DEV } from '#development';
import { runAsyncRule, unansweredVerdict, type Reply } from '../../evaluate/asyncRule.ts';
import { checking, interrupted } from '../../messages/english.ts';
import { scopesOf } from '../../evaluate/scopes.ts';
import { rank, SUBMIT } from '../../evaluate/stage.ts';
import type { AsyncRunner, AsyncState, LiveNode } from '../../schema/kit.ts';
import { WAITING } from '../../schema/noValue.ts';
import type { AnyRule, AsyncCheckRun } from '../../schema/rule.ts';
import type { Order, Verdict } from '../../schema/verdict.ts';

/** An answer, and what it was given to. */
interface Kept {
  /** What was seen of the value itself. */
  readonly saw: unknown;
  /** What the rule read, and what it saw there. */
  readonly reads: readonly (readonly [node: LiveNode, saw: unknown])[];
  readonly verdicts: readonly Verdict[];
}

/** After so many runs in a row that edited what they had read, another would do the same. */
const MOST_SELF_EDITS = 3;
/** How many microtasks an async function takes to return, after its last step. */
const RETURN_TICKS = 12;

/** Milliseconds after which a run is announced to those who do not see the page. */
const PATIENCE = 1000;

const NOTHING: readonly never[] = [];

/** Attaches an async rule to a field, group or list. */
export function attachAsync(rule: AnyRule, target: LiveNode, scope: LiveNode, order: Order): void {
  const { kit } = target;
  const { clock } = kit;
  const spec = rule.async!;
  const { debounce, cache } = spec;
  const first = rule.on === undefined ? kit.onRank : rank(rule.on);
  const report = new NodeReport(target, rule, order, true);
  const watch = createWatch(target, () => {
    cancel();
    kit.updateAsync(target, 0);
  });
  let state: AsyncState = 'idle';
  let timer: unknown;
  let patience: unknown;
  const latest = new LatestRun();
  /** Newest last. */
  let kept: Kept[] = [];
  /** How many runs in a row have edited what they had read. */
  let selfEdits = 0;
  /** Runs that were cancelled a moment ago: those that return now were cancelled by their own edits. */
  const cancelled = new Set<AbortController>();
  /** The rank of the event that waits until these have returned; none waits: -1. */
  let delayed = -1;
  let hasGivenUp = false;

  const isPending = (): boolean => state === 'waiting' || state === 'running';
  const become = (next: AsyncState, verdicts: readonly Verdict[], isAnswered: boolean): void => {
    const was = isPending();
    kit.tracer?.came(target, rule, next, verdicts, isAnswered, watch.reads, latest.current);
    state = next;
    runner.isAnswered = isAnswered;
    const is = isPending();
    if (!is) latest.current = undefined;
    report.set(verdicts);
    if (is === was) return;
    target.count('pending', is ? 1 : -1);
    clock.clearTimeout(patience);
    if (is && kit.say) patience = clock.setTimeout(sayChecking, PATIENCE);
  };
  const sayChecking = (): void => kit.say?.('checking', checking, target, isPending);
  const cancel = (): void => {
    if (state === 'idle') return;
    clock.clearTimeout(timer);
    const run = latest.abort();
    if (run) void awaitReturn(run);
    become('idle', NOTHING, false);
    watch.untrack();
  };
  const awaitReturn = async (run: AbortController): Promise<void> => {
    cancelled.add(run);
    for (let tick = 0; tick < RETURN_TICKS; tick += 1) await Promise.resolve();
    cancelled.delete(run);
    if (cancelled.size > 0 || delayed < 0) return;
    const event = delayed;
    delayed = -1;
    kit.batch(() => kit.updateAsync(target, event));
  };

  /** Whether there is a value that applies, in which no sync rule has found an error. */
  const isDue = (): boolean => {
    if (!target.asyncEnabled || !target.applies || !target.syncValid || target.skipsRules) return false;
    try {
      return target.readForRule() !== undefined;
    } catch (error) {
      if (error === WAITING) return false;
      throw error;
    }
  };
  const recall = (): Kept | undefined => {
    const at = kept.findIndex(
      (answer) => Object.is(answer.saw, target.sight) && answer.reads.every(([node, saw]) => Object.is(node.sight, saw)),
    );
    if (at < 0) return undefined;
    const [answer] = kept.splice(at, 1);
    kept.push(answer!);
    // Whatever it was given to holds for it.
    for (const [node] of answer!.reads) watch.recordRead(node);
    return answer;
  };

  const wait = (): void => {
    timer = clock.setTimeout(() => kit.batch(start), debounce);
  };
  const start = (): void => {
    clock.clearTimeout(timer);
    const run = latest.begin();
    const saw = target.sight;
    become('running', NOTHING, false);
    watch.untrack();
    const recorder = recorderOf(latest, run, watch);
    const followed = async (value: never, context: AsyncCheckRun<never, never>): Promise<unknown> => {
      const result = await (kit.answerAsync?.(rule, target, recorder) ?? spec.run)(value, context);
      if (run !== latest.current) kit.tracer?.cameLate(target, rule, run);
      if (cancelled.has(run)) noteSelfEdit(run);
      return result;
    };
    const reply = runAsyncRule(
      { ...rule, async: { ...spec, run: followed } },
      target.readForRule(recorder),
      scopesOf(target, scope, recorder),
      target,
      (token) => kit.readContext(token, recorder),
      false,
      run,
      clock,
    );
    // Edits before its first `await` have cancelled it already.
    if (run !== latest.current) noteSelfEdit(run);
    void reply.then((what) => run === latest.current && kit.batch(() => conclude(what, saw)));
  };
  const conclude = ({ verdicts, answered, error }: Reply, saw: unknown): void => {
    selfEdits = 0;
    if (answered) {
      kept.push({ saw, reads: (watch.reads as readonly LiveNode[]).map((node) => [node, node.sight] as const), verdicts });
      if (kept.length > cache) kept.shift();
    }
    if (error !== undefined) kit.fault(error, target, rule.name);
    become('settled', verdicts, answered);
  };
  const noteSelfEdit = (run: AbortController): void => {
    cancelled.delete(run);
    selfEdits += 1;
    if (selfEdits !== MOST_SELF_EDITS) return;
    kit.fault(
      new Error(
        DEV
          ? `The async rule edits what it reads, ${MOST_SELF_EDITS} times in a row. It does not run again until the next edit.`
          : 'Endless edits',
      ),
      target,
      rule.name,
    );
    kit.batch(giveUp);
  };
  const giveUp = (): void => {
    hasGivenUp = true;
    cancel();
    become('settled', [unansweredVerdict(rule, 'failed', false)], false);
  };

  const runner: { isAnswered: boolean } & Omit<AsyncRunner, 'isAnswered'> = {
    rule,
    report,
    isAnswered: false,
    cancel,
    delay() {
      if (state !== 'waiting' || debounce <= 0) return;
      clock.clearTimeout(timer);
      wait();
    },
    forget() {
      cancel();
      kept = [];
    },
    update(event) {
      const isHeldBack = !isDue();
      if (isHeldBack || event < first) kit.tracer?.heldBack(target, rule);
      if (isHeldBack) return cancel();
      if (state === 'running' || event < first) return;
      if (hasGivenUp && cancelled.size > 0) return giveUp();
      if (hasGivenUp) selfEdits = 0;
      hasGivenUp = false;
      const isSubmit = event === SUBMIT;
      if (state === 'settled' && !(isSubmit && (!runner.isAnswered || cache === 0))) return;
      const atOnce = event > 0 || debounce <= 0;
      if (state === 'waiting' && !atOnce) return;
      // It may be about to edit its field for the second time: the next run would edit it, too.
      if (selfEdits > 0 && cancelled.size > 0) {
        delayed = Math.max(event, delayed);
        return become('waiting', NOTHING, false);
      }
      if (state === 'waiting') return start();
      const answer = recall();
      if (answer) become('settled', answer.verdicts, true);
      else if (atOnce) start();
      else {
        wait();
        become('waiting', NOTHING, false);
      }
    },
  };
  (target.asyncRunners ??= []).push(runner);
  kit.isFollowed = true;
  kit.interrupted = interrupted;
}
