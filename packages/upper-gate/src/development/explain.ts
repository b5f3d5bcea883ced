// Where the documentation explains a text for developers.

/** The headings of docs/troubleshooting.md. */
export type Trouble =
  // warnings
  | 'control-without-field'
  | 'control-without-label'
  | 'form-without-gate'
  | 'element-not-of-the-form'
  | 'hint-without-place'
  | 'control-of-another-kind'
  | 'label-without-control'
  | 'duplicate-id'
  | 'button-without-type'
  | 'error-without-control'
  | 'messages-without-place'
  | 'form-submit'
  | 'nothing-is-sent'
  | 'accepted-an-error'
  | 'issue-without-field'
  | 'deprecated-part'
  | 'hook-of-unknown-field'
  | 'add-without-list'
  | 'rows-without-list'
  | 'names-in-a-row'
  | 'feature-not-passed'
  | 'options-without-rule'
  | 'gate-on-every-render'
  | 'initial-has-changed'
  | 'message-function-threw'
  // errors
  | 'wrong-argument'
  | 'wrong-path'
  | 'two-versions'
  | 'form-bound-twice'
  | 'control-hides-a-property'
  | 'async-rules-in-validate'
  | 'context-outside-of-a-rule'
  | 'endless-form'
  | 'rules-left-behind'
  | 'action-needs-react-19';

/** A text for developers that names the place where the documentation explains it. */
export type Explained = `${string} (docs: troubleshooting#${Trouble})`;

/**
 * Adds where the documentation explains a text.
 *
 * @param trouble the heading in docs/troubleshooting.md
 * @param text what is wrong, where, and what to do
 * @returns the text with its place
 */
export const explain = (trouble: Trouble, text: string): Explained => `${text} (docs: troubleshooting#${trouble})`;

/** The same for a wrong argument, unless the text names a place already. */
export const explained = (text: string): string => (text.includes('(docs: ') ? text : explain('wrong-argument', text));
