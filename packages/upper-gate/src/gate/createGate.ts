// The gate: the live controller of one form.

import { DEV } from '#development';
import { assertUse } from '../schema/assertUse.ts';
import type { Catalogue } from '../messages/text.ts';
import type { Finding } from '../schema/finding.ts';
import { isGroup } from '../schema/group.ts';
import type { List } from '../schema/list/list.ts';
import { partOf } from '../schema/part.ts';
import type { DATA, Node } from '../schema/node.ts';
import type { At, PathOf } from '../schema/paths.ts';
import type { Clock, Stage } from '../schema/rule.ts';
import type { Fault } from '../evaluate/evaluation.ts';
import { type Cell, FieldCell, ListCell } from './cell.ts';
import { FormStore } from './formStore.ts';
import { findingsBelow, focusFirstError } from './focus.ts';
import { createNode } from './createNode.ts';
import { CellHandle, type Handle, setCell } from './handle.ts';
import { type ListHandle, LiveList } from './list.ts';
import type { GivenFinding, ProblemDetails } from './refusal.ts';
import type { Values } from './values.ts';
import {
  addFindings,
  Submission,
  type FocusOnRefusal,
  type Outcome,
  type Status,
  type SubmissionEvents,
  type SubmitRun,
} from './submission.ts';

export interface GateOptions<N extends Node> {
  /** The values to begin with, raw or data. */
  readonly initial?: Values<N> | undefined;
  /** The first event at which rules run that do not say. Default `'change'`. */
  readonly on?: Stage;
  /** When findings become visible; a field's own setting goes before. Default `'blur'`. */
  readonly reveal?: Stage;
  /**
   * Sends the data. To refuse the data, return (or throw) problem details (RFC 9457), `{ findings }`, or the
   * server's `Response`; anything else that is returned accepts. What else it throws reaches whoever called `submit()`.
   */
  readonly submit?: (data: N[typeof DATA], context: SubmitRun) => unknown;
  /** Where the focus goes on refusal: the first invalid field (default), what was connected to `gate.root`, nowhere. */
  readonly focus?: FocusOnRefusal;
  /** The language of the messages; default English. */
  readonly messages?: Catalogue | undefined;
  /** The present moment, for rules that speak of today. Default: that of the system. */
  readonly now?: Clock;
  /** Called for rules that threw, with the original error. Default: `console.error`. */
  readonly onFault?: (fault: Fault) => void;
}

/** The state of the form: always the sum over all its fields. */
export interface GateState {
  readonly status: Status;
  /** There is no error. */
  readonly valid: boolean;
  /** Answers are awaited. */
  readonly pending: boolean;
  readonly dirty: boolean;
  readonly touched: boolean;
  readonly submitCount: number;
  readonly errorCount: number;
}

/** A field (or the form itself, `''`) that can be seen to pass, or to fail. */
export interface Passed {
  readonly path: string;
}
export interface Failed extends Passed {
  readonly findings: readonly Finding[];
}

/** What a gate tells, by event. */
export interface GateEvents<D> extends SubmissionEvents<D> {
  /** A field that has been revealed has no error any more, and awaits no answer; or the form as a whole. */
  readonly pass: Passed;
  /** A field that has been revealed has an error now; or the form as a whole. */
  readonly fail: Failed;
  /** A rule, a condition or a listener threw. */
  readonly fault: Fault;
}

