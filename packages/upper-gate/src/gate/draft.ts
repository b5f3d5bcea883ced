// Drafts: a half-filled form survives a reload. What was edited is kept as raw values, over whatever the initial values
// are by then.

import { isField, type FieldPart } from '../schema/field.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { Node } from '../schema/node.ts';
import type { Gate } from './gate.ts';
import { internalsOf } from './internals.ts';
import type { BaseNode } from './node.ts';
import { atOnce, isObjectLike } from '../schema/safeAccess.ts';
import { heldIn, travelling } from '../schema/travel.ts';
import { isPlain } from '../schema/json.ts';
import { restorable } from './restorable.ts';

/** Where a draft is kept: `localStorage`, `sessionStorage`, or anything of their shape. */
export interface DraftStorage {
  /**
   * Reads an entry.
   *
   * @param key its key
   * @returns its text, or null if there is none
   */
  getItem(key: string): string | null;
  /**
   * Writes an entry.
   *
   * @param key its key
   * @param value its text
   */
  setItem(key: string, value: string): void;
  /**
   * Removes an entry.
   *
   * @param key its key
   */
  removeItem(key: string): void;
}

/** The options of `keepDraft`. */
export interface DraftOptions {
  /** The storage, or a function that returns it: reading `localStorage` may throw, and then nothing is kept. */
  readonly storage: DraftStorage | (() => DraftStorage);
  /** The key of the entry; use one for each form. */
  readonly key: string;
  /** The paths that are kept. Default: all. Files and `private` fields are never kept. */
  readonly fields?: readonly string[];
  /** Milliseconds after which a draft is too old to be restored. Default: never. */
  readonly maxAge?: number;
  /** Milliseconds without an edit before the draft is written. Default 300. */
  readonly wait?: number;
  /** Called if another page (a second tab) has kept other values of the same fields. Those of this page win. */
  readonly onConflict?: (paths: readonly string[]) => void;
}

/** A form's draft. */
export interface Draft {
  /** Whether anything was restored. */
  readonly restored: boolean;
  /** Deletes the draft; later edits are kept again. */
  discard(): void;
  /** Stops keeping. */
  stop(): void;
}

/** What is written: when, and the edits by path. */
interface Kept {
  readonly at: number;
  readonly edits: Readonly<Record<string, unknown>>;
}

/** What is kept of a field that is written by a language: its data, as JSON. */
interface KeptData {
  readonly data: unknown;
}

/** What a field takes of a draft, which may be of an older schema, or somebody has changed it. */
function take(part: FieldPart, kept: unknown): unknown {
  const { emptyRaw, spec, traits } = part;
  if (spec.translate && isPlain(kept)) return heldIn(part, kept['data']);
  const fits = typeof kept === typeof emptyRaw && Array.isArray(kept) === Array.isArray(emptyRaw);
  return fits || (traits.json === 'any' && !spec.writeData) ? kept : undefined;
}

/** The types of data that JSON holds for certain. */
const CERTAIN = ['string', 'number', 'boolean'];

/** What controls hold; or data, where that is written by a language. */
function portable(node: BaseNode): unknown {
  const { part, data, raw } = node;
  if (!isField(part)) return node.fold(portable);
  const { translate, writeJson } = part.spec;
  // (Not data that JSON cannot hold.)
  if (!translate || data === NO_VALUE || data === undefined || (!CERTAIN.includes(typeof data) && !writeJson)) return raw;
  return { data: travelling(part, data) } satisfies KeptData;
}

/** Collects what was edited: fields one by one, lists and dictionaries as a whole. */
function collect(node: BaseNode, keep: (path: string, value: () => unknown) => void): void {
  if (node.dirty === 0 || node.part.settings.private) return;
  if (node.part.traits.hasParts && !node.part.isOpen) return node.children.forEach((child) => collect(child, keep));
  keep(node.path, () => restorable(node.part, portable(node), (_, value) => value));
}

/**
 * Stores the edits of a form, and restores them at once, as edits over the initial values. After acceptance only later edits
 * are kept; without edits the entry is deleted. Storage that is full, broken or forbidden doesn't break the form; it is
 * reported as a fault.
 *
 * @param gate the gate of the form
 * @param options the storage, the key, and how long a draft is kept
 * @returns the draft: whether something was restored, and how to drop it
 * @throws TypeError for what is no gate
 *
 * @example
 * const draft = keepDraft(gate, { storage: () => localStorage, key: 'passage', maxAge: 7 * 24 * 3600 * 1000 });
 * if (draft.restored) show('Your earlier entries are back.');
 */
