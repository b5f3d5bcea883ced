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
 * Texts that belong to no finding: a counter, the heading of the summary, the word "required", what a box says that is ticked or not, and what is announced to those
 * who do not see the page.
 */
export type Wording = 'count' | 'summary' | 'required' | 'yes' | 'no' | Announcement;

/** What is announced: progress of the form, and rows that come and go. */
export type Announcement =
  'checking' | 'sending' | 'sent' | 'interrupted' | 'stillRefused' | 'reset' | 'rowAdded' | 'rowRemoved' | 'rowMoved';

/** The kinds of field that say in their own words what to enter (`badInput`). */
export type ReadKind = 'number' | 'integer' | 'date' | 'time' | 'dateTime' | 'month' | 'week' | 'color' | 'anyJson';

/** The types of text that say in their own words what to enter (`typeMismatch`). */
export type TextType = 'email' | 'url' | 'ipAddress' | 'cardNumber' | 'timestamp' | 'time' | 'uuid';
