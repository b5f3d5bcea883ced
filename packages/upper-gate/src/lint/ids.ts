// What a schema is searched for: one row for each id, with what holds of all its findings. docs/lint.md has an anchor for each.

interface Row {
  /** `'error'`: it is wrong for certain. `'warning'`: it may be meant so. */
  readonly severity: 'error' | 'warning';
  /** What comes of it. */
  readonly why: string;
  readonly fix: string;
}

/** The ids of what `lint` finds, each with its severity, why it matters and what to do. */
export const LINT_IDS = {
  // Contradictions.
  'no-value': {
    severity: 'error',
    why: 'Nobody can fill in the field so that the form is valid.',
    fix: 'Change the rules so that they have a value in common.',
  },
  'never-passes': {
    severity: 'warning',
    why: 'If no value passes it, nobody can send the form.',
    fix: 'Correct the rule. If it is right, give `lint` values that pass: { values: [...] }.',
  },
  'never-fails': {
    severity: 'warning',
    why: 'A rule that accepts everything protects nothing, and still runs and ships.',
    fix: 'Correct the rule, or remove it. If it is right, give `lint` values that fail: { values: [...] }.',
  },
  'covered-rule': {
    severity: 'warning',
    why: 'It never finds anything that the other rule has not found, so a user sees two messages about one mistake.',
    fix: 'Remove one of the two.',
  },
  'refused-option': {
    severity: 'error',
    why: 'A user who chooses it gets an error that only another choice removes.',
    fix: 'Remove the option, or change the rule.',
  },
  'refused-default': {
    severity: 'error',
    why: 'A new form begins with an error that the user did not make.',
    fix: 'Change the default, or the rule.',
  },
  'refused-initial': {
    severity: 'error',
    why: 'The form begins with an error that the user did not make.',
    fix: 'Change the initial value, or the rule.',
  },
  'limit-off-step': {
    severity: 'warning',
    why: 'The limit that messages and attributes state cannot be reached.',
    fix: 'Choose a limit that lies on a step.',
  },
  throws: {
    severity: 'warning',
    why: 'A value on which a rule throws is refused with a message that helps nobody (code "crashed").',
    fix: 'Handle the value in the function.',
  },
  // Words.
  'other-number': {
    severity: 'warning',
    why: 'The message asks for something else than the rule, so that users cannot correct the value.',
    fix: 'Use slots for the params of the rule, such as {min} and {max}.',
  },
  'unknown-placeholder': {
    severity: 'error',
    why: 'Users see the slot itself, with its braces.',
    fix: 'Use a param of the rule, or {label}.',
  },
  'no-text': {
    severity: 'warning',
    why: 'Users of that language see a general text, or an English one.',
    fix: 'Add the text to the catalogue, or give the rule a message.',
  },
  'no-translation': {
    severity: 'warning',
    why: 'Users of that language see the text of another one.',
    fix: 'Add the text in that language.',
  },
  'no-label': {
    severity: 'warning',
    why: 'Messages, the summary and assistive technology call the part by its label.',
    fix: 'Give it a label: group({ ... }, "Skipper").',
  },
  'same-label': {
    severity: 'warning',
    why: 'In messages, the summary and for assistive technology, the two cannot be told apart.',
    fix: 'Change one of the labels.',
  },
  // Cost and safety.
  'hanging-pattern': {
    severity: 'warning',
    why: 'On a short, well-chosen text the expression may run for minutes, on the page and on the server.',
    fix: 'Rewrite it without repetitions within or beside each other that match the same characters.',
  },
  'html-pattern': {
    severity: 'warning',
    why: 'HTML reads patterns with the flag v. Where that differs, a page without its script validates another rule, or none.',
    fix: 'Write the expression so that it means the same with the flag v.',
  },
  'no-pause': {
    severity: 'warning',
    why: 'It sends a request for every key that is pressed.',
    fix: 'Leave out `debounce` (300 ms), or run the rule on blur.',
  },
  'no-quick-rule': {
    severity: 'warning',
    why: 'It sends a request for values that are wrong at a glance.',
    fix: 'Add a rule that needs no answer, such as length() or pattern(), or run the async rule on blur.',
  },
  'reads-clock': {
    severity: 'warning',
    why: 'Forms and rehearsals run on a clock that can be given. A rule that reads that of the system cannot be tested with another date.',
    fix: "Use range({ min: 'today' }), or read the day from a context: context('today').",
  },
  'square-cost': {
    severity: 'warning',
    why: 'Each row reads all rows: twice as many rows take four times as long.',
    fix: 'Move the rule to the list, where it runs once: list("Crew", member, check((crew) => ...)), or use noDuplicates().',
  },
  // Conditions.
  circle: {
    severity: 'error',
    why: 'Conditions that read each other in a circle are ignored: their fields always apply.',
    fix: 'Remove one of the reads.',
  },
  'applies-by-itself': {
    severity: 'error',
    why: 'The condition reads the field that it is about, so it is ignored: the field always applies.',
    fix: 'Read other fields, or require the value with requiredWhen().',
  },
  'never-applies': {
    severity: 'warning',
    why: 'Nobody can fill the field in, and its rules never run.',
    fix: 'Correct the condition. If it is right, give `lint` values for which it holds: { values: [...] }.',
  },
  // Servers.
  'unnamed-async': {
    severity: 'warning',
    why: 'A server cannot put a function of its own in its place (`checks`), so it asks whoever the page asks.',
    fix: "Give the rule a name: asyncCheck(isOnRegister, { name: 'isOnRegister' }).",
  },
  'missing-context': {
    severity: 'warning',
    why: 'validate() throws, and a form cannot be sent, where the fact is not given; a file can only give it if the token has a schema.',
    fix: 'Give the token a fallback or a schema, or give `lint` the value: { context: [token.of(...)] }.',
  },
  'private-in-message': {
    severity: 'warning',
    why: 'What is private stays out of drafts and traces, but messages are shown, announced and sent by servers.',
    fix: 'Say in the message what is wrong, without the value.',
  },
  'not-in-json': {
    severity: 'error',
    why: 'The schema cannot be written as JSON Schema.',
    fix: 'Give the function a name, the kind toJson and fromJson, or keep the part out of what is exported.',
  },
  'not-in-html': {
    severity: 'warning',
    why: 'No control of HTML holds such a value, so a page without its script cannot send it.',
    fix: 'Use a kind that HTML has a control for, or keep the part out of what is exported.',
  },
  'needless-acceptance': {
    severity: 'warning',
    why: 'An acceptance that accepts nothing hides the next finding at its place.',
    fix: 'Remove it.',
  },
} as const satisfies Record<string, Row>;

/** What `lint` finds, by its id. */
export type LintId = keyof typeof LINT_IDS;
