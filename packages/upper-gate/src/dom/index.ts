// Upper Gate for plain pages.

export { bindForm, type BindOptions } from './bindForm.ts';
export { schemaFromForm } from './schemaFromForm.ts';
export type { DrawSummary } from './summary.ts';
export type { ShownError } from '../showing/errors.ts';
