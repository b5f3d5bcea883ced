// The gate of a form, for as long as its component lives.

import { markRaw, onScopeDispose, toValue, useId, watch, type MaybeRefOrGetter } from 'vue';
import { followContext, setIdPrefix, wireForm } from '../binding/index.ts';
import { createGate } from '../gate/createGate.ts';
import type { Gate, GateOptions } from '../gate/gate.ts';
import type { Catalogue } from '../messages/text.ts';
import type { ContextValue } from '../schema/context/context.ts';
import type { Node } from '../schema/node.ts';
import { refOf, type Ref } from './element.ts';

/** The options of `useGate`: those of `createGate`, with language and facts as refs or getters, and what the ids of the form begin with. */
export interface UseGateOptions<N extends Node, R = unknown> extends Omit<GateOptions<N, R>, 'messages' | 'context'> {
  /** The language of the messages: a catalogue, or a ref or getter of one. */
  readonly messages?: MaybeRefOrGetter<Catalogue | undefined>;
  /** Facts from outside, or a ref or getter of them: `() => [maxBeam.of(props.maxBeam)]`. The form follows their values. */
  readonly context?: MaybeRefOrGetter<readonly ContextValue[] | undefined>;
  /** What the ids of the form's elements begin with. Default: an id of Vue's own. Several apps on a page need another for each, since they number alike. */
  readonly idPrefix?: string;
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
 * @param options as of `createGate`; `messages` and `context` may be refs or getters
 * @returns the gate, and what to bind to the `<form>`
 *
 * @example
 * const { gate, form } = useGate(passage, { submit: (data) => api.book(data) });
 * // <form v-bind="form">
 */
export function useGate<N extends Node, R = unknown>(
  schema: N,
  { messages, context, idPrefix = useId(), ...options }: UseGateOptions<N, R> = {},
): { readonly gate: Gate<N, R>; readonly form: FormBundle } {
  // Never made reactive: the gate reports its changes itself.
  const gate = markRaw(
    createGate(schema, { ...options, messages: toValue(messages), context: toValue(context) ?? [] }) as Gate<N, R> & object,
  );
  setIdPrefix(gate, idPrefix);
  watch(
    () => toValue(messages),
    (now) => gate.setLocale(now),
  );
  watch(
    () => toValue(context),
    (now, before) => followContext(gate, now, before),
  );
  // What is under way ends with the component.
  onScopeDispose(() => gate.dispose());
  return { gate, form: { ref: refOf((form) => wireForm(form as HTMLFormElement, gate)) } };
}