/** The live controller of one form. */
export interface Gate<N extends Node> {
  readonly schema: N;
  /** The form itself: whole-form findings, all raw values, all data. */
  readonly root: Handle<N>;
  /** The same object until something in it changes. */
  readonly state: GateState;
  /** All findings, in schema order; shown or not. */
  readonly findings: readonly Finding[];
  /**
   * The handle of a field or group. The path is checked by the types.
   *
   * @throws TypeError for a path that the schema does not have
   */
  field<P extends string>(path: PathOf<N, P>): Handle<At<N, P> & Node>;
  /**
   * The handle of a list: adds, removes and moves its rows. State belongs to the row, not to its index.
   *
   * @throws TypeError for a path at which the schema has no list
   */
  list<P extends string>(path: PathOf<N, P>): At<N, P> extends List<infer I> ? ListHandle<I> : never;
  /** Whether the form has a field or group at a path that is known only at run time. */
  has(path: string): boolean;
  /** Edits several fields in one go. */
  set(values: Values<N>): void;
  /** Runs something that edits several fields: rules run, and listeners are called, once, after it. */
  batch<T>(operation: () => T): T;
  /**
   * Runs every rule of a field, of several, or of all, and shows what is found.
   *
   * @param paths what to validate; default: the whole form
   * @param options `focus: true` moves the focus to the first invalid field
   * @returns whether no error was found
   */
  validate<P extends string>(paths?: PathOf<N, P> | readonly PathOf<N, P>[], options?: { readonly focus?: boolean }): Promise<boolean>;
  /**
   * Validates everything and, if there is no error, passes the data to the handler. While one submission is under way,
   * another call returns the same promise.
   *
   * @param event its default is prevented; the handler gets it
   * @returns rejects with what the handler throws
   */
  submit(event?: unknown): Promise<Outcome<N[typeof DATA]>>;
  /** Puts a server's answer on the fields that it names; each finding goes when its field is edited. */
  addFindings(answer: readonly GivenFinding[] | ProblemDetails): void;
  /** Back to the initial values, or to other ones; nothing touched, nothing shown. Ends a submission under way. */
  reset(initial?: Values<N>): void;
  /**
   * Takes over new values from outside: a field that was edited keeps the edit; what is not named stays. Reset leads back
   * to them from now on.
   */
  rebase(values: Values<N>): void;
  /** Speaks another language from now on; messages that are shown change at once. */
  setLocale(messages: Catalogue | undefined): void;
  /** Calls back after each change of anything. @returns undoes it */
  subscribe(listener: () => void): () => void;
  /**
   * Calls back when what a selector picks has changed.
   *
   * @param equal default `Object.is`
   * @returns undoes it
   *
   * @example
   * gate.watch((gate) => gate.field('beam').data, (beam) => drawBoat(beam));
   */
  watch<T>(selector: (gate: Gate<N>) => T, listener: (value: T, before: T) => void, equal?: (a: T, b: T) => boolean): () => void;
  /** Listens to what happens. @returns undoes it */
  on<E extends keyof GateEvents<N[typeof DATA]>>(event: E, listener: (what: GateEvents<N[typeof DATA]>[E]) => void): () => void;
  /** Ends all questions and submissions under way. */
  dispose(): void;
}

/** A gate of any schema: for components that serve all forms. */
export interface AnyGate extends Pick<
  Gate<Node>,
  'state' | 'root' | 'findings' | 'has' | 'batch' | 'submit' | 'addFindings' | 'setLocale' | 'subscribe' | 'dispose'
> {
  reset(): void;
}

/**
 * Makes the live controller of a form.
 *
 * @param schema a group
 * @throws TypeError for a schema that is no group
 *
 * @example
 * const gate = createGate(passage, { initial: { vessel: 'Otter' }, submit: (data) => api.book(data) });
 * gate.field('vessel').set('Heron');
 * await gate.submit();
 */
export function createGate<N extends Node>(schema: N, options: GateOptions<N> = {}): Gate<N> {
  return new LiveGate(schema, options) as unknown as Gate<N>;
}

type Listener = (what: unknown) => void;

/** The store of a gate, for the bindings. */
export const storeOf = new WeakMap<object, FormStore>();

class LiveGate {
  readonly schema: Node;
  readonly #store: FormStore;
  readonly #submission: Submission;
  readonly #handles = new WeakMap<Cell, CellHandle>();
  readonly #listeners = new Map<string, Set<Listener>>();
  #state: GateState | undefined;

  constructor(schema: Node, options: GateOptions<Node>) {
    const { initial, on = 'change', reveal = 'blur', submit, focus = 'first', messages, now = () => new Date(), onFault } = options;
    const part = partOf(schema);
    assertUse(isGroup(part), DEV && 'createGate() takes a group. Write createGate(group({ ... })).');
    this.schema = schema;
    const store = new FormStore(on, reveal, messages, now, (fault) => {
      const heard = this.#emit('fault', fault);
      if (onFault) onFault(fault);
      else if (!heard) console.error(`Upper Gate: "${fault.path}" (${fault.rule}):`, fault.error);
    });
    this.#store = store;
    storeOf.set(this, store);
    store.root = createNode(store, undefined, '', part, initial);
    store.start(store.root);
    this.#submission = new Submission(store, submit, focus, (event, what) => this.#emit(event, what));
  }

  get root(): Handle {
    return this.#handle(this.#store.root);
  }

  get state(): GateState {
    const { root } = this.#store;
    const { status, count: submitCount } = this.#submission;
    const now: GateState = {
      status,
      valid: root.errors === 0,
      pending: root.pending > 0,
      dirty: root.dirty > 0,
      touched: root.touched > 0,
      submitCount,
      errorCount: root.errors,
    };
    const before = this.#state;
    if (before === undefined || (Object.keys(now) as (keyof GateState)[]).some((key) => before[key] !== now[key])) this.#state = now;
    return this.#state!;
  }

