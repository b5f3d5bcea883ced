// One rule on a whole value that may read more than that: of a group on one of its fields, of a group or list on itself.

import { NO_VALUE } from '../schema/noValue.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { Scopes } from '../schema/kit.ts';
import type { WalkedPart, Walker } from '../schema/walker.ts';
import { skipsRules } from './field.ts';
import { sortByPath } from './order.ts';
import { readable } from './readable.ts';
import { NO_SCOPES, runRule } from './rule.ts';
import { verdictsIn } from './verdicts.ts';

/**
 * Runs a rule; findings are relative to its part.
 *
 * @param scopes what it may read; of a rule on a field itself that waits for an answer: its group, later
 */
export function walkRule(rule: AnyRule, part: WalkedPart, data: unknown, walker: Walker, scopes?: Scopes): void {
  if (walker.isOver) return;
  const has = data !== NO_VALUE;
  if (rule.async) {
    if (walker.defer && has && !skipsRules(part, data)) walker.defer(rule, part, readable(walker, data), scopes);
    return;
  }
  const subject = {
    empty: has && part.isEmpty(data),
    skipsRules: has && skipsRules(part, data),
    readForRule: () => readable(walker, data),
  };
  for (const verdict of verdictsIn(runRule(rule, subject, scopes ?? NO_SCOPES, walker))) {
    walker.report(part, rule, verdict);
    if (verdict.path) walker.sort ??= sortByPath;
  }
}

/** Runs the rules of a part on its data as a whole. */
export function walkOwnRules(part: Part, data: unknown, walker: Walker): void {
  const seen = readable(walker, data);
  for (const rule of part.ruleList) (rule.walk ?? walkRule)(rule, part, data, walker, [seen, seen]);
}
