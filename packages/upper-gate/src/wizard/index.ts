// Forms in steps: whether a step is complete, and what was entered, to be read before it is sent.

export { isComplete } from './isComplete.ts';
export { reviewOf, type ReviewEntry } from './review.ts';
