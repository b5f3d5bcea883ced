// The submission of a form: editing -> checking -> sending -> accepted | refused | failed -> editing (at the next edit).

import { DEV, explain, warnOnce } from '#development';
import { LatestRun } from '../evaluate/latestRun.ts';
import { SUBMIT } from '../evaluate/stage.ts';
import { failed } from '../messages/english.ts';
import type { Finding } from '../schema/finding.ts';
import type { LiveNode } from '../schema/kit.ts';
import { isObjectLike } from '../schema/safeAccess.ts';
import { aborted, inTime } from './aborted.ts';
import { addVerdicts } from './addVerdicts.ts';
import { findingsBelow } from './findingsBelow.ts';
import { refusalIn, refusalThrown, type ReadRefusal, type ServerVerdict } from './serverAnswer.ts';
import type { FocusOnRefusal, FormStore } from './store.ts';
import { reveal } from './timing.ts';

/** The state of a submission. */
export type Status = 'editing' | 'checking' | 'sending' | 'accepted' | 'refused' | 'failed';

/** How a submission ended. */
export type Outcome<D = unknown, R = unknown> =
  /** The handler has answered: `reply`. */
  | { readonly status: 'accepted'; readonly data: D; readonly reply: R }
  /** The browser has sent the form, which says where it goes, and the page is still there. */
  | { readonly status: 'sent'; readonly data: D }
  | { readonly status: 'refused'; readonly by: 'rules' | 'server'; readonly findings: readonly Finding[] }
  /** Edited while it was checked, reset or disposed: nothing more came of it. */
  | { readonly status: 'interrupted' };

/** The second argument of a submit handler. */
export interface SubmitRun {
  /** Aborted when the form is reset or disposed. */
  readonly signal: AbortSignal;
  /** The event that was given to `gate.submit()`. */
  readonly event: unknown;
}

/** The state of the form's submissions. */
export interface SubmissionEvents<D, R = unknown> {
  /** A submission begins. */
  readonly submit: undefined;
  readonly accepted: Extract<Outcome<D, R>, { status: 'accepted' }>;
  readonly refused: Extract<Outcome<D, R>, { status: 'refused' }>;
  /** The handler threw: the error. */
  readonly failed: unknown;
}

/** The submissions of one form. */
export interface Submission {
  readonly status: Status;
  /** How many there were. */
  readonly count: number;
  submit(event: unknown): Promise<Outcome>;
  /** Ends what is under way; nothing more comes of it. */
  abort(): void;
  become(status: Status): void;
}

interface SubmissionOptions {
  readonly handler: ((data: never, run: SubmitRun) => unknown) | undefined;
  readonly refusal: ReadRefusal | undefined;
  readonly focus: FocusOnRefusal;
  /** Calls the listeners of an event. @returns whether there are any */
  readonly emit: (event: keyof SubmissionEvents<unknown>, what: unknown) => boolean;
}

const INTERRUPTED: Outcome = { status: 'interrupted' };

