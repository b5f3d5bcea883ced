// One field by itself: reading its raw value, and the rules on it.

import { isUnreadable, Unreadable, UNREADABLE, VALUE_MISSING, type FieldPart } from '../schema/field.ts';
import { NO_VALUE, WAITING } from '../schema/noValue.ts';
import { atOnce, isHollow } from '../schema/safeAccess.ts';
import type { RunnableRule } from '../schema/rule.ts';
import type { Found, RuleResult } from '../schema/verdict.ts';
import type { Evaluation, WalkedPart } from '../schema/walker.ts';
import { crash, CRASHED } from './rule.ts';
import { verdictsIn } from './verdicts.ts';

const NOTHING: readonly never[] = [];
const UNREADABLE_CRASH = new Unreadable(CRASHED);

/**
 * Reads a raw value.
 *
 * @returns the value, or an `Unreadable` that says why there is none
 */
export function readValue(part: FieldPart, raw: unknown, evaluation: Pick<Evaluation, 'fault' | 'isJson' | 'locale'>): unknown {
  if (typeof raw === 'object' && isHollow(raw)) return UNREADABLE;
  try {
    const value = evaluation.isJson && part.spec.readJson ? part.spec.readJson(raw) : part.read(raw, evaluation.locale ?? 'en');
    // (Most values are no objects: bench, P1.)
    return typeof value === 'object' ? atOnce(value) : value;
  } catch (error) {
    evaluation.fault(error, 'read');
    return UNREADABLE_CRASH;
  }
}

/** The data of a value that was read; `NO_VALUE` without data of the type of the field. */
export const dataRead = (part: FieldPart, value: unknown): unknown =>
  value === undefined ? (part.mandatory ? NO_VALUE : value) : isUnreadable(value) ? NO_VALUE : value;

/** Whether `required` has reported that there is no value. */
const isMissing = (part: WalkedPart, data: unknown, evaluation: Pick<Evaluation, 'isDue'> | undefined): boolean =>
  part.required !== undefined && part.isEmpty(data) && (evaluation?.isDue === undefined || evaluation.isDue(part.required));

/** Whether the rules that do not require a value have nothing to validate in data: there is no value, or `required` has reported that. */
export const skipsRules = (part: WalkedPart, data: unknown, evaluation?: Pick<Evaluation, 'isDue'>): boolean =>
  data === undefined || isMissing(part, data, evaluation);

/** What reading and the sync rules of a field find in a value, in the order of the rules. */
export function evaluateField(part: FieldPart, value: unknown, evaluation: Evaluation): readonly Found[] {
  if (value === undefined || value === part.emptyData) {
    if (isMissing(part, value, evaluation)) return [{ rule: part.required, verdict: VALUE_MISSING }];
    if (value === undefined) return NOTHING;
  } else if (isUnreadable(value)) return [{ rule: undefined, verdict: value.verdict }];
  const { sync, accepts } = part;
  if (accepts !== undefined && evaluation.ran === undefined && (evaluation.isDue === undefined || evaluation.isDue(sync[0]!)))
    try {
      if (accepts(value, evaluation.now)) return NOTHING;
    } catch {
      // The rules run one by one: a rule that throws is known by its place.
    }
  let found: Found[] | undefined;
  for (let i = 0; i < sync.length; i += 1) {
    const rule: RunnableRule = sync[i]!;
    if (evaluation.isDue !== undefined && !evaluation.isDue(rule)) continue;
    if (rule.skips !== undefined && rule.skips(value, sync)) continue;
    let result: RuleResult;
    try {
      result = rule.test!(value, undefined, evaluation.now, undefined);
    } catch (error) {
      result = error === WAITING ? undefined : crash(error, rule, evaluation);
    }
    evaluation.ran?.(rule, result);
    if (result !== undefined) for (const verdict of verdictsIn(result)) (found ??= []).push({ rule, verdict });
  }
  return found ?? NOTHING;
}
