// The gate of a form, for as long as its component lives.

import { APP_ID, ApplicationRef, DestroyRef, effect, inject, untracked } from '@angular/core';
import { createGate, type Catalogue, type ContextValue, type Gate, type GateOptions, type Node } from 'upper-gate';
import { followContext, setIdPrefix, wireForm } from 'upper-gate/binding';
import type { ElementBundle } from './bundle.ts';
import { type Reading, valueOf } from './following.ts';

/** The options of `injectGate`: those of `createGate`, with language and facts also as signals, and what the ids of the form begin with. */
export interface InjectGateOptions<N extends Node, R = unknown> extends Omit<GateOptions<N, R>, 'messages' | 'context'> {
  /** The language of the messages: a catalogue, or a signal of one. */
  readonly messages?: Reading<Catalogue | undefined>;
  /** Facts from outside, or a signal of them: `() => [maxBeam.of(this.maxBeam())]`. The form follows their values. */
  readonly context?: Reading<readonly ContextValue[] | undefined>;
  /** What the ids of the form's elements begin with. Default: the id of the application and a number, the same on a server. */
  readonly idPrefix?: string;
}

/** How many forms each application has made. */
const counts = new WeakMap<ApplicationRef, number>();

function uniqueId(): string {
  const application = inject(ApplicationRef);
  const count = counts.get(application) ?? 0;
  counts.set(application, count + 1);
  return `${inject(APP_ID)}-${count}`;
}

/**
 * Makes the gate of a form, where a component is constructed. What reads nothing of it is not checked when the form changes: see
 * `injectGateField` and `injectGateState`.
 *
 * @param schema the schema
 * @param options as of `createGate`; `messages` and `context` may be signals
 * @returns the gate, and the bundle of the `<form>`
 *
 * @example
 * readonly booking = injectGate(passage, { submit: (data) => this.api.book(data) });
 * // <form [gate]="booking.form">
 */
export function injectGate<N extends Node, R = unknown>(
  schema: N,
  { messages, context, idPrefix = uniqueId(), ...options }: InjectGateOptions<N, R> = {},
): { readonly gate: Gate<N, R>; readonly form: ElementBundle } {
  const [catalogue, facts] = untracked(() => [valueOf(messages), valueOf(context)] as const);
  const gate: Gate<N, R> = createGate(schema, { ...options, messages: catalogue, context: facts ?? [] });
  setIdPrefix(gate, idPrefix);
  follow(messages, catalogue, (now) => gate.setLocale(now));
  follow(context, facts, (now, before) => followContext(gate, now, before));
  // What is under way ends with the component.
  inject(DestroyRef).onDestroy(() => gate.dispose());
  return { gate, form: { attributes: {}, attach: (form) => wireForm(form as HTMLElement as HTMLFormElement, gate) } };
}

function follow<T>(given: Reading<T>, first: T, callback: (now: T, before: T) => void): void {
  if (typeof given !== 'function') return;
  let last = first;
  effect(() => {
    const now = valueOf(given);
    untracked(() => now !== last && callback(now, last));
    last = now;
  });
}
