/**
 * Forms as custom elements, for pages of any server: no framework, no script for each form.
 *
 * @module upper-gate/elements
 */

export { FieldElement } from './field.ts';
export { defineForms, FormElement, type MakeGate } from './form.ts';
export { errorSummary, movingOptions, shadowFields, templateRows } from '../dom/index.ts';
export type { BindOptions } from '../dom/index.ts';
