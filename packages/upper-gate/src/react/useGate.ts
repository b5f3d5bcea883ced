// The gate of a form, for as long as its component lives.

import { explain, warnOnce } from '#development';
import { useEffect, useId, useInsertionEffect, useRef, useState, type RefCallback } from 'react';
import { followContext, interrupt, setIdPrefix, wireForm } from '../binding/index.ts';
import { createGate } from '../gate/createGate.ts';
import { sameValue } from '../schema/sameValue.ts';
import type { Gate, GateOptions } from '../gate/gate.ts';
import type { Node } from '../schema/node.ts';
import { refOf } from './refOf.ts';

/** The options of `useGate`: those of `createGate`, and what the ids of the form begin with. */
export interface UseGateOptions<N extends Node, R = unknown> extends GateOptions<N, R> {
  /**
   * What the ids of the form's elements begin with. Default: an id of React's own. Pages that are hydrated by several roots need another for
   * each, since the roots number alike.
   */
  readonly idPrefix?: string;
}

/** Attributes for the `<form>`. */
export interface FormBundle {
  /** Connects submit and reset, and writes the state of the form into attributes. Until then, the form works as plain HTML. */
  readonly ref: RefCallback<HTMLFormElement>;
}

/**
 * Makes the gate of a form, once for the life of the component. The component does not render when the form changes: see
 * `useGateField` and `useGateState`.
 *
 * @param schema the schema
 * @param options as of `createGate`; `submit` and `onFault` may be other functions at each render, the latest is called;
 *   `messages` and the values in `context` may change; the others, and whether there is a `submit`, count at the first render
 * @returns the gate, and what to spread on the `<form>`
 *
 * @example
 * const { gate, form } = useGate(passage, { submit: (data) => api.book(data) });
 * return <form {...form}>...</form>;
 */
export function useGate<N extends Node, R = unknown>(
  schema: N,
  options: UseGateOptions<N, R> = {},
): { readonly gate: Gate<N, R>; readonly form: FormBundle } {
  const id = useId();
  const latest = useRef(options);
  useInsertionEffect(() => {
    latest.current = options;
  });
  const [made] = useState(() => {
    const gate = createGate(schema, {
      ...options,
      ...(options.submit && { submit: (data, run) => latest.current.submit?.(data, run) as R }),
      ...(options.onFault && { onFault: (fault) => latest.current.onFault?.(fault) }),
    });
    setIdPrefix(gate, options.idPrefix ?? id);
    return { gate, form: { ref: refOf((form: HTMLFormElement) => wireForm(form, gate)) } };
  });
  const { gate } = made;
  const first = useRef(options.initial);
  warnOnce(made, () => [
    !sameValue(first.current, options.initial) &&
      explain(
        'initial-has-changed',
        'useGate() got other initial values than at first, which has no effect. Call gate.rebase(values), or give the component another key.',
      ),
  ]);
  const { messages } = options;
  const shown = useRef(messages);
  useEffect(() => {
    if (shown.current !== messages) gate.setLocale(messages);
    shown.current = messages;
  }, [gate, messages]);
  const { context } = options;
  const given = useRef(context);
  useEffect(() => {
    followContext(gate, context, given.current);
    given.current = context;
  }, [gate, context]);
  // What is under way ends with the component; a gate that is mounted again goes on.
  useEffect(() => () => interrupt(gate), [gate]);
  return made;
}
