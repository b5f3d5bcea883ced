// The gate of a form, for as long as its component lives.

import { markRaw, onScopeDispose, toValue, useId, watch, type MaybeRefOrGetter } from 'vue';
import { formDataOf, setIdPrefix, takePosted, wireForm, type FormAction } from '../binding/index.ts';
import { createGate } from '../gate/createGate.ts';
import type { Gate, GateOptions } from '../gate/gate.ts';
import type { Catalogue } from '../messages/text.ts';
import type { Node } from '../schema/node.ts';
import { tieRef, type Ref } from './element.ts';

interface CommonOptions<N extends Node> extends Omit<GateOptions<N>, 'messages' | 'submit'> {
  /** The language of the messages: a catalogue, or a ref or getter of one. */
  readonly messages?: MaybeRefOrGetter<Catalogue | undefined>;
}

/** The options of `useGate`: those of `createGate`, and the language as a ref or getter. */
export interface UseGateOptions<N extends Node> extends CommonOptions<N>, Pick<GateOptions<N>, 'submit'> {
  readonly action?: undefined;
  /** The answer of the server, if the form was posted without script: `{ raw, findings }`, or problem details with `raw`. */
  readonly posted?: unknown;
}

/** The options of `useGate` with an action. */
export interface ActionOptions<N extends Node, A> extends CommonOptions<N> {
  /**
   * Gets the `FormData` that the browser would send, once everything is valid. Its answer accepts or refuses, as with
   * `submit`.
   */
  readonly action: FormAction<A>;
  readonly posted?: Awaited<A> | undefined;
}

/** Attributes for the `<form>`: `v-bind="form"`. */
export interface FormBundle {
  /** Connects submit and reset, and writes the state of the form into attributes. Until then, the form works as plain HTML. */
  readonly ref: Ref;
}

/**
 * Makes the gate of a form. The component does not update when the form changes: see `useGateField` and `useGateState`.
 *
 * @param schema the schema
 * @param options as of `createGate`; or, in place of `submit`, an `action` that gets the form's data
 * @returns the gate, and what to bind to the `<form>`
 *
 * @example
 * const { gate, form } = useGate(passage, { submit: (data) => api.book(data) });
 * // <form v-bind="form" action="/bookings" method="post">
 *
 * @example
 * const { gate, form } = useGate(passage, { action: (before, data) => fetch('/bookings', { method: 'POST', body: data }), posted });
 */
export function useGate<N extends Node, A>(schema: N, options: ActionOptions<N, A>): { readonly gate: Gate<N>; readonly form: FormBundle };
export function useGate<N extends Node>(schema: N, options?: UseGateOptions<N>): { readonly gate: Gate<N>; readonly form: FormBundle };
export function useGate<N extends Node>(
  schema: N,
  {
    messages,
    action,
    posted,
    ...rest
  }: CommonOptions<N> &
    Pick<GateOptions<N>, 'submit'> & { readonly action?: FormAction<unknown> | undefined; readonly posted?: unknown } = {},
): { readonly gate: Gate<N>; readonly form: FormBundle } {
  let element: HTMLFormElement | null = null;
  let answer = posted;
  const send: GateOptions<N>['submit'] =
    action && (async (_data, { event }) => (answer = await action(answer, formDataOf(element, event))));
  // Never made reactive: the gate reports its changes itself.
  const gate = markRaw(createGate(schema, { ...rest, ...(send && { submit: send }), messages: toValue(messages) }) as Gate<N> & object);
  setIdPrefix(gate, useId());
  takePosted(gate, posted);
  watch(
    () => toValue(messages),
    (now) => gate.setLocale(now),
  );
  // What is under way ends with the component.
  onScopeDispose(() => gate.dispose());
  const ref = tieRef((given) => {
    element = given as HTMLFormElement;
    const undo = wireForm(element, gate);
    return () => {
      element = null;
      undo();
    };
  });
  return { gate, form: { ref } };
}
