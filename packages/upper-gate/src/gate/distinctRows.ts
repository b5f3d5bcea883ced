// The rule that no two rows are the same, as it lives in one form. Rows are kept by what they are compared by, so that an
// edit costs what the rows of its old and its new value cost, not what the list does.

import type { Order } from '../evaluate/order.ts';
import type { AnyRule, Distinct } from '../schema/rule.ts';
import type { Cell, CrossFieldRule, ListCell } from './cell.ts';
import { read, Watch } from './tracking.ts';

/** What one row is compared by. */
class RowKey extends Watch {
  /** Nothing where the row has no value to be compared. */
  key: unknown;
  readonly row: Cell;
  readonly #list: DistinctRowsWatch;

  constructor(row: Cell, list: DistinctRowsWatch) {
    super();
    this.row = row;
    this.#list = list;
  }

  invalidate(): void {
    this.#list.invalidateRow(this);
  }

  compute({ keyOf }: Distinct): void {
    this.key = this.track(() => keyOf(() => this.row.readForRule()));
  }

  forget(): void {
    this.untrack();
  }
}

export class DistinctRowsWatch extends Watch implements CrossFieldRule {
  readonly isCondition = false;
  readonly rule: AnyRule;
  readonly requires = false;
  readonly #list: ListCell;
  readonly #order: Order;
  readonly #rows = new Map<Cell, RowKey>();
  /** The rows of each key, in no order. */
  readonly #rowsByKey = new Map<unknown, Set<Cell>>();
  /** How many keys have no rows any more. Taking one out of a large map is dear: it is done for many at once. */
  #empty = 0;
  readonly #invalidRows = new Set<RowKey>();
  #rearranged = true;

  constructor(list: ListCell, rule: AnyRule, order: Order) {
    super();
    this.rule = rule;
    this.#list = list;
    this.#order = order;
  }

  /** The list has other rows, or another order of them. */
  invalidate(): void {
    this.#rearranged = true;
    this.#list.store.schedule(this);
  }

  invalidateRow(row: RowKey): void {
    this.#invalidRows.add(row);
    this.#list.store.schedule(this);
  }

  run(): void {
    const list = this.#list;
    if (!list.applies || !list.isDue(this.rule)) {
      this.#rows.forEach((row) => this.#drop(row));
      this.#rowsByKey.clear();
      this.#empty = 0;
      this.untrack();
      this.#rearranged = true;
      return;
    }
    const keys = new Set<unknown>();
    if (this.#rearranged) this.#arrange(keys);
    for (const row of this.#invalidRows) {
      this.#leave(row, keys);
      row.compute(this.rule.distinct!);
      this.#enter(row, keys);
    }
    this.#invalidRows.clear();
    for (const key of keys) this.#updateVerdicts(this.#rowsByKey.get(key));
    this.#sweep();
    list.store.updateAsync(list, 0);
  }

  #arrange(keys: Set<unknown>): void {
    this.#rearranged = false;
    this.track(() => read(this.#list));
    const now = new Set(this.#list.children);
    for (const row of this.#rows.values()) {
      if (now.has(row.row)) continue;
      this.#leave(row, keys);
      this.#drop(row);
    }
    for (const cell of now) {
      if (this.#rows.has(cell)) continue;
      const row = new RowKey(cell, this);
      this.#rows.set(cell, row);
      this.#invalidRows.add(row);
    }
    // Findings tell the numbers of rows, which may be others now.
    for (const [key, rows] of this.#rowsByKey) if (rows.size > 1) keys.add(key);
  }

  #enter(row: RowKey, keys: Set<unknown>): void {
    if (row.key === undefined) return;
    let rows = this.#rowsByKey.get(row.key);
    if (!rows) this.#rowsByKey.set(row.key, (rows = new Set()));
    else if (rows.size === 0) this.#empty -= 1;
    rows.add(row.row);
    keys.add(row.key);
  }

  #leave(row: RowKey, keys: Set<unknown>): void {
    const rows = this.#rowsByKey.get(row.key);
    if (!rows) return;
    rows.delete(row.row);
    if (rows.size === 0) this.#empty += 1;
    keys.add(row.key);
    this.#holderOf(row.row).setVerdicts(this, this.#order, []);
  }

  #sweep(): void {
    if (this.#empty <= this.#rows.size + 16) return;
    for (const [key, rows] of this.#rowsByKey) if (rows.size === 0) this.#rowsByKey.delete(key);
    this.#empty = 0;
  }

  #drop(row: RowKey): void {
    row.forget();
    this.#rows.delete(row.row);
    this.#invalidRows.delete(row);
    this.#holderOf(row.row).setVerdicts(this, this.#order, []);
  }

  /** The first of equal rows passes; the others get the finding. */
  #updateVerdicts(rows: ReadonlySet<Cell> | undefined): void {
    if (!rows || rows.size === 0) return;
    const [first, ...others] = [...rows].sort((a, b) => Number(a.key) - Number(b.key));
    this.#holderOf(first!).setVerdicts(this, this.#order, []);
    for (const row of others) {
      const verdict = this.rule.distinct!.verdict(Number(row.key), Number(first!.key));
      this.#holderOf(row).setVerdicts(this, this.#order, [{ rule: this.rule, verdict: { ...verdict, path: undefined } }]);
    }
  }

  #holderOf(row: Cell): Cell {
    const { by } = this.rule.distinct!;
    return (by === undefined ? undefined : row.store.find(by, row)) ?? row;
  }
}
