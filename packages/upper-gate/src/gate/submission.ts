// The submission of a form: editing -> checking -> sending -> accepted | refused | failed -> editing (at the next edit).

import { refused } from '../messages/en.ts';
import type { Finding } from '../schema/finding.ts';
import type { Verdict } from '../schema/rule.ts';
import { toFinding } from '../evaluate/finding.ts';
import { type Cell, FieldCell, type RowsThen } from './cell.ts';
import type { FormStore } from './formStore.ts';
import { findingsBelow, focusCell, focusFirstError } from './focus.ts';
import { findingsIn, type GivenFinding, isAnswer, type ProblemDetails, refusalIn } from './refusal.ts';

export type Status = 'editing' | 'checking' | 'sending' | 'accepted' | 'refused' | 'failed';

/** How a submission ended. */
export type Outcome<D = unknown> =
  | { readonly status: 'accepted'; readonly data: D; readonly reply: unknown }
  | { readonly status: 'refused'; readonly by: 'rules' | 'server'; readonly findings: readonly Finding[] }
  /** Edited while it was checked, reset or disposed: nothing more came of it. */
  | { readonly status: 'interrupted' };

/** What a submit handler is given beside the data. */
export interface SubmitRun {
  /** Aborted when the form is reset or disposed. */
  readonly signal: AbortSignal;
  /** The event that was given to `gate.submit()`. */
  readonly event: unknown;
}

/** The state of the form's submissions. */
export interface SubmissionEvents<D> {
  /** A submission begins. */
  readonly submit: undefined;
  readonly accepted: Extract<Outcome<D>, { status: 'accepted' }>;
  readonly refused: Extract<Outcome<D>, { status: 'refused' }>;
  /** The handler threw: with what it threw. */
  readonly failed: unknown;
}

export type FocusOnRefusal = 'first' | 'summary' | 'none';

const INTERRUPTED: Outcome = { status: 'interrupted' };

type Handler = (data: never, context: SubmitRun) => unknown;
/** Tells those who listen. @returns whether somebody did */
type Emit = (event: keyof SubmissionEvents<unknown>, what: unknown) => boolean;

export class Submission {
  status: Status = 'editing';
  count = 0;
  readonly #store: FormStore;
  readonly #handler: Handler | undefined;
  readonly #focus: FocusOnRefusal;
  readonly #emit: Emit;
  #current: Promise<Outcome> | undefined;
  #controller: AbortController | undefined;
  /** The number of the last edit that the status takes into account. */
  #edits = 0;
  /** Ends the wait for answers. */
  #proceed: (() => void) | undefined;

  constructor(store: FormStore, handler: Handler | undefined, focus: FocusOnRefusal, emit: Emit) {
    this.#store = store;
    this.#handler = handler;
    this.#focus = focus;
    this.#emit = emit;
    store.onFlush = () => this.#noticeEdit();
  }

  /** Called after each operation: an edit ends the check under way, and what the last submission came to is past. */
  #noticeEdit(): void {
    if (this.#edits === this.#store.edits || this.status === 'sending') return;
    if (this.status === 'checking') {
      this.#proceed?.();
    } else if (this.status !== 'editing') {
      this.status = 'editing';
      this.#store.markChanged(this.#store.root);
    }
  }

  /** Ends what is under way; nothing more comes of it. */
  abort(): void {
    this.#controller?.abort();
    this.#proceed?.();
    this.#become('editing');
  }

