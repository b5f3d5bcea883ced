// The live form as a tree: a cell for each part of the schema, and for each row of a list. A cell holds what its rules
// found, and counts over itself and all below it, so that the state of the form never needs a walk.

import type { Evaluation } from '../evaluate/evaluation.ts';
import { dataOf, readValue, skipsRules, type Found } from '../evaluate/field.ts';
import { toFinding } from '../evaluate/finding.ts';
import { compareOrder, type Order } from '../evaluate/order.ts';
import type { Subject } from '../evaluate/rule.ts';
import type { FieldPart } from '../schema/field.ts';
import { join, type Finding } from '../schema/finding.ts';
import type { GroupPart } from '../schema/group.ts';
import type { ListPart } from '../schema/list/list.ts';
import { NO_VALUE, WAITING } from '../schema/noValue.ts';
import type { Catalogue } from '../messages/text.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule, Clock, Stage, Verdict } from '../schema/rule.ts';
import { blocks } from '../schema/severity.ts';
import type { VariantPart } from '../schema/variant/variant.ts';
import { stageOf } from './stage.ts';
import { read, type Readable, type Recorder, type Watch } from './tracking.ts';
import { makeListView, makeView } from './views.ts';

/** An async rule of a cell, and where its run stands. */
export interface AsyncRunner {
  /** Ends the wait or the run, and takes the answer back. */
  cancel(): void;
  /** The same, and forgets the answers. */
  forget(): void;
  /** Brings itself in line with the cell, on an event of a rank. */
  update(event: number): void;
}

/** A callback that runs when what it has read has changed. */
export interface Scheduled {
  /** Whether it runs before all rules: it decides which fields apply. */
  readonly isCondition: boolean;
  run(): void;
}

/** A rule that reads more than one field, in one form. */
export interface CrossFieldRule extends Scheduled {
  readonly rule: AnyRule;
  /** Whether it requires a value now. */
  readonly requires: boolean;
}

/** The rows of lists at some moment. */
export type RowsThen = ReadonlyMap<Cell, readonly Cell[]>;

/** What runs a form; see ./formStore.ts. */
export interface Store {
  /** The first event at which rules run that do not say. */
  readonly on: Stage;
  readonly catalogue: Catalogue | undefined;
  readonly now: Clock;
  readonly root: Cell;
  /** Counts edits. */
  readonly edits: number;
  /** Runs something that may change several cells: callbacks run, and listeners are called, once, after it. */
  batch<T>(operation: () => T): T;
  fault(error: unknown, cell: Cell, rule: string): void;
  /** The cell at a path below another. @param rowsThen the rows of lists as they were when the path was written */
  find(path: string, from?: Cell, rowsThen?: RowsThen): Cell | undefined;
  schedule(callback: Scheduled): void;
  updateAsync(cell: Cell, event: number): void;
  /** Notes that what a cell shows has changed. */
  markChanged(cell: Cell): void;
  setConditionHolds(cell: Cell, holds: boolean): void;
  setDisabled(cell: Cell, disabled: boolean): void;
  edit(cell: FieldCell, value: unknown): void;
  arrange(list: ListCell, rows: Cell[], come: readonly Cell[], go: readonly Cell[]): void;
  blur(cell: Cell): void;
}

/** A verdict that a cell holds, and who reached it. */
interface StoredVerdict {
  readonly source: object;
  /** Where it stands among the findings of the cell. */
  readonly order: Order;
  readonly rule: AnyRule | undefined;
  readonly verdict: Verdict;
  readonly finding: Finding;
}

/** What is counted over a cell and all below it. */
export const COUNTS = ['errors', 'found', 'pending', 'dirty', 'touched'] as const;
export type Count = (typeof COUNTS)[number];

/** How to bring a field before the person; `element` lets several be brought in document order. */
export interface Connection {
  /** Moves the focus there. `false`: it could not be moved. */
  readonly focus: () => unknown;
  readonly element?: { compareDocumentPosition(other: never): number } | undefined;
}

const NOTHING: readonly never[] = [];

export abstract class Cell implements Readable, Evaluation, Subject {
  abstract readonly part: Part;
  readonly store: Store;
  readonly parent: Cell | undefined;
  /** How many cells there are above. */
  readonly depth: number;
  readonly #name: string;
  /** Where a row stood in its list when the rows were last counted. */
  index = -1;
  readonly children: readonly Cell[] = NOTHING;

  errors = 0;
  found = 0;
  pending = 0;
  dirty = 0;
  touched = 0;

