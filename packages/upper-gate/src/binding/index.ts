/**
 * What your own binding needs to connect a gate to a page, whatever draws the page. The bindings for React and Vue are built
 * on this entry and on nothing else.
 *
 * @module upper-gate/binding
 */

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import { startWiring } from '../showing/wiring.ts';

export {
  attach,
  type ComponentProps,
  type ComponentValue,
  type ControlAttributes,
  type ControlValue,
  describedBy,
  describeField,
  type FieldIds,
  type FieldNotes,
  type FieldsetAttributes,
  type Focusable,
  idsOf,
  leave,
  type Leaving,
  type LimitAttributes,
  type OptionAttributes,
  type Parts,
  partsOf,
  rawIn,
  toggled,
} from '../showing/bundle.ts';
export {
  type AdderAttributes,
  type FieldBundles,
  fieldBundles,
  type ListBundles,
  listBundles,
  linkTo,
  type PutField,
  type PutSummary,
  type StateOf,
  type SummaryBundles,
  summaryBundles,
} from './bundles.ts';
export { type PostedForm, postForm } from './postForm.ts';
export { readViews, type Source, type Tracking, type View, viewOf } from './view.ts';
export { type FieldView, type Ties, viewField } from './viewField.ts';
export { type ListFacts, type ListView, viewList } from './viewList.ts';
export { type SummaryFacts, type SummaryView, viewSummary } from './viewSummary.ts';
export { type ActionPosting, type FormAction, formDataOf, type Posting } from '../showing/action.ts';
export { connect, setDisabled } from '../showing/connect.ts';
export { enter } from '../showing/entering.ts';
export { UNREADABLE_INPUT } from '../schema/noValue.ts';
export type { ItemAt, ItemIn, ListPathOf } from '../gate/gate.ts';
export { elementOf } from '../showing/page.ts';
export type { Connection } from '../gate/connection.ts';
export { followErrors, type ShownError } from '../showing/errors.ts';
export { followContext } from '../gate/followContext.ts';
export { takePosted } from '../gate/posted.ts';
export { drawLine, drawSummary, lineMessages } from '../showing/ownPlaces.ts';
export type { LineMessage } from '../showing/plan/line.ts';
export { followRows } from '../showing/rowNews.ts';
export { sameSlice } from '../showing/sameSlice.ts';
export type { FieldStatus } from '../showing/status.ts';
export { summaryHeading } from '../showing/words.ts';
export { type FieldSource, followPath, sourceOf } from '../showing/variants.ts';

/**
 * Connects a form element to its gate: submit and reset, its state in attributes, the line above the form, a live region for
 * screen readers, where the focus goes. Until then, the form works as plain HTML.
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
  return startWiring(form, gate).undo;
}

/**
 * Returns the prefix of the ids of a form's elements: `'gate'`, until a binding sets another.
 *
 * @param gate the gate of the form
 * @returns the prefix
 */
export const idPrefixOf = (gate: object): string => internalsOf(gate).idPrefix;

/**
 * Sets the prefix of the ids of a form's elements. Use one prefix for each form on a page, and the same on the server as in
 * the browser.
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
 * Ends async rules and a submission when their component is removed. The gate continues with the next edit.
 *
 * @param gate the gate of the form
 */
export function interrupt(gate: object): void {
  const { store, submission } = internalsOf(gate);
  submission.abort();
  store.forgetAnswers();
}
