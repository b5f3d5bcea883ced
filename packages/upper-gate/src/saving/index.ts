// What was edited since a form was saved: as data and as patches, and saving it on the way.

export { changesOf, markSaved, type ChangesOf, type MergePatch, toJsonPatch, toMergePatch } from './changes.ts';
export type { PatchOperation } from './diff.ts';
export { keepSaved, type Saving, type SavingOptions, type SavingRun, type SavingState, type UnsavedReason } from './keepSaved.ts';
