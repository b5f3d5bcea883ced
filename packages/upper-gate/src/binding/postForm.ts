// A form that is posted to an action, with or without script.

import type { SubmitRun } from '../gate/submission.ts';
import { takePosted } from '../gate/posted.ts';
import { formDataOf, type FormAction } from '../showing/action.ts';
import type { View } from './view.ts';

/** A form that is posted to an action. */
export interface PostedForm extends View<unknown> {
  /** For the option `submit` of the gate; none without an action. */
  readonly submit: ((data: unknown, run: SubmitRun) => Promise<unknown>) | undefined;
  /** Says which element is the form. */
  readonly attach: (form: HTMLFormElement) => () => void;
  /** Gives a gate what the page came with. */
  readonly takeOver: (gate: object) => void;
}

/**
 * Sends a form to an action, as the browser would send it.
 *
 * @param action gets what it answered last, and the data of the form; its answer accepts or refuses
 * @param posted what the server answered to the form before there was script
 * @returns what sends it, and its last answer as a view; until there is one, `posted`
 *
 * @example
 * const { submit, takeOver, attach } = postForm((before, data) => fetch('/bookings', { method: 'POST', body: data }), posted);
 * const gate = createGate(passage, { submit });
 * takeOver(gate);
 */
export function postForm(action: FormAction<unknown> | undefined, posted: unknown): PostedForm {
  const listeners = new Set<() => void>();
  let answer = posted;
  let element: HTMLFormElement | null = null;
  return {
    get now() {
      return answer;
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    submit:
      action &&
      (async (_, { event }) => {
        answer = await action(answer, formDataOf(element, event));
        listeners.forEach((listener) => listener());
        return answer;
      }),
    attach(form) {
      element = form;
      return () => (element = null);
    },
    takeOver: (gate) => takePosted(gate, posted),
  };
}
