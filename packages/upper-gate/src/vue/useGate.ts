// The gate of a form, for as long as its component lives.

import { markRaw, onScopeDispose, toValue, useId, watch, type MaybeRefOrGetter } from 'vue';
import { setIdPrefix, wireForm } from '../binding/index.ts';
import { createGate, type Gate, type GateOptions } from '../gate/createGate.ts';
import type { Catalogue } from '../messages/text.ts';
import type { Node } from '../schema/node.ts';
import { tieRef, type Ref } from './element.ts';

export interface UseGateOptions<N extends Node> extends Omit<GateOptions<N>, 'messages'> {
  /** The language of the messages: a catalogue, or a ref or getter of one. */
  readonly messages?: MaybeRefOrGetter<Catalogue | undefined>;
}

/** To bind to the `<form>`: `v-bind="form"`. */
export interface FormBundle {
  /** Wires submit and reset, and says in attributes how the form stands. Until then the form works as HTML has it. */
  readonly ref: Ref;
}

/**
 * Makes the gate of a form. Its component does not depend on it: see `useGateField` and `useGateState`.
 *
 * @param options as of `createGate`
 * @returns the gate, and what to bind to the `<form>`
 *
 * @example
 * const { gate, form } = useGate(passage, { submit: (data) => api.book(data) });
 * // <form v-bind="form" action="/bookings" method="post">
 */
export function useGate<N extends Node>(schema: N, options: UseGateOptions<N> = {}): { readonly gate: Gate<N>; readonly form: FormBundle } {
  const { messages, ...rest } = options;
  // Never made reactive: the gate reports its changes itself.
  const gate = markRaw(createGate(schema, { ...rest, messages: toValue(messages) }) as Gate<N> & object);
  setIdPrefix(gate, useId());
  watch(
    () => toValue(messages),
    (now) => gate.setLocale(now),
  );
  // What is under way ends with the component.
  onScopeDispose(() => gate.dispose());
  const ref = tieRef((element) => wireForm(element as HTMLFormElement, gate));
  return { gate, form: { ref } };
}
