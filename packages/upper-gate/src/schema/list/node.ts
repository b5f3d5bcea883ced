// A list in one form: its rows, which come, go and move. State belongs to the row, not to its index.

import { DEV, explain } from '#development';
import type { BaseNodeClass, LiveNode, LiveRows, NodeClass, NodeKit, Recorder } from '../kit.ts';
import { NO_VALUE } from '../noValue.ts';
import type { Part } from '../part.ts';
import { removeNode } from '../removeNode.ts';
import { rowsHandle } from './handle.ts';
import { makeListView } from './view.ts';

/** What a list node needs to know of its part. */
interface ListLike extends Part {
  readonly part: Part;
}
type Row = LiveNode<Part>;

const NOTHING: readonly never[] = [];

/** A value as rows; nothing if it is no list. */
const listOf = (value: unknown): readonly unknown[] | undefined => (Array.isArray(value) ? (value as readonly unknown[]) : undefined);

// At the head of a long list `unshift` and `shift` take a small part of the time of `splice`.
const insertAt = (rows: Row[], index: number, row: Row): unknown => (index === 0 ? rows.unshift(row) : rows.splice(index, 0, row));
const removeAt = (rows: Row[], index: number): unknown => (index === 0 ? rows.shift() : rows.splice(index, 1));

/** Makes the class of list nodes. */
export const listNode = (Base: BaseNodeClass<Part>): NodeClass<Part> =>
  class ListNode extends Base implements LiveRows<Part> {
    override readonly kit: NodeKit<Part>;
    override readonly part: ListLike;
    override children: Row[] = [];
    /** The rows that a reset leads back to, raw or data. */
    #initial: readonly unknown[];
    /** The rows that count as saved; or their values, where no rows hold these. */
    #saved: { readonly rows: readonly Row[] } | { readonly values: readonly unknown[] };
    /** Rows that are not among the saved ones; how many of these are gone; whether rows may be in another order. */
    #strangers = new Set<Row>();
    #gone = 0;
    #isMoved = false;
    /** Whether the rows are others than the saved ones, or in another order. */
    #rearranged: 0 | 1 = 0;
    /** How often rows came, went or moved. */
    #arrangements = 0;
    #isCounted = false;

    constructor(kit: NodeKit<Part>, parent: Row | undefined, key: string, part: Part, initial: unknown) {
      super(kit, parent, key);
      this.kit = kit;
      this.part = part as ListLike;
      this.#initial = this.#beginning(initial);
      this.children = this.#initial.map((value) => this.#createRow(value));
      this.#saved = { rows: [...this.children] };
    }

    #beginning(initial: unknown): readonly unknown[] {
      return listOf(initial === undefined ? this.defaultValue : initial) ?? NOTHING;
    }

    #createRow(value: unknown): Row {
      return this.kit.createNode(this.part.part.rowIn?.(this) ?? this.part.part, this, '', value);
    }

    override get rows(): readonly Row[] {
      return this.children;
    }

    override child(key: string): Row | undefined {
      return /^\d+$/.test(key) ? this.children[Number(key)] : undefined;
    }

    override get sight(): unknown {
      return this.#arrangements;
    }

    override get empty(): boolean {
      return this.children.length === 0;
    }

    override readForRule(by?: Recorder, from = this.depth): unknown {
      const { kit } = this;
      kit.read(this, by);
      return makeListView(this.children, (row) => kit.readNode(row, by, from));
    }

    override fold(pick: (child: Row) => unknown): unknown[] {
      return this.children.map(pick);
    }

    override get data(): unknown[] {
      return this.children.map(({ data }) => (data === NO_VALUE ? undefined : data));
    }

    // Rows come, go and move.

    rowAt(index: number): Row {
      const row = this.children[index];
      if (row === undefined)
        throw new RangeError(
          DEV
            ? explain('wrong-path', `The list "${this.path}" has no row ${index}: it has ${this.children.length} rows.`)
            : `No row ${index}`,
        );
      return row;
    }

    // These edit the rows in place: a copy of a long list costs more than everything else.

    addRow(value: unknown, at = this.children.length): Row {
      const row = this.#createRow(value);
      const to = Math.min(Math.max(0, at), this.children.length);
      this.#edit([row], NOTHING, (rows) => {
        insertAt(rows, to, row);
        this.kit.noteRow({ kind: 'added', list: this, row, to });
      });
      return row;
    }

    removeRow(index: number): void {
      const row = this.rowAt(index);
      this.#edit(NOTHING, [row], (rows) => {
        removeAt(rows, index);
        this.kit.noteRow({ kind: 'removed', list: this, row, from: index });
      });
    }

    moveRow(from: number, to: number): void {
      const row = this.rowAt(from);
      this.rowAt(to);
      this.#isMoved = true;
      this.#edit(NOTHING, NOTHING, (rows) => {
        removeAt(rows, from);
        insertAt(rows, to, row);
        this.kit.noteRow({ kind: 'moved', list: this, row, from, to });
      });
    }

    override edit(value: unknown): void {
      const values = listOf(value);
      if (!values) return;
      const rows = values.map((each) => this.#createRow(each));
      this.#edit(rows, this.children, () => (this.children = rows));
    }

    /** An edit of the list itself. Rows that stay keep everything. */
    #edit(come: readonly Row[], go: readonly Row[], change: (rows: Row[]) => void): void {
      const { kit } = this;
      if (!kit.beginEdit(this)) return;
      try {
        this.noteEdit();
        this.asyncEnabled = true;
        this.#setRows(come, go, change);
      } finally {
        kit.end();
      }
    }

    #replaceRows(rows: Row[], come: readonly Row[], go: readonly Row[]): void {
      this.#setRows(come, go, () => (this.children = rows));
    }

    #setRows(come: readonly Row[], go: readonly Row[], change: (rows: Row[]) => void): void {
      const { kit } = this;
      kit.onReplace?.(this, [...this.children]);
      for (const row of come) this.#strangers.add(row);
      for (const row of go) {
        if (!this.#strangers.delete(row)) this.#gone += 1;
        removeNode(row);
      }
      change(this.children);
      this.#arrangements += 1;
      this.#isCounted = false;
      // Findings and listeners use paths; without them, the new indices can wait.
      if (this.found > 0 || this.listening > 0) this.countRows();
      this.#compareWithSaved();
      super.rawChanged();
      kit.rawChanged(this.parent);
      come.forEach((row) => kit.start(row));
      kit.markChanged(this);
      this.runRules();
      kit.changed(this);
    }

    override countRows(): void {
      if (this.#isCounted) return;
      this.#isCounted = true;
      const rows = this.children;
      for (let index = 0; index < rows.length; index += 1) {
        const row = rows[index]!;
        if (row.name === index) continue;
        row.name = index;
        if (row.found > 0) row.forEach((node) => node.reword());
        if (row.listening > 0) row.forEach((node) => node.listening > 0 && this.kit.markChanged(node));
      }
    }

    rowsHandle(handleOf: (node: Row) => unknown, subscribe: (listener: () => void) => () => void): object {
      return rowsHandle(this, this.kit, handleOf, subscribe);
    }

    // Values from outside, and what counts as saved.

    override restart(initial: unknown, given: boolean, forgets: boolean): void {
      this.restartOwn();
      if (given) this.#initial = this.#beginning(initial);
      const rows = this.#initial.map((value) => this.#createRow(value));
      this.#replaceRows(rows, rows, this.children);
      if (forgets) this.#saveRows([...rows]);
    }

    override rebase(value: unknown): void {
      const values = listOf(value);
      if (!values) return;
      this.#initial = values;
      // Rows that were added, removed or moved stay as they are.
      if (this.#rearranged === 1) return this.markSaved(values);
      const { children } = this;
      const rows = values.map((each, i) => {
        const row = children[i];
        row?.rebase(each);
        return row ?? this.#createRow(each);
      });
      const others = children.slice(values.length);
      // Rows that are no more outside, but were edited here, stay.
      const kept = others.filter(({ dirty }) => dirty > 0);
      if (rows.length !== children.length) {
        this.noteEdit(true);
        this.#replaceRows(
          [...rows, ...kept],
          rows.slice(children.length),
          others.filter(({ dirty }) => dirty === 0),
        );
      }
      this.#saveRows(rows);
    }

    override matches(value: unknown): boolean {
      const values = listOf(value) ?? NOTHING;
      return values.length === this.children.length && this.children.every((row, i) => row.matches(values[i]));
    }

    override get initial(): readonly unknown[] {
      return this.#initial;
    }

    override get saved(): readonly unknown[] {
      return 'rows' in this.#saved ? this.#saved.rows.map((row) => row.saved) : this.#saved.values;
    }

    override markSaved(value: unknown): void {
      this.#saved = { values: listOf(value) ?? NOTHING };
      this.#compareWithSaved();
    }

    override accept(sent: ReadonlyMap<LiveNode, unknown>): void {
      const rows = (sent.get(this) ?? [...this.children]) as readonly Row[];
      for (const row of rows) row.accept(sent);
      this.#saveRows(rows);
    }

    override moveInitial(): void {
      this.#initial = this.saved;
      super.moveInitial();
    }

    #saveRows(rows: readonly Row[]): void {
      this.#saved = { rows };
      const saved = new Set(rows);
      const now = new Set(this.children);
      this.#strangers = new Set(this.children.filter((row) => !saved.has(row)));
      this.#gone = rows.filter((row) => !now.has(row)).length;
      this.#isMoved = true;
      this.#compareWithSaved();
    }

    override rawChanged(): void {
      super.rawChanged();
      // A list that was rearranged may hold again what was saved. Rows that are in their places count themselves whether they were edited.
      if (this.#rearranged === 1) this.#compareWithSaved();
    }

    #compareWithSaved(): void {
      const rearranged = this.#isAsSaved() ? 0 : 1;
      if (rearranged === this.#rearranged) return;
      const by = rearranged - this.#rearranged;
      this.#rearranged = rearranged;
      this.kit.rawFollowers += by;
      this.count('dirty', by);
    }

    /** Whether the rows are the saved ones, or hold what these held: then they take their places. */
    #isAsSaved(): boolean {
      const rows = this.children;
      const saved = this.#saved;
      const isKnown = 'rows' in saved;
      if (isKnown && !this.#isMoved && this.#strangers.size + this.#gone === 0) return true;
      if (rows.length !== (isKnown ? saved.rows : saved.values).length) return false;
      if (isKnown && rows.every((row, i) => row === saved.rows[i])) {
        this.#isMoved = false;
        return true;
      }
      const savedAt = (i: number): unknown => (isKnown ? saved.rows[i]!.saved : saved.values[i]);
      if (!rows.every((row, i) => row.matches(savedAt(i)))) return false;
      rows.forEach((row, i) => row.markSaved(savedAt(i)));
      this.#saved = { rows: [...rows] };
      this.#strangers.clear();
      this.#gone = 0;
      this.#isMoved = false;
      return true;
    }
  };
