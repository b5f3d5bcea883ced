/**
 * Rehearse a form without a page: a scripted user on a clock that stands still, answers in place of async rules and servers, and the
 * timeline of what happened.
 *
 * @module upper-gate/testing
 */

export type { AnswerDesk, Answers } from './answers.ts';
export { rehearse, RehearsalError, type Rehearsal, type RehearsalOptions } from './rehearse.ts';
export type { Answer, Expected, Script, Step, SubmissionAnswer } from './script.ts';
export { arbitraryOf, type PropertyLibrary } from './samples/arbitrary.ts';
export { type GaveUp, type LimitSample, type SampleOptions, samples, type Samples } from './samples/samples.ts';
export { scaleStep, timelineText, type TimelineStyle } from './text.ts';
export {
  timelineOf,
  type Timeline,
  type TimelineLane,
  type TimelineMark,
  type TimelineMoment,
  type TimelineSpan,
  type TimelineTrack,
} from './timeline.ts';
export { type MadeRehearsal, toRehearsal } from './toRehearsal.ts';
export type { User } from './user.ts';
