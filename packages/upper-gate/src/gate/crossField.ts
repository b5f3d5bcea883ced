// The callbacks of the schema that read several fields, as they live in one form.

import { VALUE_MISSING } from '../schema/field.ts';
import { circleError } from '../schema/group.ts';
import type { AnyRule, RuleResult, Verdict } from '../schema/rule.ts';
import { CRASHED } from '../schema/walk.ts';
import { WAITING } from '../schema/siblings.ts';
import type { Cell } from './cell.ts';
import { stageOf } from './stage.ts';
import { Watch } from './tracking.ts';

/** A rule that reads more than one field, in one form. */
export interface CrossFieldRule {
  readonly rule: AnyRule;
  /** Whether a rule that asks for a value does so now. */
  readonly requires: boolean;
  run(): void;
}

/** A rule between fields: on one of a group's fields, or on a group or list as a whole. */
export class CrossFieldWatch extends Watch implements CrossFieldRule {
  readonly rule: AnyRule;
  requires = false;
  readonly #target: Cell;
  /** The group, or list, that the rule may read. */
  readonly #scope: Cell;
  readonly #order: number;
  /** Where its findings lie now. */
  #holders = new Set<Cell>();

  constructor(target: Cell, scope: Cell, rule: AnyRule, order: number) {
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
    const result = this.#run();
    const byHolder = new Map<Cell, Verdict[]>();
    for (const verdict of result === undefined ? [] : [result].flat()) {
      const [holder, own] = this.#holderOf(verdict);
      byHolder.set(holder, [...(byHolder.get(holder) ?? []), own]);
    }
    for (const holder of this.#holders) if (!byHolder.has(holder)) holder.setVerdicts(this, this.#order, undefined, undefined);
    for (const [holder, verdicts] of byHolder) holder.setVerdicts(this, this.#order, this.rule, verdicts);
    this.#holders = new Set(byHolder.keys());
    this.#target.store.updateAsync(this.#target, 0);
  }

  #run(): RuleResult {
    const target = this.#target;
    const { store } = target;
    const { rule } = this;
    if (!target.applies || stageOf(rule, store.on) > target.stage) {
      this.untrack();
      this.#setRequires(false);
      return undefined;
    }
    try {
      return this.track(() => {
        if (rule.requires) {
          this.#setRequires(rule.requires(this.#scope.readForRule() as never));
          return this.requires && target.empty ? VALUE_MISSING : undefined;
        }
        // Reading and `required` go before every other rule.
        const value = target.readForRule();
        return target.skipsRules ? undefined : rule.test!(value as never, this.#scope.readForRule() as never, store.now);
      });
    } catch (error) {
      if (error === WAITING) return undefined;
      store.fault(error, target, rule.name);
      return CRASHED;
    }
  }

  #setRequires(needed: boolean): void {
    if (this.requires === needed) return;
    this.requires = needed;
    this.#target.store.markChanged(this.#target);
  }

  /** A finding lies on the field that it names, where there is one: its path is that cell's then. */
  #holderOf(verdict: Verdict): readonly [Cell, Verdict] {
    const cell = verdict.path === undefined ? undefined : this.#target.store.find(verdict.path, this.#target);
    return cell?.applies ? [cell, { ...verdict, path: undefined }] : [this.#target, verdict];
  }
}

/** What says whether a field applies: its condition in `.appliesWhen()`, or the choice of its variant. */
export class AppliesCondition extends Watch {
  readonly #cell: Cell;
  readonly #holds: () => unknown;
  /** One of a circle: its field always applies. */
  #stuck = false;

  constructor(cell: Cell, holds: () => unknown) {
    super();
    this.#cell = cell;
    this.#holds = holds;
  }

  invalidate(): void {
    this.#cell.store.schedule(this);
  }

  run(): void {
    if (this.#cell.removed) return;
    const { store } = this.#cell;
    let holds = true;
    let crash: Verdict | undefined;
    try {
      holds = Boolean(this.track(this.#holds));
    } catch (error) {
      holds = error !== WAITING;
      if (holds) {
        store.fault(error, this.#cell, 'appliesWhen');
        crash = CRASHED;
      }
    }
    const circle = this.#stuck ? undefined : this.#circle(this, []);
    if (circle) {
      for (const { condition } of circle) {
        condition!.#stuck = true;
        store.schedule(condition!);
      }
      store.fault(circleError(circle.map(({ key }) => key)), this.#cell.parent!, 'appliesWhen');
    }
    store.setConditionHolds(this.#cell, holds || this.#stuck);
    this.#cell.setVerdicts(this, -2, undefined, crash);
  }

  /** The cells whose conditions lead from here back to this condition. */
  #circle(start: AppliesCondition, way: readonly Cell[]): readonly Cell[] | undefined {
    for (const { condition } of this.reads as Cell[]) {
      if (condition === start) return [...way, this.#cell];
      if (condition === undefined || way.includes(this.#cell)) continue;
      const circle = condition.#circle(start, [...way, this.#cell]);
      if (circle) return circle;
    }
    return undefined;
  }
}
