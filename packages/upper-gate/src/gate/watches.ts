// The callbacks of the schema that read several fields, as they live in one form.

import { MISSING } from '../schema/field.ts';
import { circleError } from '../schema/group.ts';
import type { AnyRule, Told, Verdict } from '../schema/rule.ts';
import { CRASHED } from '../schema/run.ts';
import { WAIT } from '../schema/siblings.ts';
import type { Cell } from './cell.ts';
import { stageOf } from './stage.ts';
import { Watch } from './tracking.ts';

/** A rule that reads more than one field, in one form. */
export interface Between {
  readonly rule: AnyRule;
  /** Whether a rule that asks for a value does so now. */
  readonly needed: boolean;
  run(): void;
}

/** A rule between fields: on one of a group's fields, or on a group or list as a whole. */
export class CrossWatch extends Watch implements Between {
  readonly rule: AnyRule;
  needed = false;
  readonly #target: Cell;
  /** The group, or list, that the rule may read. */
  readonly #around: Cell;
  readonly #order: number;
  /** Where its findings lie now. */
  #holders = new Set<Cell>();

  constructor(target: Cell, around: Cell, rule: AnyRule, order: number) {
    super();
    this.#target = target;
    this.#around = around;
    this.rule = rule;
    this.#order = order;
  }

  stale(): void {
    this.#target.engine.schedule(this);
  }

  run(): void {
    const told = this.#judge();
    const byHolder = new Map<Cell, Verdict[]>();
    for (const verdict of told === undefined ? [] : [told].flat()) {
      const [holder, own] = this.#place(verdict);
      byHolder.set(holder, [...(byHolder.get(holder) ?? []), own]);
    }
    for (const holder of this.#holders) if (!byHolder.has(holder)) holder.hold(this, this.#order, undefined, undefined);
    for (const [holder, verdicts] of byHolder) holder.hold(this, this.#order, this.rule, verdicts);
    this.#holders = new Set(byHolder.keys());
    this.#target.engine.reconsider(this.#target, 0);
  }

  #judge(): Told {
    const target = this.#target;
    const { engine } = target;
    const { rule } = this;
    if (!target.inForce || stageOf(rule, engine.on) > target.stage) {
      this.untrack();
      this.#need(false);
      return undefined;
    }
    try {
      return this.track(() => {
        if (rule.need) {
          this.#need(rule.need(this.#around.look() as never));
          return this.needed && target.blank ? MISSING : undefined;
        }
        // Reading and `required` go before every other rule.
        const value = target.look();
        return target.passes ? undefined : rule.judge!(value as never, this.#around.look() as never, engine.now);
      });
    } catch (error) {
      if (error === WAIT) return undefined;
      engine.fault(error, target, rule.name);
      return CRASHED;
    }
  }

  #need(needed: boolean): void {
    if (this.needed === needed) return;
    this.needed = needed;
    this.#target.engine.mark(this.#target);
  }

  /** A finding lies on the field that it names, where there is one: its path is that cell's then. */
  #place(verdict: Verdict): readonly [Cell, Verdict] {
    const cell = verdict.path === undefined ? undefined : this.#target.engine.find(verdict.path, this.#target);
    return cell?.inForce ? [cell, { ...verdict, path: undefined }] : [this.#target, verdict];
  }
}

/** What says whether a field applies: its condition in `.only()`, or the choice of its variant. */
export class Condition extends Watch {
  readonly #cell: Cell;
  readonly #holds: () => unknown;
  /** One of a circle: its field always applies. */
  #stuck = false;

  constructor(cell: Cell, holds: () => unknown) {
    super();
    this.#cell = cell;
    this.#holds = holds;
  }

  stale(): void {
    this.#cell.engine.schedule(this);
  }

  run(): void {
    if (this.#cell.removed) return;
    const { engine } = this.#cell;
    let holds = true;
    let crash: Verdict | undefined;
    try {
      holds = Boolean(this.track(this.#holds));
    } catch (error) {
      holds = error !== WAIT;
      if (holds) {
        engine.fault(error, this.#cell, 'only');
        crash = CRASHED;
      }
    }
    const circle = this.#stuck ? undefined : this.#circle(this, []);
    if (circle) {
      for (const { condition } of circle) {
        condition!.#stuck = true;
        engine.schedule(condition!);
      }
      engine.fault(circleError(circle.map(({ key }) => key)), this.#cell.parent!, 'only');
    }
    engine.setHolds(this.#cell, holds || this.#stuck);
    this.#cell.hold(this, -2, undefined, crash);
  }

  /** The cells whose conditions lead from here back to this condition. */
  #circle(start: Condition, way: readonly Cell[]): readonly Cell[] | undefined {
    for (const { condition } of this.reads as Cell[]) {
      if (condition === start) return [...way, this.#cell];
      if (condition === undefined || way.includes(this.#cell)) continue;
      const circle = condition.#circle(start, [...way, this.#cell]);
      if (circle) return circle;
    }
    return undefined;
  }
}
