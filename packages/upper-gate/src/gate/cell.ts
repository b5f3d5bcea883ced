// The live form as a tree: a cell for each part of the schema, and for each row of a list. A cell holds what its rules
// found, and counts over itself and all below it, so that what the form says of itself never needs a walk.

import { Unreadable, type FieldPart } from '../schema/field.ts';
import { join, type Finding } from '../schema/finding.ts';
import type { GroupPart } from '../schema/group.ts';
import { lookAtItems, type ListPart } from '../schema/list.ts';
import { HOLE, type Part } from '../schema/node.ts';
import type { AnyRule, Told, Verdict } from '../schema/rule.ts';
import { toFinding } from '../schema/run.ts';
import { makeView, WAIT } from '../schema/siblings.ts';
import type { VariantPart } from '../schema/variant.ts';
import type { Asking } from './asking.ts';
import type { Engine } from './engine.ts';
import { read, type Readable, type Watch } from './tracking.ts';
import type { Between, Condition } from './watches.ts';

/** A verdict that a cell holds, and who reached it. */
interface Held {
  readonly source: object;
  /** Where it stands among the findings of the cell. */
  readonly order: number;
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

export abstract class Cell implements Readable {
  abstract readonly part: Part;
  readonly engine: Engine;
  readonly parent: Cell | undefined;
  readonly #name: string;
  /** Where a row stood in its list when the rows were last counted. */
  index = -1;
  readonly kids: readonly Cell[] = NOTHING;

  errors = 0;
  found = 0;
  pending = 0;
  dirty = 0;
  touched = 0;

  /** Whether the field applies by itself: its condition holds, and it is not disabled. Its ancestors may still not apply. */
  applies = true;
  /** Whether its condition holds. */
  holds = true;
  /** As in HTML: neither judged nor sent. */
  disabled = false;
  condition: Condition | undefined;
  /** The rules between fields that judge this one. */
  cross: Between[] | undefined;
  /** The rules that ask about this one over the network. */
  askings: Asking[] | undefined;
  /** How far events have come here: rules of later stages have not run. 0 change, 1 blur, 2 submit. */
  stage = 0;
  /** Whether the findings here may be seen. */
  revealed = false;
  /** Whether something happened here that lets questions go out: initial values are not asked about. */
  awake = false;
  /** The number of the last edit here. */
  editedAt = 0;
  /** Whether `pass` (0) or `fail` (1) was told last. */
  told: 0 | 1 | undefined;
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

  #held: readonly Held[] = NOTHING;
  #server: readonly Finding[] = NOTHING;

  constructor(engine: Engine, parent: Cell | undefined, key: string) {
    this.engine = engine;
    this.parent = parent;
    this.#name = key;
  }

  /** The name in the group, or the index in the list; `''` for a case of a variant, whose fields lie beside its key. */
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
  get inForce(): boolean {
    return this.applies && !this.removed && (this.parent === undefined || this.parent.inForce);
  }

  /** What is held here, in the order of the rules, then what the server said. */
  get findings(): readonly Finding[] {
    return this.#held.length === 0 ? this.#server : [...this.#held.map(({ finding }) => finding), ...this.#server];
  }

  /** Whether the value, and all in it, has come through reading and the quick rules: only then are questions asked. */
  get sound(): boolean {
    const wrong = this.#held.some(({ finding, source }) => finding.severity === 'error' && !this.askings?.includes(source as Asking));
    return !wrong && this.kids.every(({ errors }) => errors === 0);
  }

  /** Whether the field must not be empty now. */
  get required(): boolean {
    return this.cross?.some((watch) => watch.needed) ?? false;
  }

  /** The data; `HOLE` where there is none of the right type. */
  abstract get data(): unknown;
  abstract get raw(): unknown;
  /** Whether there is nothing here for a rule to judge that does not ask for a value. */
  abstract get blank(): boolean;
  /** Whether the rules that do not ask for a value have nothing to judge here. */
  get passes(): boolean {
    return false;
  }

  /** What a callback sees that reads this cell; throws `WAIT` where there is no value yet. */
  abstract look(): unknown;
  /** The child under a name or index. */
  abstract kid(key: string): Cell | undefined;

  /** This cell and all below. */
  *cells(): Iterable<Cell> {
    yield this;
    for (const kid of this.kids) yield* kid.cells();
  }