  /** Whether the field applies by itself: its condition holds, and it is not disabled. Its ancestors may still not apply. */
  ownApplies = true;
  /** Whether its condition holds. */
  conditionHolds = true;
  /** As in HTML: neither validated nor sent. */
  disabled = false;
  condition: Scheduled | undefined;
  /** The cross-field rules that validate this one. */
  crossRules: CrossFieldRule[] | undefined;
  /** The rules that ask about this one over the network. */
  asyncRunners: AsyncRunner[] | undefined;
  /** How far events have come here: rules of later stages have not run. 0 change, 1 blur, 2 submit. */
  stage = 0;
  /** Whether the findings here may be seen. */
  revealed = false;
  /** Whether something happened here that lets questions go out: initial values are not asked about. */
  asyncEnabled = false;
  /** The number of the last edit here. */
  editedAt = 0;
  /** Whether `pass` (0) or `fail` (1) was emitted last. */
  lastVerdict: 0 | 1 | undefined;
  /** A row that is no more. */
  removed = false;

  readers: Map<Watch, number> | undefined;
  listeners: Set<() => void> | undefined;
  /** How many listeners there are, here and below. */
  listening = 0;
  connections: Set<Connection> | undefined;
  /** The params of the rules, as snapshots tell them; they stay as they are. */
  params: unknown;
  /** The snapshot that was handed out; dropped at every change. */
  snapshot: unknown;

  #stored: readonly StoredVerdict[] = NOTHING;
  #server: readonly Finding[] = NOTHING;

  constructor(store: Store, parent: Cell | undefined, key: string) {
    this.store = store;
    this.parent = parent;
    this.depth = parent === undefined ? 0 : parent.depth + 1;
    this.#name = key;
  }

  get now(): Clock {
    return this.store.now;
  }

  isDue(rule: AnyRule): boolean {
    return stageOf(rule, this.store.on) <= this.stage;
  }

  fault(error: unknown, rule: string): void {
    this.store.fault(error, this, rule);
  }

  /** The name in the group, or the index in the list; `''` for a case of a variant, whose fields are beside its key. */
  get key(): string {
    const { parent } = this;
    if (!(parent instanceof ListCell)) return this.#name;
    parent.countRows();
    return String(this.index);
  }

  get path(): string {
    return this.parent === undefined ? this.key : join(this.parent.path, this.key);
  }

  /** Whether this cell and all above it apply. */
  get applies(): boolean {
    return this.ownApplies && !this.removed && (this.parent === undefined || this.parent.applies);
  }

  /** The findings here, in the order of the rules, then the server's. */
  get findings(): readonly Finding[] {
    return this.#stored.length === 0 ? this.#server : [...this.#stored.map(({ finding }) => finding), ...this.#server];
  }

  /** Whether reading and the sync rules found no error, here and below: only then do async rules run. */
  get syncValid(): boolean {
    const isAsync = (source: object): boolean => this.asyncRunners?.includes(source as AsyncRunner) ?? false;
    const wrong = this.#stored.some(({ finding, source }) => blocks(finding) && !isAsync(source));
    return !wrong && this.children.every(({ errors }) => errors === 0);
  }

  /** Whether the field must not be empty now. */
  get required(): boolean {
    return this.crossRules?.some((watch) => watch.requires) ?? false;
  }

  /** The data; `NO_VALUE` if there is none of the right type. */
  abstract get data(): unknown;
  abstract get raw(): unknown;
  abstract get empty(): boolean;
  get skipsRules(): boolean {
    return false;
  }

  /**
   * What a callback sees that reads this cell; throws `WAITING` if there is no value.
   *
   * @param by whoever records the reads within it; default: the callback under way
   */
  abstract readForRule(by?: Recorder): unknown;
  /** The child under a name or index. */
  abstract child(key: string): Cell | undefined;

  /** This cell and all below. */
  *cells(): Iterable<Cell> {
    yield this;
    for (const child of this.children) yield* child.cells();
  }