  get findings(): readonly Finding[] {
    return findingsBelow(this.#store.root);
  }

  field(path: string): Handle {
    return this.#handle(this.#find(path));
  }

  list(path: string): ListHandle {
    const cell = this.#find(path);
    if (!(cell instanceof ListCell))
      throw new TypeError(`"${path}" is not a list: its kind is ${cell.part.kind}. Use gate.field("${path}").`);
    return new LiveList(cell, (row) => this.#handle(row));
  }

  has(path: string): boolean {
    return this.#store.find(path) !== undefined;
  }

  set(values: unknown): void {
    setCell(this.#store.root, values);
  }

  batch<T>(operation: () => T): T {
    return this.#store.batch(operation);
  }

  async validate(paths: string | readonly string[] = '', { focus = false }: { readonly focus?: boolean } = {}): Promise<boolean> {
    const cells = [paths].flat().map((path) => this.#find(path));
    this.batch(() => cells.forEach((cell) => this.#store.validateAll(cell)));
    while (cells.some((cell) => cell.pending > 0)) await this.#store.whenSettled(cells);
    const valid = cells.every((cell) => cell.errors === 0);
    if (!valid && focus) cells.some(focusFirstError);
    return valid;
  }

  submit(event?: unknown): Promise<Outcome> {
    return this.#submission.submit(event);
  }

  addFindings(answer: readonly GivenFinding[] | ProblemDetails): void {
    addFindings(this.#store, answer);
  }

  reset(initial?: unknown): void {
    this.#store.batch(() => {
      this.#submission.abort();
      this.#store.reset(initial);
    });
  }

  rebase(values: unknown): void {
    this.#store.rebase(values);
  }

  setLocale(messages: Catalogue | undefined): void {
    this.#store.batch(() => {
      this.#store.catalogue = messages;
      for (const cell of this.#store.root.cells()) {
        cell.reword();
        // Labels and hints speak it too.
        this.#store.markChanged(cell);
      }
    });
  }

  subscribe(listener: () => void): () => void {
    return this.root.subscribe(listener);
  }

  watch<T>(
    selector: (gate: LiveGate) => T,
    listener: (value: T, before: T) => void,
    equal: (a: T, b: T) => boolean = Object.is,
  ): () => void {
    const select = (): T => selector(this);
    let value = select();
    return this.subscribe(() => {
      const before = value;
      value = select();
      if (!equal(value, before)) listener(value, before);
    });
  }

  on(event: string, listener: Listener): () => void {
    const listeners = this.#listeners.get(event) ?? new Set();
    this.#listeners.set(event, listeners);
    listeners.add(listener);
    // Only where somebody listens is there anything to do about it.
    if (event === 'pass' || event === 'fail') this.#store.onChanged = (cells) => this.#emitVerdicts(cells);
    return () => listeners.delete(listener);
  }

  dispose(): void {
    this.#submission.abort();
    for (const cell of this.#store.root.cells()) cell.asyncRunners?.forEach((runner) => runner.forget());
  }

  /** Emits `pass` and `fail` for the fields, and the form, whose verdict has changed. */
  #emitVerdicts(cells: Iterable<Cell>): void {
    const { root } = this.#store;
    for (const cell of new Set([...cells, root])) {
      const isForm = cell === root;
      if (!cell.revealed || !cell.applies || cell.pending > 0 || !(isForm || cell instanceof FieldCell)) continue;
      const failing = cell.errors > 0 ? 1 : 0;
      if (cell.lastVerdict === failing) continue;
      cell.lastVerdict = failing;
      this.#emit(failing ? 'fail' : 'pass', failing ? { path: cell.path, findings: findingsBelow(cell) } : { path: cell.path });
    }
  }

  /** @returns whether somebody listened */
  #emit(event: string, what: unknown): boolean {
    const listeners = this.#listeners.get(event);
    listeners?.forEach((listener) => listener(what));
    return (listeners?.size ?? 0) > 0;
  }

  #find(path: string): Cell {
    const cell = this.#store.find(path);
    if (cell === undefined)
      throw new TypeError(
        `The form has no field "${path}". Its fields: ${[...this.#store.root.cells()]
          .filter((field) => field instanceof FieldCell)
          .map((field) => field.path)
          .join(', ')}.`,
      );
    return cell;
  }

  #handle(cell: Cell): CellHandle {
    let handle = this.#handles.get(cell);
    if (handle === undefined) this.#handles.set(cell, (handle = new CellHandle(cell)));
    return handle;
  }
}
