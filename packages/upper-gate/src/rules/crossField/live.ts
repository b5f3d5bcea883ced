// A rule that reads other fields, in one form: it runs again when something that it read changes.

import { NodeReport } from '../../evaluate/report.ts';
import { createWatch } from '../../evaluate/tracking.ts';
import { runRule } from '../../evaluate/rule.ts';
import { sameValue } from '../../schema/sameValue.ts';
import { scopesOf } from '../../evaluate/scopes.ts';
import { verdictsIn } from '../../evaluate/verdicts.ts';
import type { Job, LiveNode, LiveRule } from '../../schema/kit.ts';
import type { AnyRule } from '../../schema/rule.ts';
import type { Order, Verdict } from '../../schema/verdict.ts';

const NOTHING: readonly never[] = [];

/** Attaches a rule on a field, group or list that may read the group that declares it. */
export function attachCrossField(rule: AnyRule, target: LiveNode, scope: LiveNode, order: Order): void {
  const { kit } = target;
  const report = new NodeReport(target, rule, order);
  const setState = (requires: boolean, now: AnyRule | undefined): void => {
    const isSame = live.now === now || sameValue([live.now?.params, live.now?.options], [now?.params, now?.options]);
    if (isSame && live.requires === requires) return;
    live.requires = requires;
    if (!isSame) live.now = now;
    kit.markChanged(target);
  };
  const verdicts = (): readonly Verdict[] => verdictsIn(runRule(rule, target, scopesOf(target, scope), target, setState));
  const schedule = (): void => kit.schedule(live);
  const watch = createWatch(target, schedule);
  const live: Mutable<LiveRule> & Job = {
    rule,
    now: rule.moving ? undefined : rule,
    requires: false,
    isQueued: false,
    schedule,
    run() {
      const isDue = target.isDue(rule);
      // Params are known before the rule's moment has come: for hints and attributes.
      if (target.applies && (isDue || rule.moving)) {
        const found = watch.track(verdicts);
        kit.tracer?.ran(target, rule, watch.reads, isDue ? found : undefined);
        report.set(isDue ? found : NOTHING);
        rule.whileWaiting?.(live, target, live.now ? NOTHING : watch.reads);
      } else {
        kit.tracer?.ran(target, rule, NOTHING);
        watch.untrack();
        setState(false, rule.moving ? undefined : rule);
        report.set(NOTHING);
      }
      kit.updateAsync(target, 0);
    },
  };
  (target.liveRules ??= []).push(live);
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };
