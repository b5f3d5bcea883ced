// The gate of a form that is also posted without script.

import { formDataOf, takePosted, type FormAction } from '../binding/index.ts';
import type { Gate, GateOptions } from '../gate/gate.ts';
import type { Node } from '../schema/node.ts';
import type { Ref } from './element.ts';
import { useGate, type FormBundle, type UseGateOptions } from './useGate.ts';

/** The options of `usePostedGate`: those of `useGate`, and what the server answered to the form before there was script. */
export interface PostedOptions<N extends Node, P> extends UseGateOptions<N> {
  readonly action?: undefined;
  /** The answer of the server, if the form was posted without script: `{ raw, findings }`, or problem details with `raw`. */
  readonly posted?: P | undefined;
}

/** The options of `usePostedGate` with an action. */
export interface ActionOptions<N extends Node, A, P> extends Omit<UseGateOptions<N>, 'submit'> {
  /** Gets the `FormData` that the browser would send, once everything is valid. Its answer accepts or refuses, as with `submit`. */
  readonly action: FormAction<A, P>;
  /** The answer of the server, if the form was posted without script: `{ raw, findings }`, or problem details with `raw`. */
  readonly posted?: P | undefined;
}

/**
 * Makes the gate of a form that works without script, too: with `action` in place of `submit`, with `posted`, what a server answered to
 * the form before there was script. Else as `useGate`.
 *
 * @param schema the schema
 * @param options as of `useGate`, with `action` and `posted`
 * @returns the gate, and what to bind to the `<form>`
 *
 * @example
 * const { gate, form } = usePostedGate(passage, { action: (before, data) => fetch('/bookings', { method: 'POST', body: data }), posted });
 * // <form v-bind="form" action="/bookings" method="post">
 */
export function usePostedGate<N extends Node, A, P = Awaited<A>>(
  schema: N,
  options: ActionOptions<N, A, P>,
): { readonly gate: Gate<N>; readonly form: FormBundle };
export function usePostedGate<N extends Node, P>(
  schema: N,
  options: PostedOptions<N, P>,
): { readonly gate: Gate<N>; readonly form: FormBundle };
export function usePostedGate<N extends Node>(
  schema: N,
  { action, posted, ...options }: UseGateOptions<N> & { readonly action?: FormAction<unknown> | undefined; readonly posted?: unknown },
): { readonly gate: Gate<N>; readonly form: FormBundle } {
  let element: HTMLFormElement | null = null;
  let answer = posted;
  const send: GateOptions<N>['submit'] = action && (async (_, { event }) => (answer = await action(answer, formDataOf(element, event))));
  const { gate, form } = useGate(schema, { ...options, ...(send && { submit: send }) });
  takePosted(gate, posted);
  const ref: Ref = (given) => {
    element = given as HTMLFormElement | null;
    form.ref(given);
  };
  return { gate, form: { ref } };
}
