// The gate of a form that is also posted without script.

import { computed, type Ref as AnyRef } from 'vue';
import { postForm, readViews, type ActionPosting, type FormAction, type Posting } from '../binding/index.ts';
import type { Gate } from '../gate/gate.ts';
import type { Node } from '../schema/node.ts';
import { refOf, type Ref } from './element.ts';
import { useTracking } from './track.ts';
import { useGate, type FormBundle, type UseGateOptions } from './useGate.ts';

/** A form that works without script, too. `A` is what its action answers, `P` what the page came with. */
export interface PostedGate<N extends Node, A, P> {
  readonly gate: Gate<N, A>;
  readonly form: FormBundle;
  /** What the action answered last; until then `posted`. */
  readonly answer: Readonly<AnyRef<Awaited<A> | P | undefined>>;
}

/** The options of `usePostedGate`: those of `useGate`, and what the server answered to the form before there was script. */
export type PostedOptions<N extends Node, P, R = unknown> = UseGateOptions<N, R> & Posting<P>;

/** The options of `usePostedGate` with an action, in place of `submit`. */
export type ActionOptions<N extends Node, A, P> = Omit<UseGateOptions<N>, 'submit'> & ActionPosting<A, P>;

/**
 * Makes the gate of a form that works without script, too: with `action` in place of `submit`, with `posted`, what a server answered to
 * the form before there was script. Else as `useGate`.
 *
 * @param schema the schema
 * @param options as of `useGate`, with `action` and `posted`
 * @returns the gate, what to bind to the `<form>`, and the last answer, as a ref
 *
 * @example
 * const { gate, form } = usePostedGate(passage, { action: (before, data) => fetch('/bookings', { method: 'POST', body: data }), posted });
 * // <form v-bind="form" action="/bookings" method="post">
 */
export function usePostedGate<N extends Node, A, P = Awaited<A>>(schema: N, options: ActionOptions<N, A, P>): PostedGate<N, A, P>;
export function usePostedGate<N extends Node, P, R = unknown>(schema: N, options: PostedOptions<N, P, R>): PostedGate<N, R, P>;
export function usePostedGate<N extends Node>(
  schema: N,
  { action, posted, ...options }: UseGateOptions<N> & { readonly action?: FormAction<unknown> | undefined; readonly posted?: unknown },
): PostedGate<N, unknown, unknown> {
  const post = postForm(action, posted);
  const { gate, form } = useGate(schema, { ...options, ...(post.submit && { submit: post.submit }) });
  post.takeOver(gate);
  const read = readViews(
    useTracking(),
    () => [],
    () => post,
  );
  const posts = refOf((element) => post.attach(element as HTMLFormElement));
  const ref: Ref = (element) => {
    posts(element);
    form.ref(element);
  };
  return { gate, form: { ref }, answer: computed(() => read().now) };
}
