/**
 * Forms in steps: check whether a step is complete, and list what was entered for review.
 *
 * @module upper-gate/wizard
 */

export { isComplete } from './isComplete.ts';
export { reviewOf, type ReviewEntry } from './review.ts';
