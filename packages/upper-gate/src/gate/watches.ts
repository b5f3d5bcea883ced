// The callbacks of the schema that read several fields, as they live in one form.

import { circleError } from '../schema/group.ts';
import { MISSING } from '../schema/field.ts';
import type { AnyRule, Verdict } from '../schema/rule.ts';
import { CRASHED } from '../schema/run.ts';
import { WAIT } from '../schema/siblings.ts';
import type { Cell, GroupCell } from './cell.ts';
import { stageOf } from './stage.ts';
import { Watch } from './tracking.ts';

/** A rule between fields: on one of the group's fields, or on the group as a whole. */
export class CrossWatch extends Watch {
  /** Whether a rule that asks for a value does so now. */
  needed = false;
  readonly #target: Cell;
  readonly #group: GroupCell;
  readonly rule: AnyRule;
  readonly #order: number;
  /** Where its finding lies now. */
  #holder: Cell;

  constructor(target: Cell, group: GroupCell, rule: AnyRule, order: number) {
    super();
    this.#target = target;
    this.#group = group;
    this.rule = rule;
    this.#order = order;
    this.#holder = target;
  }

  stale(): void {
    this.#target.engine.schedule(this);
  }

  run(): void {
    const verdict = this.#judge();
    const holder = verdict?.path === undefined ? this.#target : this.#placeOf(verdict.path);
    if (holder !== this.#holder) this.drop();
    this.#holder = holder;
    const { engine } = this.#target;
    // A finding on a field that has a cell of its own lies there; the path is that cell's.
    holder.hold(this, this.#order, this.rule, verdict && holder !== this.#target ? { ...verdict, path: undefined } : verdict);
    engine.reconsider(this.#target, 0);
  }

  /** Takes back what it found. */
  drop(): void {
    this.#holder.hold(this, this.#order, undefined, undefined);
  }

  #judge(): Verdict | undefined {
    const target = this.#target;
    const { engine } = target;
    if (!target.inForce || stageOf(this.rule, engine.on) > target.stage) {
      this.untrack();
      this.#need(false);
      return undefined;
    }
    try {
      return this.track(() => {
        const rule = this.rule;
        if (rule.need) {
          const needed = rule.need(this.#group.view as never);
          this.#need(needed);
          return needed && target.part.isBlank(target.data) ? MISSING : undefined;
        }
        // Reading and `required` go before every other rule.
        const value = target.look();
        return value === undefined ? undefined : rule.judge!(value as never, this.#group.view as never);
      });
    } catch (error) {
      if (error === WAIT) return undefined;
      engine.fault(error, target, this.rule.name);
      return CRASHED;
    }
  }

  #need(needed: boolean): void {
    if (this.needed === needed) return;
    this.needed = needed;
    this.#target.engine.mark(this.#target);
  }

  #placeOf(path: string): Cell {
    const cell = this.#target.engine.find(path, this.#target);
    return cell?.inForce ? cell : this.#target;
  }
}

/** The condition of a field in `.only()`. */
export class Condition extends Watch {
  readonly #cell: Cell;
  readonly #group: GroupCell;
  readonly #predicate: (siblings: unknown) => unknown;
  /** One of a circle: its field always applies. */
  #stuck = false;

  constructor(cell: Cell, group: GroupCell, predicate: (siblings: unknown) => unknown) {
    super();
    this.#cell = cell;
    this.#group = group;
    this.#predicate = predicate;
  }

  stale(): void {
    this.#cell.engine.schedule(this);
  }

  run(): void {
    const { engine } = this.#cell;
    let holds = true;
    let crash: Verdict | undefined;
    try {
      holds = Boolean(this.track(() => this.#predicate(this.#group.view)));
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
      engine.fault(circleError(circle.map(({ key }) => key)), this.#group, 'only');
    }
    engine.setApplies(this.#cell, holds || this.#stuck);
    this.#cell.hold(this, -2, undefined, crash);
  }

  /** The cells whose conditions lead from here back to this condition. */
  #circle(start: Condition, way: readonly Cell[]): readonly Cell[] | undefined {
    for (const cell of this.reads as Cell[]) {
      const { condition } = cell;
      if (condition === start) return [...way, this.#cell];
      if (condition === undefined || way.includes(this.#cell)) continue;
      const circle = condition.#circle(start, [...way, this.#cell]);
      if (circle) return circle;
    }
    return undefined;
  }
}