/** Makes what submits a form. */
export function createSubmission(store: FormStore, { handler, refusal: own, focus, emit }: SubmissionOptions): Submission {
  const { root } = store;
  let status: Status = 'editing';
  let count = 0;
  let current: Promise<Outcome> | undefined;
  const latest = new LatestRun();
  /** Whether something was edited that the status does not take into account. */
  let isEdited = false;

  const become = (next: Status): void => {
    if (next !== 'checking') isEdited = false;
    if (next !== 'sending') store.onReplace = undefined;
    if (status === next) return;
    status = next;
    store.batch(() => store.markChanged(root));
  };
  // What the last submission came to is past with the next edit.
  store.onEdit = () => (isEdited = true);
  store.afterOperation = () => {
    if (isEdited && status !== 'editing' && status !== 'checking' && status !== 'sending') become('editing');
  };

  const refuse = (by: 'rules' | 'server'): Outcome => {
    const outcome: Outcome = { status: 'refused', by, findings: findingsBelow(root) };
    become('refused');
    emit('refused', outcome);
    store.page?.followRefusal(root, focus);
    return outcome;
  };

  const breakDown = (error: unknown): void => {
    store.batch(() => {
      become('failed');
      root.ownVerdicts().setFailure([{ rule: undefined, verdict: { code: 'failed', text: failed } }]);
      reveal(root);
    });
    // Whoever listens has taken note: a promise that nobody waits for is then no unhandled rejection.
    if (emit('failed', error)) current?.catch(() => undefined);
    if (focus !== 'none') store.page?.focusNode(root);
  };

  const conduct = async (event: unknown, signal: AbortSignal): Promise<Outcome> => {
    count += 1;
    store.tracer?.submitted();
    store.batch(() => {
      // What the server said of the same values last time, it may say otherwise now.
      root.forEach((node) => node.verdicts?.clearAdded());
      become('checking');
      emit('submit', undefined);
      isEdited = false;
      store.rerun(root, SUBMIT, true);
    });
    // Within an operation (a batch, a callback) nothing has run yet.
    if (store.isBusy) await Promise.resolve();
    const isInterrupted = (): boolean => signal.aborted || isEdited;
    while (root.pending > 0 && !isInterrupted()) {
      await store.until(() => root.pending === 0 || isInterrupted());
      // What is sent is right now, not when the answers were awaited.
      if (!isInterrupted()) store.rerun(root, 0);
    }
    if (isInterrupted()) {
      if (!signal.aborted) become('editing');
      return INTERRUPTED;
    }
    if (root.errors > 0) return refuse('rules');

    const { data } = root;
    const sent = new Map<LiveNode, unknown>();
    store.onReplace = (node, held) => {
      if (!sent.has(node)) sent.set(node, held);
    };
    become('sending');
    const posting = handler ? undefined : store.sendForm?.(event, signal);
    if (posting) {
      await Promise.race([posting, aborted(signal)]);
      signal.throwIfAborted();
      become('editing');
      return { status: 'sent', data };
    }
    let reply: unknown;
    let refusal: readonly ServerVerdict[] | undefined;
    try {
      reply = await Promise.race([handler?.(data as never, { signal, event }), aborted(signal)]);
      refusal = await inTime(store.clock, refusalIn(reply, own), signal);
    } catch (error) {
      signal.throwIfAborted();
      // A client may throw what the server refused with.
      refusal = await inTime(store.clock, refusalThrown(error, own), signal).catch((fault: unknown) => {
        if (!signal.aborted) store.fault(fault, root, 'refusal');
        return undefined;
      });
      signal.throwIfAborted();
      if (!refusal) throw error;
    }
    signal.throwIfAborted();
    if (refusal) {
      store.actAs('server', () => addVerdicts(store, refusal, sent));
      return refuse('server');
    }
    const outcome: Outcome = { status: 'accepted', data, reply };
    store.batch(() => {
      root.accept(sent);
      become('accepted');
    });
    if (DEV)
      store.guard(() => {
        if (isObjectLike(reply) && (reply['error'] || reply['ok'] === false || reply['success'] === false))
          warnOnce(store, () => [
            explain(
              'accepted-an-error',
              'the answer of submit was taken for success, though it has a truthy "error", or "ok" or "success" that is false. Refuse with findings: createGate(schema, { refusal: (answer) => [...] }).',
            ),
          ]);
      }, 'submit');
    const isHeard = emit('accepted', outcome);
    if (DEV && !handler && !isHeard && store.sendForm)
      warnOnce(store, () => [
        explain(
          'nothing-is-sent',
          `the form was accepted, but nothing was sent: its gate has no submit handler, and the form no action. Give createGate() a submit, the <form> an action, or listen to gate.on('accepted', ...).`,
        ),
      ]);
    return outcome;
  };

  const run = async (event: unknown): Promise<Outcome> => {
    const own = latest.begin();
    try {
      return await conduct(event, own.signal);
    } catch (error) {
      // An aborted submission has ended, whatever its handler makes of that.
      if (own.signal.aborted) return INTERRUPTED;
      breakDown(error);
      throw error;
    } finally {
      if (latest.end(own)) current = undefined;
    }
  };

  return {
    become,
    get status() {
      return status;
    },
    get count() {
      return count;
    },
    submit(event) {
      (event as { preventDefault?: () => void } | undefined)?.preventDefault?.();
      if (store.isDisposed) return Promise.resolve(INTERRUPTED);
      if (current) return current;
      // In place before anything runs, so that a submit from within joins this one.
      let follow!: (run: Promise<Outcome>) => void;
      const outcome = new Promise<Outcome>((resolve) => (follow = resolve));
      current = outcome;
      follow(run(event));
      return outcome;
    },
    abort() {
      latest.abort();
      current = undefined;
      become('editing');
    },
  };
}
