// The live form as a tree: a cell for each part of the schema. A cell holds what its rules found, and counts over itself
// and all below it, so that what the form says of itself never needs a walk.

import type { Finding } from '../schema/finding.ts';
import { Unreadable, type FieldPart } from '../schema/field.ts';
import type { GroupPart } from '../schema/group.ts';
import { HOLE, type Part } from '../schema/node.ts';
import { join } from '../schema/finding.ts';
import type { AnyRule, Verdict } from '../schema/rule.ts';
import { toFinding } from '../schema/run.ts';
import { makeView, WAIT } from '../schema/siblings.ts';
import type { Asking } from './asking.ts';
import type { Condition, CrossWatch } from './watches.ts';
import type { Engine } from './engine.ts';
import { read, type Readable, type Watch } from './tracking.ts';

/** A verdict that a cell holds, and who reached it. */
interface Held {
  readonly source: object;
  /** Where it stands among the findings of the cell. */
  readonly order: number;
  readonly finding: Finding;
  readonly part: Part;
  readonly rule: AnyRule | undefined;
  readonly verdict: Verdict;
}

/** What is counted over a cell and all below it. */
export type Count = 'errors' | 'found' | 'pending' | 'dirty' | 'touched';

/** How to bring a field before the person; `element` lets several be brought in document order. */
export interface Connection {
  /** Moves the focus there. `false`: it could not be moved. */
  readonly focus: () => unknown;
  readonly element?: { compareDocumentPosition(other: never): number } | undefined;
}

export abstract class Cell implements Readable {
  abstract readonly part: Part;
  readonly engine: Engine;
  readonly parent: GroupCell | undefined;
  readonly key: string;

  errors = 0;
  found = 0;
  pending = 0;
  dirty = 0;
  touched = 0;

  /** Whether the field's own condition holds; its ancestors may still not apply. */
  applies = true;
  condition: Condition | undefined;
  /** The rules of the group on this field, and those of the field itself that are asked over the network. */
  cross: CrossWatch[] | undefined;
  askings: Asking[] | undefined;
  /** How far events have come here: rules of later stages have not run. 0 change, 1 blur, 2 submit. */
  stage = 0;
  /** Whether the findings here may be seen. */
  revealed = false;
  /** Whether something happened here that lets questions go out: initial values are not asked about. */
  awake = false;
  /** The number of the last edit here. */
  editedAt = 0;

  readers: Map<Watch, number> | undefined;
  listeners: Set<() => void> | undefined;
  connections: Set<Connection> | undefined;
  /** The snapshot that was handed out; dropped at every change. */
  snapshot: unknown;

  #held: Held[] = [];
  #server: Finding[] = [];

  constructor(engine: Engine, parent: GroupCell | undefined, key: string) {
    this.engine = engine;
    this.parent = parent;
    this.key = key;
  }

  get path(): string {
    return this.parent === undefined ? this.key : join(this.parent.path, this.key);
  }

  /** Whether this cell and all above it apply. */
  get inForce(): boolean {
    return this.applies && (this.parent === undefined || this.parent.inForce);
  }

  /** What is held here, in the order of the rules, then what the server said. */
  get findings(): readonly Finding[] {
    return this.#held.length === 0 ? this.#server : [...this.#held.map(({ finding }) => finding), ...this.#server];
  }

  /** Whether the value has come through reading and the quick rules: only then are questions asked. */
  get sound(): boolean {
    return !this.#held.some(({ finding, source }) => finding.severity === 'error' && !this.askings?.includes(source as Asking));
  }

  /** Whether `need` has been met with an empty value, or may yet be: the field is required now. */
  abstract get required(): boolean;
  /** The data; `HOLE` where there is none of the right type. */
  abstract get data(): unknown;
  abstract get raw(): unknown;
  /** What a callback sees that reads this cell; throws `WAIT` where there is no value yet. */
  abstract look(): unknown;
  abstract fields(): Iterable<FieldCell>;
  /** This cell and all below. */
  abstract cells(): Iterable<Cell>;

