// The gate of a form, for as long as its component lives.

import { useEffect, useId, useInsertionEffect, useRef, useState, type RefCallback } from 'react';
import { interrupt, setIdPrefix, wireForm } from '../binding/index.ts';
import { createGate, type Gate, type GateOptions } from '../gate/createGate.ts';
import type { Node } from '../schema/node.ts';

/** To spread on the `<form>`. */
export interface FormBundle {
  /** Wires submit and reset, and says in attributes how the form stands. Until then the form works as HTML has it. */
  readonly ref: RefCallback<HTMLFormElement>;
}

/**
 * Makes the gate of a form: once, however often the component renders. Rendering does not depend on it: see
 * `useGateField` and `useGateState`.
 *
 * @param options as of `createGate`; `submit` and `onFault` may be other functions at each render, the latest is called;
 *   `messages` may change; the others count at the first render
 * @returns the gate, and what to spread on the `<form>`
 *
 * @example
 * const { gate, form } = useGate(passage, { submit: (data) => api.book(data) });
 * return <form {...form} action="/bookings" method="post">...</form>;
 */
export function useGate<N extends Node>(schema: N, options: GateOptions<N> = {}): { readonly gate: Gate<N>; readonly form: FormBundle } {
  const id = useId();
  const latest = useRef(options);
  useInsertionEffect(() => {
    latest.current = options;
  });
  const [made] = useState(() => {
    const gate = createGate(schema, {
      ...options,
      submit: (data, context) => latest.current.submit?.(data, context),
      ...(options.onFault && { onFault: (fault) => latest.current.onFault?.(fault) }),
    });
    setIdPrefix(gate, id);
    let undo: (() => void) | undefined;
    const ref = (element: HTMLFormElement | null): void => {
      undo?.();
      undo = element ? wireForm(element, gate) : undefined;
    };
    return { gate, form: { ref } };
  });
  const { gate } = made;
  const { messages } = options;
  const spoken = useRef(messages);
  useEffect(() => {
    if (spoken.current === messages) return;
    spoken.current = messages;
    gate.setLocale(messages);
  }, [gate, messages]);
  // What is under way ends with the component; a gate that is mounted again goes on.
  useEffect(() => () => interrupt(gate), [gate]);
  return made;
}
