// Handles: how the outside sees and moves one field or group of a live form.

import { blocks, showsEarly } from '../schema/severity.ts';
import { count } from '../messages/en.ts';
import { formatText, inLanguage } from '../messages/text.ts';
import { lengthOf } from '../rules/length.ts';
import type { Option } from '../schema/field.ts';
import type { Finding, Params } from '../schema/finding.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { DATA, Node, RAW } from '../schema/node.ts';
import { type Cell, type Connection, FieldCell, ListCell, VariantCell } from './cell.ts';
import { focusCell } from './focus.ts';
import { ownValue, type Values } from './values.ts';

/** All that is known of a field, at one moment. The same object until something in it changes. */
export interface FieldState<D = unknown, R = unknown> {
  readonly path: string;
  readonly label: string;
  readonly hint: string | undefined;
  /** What the control holds. */
  readonly raw: R;
  /** The converted value; `undefined` where it is empty or cannot be read. */
  readonly data: D | undefined;
  /** What the rules found, shown or not. */
  readonly findings: readonly Finding[];
  /** What the person may see: errors and warnings once revealed, notices always. */
  readonly shown: readonly Finding[];
  /** The findings that block. */
  readonly errors: readonly Finding[];
  /** Whether the person has been here and left. */
  readonly touched: boolean;
  /** Whether the raw value differs from the initial one. */
  readonly dirty: boolean;
  /** Whether answers are awaited. */
  readonly pending: boolean;
  /** Whether there is no error, here or below. */
  readonly valid: boolean;
  readonly applies: boolean;
  /** Whether the row that it was in is no more. */
  readonly removed: boolean;
  readonly required: boolean;
  /** How much of what `length({ max })` allows is used, as a counter says it: `'18 of 120'`. Nothing without that rule. */
  readonly counter: string | undefined;
  /** The params of the rules, by rule: `params.length?.max`. */
  readonly params: Readonly<Record<string, Params>>;
}

/** One field or group of a live form. */
export interface Handle<N extends Node = Node> extends FieldState<N[typeof DATA], N[typeof RAW]> {
  /** What the field holds: `'text'`, `'choices'`, `'group'`, ... */
  readonly kind: string;
  /** All of the above as one snapshot, the same object until something in it changes. */
  readonly state: FieldState<N[typeof DATA], N[typeof RAW]>;
  /** The values of a choice, in order; nothing for other kinds. */
  readonly options: readonly Option[] | undefined;
  /** An edit: takes what a control holds, or data. For a group, an object of those; fields that it does not name stay. */
  set(value: Values<N>): void;
  /** The person has left the field. */
  leave(): void;
  /** As in HTML: a disabled field is neither validated nor sent. */
  setDisabled(disabled: boolean): void;
  /** Brings the field before the person, by what was connected. @returns whether it could be done */
  focus(): boolean;
  /** Sets how to bring the field into view. @returns removes it */
  connect(connection: Connection): () => void;
  /** Calls back after each change of the field. @returns undoes it */
  subscribe(listener: () => void): () => void;
}

// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging -- see below
export class CellHandle implements Handle {
  readonly #cell: Cell;

  constructor(cell: Cell) {
    this.#cell = cell;
  }

