// What a rule returns, as a list.

import type { RuleResult, Verdict } from '../schema/verdict.ts';

const NOTHING: readonly never[] = [];

/** The verdicts in a result. */
export const verdictsIn = (result: RuleResult): readonly Verdict[] =>
  result === undefined ? NOTHING : Array.isArray(result) ? (result as readonly Verdict[]) : [result as Verdict];
