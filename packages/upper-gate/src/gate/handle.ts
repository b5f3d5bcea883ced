// Handles: how the outside sees and edits one field or group of a live form.

import { DEV, explain } from '#development';
import { wrongUse } from '../schema/assertUse.ts';
import { join } from '../schema/finding.ts';
import type { LiveRows } from '../schema/kit.ts';
import type { Node, RAW } from '../schema/node.ts';
import type { At, PathOf } from '../schema/paths.ts';
import type { Traits } from '../schema/traits.ts';
import { addVerdicts } from './addVerdicts.ts';
import { dataOf, factsOf, stateOf, type DataSoFar, type Facts, type FieldState } from './fieldState.ts';
import type { BaseNode } from './node.ts';
import { verdictsOf, type GivenFinding } from './serverAnswer.ts';
import type { FormStore } from './store.ts';
import { leave } from './timing.ts';
import type { Values } from './values.ts';

/** One field or group of a live form. */
export interface Handle<N extends Node = Node> extends FieldState<DataSoFar<N>, N[typeof RAW]> {
  /** The kind of the field: `'text'`, `'choices'`, `'group'`, or the name of your own. */
  readonly kind: string;
  /** What is known of the kind: what it holds, what its limits are about, how a control shows it. */
  readonly traits: Traits;
  /** The whole state as one object, the same until something in it changes. */
  readonly state: FieldState<DataSoFar<N>, N[typeof RAW]>;
  /** The raw values that `reset()` goes back to; the rows of a list as they were given. */
  readonly initial: N[typeof RAW];
  /**
   * Edits the field: takes what a control holds, or data. For a group, an object of these; fields that it doesn't name stay.
   *
   * @param value what a control holds, or data
   */
  set(value: Values<N>): void;
  /** Notes that the user has left the field. */
  leave(): void;
  /**
   * Moves the focus to the field, where a page shows it.
   *
   * @returns whether it could be moved
   */
  focus(): boolean;
  /** Goes back to the initial value: not touched, nothing shown. */
  reset(): void;
  /**
   * Adds a finding. It is shown, and disappears when the field is edited. Its `path` is relative to this field.
   *
   * @param finding `message`, and perhaps `code`, `severity`, `params` and `path`
   */
  addFinding(finding: Omit<GivenFinding, 'path'> & { readonly path?: string }): void;
  /** Removes the findings that were added here and below, by a server or by the program. */
  clearFindings(): void;
  /**
   * Calls back after each change of the field.
   *
   * @param listener is called after each change
   * @returns undoes it
   */
  subscribe(listener: () => void): () => void;
  /**
   * Returns path, values, findings and states, without private fields.
   *
   * @returns a plain object
   */
  toJSON(): object;
}

/** One row. It stays the same while the row moves. */
export interface Row<I extends Node = Node> {
  /** Unique among all rows of the form, and the same as long as the row exists. */
  readonly key: string;
  /** The row itself. */
  readonly handle: Handle<I>;
  /**
   * The handle of a field in the row.
   *
   * @param path the path of the field within the row
   * @returns the handle
   */
  field<P extends string>(path: PathOf<I, P>): Handle<At<I, P>>;
}

/** The rows of a list. */
export interface ListHandle<I extends Node = Node> {
  readonly rows: readonly Row<I>[];
  /** The number of rows; for a long list, quicker than `rows.length`. */
  readonly length: number;
  /**
   * One row. @throws RangeError for an index that is none
   *
   * @param index its index
   * @returns the row
   */
  row(index: number): Row<I>;
  /**
   * Adds a row. @param at its index; default: at the end
   *
   * @param value the values of the row; by default it is empty
   * @returns the row
   */
  add(value?: Values<I>, at?: number): Row<I>;
  /**
   * Removes a row. Its handles are inert from then on.
   *
   * @param index its index
   */
  remove(index: number): void;
  /**
   * Moves a row; the rows between shift.
   *
   * @param from its index
   * @param to its index afterwards
   */
  move(from: number, to: number): void;
  /**
   * Calls back after each change of the list or of anything in it.
   *
   * @param listener is called after each change
   * @returns undoes it
   */
  subscribe(listener: () => void): () => void;
}

// (Of the global registry: a binding may come from another copy of the library.)
const NODE: unique symbol = Symbol.for('upper-gate: node');
const STORE: unique symbol = Symbol.for('upper-gate: store');

/**
 * The handle of a node. (Its node stands under a symbol and is not private, so that a handle that was wrapped in a proxy
 * works too.)
 */
// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging -- the properties are defined right below
class NodeHandle implements Handle {
  readonly [NODE]: BaseNode;
  readonly [STORE]: FormStore;

  constructor(store: FormStore, node: BaseNode) {
    this[STORE] = store;
    this[NODE] = node;
  }

