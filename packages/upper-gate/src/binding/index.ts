/**
 * What your own binding needs to connect a gate to a page, whatever draws the page. The bindings for React and Vue are built
 * on this entry and on nothing else.
 *
 * @module upper-gate/binding
 */

import type { AnyGate } from '../gate/createGate.ts';
import { internalsOf } from '../gate/internals.ts';
import { FormWiring } from '../showing/wiring.ts';

export {
  attach,
  type ControlAttributes,
  type ControlValue,
  describeField,
  type FieldsetAttributes,
  type Focusable,
  idsOf,
  leave,
  type LimitAttributes,
  type OptionAttributes,
  partsOf,
  rawIn,
  toggled,
} from '../showing/bundle.ts';
export { type FormAction, formDataOf } from '../showing/action.ts';
export { followRefusals, lineMessages, type OpenErrors, type ShownError, summaryHeading, textOf } from '../showing/errors.ts';
export { takePosted } from '../gate/posted.ts';
export { focusFilled } from '../showing/focus.ts';
export { sameSlice } from '../showing/sameSlice.ts';
export { type FieldStatus, fieldStatus, formStatus } from '../showing/status.ts';
export { followPath, subscribePath } from '../showing/variants.ts';

/**
 * Wires the form element of a gate: submit and reset, its state in attributes, a line for screen readers. Until then the form
 * works as HTML has it.
 *
 * @param form the element, whatever draws its fields
 * @param gate the gate of the form
 * @returns undoes it
 * @throws TypeError if a control has the name of a member of the form that the wiring needs
 *
 * @example
 * const undo = wireForm(document.querySelector('form')!, gate);
 */
export function wireForm(form: HTMLFormElement, gate: AnyGate): () => void {
  const wiring = new FormWiring(form, gate);
  return () => wiring.undo();
}

/**
 * What the ids of a form's elements begin with: `'gate'`, until a binding sets another.
 *
 * @param gate the gate of the form
 * @returns the prefix
 */
export const idPrefixOf = (gate: object): string => internalsOf(gate).idPrefix;

/**
 * Sets what the ids of a form's elements begin with: one for each form on a page, and the same on the server as in the browser.
 *
 * @param gate the gate of the form
 * @param prefix the prefix
 *
 * @example
 * setIdPrefix(gate, useId());
 */
export function setIdPrefix(gate: object, prefix: string): void {
  internalsOf(gate).idPrefix = prefix;
}

/**
 * Ends what is under way, async rules and a submission, as its component goes. The gate goes on with the next edit.
 *
 * @param gate the gate of the form
 */
export function interrupt(gate: object): void {
  const { store, submission } = internalsOf(gate);
  submission.abort();
  store.forgetAnswers();
}

/**
 * Announces what the line of a form says, unless it is read because it takes the focus. To be called once that is drawn.
 *
 * @param gate the gate of the form
 * @param text what the line says
 */
export function announceLine(gate: object, text: string): void {
  internalsOf(gate).form?.announceLine(text);
}
