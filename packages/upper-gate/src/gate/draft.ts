// Drafts: a half-filled form survives a reload. What was edited is kept as raw values, over whatever the initial values
// are by then.

import type { Node } from '../schema/node.ts';
import { FieldCell, ListCell, VariantCell, type Cell } from './cell.ts';
import { storeOf, type Gate } from './createGate.ts';
import { setCell } from './handle.ts';

/** What a draft is kept in: `localStorage`, `sessionStorage`, or anything of their shape. */
export interface DraftStorage {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
}

export interface DraftOptions {
  readonly storage: DraftStorage;
  /** Under which name; one for each form. */
  readonly key: string;
  /** The paths that are kept; default: all. Files, and fields with the setting `private`, never are. */
  readonly fields?: readonly string[];
  /** Milliseconds after which a draft is too old to be restored. Default: never. */
  readonly maxAge?: number;
  /** Milliseconds without an edit before the draft is written. Default 300. */
  readonly wait?: number;
}

/** A form's draft. */
export interface Draft {
  /** Whether there was one, and something of it was restored. */
  readonly restored: boolean;
  /** Forgets what is kept; later edits are kept again. */
  discard(): void;
  /** Keeps nothing from now on. */
  stop(): void;
}

/** What is written: when, and the edits by path. */
interface Kept {
  readonly at: number;
  readonly edits: Readonly<Record<string, unknown>>;
}

const isFile = (cell: FieldCell): boolean => cell.part.kind === 'file' || cell.part.kind === 'files';

/** All raw values below a cell, for a row that is kept as a whole. */
function wholeOf(cell: Cell): unknown {
  if (cell.part.private) return undefined;
  if (cell instanceof FieldCell) return isFile(cell) ? undefined : cell.raw;
  if (cell instanceof ListCell) return cell.children.map(wholeOf);
  const fields = cell instanceof VariantCell ? [cell.chooser, ...(cell.chosen?.children ?? [])] : cell.children;
  return Object.fromEntries(fields.map((child) => [child.key, wholeOf(child)]));
}

/** Collects what was edited: fields one by one, lists as a whole. */
function collect(cell: Cell, edits: Record<string, unknown>): void {
  if (cell.dirty === 0 || cell.part.private) return;
  if (cell instanceof ListCell || cell instanceof FieldCell) {
    const raw = wholeOf(cell);
    if (raw !== undefined) edits[cell.path] = raw;
  } else {
    for (const child of cell.children) collect(child, edits);
  }
}

/** Whether a kept value can be one of the field: of a draft of an older schema, what no longer fits stays away. */
const fits = (cell: Cell, value: unknown): boolean =>
  cell instanceof ListCell
    ? Array.isArray(value)
    : cell instanceof FieldCell &&
      !cell.part.private &&
      !isFile(cell) &&
      typeof value === typeof (cell.part.spec.emptyRaw ?? '') &&
      Array.isArray(value) === Array.isArray(cell.part.spec.emptyRaw);

/**
 * Keeps a form's edits in a store, and restores them: at once, as edits over the initial values. The draft is discarded
 * when the form is accepted, and when nothing is edited any more. A store that is full, broken or forbidden never breaks
 * the form; it is told as a fault.
 *
 * @example
 * const draft = keepDraft(gate, { storage: localStorage, key: 'passage', maxAge: 7 * 24 * 3600 * 1000 });
 * if (draft.restored) tell('We have kept what you entered last time.');
 */
export function keepDraft<N extends Node>(gate: Gate<N>, options: DraftOptions): Draft {
  const { storage, key, fields, maxAge = Infinity, wait = 300 } = options;
  const store = storeOf.get(gate)!;
  let timer: unknown;

  const guarded = <T>(touch: () => T): T | undefined => {
    try {
      return touch();
    } catch (error) {
      store.fault(error, store.root, 'draft');
      return undefined;
    }
  };
  const wanted = (path: string): boolean => !fields || fields.some((field) => path === field || path.startsWith(`${field}.`));
  const discard = (): void => {
    clearTimeout(timer);
    guarded(() => storage.removeItem(key));
  };
  const write = (): void => {
    const all: Record<string, unknown> = {};
    collect(store.root, all);
    const edits = Object.fromEntries(Object.entries(all).filter(([path]) => wanted(path)));
    if (Object.keys(edits).length === 0) discard();
    else guarded(() => storage.setItem(key, JSON.stringify({ at: store.now().getTime(), edits } satisfies Kept)));
  };
  const restore = (): boolean => {
    const text = guarded(() => storage.getItem(key));
    if (text === null || text === undefined) return false;
    const kept = guarded(() => JSON.parse(text) as Kept | null);
    if (!kept || typeof kept.edits !== 'object' || !(store.now().getTime() - kept.at <= maxAge)) {
      discard();
      return false;
    }
    return store.batch(() => {
      let restored = false;
      // The field that chooses a variant stands before those of its cases, so that these are found.
      for (const [path, value] of Object.entries(kept.edits)) {
        const cell = wanted(path) ? store.find(path) : undefined;
        if (!cell || !fits(cell, value)) continue;
        setCell(cell, value);
        restored = true;
      }
      return restored;
    });
  };

  const restored = restore();
  let edits = store.edits;
  const undo = [
    gate.subscribe(() => {
      if (store.edits === edits) return;
      edits = store.edits;
      clearTimeout(timer);
      timer = setTimeout(write, wait);
    }),
    gate.on('accepted', discard),
  ];
  return {
    restored,
    discard,
    stop() {
      clearTimeout(timer);
      undo.forEach((stop) => stop());
    },
  };
}
