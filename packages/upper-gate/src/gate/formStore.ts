// What happens on an event: the field reads and validates its value, the callbacks that read it run again, async rules
// start, and listeners are called, once, when the outermost operation is over.

import type { Fault } from '../evaluate/evaluation.ts';
import { evaluateField } from '../evaluate/field.ts';
import type { Order } from '../evaluate/order.ts';
import type { Catalogue } from '../messages/text.ts';
import type { AnyRule, Clock, Stage } from '../schema/rule.ts';
import { COUNTS, FieldCell, ListCell, type Cell, type RowsThen, type Scheduled, type Store } from './cell.ts';
import { rank, stageOf } from './stage.ts';
import { changed } from './tracking.ts';
import { ownValue } from './values.ts';

/** The source of what reading and the rules of a field itself find. */
const OWN = {};
/** Before all others, but for a condition that threw. */
const OWN_ORDER: Order = { depth: Infinity, index: 1 };

export class FormStore implements Store {
  /** The first event at which rules run that do not say. */
  readonly on: Stage;
  readonly revealAt: Stage;
  catalogue: Catalogue | undefined;
  /** Counts edits. */
  edits = 0;
  readonly now: Clock;
  root!: Cell;
  /** Called when an operation is over, before the listeners. */
  onFlush: (() => void) | undefined;
  /** Told of the cells that have changed, where somebody wants to know. */
  onChanged: ((cells: Iterable<Cell>) => void) | undefined;
  readonly #onFault: (fault: Fault) => void;
  #depth = 0;
  readonly #conditions = new Set<Scheduled>();
  readonly #watches = new Set<Scheduled>();
  /** New cells, to be validated as soon as it is known which of them apply. */
  readonly #fresh = new Set<Cell>();
  /** Cells whose questions are to be looked at, with the rank of the event. */
  readonly #asyncUpdates = new Map<Cell, number>();
  readonly #changed = new Set<Cell>();
  #waiting: { readonly cells: readonly Cell[]; readonly resolve: () => void }[] = [];

  constructor(on: Stage, reveal: Stage, catalogue: Catalogue | undefined, now: Clock, onFault: (fault: Fault) => void) {
    this.on = on;
    this.revealAt = reveal;
    this.catalogue = catalogue;
    this.now = now;
    this.#onFault = onFault;
  }

  fault(error: unknown, cell: Cell, rule: string): void {
    this.#onFault({ error, path: cell.path, rule });
  }

  /**
   * The cell at a path below another.
   *
   * @param rowsThen the rows of lists as they were when the path was written; default: as they are
   */
  find(path: string, from: Cell = this.root, rowsThen?: RowsThen): Cell | undefined {
    let cell: Cell | undefined = from;
    if (path !== '') for (const key of path.split('.')) cell = rowsThen?.get(cell!)?.[Number(key)] ?? cell?.child(key);
    return cell;
  }

  /** The rows of every list, to find them again when they have moved. */
  rowsNow(): RowsThen {
    const rows = new Map<Cell, readonly Cell[]>();
    for (const cell of this.root.cells()) if (cell instanceof ListCell) rows.set(cell, [...cell.children]);
    return rows;
  }