export function keepDraft<N extends Node>(gate: Gate<N>, options: DraftOptions): Draft {
  const { key, fields, maxAge = Infinity, wait = 300, onConflict } = options;
  const { store, onDispose } = internalsOf(gate);
  const { clock, root } = store;
  let timer: unknown;
  /** The entry that this page read or wrote last, and the paths of the edits made here. */
  let lastText: string | null = null;
  let own = new Set<string>();

  const guarded = <T>(touch: (storage: DraftStorage) => T): T | undefined => {
    try {
      return atOnce(touch(typeof options.storage === 'function' ? atOnce(options.storage()) : options.storage));
    } catch (error) {
      store.fault(error, root, 'draft');
      return undefined;
    }
  };
  const unwritable = new Set<string>();
  /** Does something with a value. One that JSON cannot write, or its kind not read, is reported, once, and keeps no other from being kept. */
  const attempt = <T>(path: string, act: () => T): T | undefined => {
    try {
      return act();
    } catch (error) {
      if (!unwritable.has(path)) store.fault(error, store.find(path) ?? root, 'draft');
      unwritable.add(path);
      return undefined;
    }
  };
  const isWritable = (path: string, raw: unknown): boolean => attempt(path, () => JSON.stringify(raw)) !== undefined;
  const isWanted = (path: string): boolean => !fields || fields.some((field) => path === field || path.startsWith(`${field}.`));
  const put = (edits: ReadonlyMap<string, unknown>): void => {
    lastText = edits.size === 0 ? null : JSON.stringify({ at: clock.now().getTime(), edits: Object.fromEntries(edits) } satisfies Kept);
    const text = lastText;
    guarded((storage) => (text === null ? storage.removeItem(key) : storage.setItem(key, text)));
  };
  /** What of a kept value the form takes; nothing where it does not fit. */
  const fitting = (path: string, value: unknown, how: typeof take): unknown =>
    isWanted(path) ? attempt(path, () => restorable(store.find(path)?.part, value, how)) : undefined;
  const parse = (text: string | null | undefined): Kept | undefined => {
    try {
      const kept: unknown = JSON.parse(text ?? 'null');
      return isObjectLike(kept) && isObjectLike(kept['edits']) && typeof kept['at'] === 'number' ? (kept as unknown as Kept) : undefined;
    } catch {
      return undefined;
    }
  };
  /** What another page has kept since, of fields that are not edited here. */
  const others = (edits: ReadonlyMap<string, unknown>): ReadonlyMap<string, unknown> => {
    const text = guarded((storage) => storage.getItem(key));
    const theirs = Object.entries(parse(text)?.edits ?? {}).filter(([path, value]) => isWritable(path, value));
    const isOther = ([path, value]: readonly [string, unknown]): boolean =>
      edits.has(path) && JSON.stringify(edits.get(path)) !== JSON.stringify(value);
    const conflicts = text === lastText ? [] : theirs.filter(isOther);
    if (conflicts.length > 0) store.guard(() => onConflict?.(conflicts.map(([path]) => path)), 'onConflict');
    // What this page has kept and does not edit any more is over.
    const asKept: typeof take = (part, kept) => (take(part, kept) === undefined ? undefined : kept);
    const still = theirs.map(([path, value]) => [path, own.has(path) ? undefined : fitting(path, value, asKept)] as const);
    return new Map(still.filter(([, value]) => value !== undefined));
  };
  const write = (): void => {
    clock.clearTimeout(timer);
    timer = undefined;
    const edits = new Map<string, unknown>();
    collect(root, (path, value) => {
      const raw = isWanted(path) ? attempt(path, value) : undefined;
      if (raw !== undefined && isWritable(path, raw)) edits.set(path, raw);
    });
    const all = new Map([...others(edits), ...edits]);
    own = new Set(edits.keys());
    put(all);
  };
  const discard = (): void => {
    clock.clearTimeout(timer);
    timer = undefined;
    const rest = others(new Map());
    own = new Set();
    put(rest);
  };
  const restore = (): boolean => {
    const text = guarded((storage) => storage.getItem(key));
    if (text === null || text === undefined) return false;
    lastText = text;
    const kept = parse(text);
    if (!kept || !(clock.now().getTime() - kept.at <= maxAge)) {
      put(new Map());
      return false;
    }
    return store.batch(() => {
      let restored = false;
      // The field that chooses a variant stands before those of its cases, so that these are found.
      for (const [path, value] of Object.entries(kept.edits)) {
        const raw = fitting(path, value, take);
        if (raw === undefined) continue;
        store.actAs('draft', () => store.find(path)!.edit(raw));
        own.add(path);
        restored = true;
      }
      return restored;
    });
  };

  const restored = restore();
  let { dirty } = root;
  const stopObserving = store.observe(({ hasNewValues }) => {
    // (What has been saved, or reset, is no edit any more: else the next visit would undo what somebody else has saved since.)
    if (!hasNewValues && root.dirty === dirty) return;
    dirty = root.dirty;
    clock.clearTimeout(timer);
    timer = clock.setTimeout(write, wait);
  });
  const stopListening = gate.on('accepted', write);
  /** Writes what is still to be written: nothing is lost. */
  const flush = (): void => {
    if (timer !== undefined) write();
  };
  onDispose.add(flush);
  return {
    restored,
    discard,
    stop() {
      clock.clearTimeout(timer);
      timer = undefined;
      stopObserving();
      onDispose.delete(flush);
      stopListening();
    },
  };
}