  submit(event: unknown): Promise<Outcome> {
    (event as { preventDefault?: () => void } | undefined)?.preventDefault?.();
    if (this.#current) return this.#current;
    // In place before anything runs, so that a submit from within joins this one.
    let follow!: (run: Promise<Outcome>) => void;
    const outcome = new Promise<Outcome>((resolve) => (follow = resolve));
    this.#current = outcome;
    follow(this.#run(event));
    return outcome;
  }

  async #run(event: unknown): Promise<Outcome> {
    const controller = new AbortController();
    this.#controller = controller;
    try {
      return await this.#conduct(event, controller.signal);
    } catch (error) {
      // An aborted submission has ended, whatever its handler makes of that.
      if (!controller.signal.aborted) throw error;
      return INTERRUPTED;
    } finally {
      if (this.#controller === controller) this.#current = this.#controller = undefined;
    }
  }

  async #conduct(event: unknown, signal: AbortSignal): Promise<Outcome> {
    const store = this.#store;
    const { root } = store;
    this.count += 1;
    this.#edits = store.edits;
    store.batch(() => {
      // What the server said of the same values last time, it may say otherwise now.
      for (const cell of root.cells()) cell.clearServerFindings();
      this.#become('checking');
      this.#emit('submit', undefined);
      store.validateAll(root);
    });
    if (root.pending > 0) {
      await new Promise<void>((resolve) => {
        this.#proceed = resolve;
        void store.whenSettled([root]).then(resolve);
      });
    }
    if (signal.aborted || store.edits !== this.#edits) {
      if (!signal.aborted) this.#become('editing');
      return INTERRUPTED;
    }
    if (root.errors > 0) return this.#refuse('rules');

    const data = root.data;
    const rows = store.rowsNow();
    this.#become('sending');
    let reply: unknown;
    let refusal: readonly GivenFinding[] | undefined;
    try {
      reply = await Promise.race([this.#handler?.(data as never, { signal, event }), aborted(signal)]);
      refusal = await refusalIn(reply);
    } catch (error) {
      signal.throwIfAborted();
      // A client may throw what the server refused with.
      const failure = await refusalIn(isAnswer(error) ? error : undefined).then(
        (findings) => {
          refusal = findings;
          return error;
        },
        (breakdown: unknown) => breakdown,
      );
      if (!refusal) {
        this.#become('failed');
        // Whoever listens has taken note: a promise that nobody waits for is then no unhandled rejection.
        if (this.#emit('failed', failure)) this.#current?.catch(() => undefined);
        throw failure;
      }
    }
    signal.throwIfAborted();
    if (refusal) {
      addFindings(store, refusal, { edits: this.#edits, rows });
      return this.#refuse('server');
    }
    const outcome: Outcome = { status: 'accepted', data, reply };
    this.#become('accepted');
    this.#emit('accepted', outcome);
    return outcome;
  }

  #refuse(by: 'rules' | 'server'): Outcome {
    const { root } = this.#store;
    const outcome: Outcome = { status: 'refused', by, findings: findingsBelow(root) };
    this.#become('refused');
    this.#emit('refused', outcome);
    if (this.#focus === 'summary') focusCell(root);
    else if (this.#focus === 'first' && !focusFirstError(root)) focusCell(root);
    return outcome;
  }

  #become(status: Status): void {
    if (status !== 'checking') this.#edits = this.#store.edits;
    if (this.status === status) return;
    this.status = status;
    this.#store.batch(() => this.#store.markChanged(this.#store.root));
  }
}

/** Rejects as soon as the signal is aborted, so that a handler that does not heed it holds nothing up. */
const aborted = (signal: AbortSignal): Promise<never> =>
  new Promise((_, reject) => signal.addEventListener('abort', () => reject(signal.reason)));

/**
 * Puts a server's findings on the fields that they name; what names no field goes to the nearest group around it.
 *
 * @param sent what the form was when it was sent: rows are found again that have moved since; findings on fields that
 *   were edited since, or on rows that are gone, are dropped: they are about another value
 */
export function addFindings(
  store: FormStore,
  answer: readonly GivenFinding[] | ProblemDetails,
  sent?: { readonly edits: number; readonly rows: RowsThen },
): void {
  store.batch(() => {
    for (const { path, message, code = 'customError', severity = 'error', params } of findingsIn(answer)) {
      const cell = nearest(store, typeof path === 'string' ? path : '', sent?.rows);
      if (cell.removed || (sent && cell instanceof FieldCell && cell.editedAt > sent.edits)) continue;
      const authored = typeof message === 'string' && message !== '' ? () => message : store.catalogue?.['refused'];
      const verdict: Verdict = { code, text: refused, severity, params, message: authored };
      cell.addServerFinding(toFinding(cell.path, cell.part, undefined, verdict, store.catalogue));
      store.reveal(cell);
    }
  });
}

function nearest(store: FormStore, path: string, rows: RowsThen | undefined): Cell {
  for (let at = path; at !== ''; at = at.slice(0, Math.max(0, at.lastIndexOf('.')))) {
    const cell = store.find(at, store.root, rows);
    if (cell?.applies || cell?.removed) return cell;
  }
  return store.root;
}
