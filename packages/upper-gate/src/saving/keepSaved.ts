// Saving a form as it is edited: after each pause, one request at a time, what was changed and is valid.

import { aborted, inTime } from '../gate/aborted.ts';
import type { BaseNode } from '../gate/node.ts';
import { addVerdicts } from '../gate/addVerdicts.ts';
import type { Gate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import { isAnswer, isResponse, refusalIn, refusalStatus } from '../gate/serverAnswer.ts';
import type { Node } from '../schema/node.ts';
import { assertNumber } from '../schema/assertUse.ts';
import { changesIn, jsonPatchIn, mergePatchIn, type ChangesOf, type MergePatch } from './changes.ts';
import { sameData, type PatchOperation } from './diff.ts';
import { isWhole, type Snapshot } from './snapshot.ts';
import { takeValid } from './validSnapshot.ts';
import { LatestRun } from '../evaluate/latestRun.ts';

/** What `save` gets. */
export interface SavingRun<N extends Node = Node> {
  /** The changes that are valid. */
  readonly changes: ChangesOf<N>;
  /** The same as a merge patch (RFC 7396). @throws TypeError as `toMergePatch`, when it is read */
  readonly mergePatch: MergePatch;
  /** The same as a JSON Patch (RFC 6902). @throws TypeError as `toJsonPatch`, when it is read */
  readonly jsonPatch: readonly PatchOperation[];
  /** The version that the changes are based on, for `If-Match`: the `ETag` of the last answer. */
  readonly etag: string | undefined;
  /** Aborted when saving ends. */
  readonly signal: AbortSignal;
}

/**
 * Why something is not saved: the pause is not over; an error, or an async rule under way; no connection; the server has
 * another version (409 or 412), refused the values, or gave no usable answer.
 */
export type UnsavedReason = 'edited' | 'invalid' | 'offline' | 'conflict' | 'refused' | 'failed';

/** The state to show. */
export type SavingState =
  | { readonly status: 'saved' | 'saving' }
  | {
      readonly status: 'unsaved';
      readonly why: UnsavedReason;
      /** What the server answered, or what was thrown. */
      readonly reason?: unknown;
    };

/** The options of `keepSaved`. */
export interface SavingOptions<N extends Node> {
  /** Saves the changes. Its answer accepts or refuses, as with `submit`. A `Response` may have an `ETag`, the next version. */
  readonly save: (run: SavingRun<N>) => unknown;
  /** Milliseconds without an edit before they are saved. Default 1,000. */
  readonly pause?: number;
  /** The version that the form was loaded with. */
  readonly etag?: string | undefined;
}

/** A form that is being saved while the user edits. */
export interface Saving {
  /** The same object until it changes. */
  readonly state: SavingState;
  /** Calls back after each change of `state`; returns a function that ends it. */
  readonly subscribe: (listener: () => void) => () => void;
  /**
   * Saves at once, without waiting for the pause. Resolves when nothing is under way any more.
   *
   * @returns a promise that resolves then
   */
  saveNow(): Promise<void>;
  /**
   * Continues after a conflict, once `gate.rebase()` has brought in the version of the server.
   *
   * @param etag that version
   */
  resume(etag?: string): void;
  /** Stops saving, and aborts a request under way. */
  stop(): void;
}

/** Whether a field or list has an error. */
const isWrong = (node: BaseNode): boolean => node.errors > 0 && isWhole(node);

/** The longest wait before it is tried again, in milliseconds. */
const LONGEST_WAIT = 60_000;
/** What only a page has. */
const page: Partial<Pick<typeof globalThis, 'navigator' | 'addEventListener' | 'removeEventListener'>> = globalThis;
const SAVED: SavingState = { status: 'saved' };
const SAVING: SavingState = { status: 'saving' };

/**
 * Saves a form while the user edits: after each pause, whatever has changed and is valid. One request is under way at a time;
 * later edits are saved after it. A failed request is sent again after growing pauses, and when the connection is back. A
 * conflict (409 or 412) stops saving until `resume()`, so nothing is overwritten. Values that the server refuses show on their
 * fields, and are sent again when they are edited. While the form is being submitted, nothing is saved.
 *
 * @param gate the gate of the form
 * @param options how to save, the version at the start, the pause
 * @returns what follows the saving, and stops it
 * @throws TypeError for what is no gate
 *
 * @example
 * const saving = keepSaved(gate, {
 *   etag: loaded.headers.get('etag') ?? undefined,
 *   save: ({ mergePatch, etag, signal }) =>
 *     fetch('/bookings/7', {
 *       method: 'PATCH',
 *       headers: { 'content-type': 'application/merge-patch+json', ...(etag && { 'if-match': etag }) },
 *       body: JSON.stringify(mergePatch),
 *       signal,
 *     }),
 * });
 * saving.subscribe(() => show(saving.state));
 */
export function keepSaved<N extends Node>(gate: Gate<N>, { save, pause = 1000, etag: loaded }: SavingOptions<N>): Saving {
  assertNumber('pause', pause, 0);
  const { store, submission, onDispose } = internalsOf(gate);
  const { clock, root } = store;
  const listeners = new Set<() => void>();
  let state = SAVED;
  let etag = loaded;
  let timer: unknown;
  const latest = new LatestRun();
  let current: Promise<void> | undefined;
  /** Whether something was edited since the last request began. */
  let isEdited = false;
  const wasEdited = (): boolean => isEdited;
  let failures = 0;
  let isStopped = false;

  const become = (next: SavingState): void => {
    if (state === next) return;
    state = next;
    listeners.forEach((listener) => store.guard(listener, 'saving'));
  };
  const wait = (why: UnsavedReason, reason?: unknown): void => {
    if (state.status === 'unsaved' && state.why === why && state.reason === reason) return;
    become({ status: 'unsaved', why, ...(reason !== undefined && { reason }) });
  };
  const isBlocked = (): boolean => isStopped || (state.status === 'unsaved' && state.why === 'conflict');
  const isSubmitting = (): boolean => submission.status === 'checking' || submission.status === 'sending';
  const halt = (): void => {
    clock.clearTimeout(timer);
    timer = undefined;
  };
  const plan = (milliseconds: number): void => {
    halt();
    timer = clock.setTimeout(() => void attempt(), milliseconds);
  };
  const fail = (reason: unknown): void => {
    failures += 1;
    wait(page.navigator?.onLine === false ? 'offline' : 'failed', reason);
    plan(Math.min(Math.max(pause, 1) * 2 ** failures, LONGEST_WAIT));
  };

  /**
   * Takes an answer into account.
   *
   * @returns whether the values were taken
   */
  const settle = async (reply: unknown, { held, left }: Snapshot, signal: AbortSignal): Promise<boolean> => {
    const status = typeof reply === 'object' && reply !== null ? refusalStatus(reply as Record<string, unknown>) : undefined;
    if (status === 409 || status === 412) {
      wait('conflict', reply);
      return false;
    }
    const refusal = await inTime(clock, refusalIn(reply), signal);
    if (refusal?.some(({ verdict }) => verdict.code === 'failed')) {
      fail(reply);
      return false;
    }
    failures = 0;
    if (refusal) {
      addVerdicts(store, refusal, held);
      wait('refused', reply);
      return false;
    }
    if (isResponse(reply)) etag = reply.headers.get('etag') ?? etag;
    store.batch(() => {
      root.accept(held, left);
      root.moveInitial();
      store.markChanged(root);
    });
    return true;
  };

  const run = async (snapshot: Snapshot): Promise<void> => {
    const { saved, now } = snapshot;
    const own = latest.begin();
    const { signal } = own;
    isEdited = false;
    become(SAVING);
    let isTaken = false;
    let unwritable: unknown;
    const written = <T>(write: () => T): T => {
      try {
        return write();
      } catch (error) {
        unwritable = error;
        throw error;
      }
    };
    try {
      const part = root.part;
      const what: SavingRun<N> = {
        changes: changesIn(part, saved, now) as ChangesOf<N>,
        get mergePatch() {
          return written(() => mergePatchIn(part, snapshot));
        },
        get jsonPatch() {
          return written(() => jsonPatchIn(part, snapshot));
        },
        etag,
        signal,
      };
      // A client may throw what the server refused with.
      const reply = await Promise.race([Promise.resolve(what).then(save), aborted(signal)]).catch((error: unknown) => {
        if (signal.aborted || !isAnswer(error)) throw error;
        return error;
      });
      isTaken = await settle(reply, snapshot, signal);
    } catch (error) {
      if (!signal.aborted && error === unwritable) {
        // The same patch would throw again: the next edit may make it another.
        wait('failed', error);
        store.fault(error, root, 'save');
      } else if (!signal.aborted) fail(error);
    } finally {
      latest.end(own);
    }
    if (isTaken) await attempt(false);
    else if (wasEdited() && !isBlocked() && timer === undefined) plan(pause);
  };

  /** @param isAsked whether it is to begin at once; else what was edited meanwhile has its own pause */
  const attempt = async (isAsked = true): Promise<void> => {
    if (isAsked) halt();
    if (latest.current || isBlocked() || isSubmitting()) return;
    let snapshot: Snapshot;
    let isSame: boolean;
    try {
      snapshot = takeValid(store);
      isSame = sameData(snapshot.saved, snapshot.now);
    } catch (error) {
      // A value cannot be read, or contains itself. The next edit may replace it.
      halt();
      store.fault(error, root, 'save');
      return wait('failed', error);
    }
    const { left } = snapshot;
    if (isSame) {
      halt();
      for (const node of wrongBefore) if (!isWrong(node)) wrongBefore.delete(node);
      const isLeft = [...left].some((node) => node.dirty > 0 || (isWrong(node) && !wrongBefore.has(node)));
      return isLeft ? wait('invalid') : become(SAVED);
    }
    if (!isAsked) {
      wait('edited');
      return timer === undefined ? plan(pause) : undefined;
    }
    if (page.navigator?.onLine === false) return wait('offline');
    await (current = run(snapshot));
  };

  /** What had an error before anything was saved, such as what is still to be filled in. What an edit has made wrong since is not saved. */
  const wrongBefore = new Set<BaseNode>();
  root.forEach((node) => isWrong(node) && wrongBefore.add(node));
  /** Whether what held it back may be over: an answer that was awaited, a submission, an error. */
  const mayHaveChanged = (): boolean =>
    state.status === 'saved' ? root.dirty > 0 : state.status === 'unsaved' && (state.why === 'invalid' || state.why === 'edited');
  const stopObserving = store.observe(({ hasNewValues }) => {
    isEdited ||= hasNewValues;
    if (isBlocked()) return;
    if (hasNewValues) {
      if (root.dirty > 0 && !latest.current) wait('edited');
      plan(pause);
    } else if (timer === undefined && mayHaveChanged()) plan(pause);
  });
  const comeBack = (): void => {
    if (!isBlocked()) plan(0);
  };
  page.addEventListener?.('online', comeBack);
  const stop = (): void => {
    isStopped = true;
    halt();
    latest.abort();
    stopObserving();
    page.removeEventListener?.('online', comeBack);
    onDispose.delete(stop);
  };
  onDispose.add(stop);
  // A draft was restored.
  if (root.dirty > 0) {
    wait('edited');
    plan(pause);
  }
  return {
    get state() {
      return state;
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    async saveNow() {
      await current;
      await attempt();
    },
    resume(version) {
      if (version !== undefined) etag = version;
      if (state.status === 'unsaved' && state.why === 'conflict') wait('edited');
      comeBack();
    },
    stop,
  };
}
