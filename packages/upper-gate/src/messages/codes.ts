// The names of all texts. Types only: a catalogue that misspells one does not compile.

/** The codes of findings: HTML's `ValidityState` names wherever HTML has one. */
export type Code =
  | 'valueMissing'
  | 'typeMismatch'
  | 'patternMismatch'
  | 'tooLong'
  | 'tooShort'
  | 'rangeUnderflow'
  | 'rangeOverflow'
  | 'stepMismatch'
  | 'badInput'
  | 'customError'
  | 'notAllowed'
  | 'tooFew'
  | 'tooMany'
  | 'duplicate'
  | 'differs'
  | 'fileTooLarge'
  | 'fileType'
  | 'unknown'
  | 'unanswered'
  | 'crashed'
  | 'refused'
  | 'failed';

/**
 * Texts that are no findings of their own: a counter, the heading of the summary, the word "required", what a box says that is ticked
 * or not, words for weeks and files, what is said in place of a finding's text in some cases, and what is announced to those who do not
 * see the page.
 */
export type Wording =
  | 'count'
  | 'summary'
  | 'unchecked'
  | 'required'
  | 'yes'
  | 'no'
  | 'week'
  | 'mediaType'
  | 'incomplete'
  | 'firstOther'
  | 'notLoaded'
  | Announcement;

/** What is announced: progress of the form, and rows that come and go. */
export type Announcement =
  'checking' | 'sending' | 'sent' | 'interrupted' | 'stillRefused' | 'reset' | 'rowAdded' | 'rowRemoved' | 'rowMoved';

/** The kinds of field that say in their own words what to enter (`badInput`). */
export type ReadKind = 'number' | 'integer' | 'date' | 'time' | 'dateTime' | 'month' | 'week' | 'color' | 'anyJson';

/** The types of text that say in their own words what to enter (`typeMismatch`). */
export type TextType = 'email' | 'url' | 'ipAddress' | 'cardNumber' | 'timestamp' | 'time' | 'uuid';
