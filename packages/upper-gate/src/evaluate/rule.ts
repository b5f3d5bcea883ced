// One rule that may read more than its own value: of a group on one of its fields, of a group or list on itself.

import { crashed } from '../messages/english.ts';
import { VALUE_MISSING } from '../schema/field.ts';
import { atOnce } from '../schema/safeAccess.ts';
import type { Scopes } from '../schema/kit.ts';
import type { AnyRule, RunnableRule } from '../schema/rule.ts';
import type { Reporter, RuleResult, Verdict } from '../schema/verdict.ts';
import type { Evaluation } from '../schema/walker.ts';
import { verdictsIn } from './verdicts.ts';
import { WAITING } from '../schema/noValue.ts';

/** The verdict of a rule that threw: an error (fail closed), beside the fault for the developer. */
export const CRASHED: Verdict = { code: 'crashed', text: crashed, ignoresOptions: true };

/** What a rule that threw comes to, whatever it validates. */
export function crash(error: unknown, rule: Reporter, evaluation: Pick<Evaluation, 'fault'>): Verdict {
  evaluation.fault(error, rule.name);
  return CRASHED;
}

/** What a rule may read that is on a part of no group. */
export const NO_SCOPES: Scopes = [undefined, undefined];

/** What a rule reports that stands in for another: with its own params. */
export const reportedBy = (now: AnyRule, result: RuleResult): readonly Verdict[] =>
  verdictsIn(result).map((verdict) => ({ ...verdict, params: { ...now.params, ...verdict.params } }));

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
 * @param onRun called with whether the rule requires a value now (one that waits or throws does not), and with the rule as it is
 *   now
 * @returns what it reports: nothing if it waits for a field without a value
 */
export function runRule(
  rule: AnyRule,
  subject: Subject,
  [siblings, beside]: Scopes,
  evaluation: Evaluation,
  onRun?: (required: boolean, now: AnyRule | undefined) => void,
): RuleResult {
  let required = false;
  let now: AnyRule | undefined;
  const { requires, moving }: RunnableRule = rule;
  try {
    if (requires) {
      required = !!atOnce<unknown>(requires(siblings, beside));
      return required && subject.empty ? VALUE_MISSING : undefined;
    }
    now = moving ? moving(siblings, beside) : rule;
    // Before anything else: a subject without a value has the rule wait.
    const value = subject.readForRule();
    if (now === undefined || subject.skipsRules) return undefined;
    const { test }: RunnableRule = now;
    const result = test!(value, siblings, evaluation.now, beside);
    return now === rule ? result : reportedBy(now, result);
  } catch (error) {
    return error === WAITING ? undefined : crash(error, rule, evaluation);
  } finally {
    onRun?.(required, now);
  }
}
