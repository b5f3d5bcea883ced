// The gate, as the outside sees it: its options, its state, its events, what it can do.

import type { Catalogue } from '../messages/text.ts';
import type { Context, ContextValue } from '../schema/context/context.ts';
import type { Finding } from '../schema/finding.ts';
import type { FormClock } from '../schema/kit.ts';
import type { List } from '../schema/list/list.ts';
import type { CHILDREN, DATA, Node } from '../schema/node.ts';
import type { At, KnownPath, PathOf, PathsOf } from '../schema/paths.ts';
import type { Stage } from '../schema/verdict.ts';
import type { Fault } from '../schema/walker.ts';
import type { Handle, ListHandle } from './handle.ts';
import type { GivenFinding, ProblemDetails, ReadRefusal } from './serverAnswer.ts';
import type { FocusOnRefusal } from './store.ts';
import type { Outcome, Status, SubmissionEvents, SubmitRun } from './submission.ts';
import type { Values } from './values.ts';

/** The options of `createGate`. `R` is what the handler returns. */
export interface GateOptions<N extends Node, R = unknown> {
  /** The values to begin with, raw or data. */
  readonly initial?: Values<N> | undefined;
  /** The event at which a rule first runs, unless the rule has its own. Default `'change'`. */
  readonly on?: Stage;
  /** When findings become visible; the setting of a field overrides it. Default `'blur'`. */
  readonly reveal?: Stage;
  /** Whether a field shows all its findings, or only the first of the gravest. Default `'all'`. */
  readonly show?: 'all' | 'first';
  /**
   * Sends the data. It refuses by returning or throwing a `Response` that is not ok, or a plain object with `errors` (problem details,
   * RFC 9457, or a map of names to texts) or `findings` in which there is something, or with a `status` from 400 to 599. Any other return
   * value accepts. If it throws anything else, the submission has failed, and `submit()` rejects with that.
   */
  readonly submit?: (data: N[typeof DATA], context: SubmitRun) => R;
  /**
   * Reads refusals in other formats. Gets what the handler returned or threw; for a `Response` that is not ok, an object of its status
   * and JSON. Returns findings, or nothing if it is no refusal.
   */
  readonly refusal?: ReadRefusal;
  /**
   * Where the focus moves on a refusal: to the first invalid field (default), to whatever is connected to `gate.root`, or
   * nowhere.
   */
  readonly focus?: FocusOnRefusal;
  /** The language of the messages; default English. */
  readonly messages?: Catalogue | undefined;
  /** Facts from outside: `[tides.of(table)]`. A callback that reads a missing one waits, and the form cannot be submitted. */
  readonly context?: readonly ContextValue[];
  /** The clock and timers of the form. Default: those of the system. Tests pass their own. */
  readonly clock?: FormClock;
  /** Called with the original error if a rule, listener or other function of yours throws. Default: `console.error`. */
  readonly onFault?: (fault: Fault) => void;
}

/** The state of the form: the sum over all its fields. */
export interface GateState {
  readonly status: Status;
  /** Whether there is no error. */
  readonly valid: boolean;
  /** Whether an async rule is under way. */
  readonly pending: boolean;
  readonly dirty: boolean;
  readonly touched: boolean;
  readonly submitCount: number;
  readonly errorCount: number;
}

/** A field (or the form itself, `''`) whose errors are visible, at the moment when it passes or fails. */
export interface Passed {
  readonly path: string;
}
export interface Failed extends Passed {
  readonly findings: readonly Finding[];
}

/** The events of a gate, with what listeners get. */
export interface GateEvents<D, R = unknown> extends SubmissionEvents<D, R> {
  /** A revealed field has no error any more, and no async rule under way; or the form, once a field has been revealed. */
  readonly pass: Passed;
  /** A revealed field has an error now; or the form, once a field has been revealed. */
  readonly fail: Failed;
  /** A rule, a condition or a listener threw. */
  readonly fault: Fault;
}

