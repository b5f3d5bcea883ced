// The rule that no two rows are the same, as it lives in one form. Rows are kept by what they are compared by, so that an
// edit costs what the rows of its old and its new value cost, not what the list does.

import type { AnyRule, Distinct } from '../schema/rule.ts';
import type { Cell, ListCell } from './cell.ts';
import { stageOf } from './stage.ts';
import { read, Watch } from './tracking.ts';
import type { Between } from './watches.ts';

/** What one row is compared by. */
class RowKey extends Watch {
  /** Nothing where the row has no value to be compared. */
  key: unknown;
  readonly row: Cell;
  readonly #list: DistinctWatch;

  constructor(row: Cell, list: DistinctWatch) {
    super();
    this.row = row;
    this.#list = list;
  }

  stale(): void {
    this.#list.rowStale(this);
  }

  compute({ keyOf }: Distinct): void {
    this.key = this.track(() => keyOf(() => this.row.look()));
  }

  forget(): void {
    this.untrack();
  }
}

export class DistinctWatch extends Watch implements Between {
  readonly rule: AnyRule;
  readonly needed = false;
  readonly #list: ListCell;
  readonly #order: number;
  readonly #rows = new Map<Cell, RowKey>();
  /** The rows of each key, in no order. */
  readonly #alike = new Map<unknown, Set<Cell>>();
  /** How many keys have no rows any more. Taking one out of a large map is dear: it is done for many at once. */
  #empty = 0;
  readonly #staleRows = new Set<RowKey>();
  #rearranged = true;

  constructor(list: ListCell, rule: AnyRule, order: number) {
    super();
    this.rule = rule;
    this.#list = list;
    this.#order = order;
  }

  /** The list has other rows, or another order of them. */
  stale(): void {
    this.#rearranged = true;
    this.#list.engine.schedule(this);
  }

  rowStale(row: RowKey): void {
    this.#staleRows.add(row);
    this.#list.engine.schedule(this);
  }

  run(): void {
    const list = this.#list;
    if (!list.inForce || stageOf(this.rule, list.engine.on) > list.stage) {
      this.#rows.forEach((row) => this.#drop(row));
      this.#alike.clear();
      this.#empty = 0;
      this.untrack();
      this.#rearranged = true;
      return;
    }
    const keys = new Set<unknown>();
    if (this.#rearranged) this.#arrange(keys);
    for (const row of this.#staleRows) {
      this.#leave(row, keys);
      row.compute(this.rule.distinct!);
      this.#enter(row, keys);
    }
    this.#staleRows.clear();
    for (const key of keys) this.#tell(this.#alike.get(key));
    this.#sweep();
    list.engine.reconsider(list, 0);
  }

  #arrange(keys: Set<unknown>): void {
    this.#rearranged = false;
    this.track(() => read(this.#list));
    const now = new Set(this.#list.kids);
    for (const row of this.#rows.values()) {
      if (now.has(row.row)) continue;
      this.#leave(row, keys);
      this.#drop(row);
    }
    for (const cell of now) {
      if (this.#rows.has(cell)) continue;
      const row = new RowKey(cell, this);
      this.#rows.set(cell, row);
      this.#staleRows.add(row);
    }
    // Findings tell the numbers of rows, which may be others now.
    for (const [key, rows] of this.#alike) if (rows.size > 1) keys.add(key);
  }

  #enter(row: RowKey, keys: Set<unknown>): void {
    if (row.key === undefined) return;
    let rows = this.#alike.get(row.key);
    if (!rows) this.#alike.set(row.key, (rows = new Set()));
    else if (rows.size === 0) this.#empty -= 1;
    rows.add(row.row);
    keys.add(row.key);
  }

  #leave(row: RowKey, keys: Set<unknown>): void {
    const rows = this.#alike.get(row.key);
    if (!rows) return;
    rows.delete(row.row);
    if (rows.size === 0) this.#empty += 1;
    keys.add(row.key);
    this.#holderOf(row.row).hold(this, this.#order, undefined, undefined);
  }

  #sweep(): void {
    if (this.#empty <= this.#rows.size + 16) return;
    for (const [key, rows] of this.#alike) if (rows.size === 0) this.#alike.delete(key);
    this.#empty = 0;
  }

  #drop(row: RowKey): void {
    row.forget();
    this.#rows.delete(row.row);
    this.#staleRows.delete(row);
    this.#holderOf(row.row).hold(this, this.#order, undefined, undefined);
  }

  /** The first of the rows that are alike stands; the others are told. */
  #tell(rows: ReadonlySet<Cell> | undefined): void {
    if (!rows || rows.size === 0) return;
    const [first, ...others] = [...rows].sort((a, b) => Number(a.key) - Number(b.key));
    this.#holderOf(first!).hold(this, this.#order, undefined, undefined);
    for (const row of others) {
      const verdict = this.rule.distinct!.verdict(Number(row.key), Number(first!.key));
      this.#holderOf(row).hold(this, this.#order, this.rule, { ...verdict, path: undefined });
    }
  }

  #holderOf(row: Cell): Cell {
    const { by } = this.rule.distinct!;
    return (by === undefined ? undefined : row.engine.find(by, row)) ?? row;
  }
}
