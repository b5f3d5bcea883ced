// A booking that is kept saved as it is edited, and what happens when somebody else changes it meanwhile.

import { createGate, type Gate } from 'upper-gate';
import { warnBeforeLeaving } from 'upper-gate/dom';
import { changesOf, keepSaved, type SavingState, type UnsavedReason } from 'upper-gate/saving';
import { reviewOf, type ReviewEntry } from 'upper-gate/wizard';
import { bookedForm, type Booking, type Changeable } from './booked.ts';

const TEXTS: Readonly<Record<'saved' | 'saving' | UnsavedReason, string>> = {
  saved: 'All changes are saved.',
  saving: 'Saving …',
  edited: 'Changed, and not saved yet.',
  invalid: 'Not saved: an entry needs another look.',
  offline: 'Not saved: there is no connection. It is tried again when there is one.',
  conflict: 'Not saved: somebody else has changed this booking.',
  refused: 'Not saved: the office has refused an entry.',
  failed: 'Not saved: the office does not answer. It is tried again.',
};

/** The text that shows the state of saving. */
export const textOf = (state: SavingState): string => TEXTS[state.status === 'unsaved' ? state.why : state.status];

/** The text that is announced: not each time that saving starts. */
export const heardOf = (state: SavingState): string =>
  state.status === 'saving' || (state.status === 'unsaved' && state.why === 'edited') ? '' : textOf(state);

/** What somebody else has changed meanwhile. */
export interface News {
  /** The labels of the fields that were changed there alone: they are taken over. */
  readonly taken: readonly string[];
  /** Those that were changed here, too, with what they are there: somebody has to choose. */
  readonly disputed: readonly { readonly label: string; readonly theirs: string }[];
}

export interface Keeping {
  readonly gate: Gate<typeof bookedForm>;
  readonly booking: Booking;
  /** The same until it changes. */
  readonly state: SavingState;
  readonly news: News | undefined;
  readonly subscribe: (listener: () => void) => () => void;
  /** Settles what is disputed, and goes on. */
  settle(whose: 'mine' | 'theirs'): void;
  stop(): void;
}

type Field = keyof Changeable;
const FIELDS = Object.keys(bookedForm.fields) as Field[];

/** An entry of a review on one line. */
const inWords = ({ text = '', entries = [] }: ReviewEntry): string =>
  [text, ...entries.map((entry) => inWords(entry))].filter(Boolean).join(', ') || 'nothing';

const urlOf = (reference: string): string => `/api/bookings/${encodeURIComponent(reference)}`;

interface Loaded {
  readonly booking: Booking;
  readonly etag: string | undefined;
}

async function load(reference: string): Promise<Loaded> {
  const response = await fetch(urlOf(reference));
  if (!response.ok) throw new Error(response.status === 404 ? 'There is no such booking.' : 'The booking office does not answer.');
  return { booking: (await response.json()) as Booking, etag: response.headers.get('etag') ?? undefined };
}

/** Loads a booking and keeps it saved. @throws Error for a booking that is not there */
export async function openBooking(reference: string): Promise<Keeping> {
  const { booking, etag } = await load(reference);
  const gate = createGate(bookedForm, { initial: booking.details });
  const listeners = new Set<() => void>();
  const tell = (): void => listeners.forEach((listener) => listener());
  /** What the office has, as far as is known here. */
  let known: Changeable = booking.details;
  let theirs: Loaded | undefined;
  let disputed: readonly Field[] = [];
  let news: News | undefined;

  const saving = keepSaved(gate, {
    etag,
    pause: 400,
    save: async ({ mergePatch, etag: version, signal }) => {
      const response = await fetch(urlOf(reference), {
        method: 'PATCH',
        headers: { 'content-type': 'application/merge-patch+json', 'if-match': version ?? '' },
        body: JSON.stringify(mergePatch),
        signal,
      });
      if (response.ok) known = ((await response.clone().json()) as Booking).details;
      return response;
    },
  });

  const isOther = (key: string, a: object, b: object): boolean => JSON.stringify(a[key as never]) !== JSON.stringify(b[key as never]);
  /** Brings in what somebody else has changed. What was edited here stays; where both did, somebody has to choose. */
  async function bringIn(): Promise<void> {
    theirs = await load(reference);
    const { details } = theirs.booking;
    const mine = changesOf(gate);
    const changed = FIELDS.filter((key) => isOther(key, details, known));
    disputed = changed.filter((key) => Object.hasOwn(mine, key) && isOther(key, details, mine));
    // Written as people read it, by a form of their values.
    const there = createGate(bookedForm, { initial: details });
    const entries = (keys: readonly Field[]) => reviewOf(there, keys).map((entry) => ({ label: entry.label, theirs: inWords(entry) }));
    news = { taken: entries(changed.filter((key) => !Object.hasOwn(mine, key))).map(({ label }) => label), disputed: entries(disputed) };
    there.dispose();
    known = details;
    gate.rebase(details);
    tell();
    if (disputed.length === 0) saving.resume(theirs.etag);
  }
  const stop = saving.subscribe(() => {
    const { state } = saving;
    if (state.status === 'unsaved' && state.why === 'conflict') void bringIn().catch(tell);
    tell();
  });
  const stopWarning = warnBeforeLeaving(gate);

  return {
    gate,
    booking,
    get state() {
      return saving.state;
    },
    get news() {
      return news;
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    settle(whose) {
      if (!theirs) return;
      const { booking: current, etag: version } = theirs;
      if (whose === 'theirs') gate.set(Object.fromEntries(disputed.map((key) => [key, current.details[key]])));
      news = undefined;
      saving.resume(version);
      tell();
    },
    stop() {
      stop();
      stopWarning();
      gate.dispose();
    },
  };
}