  /** Runs something that may change several cells: callbacks run, and listeners are called, once, after it. */
  batch<T>(operation: () => T): T {
    this.#depth += 1;
    try {
      return operation();
    } finally {
      this.#depth -= 1;
      if (this.#depth === 0) this.#flush();
    }
  }

  schedule(callback: Scheduled): void {
    (callback.isCondition ? this.#conditions : this.#watches).add(callback);
  }

  updateAsync(cell: Cell, event: number): void {
    if (cell.asyncRunners) this.#asyncUpdates.set(cell, Math.max(event, this.#asyncUpdates.get(cell) ?? 0));
  }

  /** Notes that what a cell shows has changed. */
  markChanged(cell: Cell): void {
    this.#changed.add(cell);
    // A change is one of every group around it, too.
    for (let at: Cell | undefined = cell; at !== undefined; at = at.parent) at.snapshot = undefined;
  }

  /** Resolves as soon as no answer is awaited below these cells any more. */
  whenSettled(cells: readonly Cell[]): Promise<void> {
    return new Promise((resolve) => this.#waiting.push({ cells, resolve }));
  }

  /** Gives a field another raw value (or data, which is written as raw). */
  edit(cell: FieldCell, value: unknown): void {
    this.batch(() => {
      const raw = cell.write(value);
      cell.asyncEnabled = true;
      if (this.#revealOf(cell) === 'change') this.reveal(cell);
      if (cell.same(raw, cell.raw)) return;
      this.#noteEdit(cell);
      this.#replace(cell, raw);
    });
  }

  /** The value has changed: findings and runs for the old one are dropped. */
  #noteEdit(cell: Cell): void {
    this.edits += 1;
    cell.editedAt = this.edits;
    // The groups around it have changed too: their server findings and async runs are dropped.
    for (let at: Cell | undefined = cell; at !== undefined; at = at.parent) {
      at.clearServerFindings();
      this.updateAsync(at, 0);
    }
  }

  /**
   * Gives a list other rows, or another order of them: an edit of the list. Rows that stay keep all that they have.
   *
   * @param come the rows that were not there before
   * @param go those that are there no more
   */
  arrange(list: ListCell, rows: Cell[], come: readonly Cell[], go: readonly Cell[]): void {
    this.batch(() => {
      this.#noteEdit(list);
      list.asyncEnabled = true;
      this.#setRows(list, rows, come, go, 1);
    });
  }

  #setRows(list: ListCell, rows: Cell[], come: readonly Cell[], go: readonly Cell[], edited: 0 | 1): void {
    go.forEach((row) => this.#remove(row));
    list.arrange(rows, edited);
    come.forEach((row) => this.start(row));
    changed(list);
  }

  /** A row goes: nothing of it counts, runs or waits any more. */
  #remove(row: Cell): void {
    for (const cell of row.cells()) {
      cell.asyncRunners?.forEach((runner) => runner.cancel());
      cell.clearFindings();
      cell.crossRules?.forEach((watch) => this.#watches.add(watch));
      this.markChanged(cell);
    }
    for (const what of COUNTS) if (row[what] !== 0) row.parent!.count(what, -row[what]);
    for (const cell of row.cells()) cell.removed = true;
  }

  /** Validates new cells as soon as it is known which of them apply. */
  start(cell: Cell): void {
    this.batch(() => this.#fresh.add(cell));
  }

  /** Sets a raw value and validates it; not an edit of the user. */
  #replace(cell: FieldCell, raw: unknown): void {
    const differs = cell.setRaw(raw);
    this.markChanged(cell);
    cell.asyncRunners?.forEach((runner) => runner.cancel());
    this.runRules(cell);
    if (differs) changed(cell);
  }

  /** The person has left a field. */
  blur(cell: Cell): void {
    this.batch(() => {
      if (cell.touched === 0) cell.count('touched', 1);
      this.#advance(cell, 'blur');
      if (rank(this.#revealOf(cell)) <= rank('blur')) this.reveal(cell);
    });
  }

  /** Runs every rule below a cell, reveals the findings, and starts the async rules that are due. */
  validateAll(cell: Cell): void {
    this.batch(() => {
      for (const each of cell.cells()) {
        this.#advance(each, 'submit');
        this.reveal(each);
      }
    });
  }

  /** Starts over: with other initial values, if there are any; nothing seen, nothing asked. */
  reset(initial: unknown): void {
    this.batch(() => {
      this.edits += 1;
      this.#restart(this.root, initial, initial !== undefined);
    });
  }

  /** Takes over new values from outside: a field that was edited keeps the edit; what is not named stays. */
  rebase(values: unknown): void {
    this.batch(() => this.#rebase(this.root, values));
  }

  #rebase(cell: Cell, value: unknown): void {
    if (cell instanceof FieldCell) {
      const edited = cell.dirty > 0;
      cell.initial = cell.write(value);
      if (edited) cell.setRaw(cell.raw);
      else if (!cell.same(cell.raw, cell.initial)) {
        this.#noteEdit(cell);
        this.#replace(cell, cell.initial);
      }
    } else if (cell instanceof ListCell) {
      if (!Array.isArray(value)) return;
      cell.initial = value;
      if (cell.rearranged) return;
      const { children } = cell;
      const rows = value.map((row, i) => {
        const child = children[i];
        if (child) this.#rebase(child, row);
        return child ?? cell.createRow(row);
      });
      // Rows that are no more outside, but were edited here, stay.
      const kept = children.slice(value.length).filter((row) => row.dirty > 0);
      if (rows.length !== children.length) this.#noteEdit(cell);
      const go = children.slice(value.length).filter((row) => row.dirty === 0);
      this.#setRows(cell, [...rows, ...kept], rows.slice(children.length), go, kept.length > 0 ? 1 : 0);
    } else {
      for (const child of cell.children) {
        if (child.key === '') this.#rebase(child, value);
        else if (typeof value === 'object' && value !== null && Object.hasOwn(value, child.key))
          this.#rebase(child, ownValue(value, child.key));
      }
    }
  }

  #restart(cell: Cell, initial: unknown, given: boolean): void {
    cell.stage = 0;
    cell.asyncEnabled = false;
    cell.revealed = false;
    cell.lastVerdict = undefined;
    cell.editedAt = this.edits;
    cell.asyncRunners?.forEach((runner) => runner.forget());
    cell.clearServerFindings();
    if (cell instanceof FieldCell) {
      if (cell.touched > 0) cell.count('touched', -1);
      if (given) cell.initial = cell.write(initial);
      this.#replace(cell, cell.initial);
    } else if (cell instanceof ListCell) {
      if (given) cell.initial = Array.isArray(initial) ? initial : [];
      const rows = cell.initial.map(cell.createRow);
      this.#setRows(cell, rows, rows, cell.children, 0);
    } else {
      // The fields of a variant's case are beside its key.
      for (const child of cell.children) this.#restart(child, child.key === '' ? initial : ownValue(initial, child.key), given);
    }
    this.runRules(cell);
  }

  /** Runs the rules of a cell itself, and has its cross-field rules run. */
  runRules(cell: Cell): void {
    cell.crossRules?.forEach((watch) => this.#watches.add(watch));
    if (cell instanceof FieldCell && cell.applies) cell.setVerdicts(OWN, OWN_ORDER, evaluateField(cell.part, cell.value, cell));
  }

  /** A condition has run. */
  setConditionHolds(cell: Cell, holds: boolean): void {
    cell.conditionHolds = holds;
    this.#setApplies(cell);
  }

  /** As in HTML: what is disabled is neither validated nor sent. */
  setDisabled(cell: Cell, disabled: boolean): void {
    this.batch(() => {
      cell.disabled = disabled;
      this.#setApplies(cell);
    });
  }

  /** The field applies from now on, or does not. */
  #setApplies(cell: Cell): void {
    const applies = cell.conditionHolds && !cell.disabled;
    if (cell.ownApplies === applies) return;
    cell.ownApplies = applies;
    changed(cell);
    for (const each of cell.cells()) {
      this.markChanged(each);
      if (each.applies) {
        this.runRules(each);
        this.updateAsync(each, 0);
      } else {
        each.clearFindings();
        each.asyncRunners?.forEach((runner) => runner.cancel());
        each.crossRules?.forEach((watch) => this.#watches.add(watch));
      }
    }
  }

  /** An event of a stage has come to a cell. */
  #advance(cell: Cell, stage: Stage): void {
    const event = rank(stage);
    cell.asyncEnabled = true;
    if (cell.stage < event) {
      cell.stage = event;
      if (this.#hasLateRules(cell)) this.runRules(cell);
    }
    this.updateAsync(cell, event);
  }

  /** Whether rules here have not run since the first event. */
  #hasLateRules(cell: Cell): boolean {
    const late = (rule: AnyRule): boolean => stageOf(rule, this.on) > 0;
    return cell.part.ruleList.some(late) || (cell.crossRules?.some((watch) => late(watch.rule)) ?? false);
  }

  #revealOf(cell: Cell): Stage {
    return cell.part.reveal ?? this.revealAt;
  }

  /** Lets the person see what is found here, from now on. */
  reveal(cell: Cell): void {
    if (cell.revealed) return;
    cell.revealed = true;
    this.markChanged(cell);
  }

  #flush(): void {
    // Whatever a callback or a listener does on the way joins this flush.
    this.#depth += 1;
    try {
      while (this.#conditions.size + this.#fresh.size + this.#watches.size + this.#asyncUpdates.size > 0) {
        const condition = first(this.#conditions);
        const fresh = condition ? undefined : first(this.#fresh);
        const watch = condition ?? (fresh ? undefined : first(this.#watches));
        if (watch) {
          watch.run();
        } else if (fresh) {
          for (const cell of fresh.cells()) this.runRules(cell);
        } else {
          for (const [cell, event] of [...this.#asyncUpdates]) {
            this.#asyncUpdates.delete(cell);
            cell.asyncRunners!.forEach((runner) => runner.update(event));
          }
        }
      }
    } finally {
      this.#depth -= 1;
    }
    this.onFlush?.();
    this.#notify();
  }

  #notify(): void {
    if (this.#waiting.length > 0) {
      this.#waiting = this.#waiting.filter(({ cells, resolve }) => {
        const settled = cells.every((cell) => cell.pending === 0);
        if (settled) resolve();
        return !settled;
      });
    }
    if (this.onChanged) this.onChanged([...this.#changed]);
    const heard = new Set<() => void>();
    for (const cell of this.#changed) {
      for (let at: Cell | undefined = cell; at !== undefined; at = at.parent) at.listeners?.forEach((listener) => heard.add(listener));
    }
    this.#changed.clear();
    for (const listener of heard) {
      try {
        listener();
      } catch (error) {
        // The other listeners are called all the same.
        this.fault(error, this.root, 'listener');
      }
    }
  }
}

/** Takes the first out of a set. */
function first<T>(set: Set<T>): T | undefined {
  for (const item of set) {
    set.delete(item);
    return item;
  }
  return undefined;
}
