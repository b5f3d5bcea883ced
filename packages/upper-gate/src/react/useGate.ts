// The gate of a form, for as long as its component lives.

import { useEffect, useId, useInsertionEffect, useRef, useState, type RefCallback } from 'react';
import { interrupt, setIdPrefix, takePosted, wireForm, type FormAction } from '../binding/index.ts';
import { createGate } from '../gate/createGate.ts';
import type { Gate, GateOptions } from '../gate/gate.ts';
import type { Node } from '../schema/node.ts';
import { tieRef } from './tieRef.ts';
import { runAction, useAnswer } from './action.ts';

/** Attributes for the `<form>`. */
export interface FormBundle {
  /** Connects submit and reset, and writes the state of the form into attributes. Until then, the form works as plain HTML. */
  readonly ref: RefCallback<HTMLFormElement>;
}

/** Attributes for the `<form>` of an action. */
export interface ActionFormBundle extends FormBundle {
  /** Where the form is sent without script. */
  readonly action: (data: FormData) => void;
}

/** The options of `useGate`: those of `createGate`. */
export interface UseGateOptions<N extends Node> extends GateOptions<N> {
  readonly action?: undefined;
  /** The answer of the server, if the form was posted without script: `{ raw, findings }`, or problem details with `raw`. */
  readonly posted?: unknown;
}

/** The options of `useGate` with a form action. */
export interface ActionOptions<N extends Node, A> extends Omit<GateOptions<N>, 'submit'> {
  /**
   * Gets the `FormData` that the browser would send, once everything is valid. Its answer accepts or refuses, as with
   * `submit`.
   */
  readonly action: FormAction<A>;
  readonly posted?: Awaited<A> | undefined;
}

/**
 * Makes the gate of a form, once for the life of the component. The component does not render when the form changes: see
 * `useGateField` and `useGateState`.
 *
 * @param schema the schema
 * @param options as of `createGate`; `submit`, `action` and `onFault` may be other functions at each render, the latest is
 *   called; `messages` may change; the others count at the first render
 * @returns the gate, and what to spread on the `<form>`
 * @throws TypeError for `action` before React 19
 *
 * @example
 * const { gate, form } = useGate(passage, { submit: (data) => api.book(data) });
 * return <form {...form} action="/bookings" method="post">...</form>;
 *
 * @example
 * const { gate, form } = useGate(passage, { action: book }); // a server function (before, data: FormData) => answer
 * return <form {...form}>...</form>;
 */
export function useGate<N extends Node, A>(
  schema: N,
  options: ActionOptions<N, A>,
): { readonly gate: Gate<N>; readonly form: ActionFormBundle };
export function useGate<N extends Node>(schema: N, options?: UseGateOptions<N>): { readonly gate: Gate<N>; readonly form: FormBundle };
export function useGate<N extends Node>(
  schema: N,
  options: Omit<GateOptions<N>, 'submit'> & {
    readonly submit?: GateOptions<N>['submit'];
    readonly action?: FormAction<unknown> | undefined;
    readonly posted?: unknown;
  } = {},
): { readonly gate: Gate<N>; readonly form: FormBundle } {
  const id = useId();
  const { answer, post } = useAnswer(options.action, options.posted);
  const latest = useRef(options);
  const before = useRef(answer);
  useInsertionEffect(() => {
    latest.current = options;
  });
  const [made] = useState(() => {
    let element: HTMLFormElement | null = null;
    const gate = createGate(schema, {
      ...options,
      submit: async (data, run) => {
        const { action, submit } = latest.current;
        return action ? (before.current = await runAction(action, before.current, element, run.event)) : submit?.(data, run);
      },
      ...(options.onFault && { onFault: (fault) => latest.current.onFault?.(fault) }),
    });
    setIdPrefix(gate, id);
    takePosted(gate, answer);
    const ref = tieRef((given: HTMLFormElement) => {
      element = given;
      const undo = wireForm(given, gate);
      return () => {
        element = null;
        undo();
      };
    });
    return { gate, form: post ? { ref, action: post } : { ref } };
  });
  const { gate } = made;
  const { messages } = options;
  const shown = useRef({ messages, answer });
  useEffect(() => {
    const last = shown.current;
    shown.current = { messages, answer };
    if (last.messages !== messages) gate.setLocale(messages);
    // React has sent the form itself, before this component was there.
    if (last.answer !== answer) takePosted(gate, (before.current = answer));
  }, [gate, messages, answer]);
  // What is under way ends with the component; a gate that is mounted again goes on.
  useEffect(() => () => interrupt(gate), [gate]);
  return made;
}
