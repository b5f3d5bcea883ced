// The rows of a list in a live form.

import type { Node } from '../schema/node.ts';
import type { At, PathOf } from '../schema/paths.ts';
import type { Cell, ListCell } from './cell.ts';
import type { CellHandle, Handle } from './handle.ts';
import type { Values } from './values.ts';

/** One row. It stays the same while the row moves. */
export interface Row<I extends Node = Node> {
  /** Unique among all rows of the form, and the row's own as long as it lives. */
  readonly key: string;
  /** The row itself. */
  readonly handle: Handle<I>;
  /** The handle of a field in the row. */
  field<P extends string>(path: PathOf<I, P>): Handle<At<I, P> & Node>;
}

/** The rows of a list. */
export interface ListHandle<I extends Node = Node> {
  readonly rows: readonly Row<I>[];
  /** How many rows there are; of a long list quicker to ask than `rows.length`. */
  readonly length: number;
  /** One row. @throws RangeError for an index that is none */
  row(index: number): Row<I>;
  /** Adds a row. @param at its index; default: at the end */
  add(value?: Values<I>, at?: number): Row<I>;
  /** Removes a row; handles of it are inert from then on. @throws RangeError for an index that is none */
  remove(index: number): void;
  /** Moves a row; those between shift. @throws RangeError for an index that is none */
  move(from: number, to: number): void;
  /** Calls back after each change of the list or of anything in it. @returns undoes it */
  subscribe(listener: () => void): () => void;
}

let made = 0;
const rowOf = new WeakMap<Cell, Row>();

export class LiveList implements ListHandle {
  readonly #cell: ListCell;
  readonly #handle: (cell: Cell) => CellHandle;

  constructor(cell: ListCell, handle: (cell: Cell) => CellHandle) {
    this.#cell = cell;
    this.#handle = handle;
  }

  get rows(): readonly Row[] {
    return this.#cell.children.map((cell) => this.#row(cell));
  }

  get length(): number {
    return this.#cell.children.length;
  }

  row(index: number): Row {
    this.#check(index);
    return this.#row(this.#cell.children[index]!);
  }

  add(value?: unknown, at: number = this.#cell.children.length): Row {
    const list = this.#cell;
    const row = list.createRow(value);
    const index = Math.max(0, Math.min(at, list.children.length));
    // In place: a copy of a long list costs more than all the rest.
    list.children.splice(index, 0, row);
    list.store.arrange(list, list.children, [row], []);
    return this.#row(row);
  }

  remove(index: number): void {
    this.#check(index);
    const { children, store } = this.#cell;
    store.arrange(this.#cell, children, [], children.splice(index, 1));
  }

  move(from: number, to: number): void {
    this.#check(from);
    this.#check(to);
    const { children, store } = this.#cell;
    children.splice(to, 0, ...children.splice(from, 1));
    store.arrange(this.#cell, children, [], []);
  }

  subscribe(listener: () => void): () => void {
    return this.#handle(this.#cell).subscribe(listener);
  }

  #check(index: number): void {
    if (!(index in this.#cell.children))
      throw new RangeError(`The list "${this.#cell.path}" has no row ${index}: it has ${this.#cell.children.length} rows.`);
  }

  #row(cell: Cell): Row {
    let row = rowOf.get(cell);
    if (!row) {
      const find = (path: string): Handle => {
        const found = cell.store.find(path, cell);
        if (!found) throw new TypeError(`The row has no field "${path}".`);
        return this.#handle(found);
      };
      row = { key: `row-${(made += 1)}`, handle: this.#handle(cell), field: find as never };
      rowOf.set(cell, row);
    }
    return row;
  }
}
