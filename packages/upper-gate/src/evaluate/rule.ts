// One rule that may read more than its own value: of a group on one of its fields, of a group or list on itself.

import { crashed } from '../messages/english.ts';
import { VALUE_MISSING } from '../schema/field.ts';
import type { Scopes } from '../schema/kit.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { RuleResult, Verdict } from '../schema/verdict.ts';
import type { Evaluation } from './evaluation.ts';
import { WAITING } from '../schema/noValue.ts';

/** The verdict of a rule that threw: an error (fail closed), beside the fault for the developer. */
export const CRASHED: Verdict = { code: 'crashed', text: crashed, ignoresOptions: true };

/** What a rule that threw comes to, whatever it validates. */
export function crash(error: unknown, rule: AnyRule, evaluation: Pick<Evaluation, 'fault'>): Verdict {
  evaluation.fault(error, rule.name);
  return CRASHED;
}

/** What a rule validates. */
export interface Subject {
  /** Whether it has data, and that is empty. */
  readonly empty: boolean;
  /** Whether rules that do not require a value have nothing to validate in it. */
  readonly skipsRules: boolean;
  /** What the rule sees of it; throws `WAITING` if it has no value. */
  readForRule(): unknown;
}

/**
 * Runs a sync rule.
 *
 * @param onRequired called with whether the rule requires a value now; one that waits or throws does not
 * @returns what it reports: nothing if it waits for a field without a value
 */
export function runRule(
  rule: AnyRule,
  subject: Subject,
  scopes: Scopes,
  evaluation: Evaluation,
  onRequired?: (required: boolean) => void,
): RuleResult {
  let required = false;
  try {
    if (rule.requires) {
      required = rule.requires(scopes[0] as never, scopes[1] as never);
      return required && subject.empty ? VALUE_MISSING : undefined;
    }
    // First of all: a subject without a value has the rule wait.
    const value = subject.readForRule();
    return subject.skipsRules ? undefined : rule.test!(value as never, scopes[0] as never, evaluation.now, scopes[1] as never);
  } catch (error) {
    return error === WAITING ? undefined : crash(error, rule, evaluation);
  } finally {
    onRequired?.(required);
  }
}
