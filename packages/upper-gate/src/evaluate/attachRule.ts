// Rules on a part as a whole, and of groups on their fields, in one form.

import type { LiveNode } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { Order } from '../schema/verdict.ts';
import { NodeReport } from './report.ts';
import { NO_SCOPES, runRule } from './rule.ts';
import { verdictsIn } from './verdicts.ts';

const NOTHING: readonly never[] = [];

/** Attaches a rule to the node of what it validates. @param scope what it may read */
export function attachRule(rule: AnyRule, node: LiveNode<Part>, scope: LiveNode<Part>, order: Order): void {
  if (rule.attach) return rule.attach(rule, node, scope, order);
  // It reads nothing but the value.
  const report = new NodeReport(node, rule, order);
  const schedule = (): void => {
    const found = node.applies && node.isDue(rule) ? verdictsIn(runRule(rule, node, NO_SCOPES, node)) : undefined;
    node.kit.tracer?.ran(node, rule, NOTHING, found);
    report.set(found ?? NOTHING);
  };
  (node.liveRules ??= []).push({ rule, now: rule, requires: false, schedule });
}

/** Attaches the rules of a part on its value as a whole. @param from the position of the first of them among all rules on it */
export const attachOwnRules = (node: LiveNode<Part>, from = 0): void =>
  node.part.ruleList.forEach((rule, index) => attachRule(rule, node, node, { depth: node.depth, index: from + index }));
