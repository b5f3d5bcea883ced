// The conditions of a field in one form.

import { createWatch } from '../../evaluate/tracking.ts';
import { setApplies } from '../../schema/applying.ts';
import type { Predicate, ReachOf } from '../../schema/group.ts';
import type { Job, LiveNode, Watch } from '../../schema/kit.ts';
import type { Part } from '../../schema/part.ts';
import type { Order } from '../../schema/verdict.ts';
import { scopesOf } from '../../evaluate/scopes.ts';
import { circleError, circlesThrough, runConditions, type ScopedCondition } from './applies.ts';

/** What stands for the rule that it is, to whoever follows the form. */
const CLAUSE = { name: 'appliesWhen' };
/** Before everything else that is found on the field. */
const FIRST: Order = { depth: Infinity, index: 0 };

/** (Nothing here is private to the class: the members of a circle may come from two copies of the library.) */
class LiveCondition implements Job {
  readonly isCondition = true;
  isQueued = false;
  /** Those of the innermost group first. */
  readonly conditions: ScopedCondition[] = [];
  readonly node: LiveNode<Part>;
  readonly watch: Watch;
  /** The circle of conditions that it is in: all their fields apply. */
  circle: readonly LiveCondition[] | undefined;

  constructor(node: LiveNode<Part>) {
    this.node = node;
    const { kit } = node;
    this.watch = createWatch(node, () => kit.schedule(this));
    kit.schedule(this);
  }

  run(): void {
    const node = this.node;
    if (node.removed) return this.watch.untrack();
    const { applies, takenAt, verdict } = this.watch.track(() => runConditions(this.conditions, node));
    node.kit.tracer?.ran(node, CLAUSE, this.watch.reads, verdict ? [verdict] : []);
    const before = this.circle;
    const circle = circlesThrough<LiveCondition>(this, (condition) => condition.conditionsRead());
    if (circle && !before) node.kit.fault(circleError(circle.map((member) => member.node.key)), node.parent!, 'appliesWhen');
    // In a circle, or out of it: the others find out too.
    for (const member of new Set([...(before ?? []), ...(circle ?? [])])) {
      const its = circle?.includes(member) ? circle : undefined;
      if (member !== this && Boolean(member.circle) !== Boolean(its)) node.kit.schedule(member);
      member.circle = its;
    }
    setApplies(node, applies || circle !== undefined, node.disabled, takenAt);
    node.setVerdicts(this, FIRST, verdict ? [{ rule: undefined, verdict }] : []);
  }

  /** The conditions of the fields that it read. */
  *conditionsRead(): Iterable<LiveCondition> {
    for (const { condition } of this.watch.reads as readonly LiveNode[])
      if (condition && 'conditions' in condition) yield condition as LiveCondition;
  }
}

/** Attaches the conditions of a group on a part to its node. */
export function attachConditions(items: ReachOf<Predicate>['items'], node: LiveNode<Part>, scope: LiveNode<Part>): void {
  if (items.length === 0) return;
  // (Whatever decides on a case of a variant has no conditions beside it.)
  const condition = (node.condition ??= new LiveCondition(node)) as LiveCondition;
  for (const { what } of items) condition.conditions.push({ when: what, depth: scope.depth, scopes: () => scopesOf(node, scope) });
}