/** The live controller of one form. `R` is what its submit handler returns. */
export interface Gate<N extends Node, R = unknown> {
  readonly schema: N;
  /** The handle of the form itself: its own findings, all raw values, all data. */
  readonly root: Handle<N>;
  /** The same object until something in it changes. */
  readonly state: GateState;
  /** All findings, in schema order; shown or not. */
  readonly findings: readonly Finding[];
  /**
   * The handle of a field or group. The path is checked by the types.
   *
   * @param path the path of the field, such as `crew.0.name`
   * @returns the handle
   * @throws TypeError for a path that the schema does not have
   */
  field<P extends string>(path: PathOf<N, P>): Handle<At<N, P>>;
  /**
   * The rows of a list, and what adds, removes and moves them. State belongs to the row, not to its index.
   *
   * @param list its path, or its handle: in a row, `row.field('jobs')`
   * @returns the rows, and what edits them
   * @throws TypeError for what is no list
   */
  list<L extends string | Handle>(list: GivenList<N, L>): ListHandle<ItemOf<N, L>>;
  /**
   * Whether the form has a field or group at a path that is known only at run time.
   *
   * @param path the path
   *
   * @example
   * if (gate.has(name)) gate.field(name).set('Otter');
   */
  has(path: string): path is KnownPath;
  /**
   * Edits several fields in one go.
   *
   * @param values the values by name, as controls hold them or as data
   */
  set(values: Values<N>): void;
  /**
   * Runs a function that makes several edits. Rules run and listeners are called once, after it.
   *
   * @param operation makes the edits
   * @returns what the operation returns
   */
  batch<T>(operation: () => T): T;
  /**
   * Runs every rule of one field, of several, or of all, again, and shows what they find.
   *
   * @param paths what to validate; default: the whole form
   * @param options whether to show (`reveal`) and where the focus goes (`focus`)
   * @returns whether no error was found; false if the form is disposed of meanwhile
   */
  validate<P extends string>(paths?: PathsOf<N, P>, options?: ValidateGateOptions): Promise<boolean>;
  /**
   * Validates everything and, if there is no error, passes the data to the handler. While one submission is under way,
   * another call returns the same promise.
   *
   * @param event its default is prevented; the handler gets it
   * @returns rejects with what the handler throws
   */
  submit(event?: unknown): Promise<Outcome<N[typeof DATA], Awaited<R>>>;
  /**
   * Adds the findings of a server's answer to the fields that they name. Each one disappears when its field is edited.
   *
   * @param answer findings, problem details, or the `Response` with them
   */
  addFindings(answer: readonly GivenFinding[] | ProblemDetails): void;
  /** Removes the findings that were added, by a server or by the program. @param paths of the fields; default: all */
  clearFindings<P extends string>(paths?: PathsOf<N, P>): void;
  /**
   * Goes back to the initial values, or to other ones. Nothing is touched or shown any more. Ends a submission under way.
   *
   * @param initial other initial values from now on
   */
  reset(initial?: Values<N>): void;
  /**
   * Takes over new values from outside. A field that was edited keeps the edit; fields that are not named stay. A reset leads
   * back to these values.
   *
   * @param values the new values
   */
  rebase(values: Values<N>): void;
  /**
   * Sets the value of a fact from outside. Whatever read it runs again. Shows no message that was not shown before.
   *
   * @param token the token of the fact
   * @param value its value
   *
   * @example
   * gate.setContext(tides, await fetchTides());
   */
  setContext<T>(token: Context<T>, value: T): void;
  /**
   * Changes the language. Messages that are shown change at once, and so do numbers with `locale: 'auto'`.
   *
   * @param messages the catalogue of the language
   */
  setLocale(messages: Catalogue | undefined): void;
  /**
   * Calls back after each change of anything.
   *
   * @param listener is called after each change
   * @returns undoes it
   */
  subscribe(listener: () => void): () => void;
  /**
   * Calls back when what a selector picks has changed.
   *
   * @param selector picks something of the gate
   * @param listener is called with the new and the old pick
   * @param equal default `Object.is`
   * @returns undoes it
   *
   * @example
   * gate.watch((gate) => gate.field('beam').data, (beam) => drawBoat(beam));
   */
  watch<T>(selector: (gate: Gate<N>) => T, listener: (value: T, before: T) => void, equal?: (a: T, b: T) => boolean): () => void;
  /**
   * Listens to an event.
   *
   * @param event the name of the event
   * @param listener is called with what happened
   * @returns undoes it
   */
  on<E extends keyof GateEvents<unknown>>(event: E, listener: (what: GateEvents<N[typeof DATA], Awaited<R>>[E]) => void): () => void;
  /** Ends the gate: no rule runs, nothing is sent or awaited any more, and edits have no effect. */
  dispose(): void;
  /**
   * Returns values, findings and states, without private fields.
   *
   * @returns a plain object
   */
  toJSON(): object;
}

