// The callbacks of the schema that read several fields, as they live in one form.

import { circleError, circleThrough, type Applies } from '../evaluate/applies.ts';
import { verdictsIn, type Found } from '../evaluate/field.ts';
import type { Order } from '../evaluate/order.ts';
import { runRule } from '../evaluate/rule.ts';
import type { AnyRule, Verdict } from '../schema/rule.ts';
import type { Cell, CrossFieldRule, Scheduled } from './cell.ts';
import { Watch } from './tracking.ts';

/** A rule on one of a group's fields, or on a group or list as a whole. */
export class CrossFieldWatch extends Watch implements CrossFieldRule {
  readonly isCondition = false;
  readonly rule: AnyRule;
  requires = false;
  readonly #target: Cell;
  /** The group, or list, that the rule may read. */
  readonly #scope: Cell;
  readonly #order: Order;
  /** Where its findings are now. */
  #holders = new Set<Cell>();

  constructor(target: Cell, scope: Cell, rule: AnyRule, order: Order) {
    super();
    this.#target = target;
    this.#scope = scope;
    this.rule = rule;
    this.#order = order;
  }

  invalidate(): void {
    this.#target.store.schedule(this);
  }

  run(): void {
    const byHolder = new Map<Cell, Found[]>();
    for (const verdict of this.#verdicts()) {
      const [holder, own] = this.#place(verdict);
      const found = byHolder.get(holder);
      if (found) found.push({ rule: this.rule, verdict: own });
      else byHolder.set(holder, [{ rule: this.rule, verdict: own }]);
    }
    for (const holder of this.#holders) if (!byHolder.has(holder)) holder.setVerdicts(this, this.#order, []);
    for (const [holder, found] of byHolder) holder.setVerdicts(this, this.#order, found);
    this.#holders = new Set(byHolder.keys());
    this.#target.store.updateAsync(this.#target, 0);
  }

  #verdicts(): readonly Verdict[] {
    const target = this.#target;
    if (!target.applies || !target.isDue(this.rule)) {
      this.untrack();
      this.#setRequires(false);
      return [];
    }
    return verdictsIn(
      this.track(() => runRule(this.rule, target, [this.#scope.readForRule()], target, (requires) => this.#setRequires(requires))),
    );
  }

  #setRequires(requires: boolean): void {
    if (this.requires === requires) return;
    this.requires = requires;
    this.#target.store.markChanged(this.#target);
  }

  /** A finding belongs to the field that it names, if that applies: its path is that cell's then. */
  #place(verdict: Verdict): readonly [Cell, Verdict] {
    const cell = verdict.path === undefined ? undefined : this.#target.store.find(verdict.path, this.#target);
    return cell?.applies ? [cell, { ...verdict, path: undefined }] : [this.#target, verdict];
  }
}

/** What decides whether a field applies: its conditions in `.appliesWhen()`, or the choice of its variant. */
export class AppliesCondition extends Watch implements Scheduled {
  readonly isCondition = true;
  readonly #cell: Cell;
  readonly #evaluate: () => Applies;
  /** The circle of conditions that it is in: all their fields apply. */
  #circle: readonly AppliesCondition[] | undefined;

  constructor(cell: Cell, evaluate: () => Applies) {
    super();
    this.#cell = cell;
    this.#evaluate = evaluate;
  }

  invalidate(): void {
    this.#cell.store.schedule(this);
  }

  run(): void {
    if (this.#cell.removed) return;
    const { store } = this.#cell;
    const { applies, verdict } = this.track(this.#evaluate);
    const before = this.#circle;
    const circle = circleThrough<AppliesCondition>(this, (condition) => condition.#conditionsRead());
    if (circle && !before) {
      for (const member of circle) member.#circle = circle;
      store.fault(circleError(circle.map((member) => member.#cell.key)), this.#cell.parent!, 'appliesWhen');
    } else if (!circle && before) {
      for (const member of before) member.#circle = undefined;
    }
    // In a circle, or out of it: the others find out too.
    if (Boolean(circle) !== Boolean(before)) for (const member of circle ?? before!) if (member !== this) store.schedule(member);
    store.setConditionHolds(this.#cell, applies || circle !== undefined);
    this.#cell.setVerdicts(this, { depth: Infinity, index: 0 }, verdict ? [{ rule: undefined, verdict }] : []);
  }

  /** The conditions of the fields that it read. */
  *#conditionsRead(): Iterable<AppliesCondition> {
    for (const { condition } of this.reads as Cell[]) if (condition instanceof AppliesCondition) yield condition;
  }
}
