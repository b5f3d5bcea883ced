/**
 * Find out what changed since a form was saved, and save it while the user edits.
 *
 * @module upper-gate/saving
 */

export { changesOf, markSaved, type ChangesOf, type MergePatch, toJsonPatch, toMergePatch } from './changes.ts';
export type { PatchOperation } from './diff.ts';
export { keepSaved, type Saving, type SavingOptions, type SavingRun, type SavingState, type UnsavedReason } from './keepSaved.ts';
