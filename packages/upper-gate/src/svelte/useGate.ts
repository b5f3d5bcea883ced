// The gate of a form, for as long as its component lives.

import { onDestroy } from 'svelte';
import { followContext, setIdPrefix, wireForm } from '../binding/index.ts';
import { createGate } from '../gate/createGate.ts';
import type { Gate, GateOptions } from '../gate/gate.ts';
import type { Catalogue } from '../messages/text.ts';
import type { ContextValue } from '../schema/context/context.ts';
import type { Node } from '../schema/node.ts';
import { attached, type Attached } from './attachments.ts';
import { follow, type Reading, valueOf } from './following.ts';
import { noteDrawn } from './takingOver.ts';

/** The options of `useGate`: those of `createGate`, with language and facts as functions that read them, and what the ids of the form begin with. */
export interface UseGateOptions<N extends Node, R = unknown> extends Omit<GateOptions<N, R>, 'messages' | 'context'> {
  /** The language of the messages: a catalogue, or a function that reads one. */
  readonly messages?: Reading<Catalogue | undefined>;
  /** Facts from outside, or a function that reads them: `() => [maxBeam.of(props.maxBeam)]`. The form follows their values. */
  readonly context?: Reading<readonly ContextValue[] | undefined>;
  /** What the ids of the form's elements begin with: what `$props.id()` gives. Default `'gate'`. Several forms on a page need another for each. */
  readonly idPrefix?: string;
}

/**
 * Makes the gate of a form. The component does not update when the form changes: see `useGateField` and `useGateState`.
 *
 * @param schema the schema
 * @param options as of `createGate`; `messages` and `context` may be functions that read state
 * @returns the gate, and what to spread on the `<form>`
 *
 * @example
 * const { gate, form } = useGate(passage, { submit: (data) => api.book(data) });
 * // <form {...form}>
 */
export function useGate<N extends Node, R = unknown>(
  schema: N,
  { messages, context, idPrefix, ...options }: UseGateOptions<N, R> = {},
): { readonly gate: Gate<N, R>; readonly form: Attached } {
  const gate: Gate<N, R> = createGate(schema, { ...options, messages: valueOf(messages), context: valueOf(context) ?? [] });
  if (idPrefix !== undefined) setIdPrefix(gate, idPrefix);
  noteDrawn(gate);
  let [catalogue, facts] = [valueOf(messages), valueOf(context)];
  follow(
    () => valueOf(messages),
    (now) => {
      if (now !== catalogue) gate.setLocale((catalogue = now));
    },
  );
  follow(
    () => valueOf(context),
    (now) => {
      followContext(gate, now, facts);
      facts = now;
    },
  );
  // What is under way ends with the component.
  onDestroy(() => gate.dispose());
  return { gate, form: attached((form) => wireForm(form as HTMLFormElement, gate)) };
}
