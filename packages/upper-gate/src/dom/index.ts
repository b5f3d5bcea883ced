/**
 * Bind a form on a plain page to a gate.
 *
 * @module upper-gate/dom
 */

export { bindForm, type BindOptions } from './bindForm.ts';
export { connect, setDisabled } from '../showing/connect.ts';
export { UNREADABLE_INPUT } from '../schema/noValue.ts';
export type { Connection } from '../gate/connection.ts';
export { movingOptions, type OptionsFeature } from './options.ts';
export { followRows } from '../showing/rowNews.ts';
export { type RowsFeature, templateRows } from './rows.ts';
export { type ShadowFeature, shadowFields } from './shadowFields.ts';
export { schemaFromForm, type SchemaFromFormOptions } from './schemaFromForm.ts';
export { type DrawSummary, errorSummary, type SummaryFeature } from './summary.ts';
export { warnBeforeLeaving } from './warnBeforeLeaving.ts';
export type { ShownError } from '../showing/errors.ts';