/** The options of `gate.validate()`. */
export interface ValidateGateOptions {
  /** Moves the focus to the first invalid field. Default false. */
  readonly focus?: boolean;
  /** Whether findings are shown from now on. Default true. */
  readonly reveal?: boolean;
}

/** A path where it names a list. */
export type ListPathOf<N extends Node, P extends string> = P extends KnownPath ? P : At<N, P> extends List<Node> ? PathOf<N, P> : never;
/** What each row of the list at a path is. */
export type ItemAt<N extends Node, P extends string> = ItemIn<At<N, P>>;
/** What each row of a list is. */
export type ItemIn<N> = N extends List<infer I> ? I : Node;
/**
 * The handle of a list, for those who pass it on, such as a component's props. Rows are passed over, since they are alike; `never`
 * for what is no list.
 *
 * @example
 * const market = group({ stalls: list('Stalls', group({ goods: list('Goods', text('Ware')) })) });
 * function showGoods(goods: ListOf<typeof market, 'stalls.goods'>) {
 *   return goods.rows.length;
 * }
 */
export type ListOf<N extends Node, P extends string> = RowsOf<PartIn<N, P>>;
type RowsOf<L> = L extends List<infer I> ? ListHandle<I> : never;
type PartIn<N, P extends string> = P extends `${infer Name}.${infer Rest}` ? PartIn<Named<N, Name>, Rest> : Named<N, P>;
type Named<N, Name extends string> =
  N extends List<infer I>
    ? Name extends `${number}`
      ? I
      : Named<I, Name>
    : N extends Node
      ? Name extends keyof N[typeof CHILDREN]
        ? N[typeof CHILDREN][Name]
        : never
      : never;
/** A list of a schema, by its path or its handle. */
type GivenList<N extends Node, L> = L extends string
  ? ListPathOf<N, L>
  : L extends Handle<infer F>
    ? F extends List<Node>
      ? L
      : never
    : never;
/** What each row of such a list is. */
type ItemOf<N extends Node, L> = L extends string ? ItemAt<N, L> : L extends Handle<infer F> ? ItemIn<F> : never;

/** A gate of any schema, whose paths the compiler doesn't check: for components that serve all forms. */
export interface AnyGate extends Pick<
  Gate<Node>,
  | 'schema'
  | 'state'
  | 'root'
  | 'findings'
  | 'has'
  | 'batch'
  | 'submit'
  | 'addFindings'
  | 'setContext'
  | 'setLocale'
  | 'subscribe'
  | 'dispose'
  | 'toJSON'
> {
  /** {@inheritDoc Gate.field} */
  field(path: string): Handle;
  /** {@inheritDoc Gate.list} */
  list(list: string | Handle): ListHandle;
  /** {@inheritDoc Gate.set} */
  set(values: unknown): void;
  /** {@inheritDoc Gate.validate} */
  validate(paths?: string | readonly string[], options?: ValidateGateOptions): Promise<boolean>;
  /** {@inheritDoc Gate.clearFindings} */
  clearFindings(paths?: string | readonly string[]): void;
  /** {@inheritDoc Gate.reset} */
  reset(initial?: unknown): void;
  /** {@inheritDoc Gate.rebase} */
  rebase(values: unknown): void;
  /** {@inheritDoc Gate.watch} */
  watch<T>(selector: (gate: AnyGate) => T, listener: (value: T, before: T) => void, equal?: (a: T, b: T) => boolean): () => void;
}