  /** Takes over what a source finds, in place of what it found before. */
  setVerdicts(source: object, order: Order, found: readonly Found[]): void {
    if (this.removed || (found.length === 0 && this.#stored.length === 0)) return;
    const before = this.#stored.filter((stored) => stored.source === source);
    if (before.length === found.length && before.every(({ verdict, rule }, i) => verdict === found[i]!.verdict && rule === found[i]!.rule))
      return;
    const others = this.#stored.filter((stored) => stored.source !== source);
    const now = found.map(({ rule, verdict }) => ({ source, order, rule, verdict, finding: this.#finding(rule, verdict) }));
    this.#stored = [
      ...others.filter((stored) => compareOrder(stored.order, order) <= 0),
      ...now,
      ...others.filter((stored) => compareOrder(stored.order, order) > 0),
    ];
    this.#recount(before, -1);
    this.#recount(now, 1);
  }

  /** Drops all that is found here. */
  clearFindings(): void {
    const before = this.#stored;
    this.#stored = NOTHING;
    this.#recount(before, -1);
    this.clearServerFindings();
  }

  addServerFinding(finding: Finding): void {
    this.#server = [...this.#server, finding];
    this.#recount([{ finding }], 1);
  }

  clearServerFindings(): void {
    if (this.#server.length === 0) return;
    const before = this.#server.map((finding) => ({ finding }));
    this.#server = NOTHING;
    this.#recount(before, -1);
  }

  /** Writes the findings anew: the form speaks another language, or the path has changed. */
  reword(): void {
    if (this.found === 0) return;
    this.#stored = this.#stored.map((stored) => ({ ...stored, finding: this.#finding(stored.rule, stored.verdict) }));
    this.#server = this.#server.map((finding) => ({ ...finding, path: this.path }));
    this.store.markChanged(this);
  }

  #finding(rule: AnyRule | undefined, verdict: Verdict): Finding {
    return toFinding(this.path, this.part, rule, verdict, this.store.catalogue);
  }

  #recount(items: readonly { readonly finding: Finding }[], by: 1 | -1): void {
    if (items.length === 0) return;
    const errors = items.filter(({ finding }) => blocks(finding)).length;
    if (errors > 0) this.count('errors', errors * by);
    this.count('found', items.length * by);
  }

  /** Changes a count here and in all above. */
  count(what: Count, by: number): void {
    // eslint-disable-next-line @typescript-eslint/no-this-alias -- the walk starts here
    for (let cell: Cell | undefined = this; cell !== undefined; cell = cell.parent) cell[what] += by;
    this.store.markChanged(this);
  }
}

export class FieldCell extends Cell {
  readonly part: FieldPart;
  raw: unknown;
  /** The raw value that the field counts as unedited with. */
  initial: unknown;
  /** What reading yielded: the value, or why there is none. */
  value: unknown;
  /** The value, or `NO_VALUE`. */
  data: unknown;

  constructor(store: Store, parent: Cell | undefined, key: string, part: FieldPart, initial: unknown) {
    super(store, parent, key);
    this.part = part;
    this.initial = this.write(initial);
    this.raw = this.initial;
    this.value = readValue(part, this.raw, this);
    this.data = dataOf(part, this.value);
  }

  /** From data or raw to what a control can hold. */
  write(value: unknown): unknown {
    const { emptyRaw: empty = '', write } = this.part.spec;
    return value === undefined || value === null ? empty : write ? write(value) : value;
  }

  /** Whether a raw value is the current one. */
  same(a: unknown, b: unknown): boolean {
    return (this.part.spec.same ?? Object.is)(a, b);
  }

  /** Takes over a raw value. @returns whether what siblings read has changed */
  setRaw(raw: unknown): boolean {
    const { data: before, part } = this;
    this.raw = raw;
    this.value = readValue(part, raw, this);
    this.data = dataOf(part, this.value);
    const dirty = this.same(raw, this.initial) ? 0 : 1;
    if (dirty !== this.dirty) this.count('dirty', dirty - this.dirty);
    return !Object.is(before, this.data);
  }

  get empty(): boolean {
    const { data } = this;
    return data !== NO_VALUE && this.part.isEmpty(data);
  }

  override get skipsRules(): boolean {
    return skipsRules(this.part, this.data, this);
  }

  override get required(): boolean {
    return this.part.mandatory || super.required;
  }

  readForRule(): unknown {
    const { data } = this;
    if (data === NO_VALUE) throw WAITING;
    return data;
  }

  child(): undefined {
    return undefined;
  }
}

const plain = (data: unknown): unknown => (data === NO_VALUE ? undefined : data);
/** Reads a cell for a callback. */
function readCell(cell: Cell, by: Recorder | undefined): unknown {
  read(cell, by);
  return cell.ownApplies ? cell.readForRule(by) : undefined;
}

export class GroupCell extends Cell {
  readonly part: GroupPart;
  override readonly children: Cell[] = [];
  #view: object | undefined;

  constructor(store: Store, parent: Cell | undefined, key: string, part: GroupPart) {
    super(store, parent, key);
    this.part = part;
  }

  child(key: string): Cell | undefined {
    return this.children[this.part.positions.get(key) ?? -1];
  }

  readForRule(by?: Recorder): object {
    const view = (): object => makeView(this.part.keys, (key) => readCell(this.child(key)!, by));
    return by ? view() : (this.#view ??= view());
  }

  get empty(): boolean {
    return false;
  }

  get raw(): object {
    return Object.fromEntries(this.children.map((cell) => [cell.key, cell.raw]));
  }

  get data(): object {
    return Object.fromEntries(this.children.map((cell) => [cell.key, cell.ownApplies ? plain(cell.data) : undefined]));
  }
}

export class ListCell extends Cell {
  readonly part: ListPart;
  override children: Cell[] = [];
  /** The rows, or what they were, when the list counts as unedited. */
  initial: readonly unknown[];
  /** Makes a row. */
  readonly createRow: (value: unknown) => Cell;
  #changed: 0 | 1 = 0;
  #counted = false;

  constructor(
    store: Store,
    parent: Cell | undefined,
    key: string,
    part: ListPart,
    initial: unknown,
    growRow: (list: ListCell, value: unknown) => Cell,
  ) {
    super(store, parent, key);
    this.part = part;
    this.initial = Array.isArray(initial) ? initial : NOTHING;
    this.createRow = (value) => growRow(this, value);
  }

  /** Takes over another order of rows, or other rows. */
  arrange(rows: Cell[], edited: 0 | 1): void {
    this.children = rows;
    this.#counted = false;
    // Findings tell their paths, and listeners are result of them; else nobody need know the new indices yet.
    if (this.found > 0 || this.listening > 0) this.countRows();
    if (edited !== this.#changed) this.count('dirty', edited - this.#changed);
    this.#changed = edited;
    this.store.markChanged(this);
  }

  /** Tells the rows where they stand. */
  countRows(): void {
    if (this.#counted) return;
    this.#counted = true;
    const rows = this.children;
    for (let index = 0; index < rows.length; index += 1) {
      const row = rows[index]!;
      if (row.index === index) continue;
      row.index = index;
      if (row.found > 0) for (const cell of row.cells()) cell.reword();
      if (row.listening > 0) for (const cell of row.cells()) if (cell.listeners) this.store.markChanged(cell);
    }
  }

  /** Whether rows were added, removed or moved. */
  get rearranged(): boolean {
    return this.#changed === 1;
  }

  child(key: string): Cell | undefined {
    return /^\d+$/.test(key) ? this.children[Number(key)] : undefined;
  }

  readForRule(by?: Recorder): unknown {
    read(this, by);
    return makeListView(this.children, (row) => readCell(row, by));
  }

  get empty(): boolean {
    return this.children.length === 0;
  }

  override get skipsRules(): boolean {
    return skipsRules(this.part, this.children, this);
  }

  get raw(): unknown[] {
    return this.children.map((row) => row.raw);
  }

  get data(): unknown[] {
    return this.children.map((row) => plain(row.data));
  }
}

export class VariantCell extends Cell {
  readonly part: VariantPart;
  /** The field that chooses, then a group for each case. */
  override readonly children: Cell[] = [];

  constructor(store: Store, parent: Cell | undefined, key: string, part: VariantPart) {
    super(store, parent, key);
    this.part = part;
  }

  get chooser(): FieldCell {
    return this.children[0] as FieldCell;
  }

  /** The group that was chosen. */
  get chosen(): GroupCell | undefined {
    const place = Object.keys(this.part.cases).indexOf(String(this.chooser.value));
    return place < 0 ? undefined : (this.children[place + 1] as GroupCell);
  }

  child(key: string): Cell | undefined {
    if (key === this.part.key) return this.chooser;
    return (
      this.chosen?.child(key) ??
      this.children
        .slice(1)
        .map((group) => group.child(key))
        .find(Boolean)
    );
  }

  readForRule(by?: Recorder): unknown {
    const value = readCell(this.chooser, by);
    const { key, cases } = this.part;
    const inside = (name: string): unknown => (this.chosen!.readForRule(by) as Readonly<Record<string, unknown>>)[name];
    return value === undefined
      ? undefined
      : makeView([key, ...cases[value as string]!.keys], (name) => (name === key ? value : inside(name)));
  }

  get empty(): boolean {
    return this.chooser.empty;
  }

  override get skipsRules(): boolean {
    return this.empty;
  }

  override get required(): boolean {
    return this.chooser.required;
  }

  get raw(): object {
    return { [this.part.key]: this.chooser.raw, ...this.chosen?.raw };
  }

  get data(): unknown {
    const { data } = this.chooser;
    return data === NO_VALUE || data === undefined ? data : { [this.part.key]: data, ...this.chosen!.data };
  }
}
