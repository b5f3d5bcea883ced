// What decides whether a field applies in one form: its conditions in `.appliesWhen()`, or the choice of its variant.

import { circleError, circlesThrough, type Applies } from '../evaluate/applies.ts';
import type { Watch } from '../schema/kit.ts';
import type { Order } from '../schema/verdict.ts';
import type { BaseNode } from './node.ts';

/** Before everything else that is found on the field. */
const FIRST: Order = { depth: Infinity, index: 0 };

export class LiveCondition {
  readonly isCondition = true;
  isQueued = false;
  readonly #node: BaseNode;
  readonly #evaluate: () => Applies;
  readonly #watch: Watch;
  /** The circle of conditions that it is in: all their fields apply. */
  #circle: readonly LiveCondition[] | undefined;

  constructor(node: BaseNode, evaluate: () => Applies) {
    this.#node = node;
    this.#evaluate = evaluate;
    const { kit } = node;
    this.#watch = kit.watch(() => kit.schedule(this));
    kit.schedule(this);
  }

  run(): void {
    const node = this.#node;
    if (node.removed) return this.#watch.untrack();
    const { applies, takenAt, verdict } = this.#watch.track(this.#evaluate);
    const before = this.#circle;
    const circle = circlesThrough<LiveCondition>(this, (condition) => condition.#conditionsRead());
    if (circle && !before) node.kit.fault(circleError(circle.map((member) => member.#node.key)), node.parent!, 'appliesWhen');
    // In a circle, or out of it: the others find out too.
    for (const member of new Set([...(before ?? []), ...(circle ?? [])])) {
      const its = circle?.includes(member) ? circle : undefined;
      if (member !== this && Boolean(member.#circle) !== Boolean(its)) node.kit.schedule(member);
      member.#circle = its;
    }
    node.setApplies(applies || circle !== undefined, node.disabled, takenAt);
    node.setVerdicts(this, FIRST, verdict ? [{ rule: undefined, verdict }] : []);
  }

  /** The conditions of the fields that it read. */
  *#conditionsRead(): Iterable<LiveCondition> {
    for (const { condition } of this.#watch.reads as readonly BaseNode[]) if (condition) yield condition as LiveCondition;
  }
}