  /** See `Part`. */
  get __v_skip(): true {
    return true;
  }

  get state(): FieldState {
    return stateOf(this[STORE], this[NODE]);
  }

  get raw(): unknown {
    return this[NODE].raw;
  }

  get data(): unknown {
    return dataOf(this[NODE]);
  }

  get initial(): unknown {
    return this[NODE].initial;
  }

  get kind(): string {
    return this[NODE].part.kind;
  }

  get traits(): Traits {
    return this[NODE].part.traits;
  }

  set(value: unknown): void {
    this[NODE].edit(value);
  }

  leave(): void {
    leave(this[NODE]);
  }

  focus(): boolean {
    return this[STORE].page?.focusNode(this[NODE]) ?? false;
  }

  reset(): void {
    this[STORE].change(() => this[NODE].restart(undefined, false, true));
  }

  addFinding(finding: Omit<GivenFinding, 'path'> & { readonly path?: string }): void {
    const path = join(this[NODE].path, finding.path ?? '');
    this[STORE].change(() => addVerdicts(this[STORE], verdictsOf([{ ...finding, path }])));
  }

  clearFindings(): void {
    this[STORE].change(() => this[NODE].forEach((node) => node.verdicts?.clearAdded()));
  }

  subscribe(listener: () => void): () => void {
    const node = this[NODE];
    const listeners = (node.listeners ??= new Set());
    // Each subscription counts, even of the same function. A listener that another one removes is not called any more.
    const own = (): unknown => (listeners.has(own) ? listener() : undefined);
    listeners.add(own);
    countListener(node, 1);
    return () => {
      if (listeners.delete(own)) countListener(node, -1);
    };
  }

  toJSON(): object {
    return jsonOf(this[STORE], this[NODE]);
  }
}

// A handle reads as the facts of its field do. (Written as a list of getters, not as nineteen of them: they are in every bundle.)
// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging, @typescript-eslint/no-empty-object-type -- the properties are defined right below
interface NodeHandle extends Facts {}
const FACTS: Readonly<Record<keyof Facts, 1>> = {
  path: 1,
  label: 1,
  hint: 1,
  findings: 1,
  shown: 1,
  errors: 1,
  touched: 1,
  dirty: 1,
  pending: 1,
  valid: 1,
  validated: 1,
  revealed: 1,
  applies: 1,
  removed: 1,
  required: 1,
  counter: 1,
  params: 1,
  options: 1,
  attributes: 1,
};
for (const key of Object.keys(FACTS) as (keyof Facts)[])
  Object.defineProperty(NodeHandle.prototype, key, {
    get(this: NodeHandle) {
      return factsOf(this[STORE], this[NODE])[key];
    },
  });
if (DEV)
  Object.defineProperty(NodeHandle.prototype, Symbol.for('nodejs.util.inspect.custom'), {
    value(this: NodeHandle) {
      return this.toJSON();
    },
  });

/** The node of a handle, and the store of its form. */
export function internalsOfHandle(handle: Handle): { readonly node: BaseNode; readonly store: FormStore } {
  const { [NODE]: node, [STORE]: store } = handle as NodeHandle;
  return { node, store };
}

function countListener(node: BaseNode, by: 1 | -1): void {
  for (let at: BaseNode | undefined = node; at !== undefined; at = at.parent) at.listening += by;
}

/** The handle of a node: always the same one. */
export const handleOf = (store: FormStore, node: BaseNode): Handle => (node.handle ??= new NodeHandle(store, node)) as Handle;

/** What a node is, for people and programs: without what is private. */
export function jsonOf(store: FormStore, node: BaseNode): object {
  const pick = (of: (node: BaseNode) => unknown) => {
    const value = (at: BaseNode): unknown => (at.part.settings.private ? undefined : at.part.traits.hasParts ? at.fold(value) : of(at));
    return value(node);
  };
  const { path, findings, touched, dirty, pending, valid, applies, required } = factsOf(store, node);
  return { path, raw: pick(({ raw }) => raw), data: pick(dataOf), findings, touched, dirty, pending, valid, applies, required };
}

/** The rows of a list. @throws TypeError for what is no list */
export function listOf(handle: Handle): ListHandle {
  const { [STORE]: store, [NODE]: node } = handle as NodeHandle;
  if (!isListNode(node))
    throw wrongUse(
      DEV && explain('wrong-path', `"${node.path}" is not a list: its kind is ${node.part.kind}. Use gate.field("${node.path}").`),
    );
  // (What is in the rows, the list does not know by its type.)
  return node.rowsHandle(
    (row) => handleOf(store, row as BaseNode),
    (listener) => handle.subscribe(listener),
  ) as ListHandle;
}

const isListNode = (node: BaseNode): node is BaseNode & LiveRows => node.rows !== undefined;