  /** Takes over a verdict of a source, or drops the one held of it. */
  hold(source: object, order: number, rule: AnyRule | undefined, verdict: Verdict | undefined, part: Part = this.part): void {
    const at = this.#held.findIndex((held) => held.source === source);
    if (at >= 0) {
      if (this.#held[at]!.verdict === verdict) return;
      this.#uncount(this.#held.splice(at, 1)[0]!.finding);
    }
    if (verdict === undefined) return;
    const finding = toFinding(this.path, part, rule, verdict, this.engine.catalogue);
    let place = this.#held.length;
    while (place > 0 && this.#held[place - 1]!.order > order) place -= 1;
    this.#held.splice(place, 0, { source, order, finding, part, rule, verdict });
    this.#recount(finding, 1);
  }

  /** Drops all that rules have found here. */
  dropAll(): void {
    for (const { finding } of this.#held.splice(0)) this.#uncount(finding);
    this.dropServer();
  }

  addServer(finding: Finding): void {
    this.#server = [...this.#server, finding];
    this.#recount(finding, 1);
  }

  dropServer(): void {
    const { length } = this.#server;
    if (length === 0) return;
    const dropped = this.#server;
    this.#server = [];
    dropped.forEach((finding) => this.#uncount(finding));
  }

  /** Writes the messages anew, in the language that the form speaks now. */
  reword(): void {
    if (this.#held.length === 0) return;
    this.#held = this.#held.map((held) => ({
      ...held,
      finding: toFinding(this.path, held.part, held.rule, held.verdict, this.engine.catalogue),
    }));
    this.engine.mark(this);
  }

  #uncount(finding: Finding): void {
    this.#recount(finding, -1);
  }

  #recount(finding: Finding, by: 1 | -1): void {
    if (finding.severity === 'error') this.count('errors', by);
    this.count('found', by);
  }

  /** Changes a count here and in all above. */
  count(what: Count, by: number): void {
    // eslint-disable-next-line @typescript-eslint/no-this-alias -- the walk starts here
    for (let cell: Cell | undefined = this; cell !== undefined; cell = cell.parent) {
      cell[what] += by;
      this.engine.mark(cell);
    }
  }
}

export class FieldCell extends Cell {
  readonly part: FieldPart;
  raw: unknown;
  /** The raw value that the field counts as unedited with. */
  initial: unknown;
  #value: unknown;

  constructor(engine: Engine, parent: GroupCell | undefined, key: string, part: FieldPart, initial: unknown) {
    super(engine, parent, key);
    this.part = part;
    this.initial = this.write(initial);
    this.raw = this.initial;
    this.#value = this.#read();
  }

  /** From data or raw to what a control can hold. */
  write(value: unknown): unknown {
    return value === undefined || value === null ? this.part.how.empty : this.part.how.write(value);
  }

  #read(): unknown {
    try {
      return this.part.how.read(this.raw);
    } catch (error) {
      this.engine.fault(error, this, 'read');
      return new Unreadable({ code: 'crashed' });
    }
  }

  /** Takes over a raw value. @returns whether what siblings read has changed */
  store(raw: unknown): boolean {
    const before = this.data;
    this.raw = raw;
    this.#value = this.#read();
    const dirty = Object.is(raw, this.initial) ? 0 : 1;
    if (dirty !== this.dirty) this.count('dirty', dirty - this.dirty);
    return !Object.is(before, this.data);
  }

  /** Why the raw value cannot be read, if it cannot. */
  get unreadable(): Verdict | undefined {
    return this.#value instanceof Unreadable ? this.#value.verdict : undefined;
  }

  get value(): unknown {
    return this.#value;
  }

  get data(): unknown {
    return this.#value instanceof Unreadable || (this.#value === undefined && this.part.required !== undefined) ? HOLE : this.#value;
  }

  get required(): boolean {
    return this.part.required !== undefined || (this.cross?.some((watch) => watch.needed) ?? false);
  }

  look(): unknown {
    const { data } = this;
    if (data === HOLE) throw WAIT;
    return data;
  }

  *fields(): Iterable<FieldCell> {
    yield this;
  }

  *cells(): Iterable<Cell> {
    yield this;
  }
}

export class GroupCell extends Cell {
  readonly part: GroupPart;
  readonly kids: Cell[] = [];
  #view: object | undefined;

  constructor(engine: Engine, parent: GroupCell | undefined, key: string, part: GroupPart) {
    super(engine, parent, key);
    this.part = part;
  }

  kid(key: string): Cell | undefined {
    const place = this.part.places.get(key);
    return place === undefined ? undefined : this.kids[place];
  }

  /** What callbacks of this group get as their siblings. */
  get view(): object {
    return (this.#view ??= makeView(this.part.view, {
      read: (key) => {
        const cell = this.kid(key)!;
        read(cell);
        return cell.applies ? cell.look() : undefined;
      },
    }));
  }

  get required(): boolean {
    return false;
  }

  get raw(): unknown {
    return Object.fromEntries(this.kids.map((cell) => [cell.key, cell.raw]));
  }

  get data(): unknown {
    return Object.fromEntries(
      this.kids.map((cell) => {
        const data = cell.applies ? cell.data : undefined;
        return [cell.key, data === HOLE ? undefined : data];
      }),
    );
  }

  look(): unknown {
    return this.view;
  }

  *fields(): Iterable<FieldCell> {
    for (const kid of this.kids) yield* kid.fields();
  }

  *cells(): Iterable<Cell> {
    yield this;
    for (const kid of this.kids) yield* kid.cells();
  }
}
