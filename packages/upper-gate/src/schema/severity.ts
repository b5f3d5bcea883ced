// How much a finding weighs. Everything that depends on it derives from this one list.

/** All severities, from the gravest down. */
export const SEVERITY_NAMES = ['error', 'warning', 'notice'] as const;

/** Only an `error` blocks. A `notice` is shown as soon as it is found. */
export type Severity = (typeof SEVERITY_NAMES)[number];

export const isSeverity = (value: unknown): value is Severity => SEVERITY_NAMES.includes(value as Severity);

interface Weighed {
  readonly severity: Severity;
}

/** Whether a finding stops the submission. */
export const blocks = ({ severity }: Weighed): boolean => severity === SEVERITY_NAMES[0];

/** Whether a finding is shown before its field is revealed. */
export const showsEarly = ({ severity }: Weighed): boolean => severity === SEVERITY_NAMES.at(-1);

/** The gravest severity among findings; undefined if there are no findings. */
export const gravest = (findings: readonly Weighed[]): Severity | undefined =>
  SEVERITY_NAMES.find((severity) => findings.some((finding) => finding.severity === severity));
