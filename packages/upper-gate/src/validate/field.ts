// How a whole value of a field is walked: read, then validated by its own rules.

import type { Evaluation } from '../evaluate/evaluation.ts';
import { dataOf, evaluateField, readValue } from '../evaluate/field.ts';
import type { FieldPart } from '../schema/field.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { Scopes } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { Reporter, Verdict } from '../schema/verdict.ts';

/** What walking a field needs of the walk. */
export interface FieldWalker extends Evaluation {
  /** Whether async rules leave a `PendingCheck` among the entries. */
  readonly collectAsync: boolean;
  /** How many values without data there were so far. */
  missing: number;
  report(part: Part, rule: Reporter | undefined, verdict: Verdict): void;
  /** Runs a rule; findings are relative to its part. @param scopes what it may read; of an async rule of a field: its group, later */
  rule(rule: AnyRule, part: Part, data: unknown, scopes: Scopes | undefined): void;
}

export function walkField(part: FieldPart, raw: unknown, walk: FieldWalker): unknown {
  const value = readValue(part, raw, walk);
  const found = evaluateField(part, value, walk);
  for (let i = 0; i < found.length; i += 1) walk.report(part, found[i]!.rule, found[i]!.verdict);
  if (value !== undefined && found.length === 0 && part.attached.length === 0) return value;
  const data = dataOf(part, value);
  if (data === NO_VALUE) walk.missing += 1;
  else for (const rule of part.attached) walk.rule(rule, part, data, undefined);
  return data;
}
