/**
 * Find faults in a schema before a user meets them.
 *
 * @module upper-gate/lint
 */

export { type LintFinding } from './finding.ts';
export { LINT_IDS, type LintId } from './ids.ts';
export { lint, type LintOptions } from './lint.ts';
export { type ExportedTo } from './servers.ts';
export { recordPlaces } from './places.ts';
export { type Place } from '../development/places.ts';