  /** What is known of a field, but for its values. */
  static now(handle: CellHandle): Now {
    return factsOf(handle.#cell).now;
  }

  get state(): FieldState {
    const facts = factsOf(this.#cell);
    return (facts.state ??= { ...facts.now, raw: this.raw, data: this.data });
  }

  get raw(): unknown {
    return this.#cell.raw;
  }

  get data(): unknown {
    const { data, applies } = this.#cell;
    return data === NO_VALUE || !applies ? undefined : data;
  }

  get kind(): string {
    return this.#cell.part.kind;
  }

  get options(): readonly Option[] | undefined {
    return this.#cell instanceof FieldCell ? this.#cell.part.spec.options : undefined;
  }

  set(value: unknown): void {
    setCell(this.#cell, value);
  }

  leave(): void {
    this.#cell.store.blur(this.#cell);
  }

  setDisabled(disabled: boolean): void {
    this.#cell.store.setDisabled(this.#cell, disabled);
  }

  focus(): boolean {
    return focusCell(this.#cell);
  }

  connect(connection: Connection): () => void {
    const connections = (this.#cell.connections ??= new Set());
    connections.add(connection);
    return () => connections.delete(connection);
  }

  #countListener(by: 1 | -1): void {
    for (let cell: Cell | undefined = this.#cell; cell !== undefined; cell = cell.parent) cell.listening += by;
  }

  subscribe(listener: () => void): () => void {
    const listeners = (this.#cell.listeners ??= new Set());
    // Each subscription counts, even of the same function.
    const own = (): void => listener();
    listeners.add(own);
    this.#countListener(1);
    return () => listeners.delete(own) && this.#countListener(-1);
  }
}

// A handle reads as its state does.
// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging, @typescript-eslint/no-empty-object-type -- the properties are defined right below
export interface CellHandle extends FieldState {}
const READ_THROUGH = 'path label hint findings shown errors touched dirty pending valid applies removed required counter params';
for (const key of READ_THROUGH.split(' ') as (keyof Now)[]) {
  Object.defineProperty(CellHandle.prototype, key, {
    get(this: CellHandle) {
      return CellHandle.now(this)[key];
    },
  });
}

/** The state of a cell without its values: those of a large group take long to build. */
type Now = Omit<FieldState, 'raw' | 'data'>;

/** The snapshots of a cell, until something in it changes. */
interface Facts {
  readonly now: Now;
  /** With the values, once somebody has asked for those too. */
  state: FieldState | undefined;
}

function factsOf(cell: Cell): Facts {
  const before = cell.snapshot as Facts | undefined;
  // A row may have moved without anything else in it having changed.
  if (before?.now.path === cell.path) return before;
  const facts: Facts = { now: nowOf(cell), state: undefined };
  cell.snapshot = facts;
  return facts;
}

function nowOf(cell: Cell): Now {
  const { part, findings, revealed, applies } = cell;
  const params = (cell.params ??= paramsOf(cell)) as Readonly<Record<string, Params>>;
  // Most fields have no findings, most of the time.
  const none = findings.length === 0;
  return {
    path: cell.path,
    label: inLanguage(part.label, cell.store.catalogue),
    hint: part.hint === undefined ? undefined : inLanguage(part.hint, cell.store.catalogue),
    findings,
    shown: revealed || none ? findings : findings.filter(showsEarly),
    errors: none ? findings : findings.filter(blocks),
    touched: cell.touched > 0,
    dirty: cell.dirty > 0,
    pending: cell.pending > 0,
    valid: cell.errors === 0,
    applies,
    removed: cell.removed,
    required: cell.required,
    counter: counterOf(cell, params['length']),
    params,
  };
}

function counterOf(cell: Cell, length: Params | undefined): string | undefined {
  const max = length?.['max'];
  if (max === undefined) return undefined;
  const { catalogue } = cell.store;
  const raw = cell instanceof FieldCell ? cell.raw : cell.children;
  const used = typeof raw === 'string' ? lengthOf(raw, length?.['count']) : (raw as readonly unknown[]).length;
  return formatText(catalogue?.['count'] ?? count, { label: '', used, max });
}

function paramsOf(cell: Cell): Readonly<Record<string, Params>> {
  const rules = [...cell.part.ruleList, ...(cell.crossRules ?? []).map(({ rule }) => rule)];
  return Object.fromEntries(rules.map(({ name, params }) => [name, params]));
}

/** Edits a field; the fields of a group that an object names; the rows of a list. */
export function setCell(cell: Cell, value: unknown): void {
  const { store } = cell;
  if (cell.removed) return;
  if (cell instanceof FieldCell) {
    store.edit(cell, value);
  } else if (cell instanceof ListCell) {
    if (!Array.isArray(value)) return;
    const rows = value.map(cell.createRow);
    store.arrange(cell, rows, rows, cell.children);
  } else if (typeof value === 'object' && value !== null) {
    store.batch(() => {
      // The field that chooses goes first: the others are those of what it chose.
      if (cell instanceof VariantCell && Object.hasOwn(value, cell.part.key)) setCell(cell.chooser, ownValue(value, cell.part.key));
      for (const [key, inner] of Object.entries(value)) {
        const child = cell.child(key);
        if (child) setCell(child, inner);
      }
    });
  }
}
