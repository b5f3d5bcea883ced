// How `lint` reports, and what it is told.

import type { ExportedTo, LintFinding } from 'upper-gate/lint';

export const LINT_FORMATS = ['text', 'json', 'sarif'] as const;
export const NOTATIONS: readonly ExportedTo[] = ['html', 'json-schema'];

export interface LintCommandOptions {
  readonly format: (typeof LINT_FORMATS)[number];
  readonly failOn: 'warning' | 'error';
  readonly accept?: string;
  readonly catalogues?: string;
  readonly values?: string;
  readonly exportedTo?: readonly ExportedTo[];
}

/** What was found in a schema. */
export interface Linted {
  readonly file: string;
  /** The export, the operation, or the file. */
  readonly schema: string;
  readonly findings: readonly LintFinding[];
}
