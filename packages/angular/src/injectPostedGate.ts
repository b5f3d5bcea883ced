// The gate of a form that is also posted without script.

import { computed, type Signal } from '@angular/core';
import type { Gate, Node } from 'upper-gate';
import { postForm, type ActionPosting, type FormAction, type Posting } from 'upper-gate/binding';
import type { ElementBundle } from './bundle.ts';
import { injectView } from './following.ts';
import { injectGate, type InjectGateOptions } from './injectGate.ts';

/** A form that works without script, too. `A` is what its action answers, `P` what the page came with. */
export interface PostedGate<N extends Node, A, P> {
  readonly gate: Gate<N, A>;
  readonly form: ElementBundle;
  /** What the action answered last; until then `posted`. */
  readonly answer: Signal<Awaited<A> | P | undefined>;
}

/** The options of `injectPostedGate`: those of `injectGate`, and what the server answered to the form before there was script. */
export type PostedOptions<N extends Node, P, R = unknown> = InjectGateOptions<N, R> & Posting<P>;

/** The options of `injectPostedGate` with an action, in place of `submit`. */
export type ActionOptions<N extends Node, A, P> = Omit<InjectGateOptions<N>, 'submit'> & ActionPosting<A, P>;

/**
 * Makes the gate of a form that works without script, too: with `action` in place of `submit`, with `posted`, what a server answered to
 * the form before there was script. Else as `injectGate`.
 *
 * @param schema the schema
 * @param options as of `injectGate`, with `action` and `posted`
 * @returns the gate, the bundle of the `<form>`, and a signal of the last answer
 *
 * @example
 * readonly booking = injectPostedGate(passage, { action: (before, data) => fetch('/bookings', { method: 'POST', body: data }), posted });
 * // <form [gate]="booking.form" action="/bookings" method="post">
 */
export function injectPostedGate<N extends Node, A, P = Awaited<A>>(schema: N, options: ActionOptions<N, A, P>): PostedGate<N, A, P>;
export function injectPostedGate<N extends Node, P, R = unknown>(schema: N, options: PostedOptions<N, P, R>): PostedGate<N, R, P>;
export function injectPostedGate<N extends Node>(
  schema: N,
  { action, posted, ...options }: InjectGateOptions<N> & { readonly action?: FormAction<unknown> | undefined; readonly posted?: unknown },
): PostedGate<N, unknown, unknown> {
  const post = postForm(action, posted);
  const { gate, form } = injectGate(schema, { ...options, ...(post.submit && { submit: post.submit }) });
  post.takeOver(gate);
  const read = injectView(gate, undefined, () => post);
  const attach: ElementBundle['attach'] = (element) => {
    const undo = [post.attach(element as HTMLElement as HTMLFormElement), form.attach!(element)];
    return () => undo.forEach((each) => each());
  };
  return { gate, form: { attributes: {}, attach }, answer: computed(() => read().now) };
}