  /** Takes over what a source says, in place of what it said before. */
  hold(source: object, order: number, rule: AnyRule | undefined, told: Told): void {
    if (this.removed || (told === undefined && this.#held.length === 0)) return;
    const verdicts: readonly Verdict[] =
      told === undefined ? NOTHING : Array.isArray(told) ? (told as readonly Verdict[]) : [told as Verdict];
    const before = this.#held.filter((held) => held.source === source);
    if (before.length === verdicts.length && before.every(({ verdict }, i) => verdict === verdicts[i])) return;
    const others = this.#held.filter((held) => held.source !== source);
    const now = verdicts.map((verdict) => ({ source, order, rule, verdict, finding: this.#finding(rule, verdict) }));
    this.#held = [...others.filter((held) => held.order <= order), ...now, ...others.filter((held) => held.order > order)];
    this.#recount(before, -1);
    this.#recount(now, 1);
  }

  /** Drops all that is found here. */
  dropAll(): void {
    const before = this.#held;
    this.#held = NOTHING;
    this.#recount(before, -1);
    this.dropServer();
  }

  addServer(finding: Finding): void {
    this.#server = [...this.#server, finding];
    this.#recount([{ finding }], 1);
  }

  dropServer(): void {
    if (this.#server.length === 0) return;
    const before = this.#server.map((finding) => ({ finding }));
    this.#server = NOTHING;
    this.#recount(before, -1);
  }

  /** Writes the findings anew: the form speaks another language, or the path has changed. */
  reword(): void {
    if (this.found === 0) return;
    this.#held = this.#held.map((held) => ({ ...held, finding: this.#finding(held.rule, held.verdict) }));
    this.#server = this.#server.map((finding) => ({ ...finding, path: this.path }));
    this.engine.mark(this);
  }

  #finding(rule: AnyRule | undefined, verdict: Verdict): Finding {
    return toFinding(this.path, this.part, rule, verdict, this.engine.catalogue);
  }

  #recount(items: readonly { readonly finding: Finding }[], by: 1 | -1): void {
    if (items.length === 0) return;
    const errors = items.filter(({ finding }) => finding.severity === 'error').length;
    if (errors > 0) this.count('errors', errors * by);
    this.count('found', items.length * by);
  }

  /** Changes a count here and in all above. */
  count(what: Count, by: number): void {
    // eslint-disable-next-line @typescript-eslint/no-this-alias -- the walk starts here
    for (let cell: Cell | undefined = this; cell !== undefined; cell = cell.parent) cell[what] += by;
    this.engine.mark(this);
  }
}

export class FieldCell extends Cell {
  readonly part: FieldPart;
  raw: unknown;
  /** The raw value that the field counts as unedited with. */
  initial: unknown;
  #value: unknown;

  constructor(engine: Engine, parent: Cell | undefined, key: string, part: FieldPart, initial: unknown) {
    super(engine, parent, key);
    this.part = part;
    this.initial = this.write(initial);
    this.raw = this.initial;
    this.#value = this.#read();
  }

  /** From data or raw to what a control can hold. */
  write(value: unknown): unknown {
    const { empty = '', write } = this.part.how;
    return value === undefined || value === null ? empty : write ? write(value) : value;
  }

  /** Whether a raw value is the one that is held. */
  same(a: unknown, b: unknown): boolean {
    return (this.part.how.same ?? Object.is)(a, b);
  }

  #read(): unknown {
    try {
      return this.part.how.read(this.raw);
    } catch (error) {
      this.engine.fault(error, this, 'read');
      return this.engine.crashed;
    }
  }

  /** Takes over a raw value. @returns whether what siblings read has changed */
  store(raw: unknown): boolean {
    const before = this.data;
    this.raw = raw;
    this.#value = this.#read();
    const dirty = this.same(raw, this.initial) ? 0 : 1;
    if (dirty !== this.dirty) this.count('dirty', dirty - this.dirty);
    return !Object.is(before, this.data);
  }

  /** Why the raw value cannot be read, if it cannot. */
  get unreadable(): Verdict | undefined {
    return this.#value instanceof Unreadable ? this.#value.verdict : undefined;
  }

  /** What reading yielded. */
  get value(): unknown {
    return this.#value;
  }

  get data(): unknown {
    return this.#value instanceof Unreadable || (this.#value === undefined && this.part.demands) ? HOLE : this.#value;
  }

  get blank(): boolean {
    return this.part.isBlank(this.#value);
  }

  override get passes(): boolean {
    return this.part.passes(this.#value);
  }

  override get required(): boolean {
    return this.part.demands || super.required;
  }

  look(): unknown {
    const { data } = this;
    if (data === HOLE) throw WAIT;
    return data;
  }

  kid(): undefined {
    return undefined;
  }
}

const plain = (data: unknown): unknown => (data === HOLE ? undefined : data);
/** Reads a cell for a callback. */
const lookAt = (cell: Cell): unknown => {
  read(cell);
  return cell.applies ? cell.look() : undefined;
};

export class GroupCell extends Cell {
  readonly part: GroupPart;
  override readonly kids: Cell[] = [];
  #view: object | undefined;

  constructor(engine: Engine, parent: Cell | undefined, key: string, part: GroupPart) {
    super(engine, parent, key);
    this.part = part;
  }

  kid(key: string): Cell | undefined {
    return this.kids[this.part.places.get(key) ?? -1];
  }

  /** What callbacks see of this group: each field, when it is read. */
  look(): object {
    return (this.#view ??= makeView(this.part.view, { read: (key) => lookAt(this.kid(key)!) }));
  }

  get blank(): boolean {
    return false;
  }

  get raw(): object {
    return Object.fromEntries(this.kids.map((cell) => [cell.key, cell.raw]));
  }

  get data(): object {
    return Object.fromEntries(this.kids.map((cell) => [cell.key, cell.applies ? plain(cell.data) : undefined]));
  }
}

export class ListCell extends Cell {
  readonly part: ListPart;
  override kids: Cell[] = [];
  /** The rows, or what they were, when the list counts as unedited. */
  initial: readonly unknown[];
  /** Makes a row. */
  readonly growRow: (value: unknown) => Cell;
  #changed: 0 | 1 = 0;
  #counted = false;

  constructor(
    engine: Engine,
    parent: Cell | undefined,
    key: string,
    part: ListPart,
    initial: unknown,
    growRow: (list: ListCell, value: unknown) => Cell,
  ) {
    super(engine, parent, key);
    this.part = part;
    this.initial = Array.isArray(initial) ? initial : NOTHING;
    this.growRow = (value) => growRow(this, value);
  }

  /** Takes over another order of rows, or other rows. */
  arrange(rows: Cell[], edited: 0 | 1): void {
    this.kids = rows;
    this.#counted = false;
    // Findings tell their paths, and listeners are told of them; else nobody need know the new indices yet.
    if (this.found > 0 || this.listening > 0) this.countRows();
    if (edited !== this.#changed) this.count('dirty', edited - this.#changed);
    this.#changed = edited;
    this.engine.mark(this);
  }

  /** Tells the rows where they stand. */
  countRows(): void {
    if (this.#counted) return;
    this.#counted = true;
    const rows = this.kids;
    for (let index = 0; index < rows.length; index += 1) {
      const row = rows[index]!;
      if (row.index === index) continue;
      row.index = index;
      if (row.found > 0) for (const cell of row.cells()) cell.reword();
      if (row.listening > 0) for (const cell of row.cells()) if (cell.listeners) this.engine.mark(cell);
    }
  }

  /** Whether rows were added, removed or moved. */
  get rearranged(): boolean {
    return this.#changed === 1;
  }

  kid(key: string): Cell | undefined {
    return /^\d+$/.test(key) ? this.kids[Number(key)] : undefined;
  }

  look(): unknown {
    read(this);
    return lookAtItems(this.kids, lookAt);
  }

  get blank(): boolean {
    return this.kids.length === 0;
  }

  override get passes(): boolean {
    return this.part.passes(this.kids);
  }

  get raw(): unknown[] {
    return this.kids.map((row) => row.raw);
  }

  get data(): unknown[] {
    return this.kids.map((row) => plain(row.data));
  }
}

export class VariantCell extends Cell {
  readonly part: VariantPart;
  /** The field that chooses, then a group for each case. */
  override readonly kids: Cell[] = [];

  constructor(engine: Engine, parent: Cell | undefined, key: string, part: VariantPart) {
    super(engine, parent, key);
    this.part = part;
  }

  get chooser(): FieldCell {
    return this.kids[0] as FieldCell;
  }

  /** The group that was chosen. */
  get chosen(): GroupCell | undefined {
    const place = Object.keys(this.part.cases).indexOf(String(this.chooser.value));
    return place < 0 ? undefined : (this.kids[place + 1] as GroupCell);
  }

  kid(key: string): Cell | undefined {
    if (key === this.part.key) return this.chooser;
    return (
      this.chosen?.kid(key) ??
      this.kids
        .slice(1)
        .map((group) => group.kid(key))
        .find(Boolean)
    );
  }

  look(): unknown {
    const value = lookAt(this.chooser);
    return value === undefined ? undefined : this.part.view(value as string, () => this.chosen!.look());
  }

  get blank(): boolean {
    return this.chooser.blank;
  }

  override get passes(): boolean {
    return this.blank;
  }

  override get required(): boolean {
    return this.chooser.required;
  }

  get raw(): object {
    return { [this.part.key]: this.chooser.raw, ...this.chosen?.raw };
  }

  get data(): unknown {
    const { data } = this.chooser;
    return data === HOLE || data === undefined ? data : { [this.part.key]: data, ...this.chosen!.data };
  }
}
