// The line and the summary of a form where the author draws them.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { ShownError } from './errors.ts';
import type { LineMessage } from './plan/line.ts';

/**
 * Returns what the line above the form holds now: for a component that draws it.
 *
 * @param gate the gate of the form
 * @returns the messages; the same list while they stay the same
 */
export const lineMessages = (gate: AnyGate): readonly LineMessage[] => internalsOf(gate).form?.lineMessages ?? gate.root.shown;

/**
 * Says that a component draws the line above the form, with `lineMessages`. Without that, the wiring draws one.
 *
 * @param gate the gate of the form
 * @param element the line
 * @returns undoes it
 */
export function drawLine(gate: AnyGate, element: HTMLElement): () => void {
  const { places, store, form } = internalsOf(gate);
  const set = (line: HTMLElement | undefined): void => {
    places.line = line;
    // From one to the other: what stands in it now.
    if (form?.lineMessages.length) store.batch(() => store.markChanged(store.root));
  };
  set(element);
  return () => set(undefined);
}

/**
 * Says that a component draws a summary of errors: the line leaves out what it lists, and it may take the focus.
 *
 * @param gate the gate of the form
 * @param element the element around the summary
 * @param errors returns what it lists now
 * @returns undoes it
 */
export function drawSummary(gate: AnyGate, element: HTMLElement, errors: () => readonly ShownError[]): () => void {
  const { places } = internalsOf(gate);
  places.summary = { element, isListing: () => errors().length > 0 };
  return () => (places.summary = undefined);
}
