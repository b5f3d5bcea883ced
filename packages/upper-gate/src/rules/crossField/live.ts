// A rule that reads other fields, in one form: it runs again when something that it read changes.

import { verdictsIn } from '../../evaluate/field.ts';
import { runRule } from '../../evaluate/rule.ts';
import type { Job, LiveNode, LiveRule } from '../../schema/kit.ts';
import type { AnyRule } from '../../schema/rule.ts';
import type { Order, Verdict } from '../../schema/verdict.ts';

const NOTHING: readonly never[] = [];

/** Attaches a rule on a field, group or list that may read the group that declares it. */
export function attachCrossField(rule: AnyRule, target: LiveNode, scope: LiveNode, order: Order): void {
  const { kit } = target;
  const report = kit.report(target, rule, order);
  const setRequires = (requires: boolean): void => {
    if (live.requires === requires) return;
    live.requires = requires;
    kit.markChanged(target);
  };
  const verdicts = (): readonly Verdict[] => verdictsIn(runRule(rule, target, kit.scopesOf(target, scope), target, setRequires));
  const schedule = (): void => kit.schedule(live);
  const watch = kit.watch(schedule);
  const live: { requires: boolean } & Omit<LiveRule, 'requires'> & Job = {
    rule,
    requires: false,
    isQueued: false,
    schedule,
    run() {
      if (target.applies && target.isDue(rule)) report.set(watch.track(verdicts));
      else {
        watch.untrack();
        setRequires(false);
        report.set(NOTHING);
      }
      kit.updateAsync(target, 0);
    },
  };
  (target.liveRules ??= []).push(live);
}
