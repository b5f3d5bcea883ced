// The gate of a form, for as long as its component lives.

import { createUniqueId, onCleanup } from 'solid-js';
import { followContext, setIdPrefix, wireForm } from '../binding/index.ts';
import { createGate } from '../gate/createGate.ts';
import type { Gate, GateOptions } from '../gate/gate.ts';
import type { Catalogue } from '../messages/text.ts';
import type { ContextValue } from '../schema/context/context.ts';
import type { Node } from '../schema/node.ts';
import { follow, type Reading, valueOf } from './following.ts';
import { type Ref, refOf } from './refOf.ts';

/** The options of `useGate`: those of `createGate`, with language and facts also as accessors, and what the ids of the form begin with. */
export interface UseGateOptions<N extends Node, R = unknown> extends Omit<GateOptions<N, R>, 'messages' | 'context'> {
  /** The language of the messages: a catalogue, or an accessor of one. */
  readonly messages?: Reading<Catalogue | undefined>;
  /** Facts from outside, or an accessor of them: `() => [maxBeam.of(props.maxBeam)]`. The form follows their values. */
  readonly context?: Reading<readonly ContextValue[] | undefined>;
  /** What the ids of the form's elements begin with. Default: an id of Solid's own. */
  readonly idPrefix?: string;
}

/** Attributes for the `<form>`: `<form {...form}>`. */
export interface FormBundle {
  /** Connects submit and reset, and writes the state of the form into attributes. Until then, the form works as plain HTML. */
  readonly ref: Ref;
}

/**
 * Makes the gate of a form. What reads nothing of it is not drawn again when the form changes: see `useGateField` and `useGateState`.
 *
 * @param schema the schema
 * @param options as of `createGate`; `messages` and `context` may be accessors
 * @returns the gate, and what to spread on the `<form>`
 *
 * @example
 * const { gate, form } = useGate(passage, { submit: (data) => api.book(data) });
 * // return <form {...form}>...</form>;
 */
export function useGate<N extends Node, R = unknown>(
  schema: N,
  { messages, context, idPrefix = createUniqueId(), ...options }: UseGateOptions<N, R> = {},
): { readonly gate: Gate<N, R>; readonly form: FormBundle } {
  const gate: Gate<N, R> = createGate(schema, { ...options, messages: valueOf(messages), context: valueOf(context) ?? [] });
  setIdPrefix(gate, idPrefix);
  follow(
    () => valueOf(messages),
    (now) => gate.setLocale(now),
  );
  follow(
    () => valueOf(context),
    (now, before) => followContext(gate, now, before),
  );
  // What is under way ends with the component.
  onCleanup(() => gate.dispose());
  return { gate, form: { ref: refOf((form) => wireForm(form as HTMLFormElement, gate), false) } };
}
