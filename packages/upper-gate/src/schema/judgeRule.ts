// Judging by one rule that may read siblings: of a group, on one of its fields, or on the group as a whole.

import { MISSING } from './field.ts';
import type { Part } from './node.ts';
import type { AnyRule } from './rule.ts';
import { report, reportCrash, type Run } from './run.ts';
import { WAIT } from './siblings.ts';

/**
 * Lets a rule judge data. Its finding, or its question to the network, goes to the run with an empty path.
 *
 * @param data what the part holds; only a rule that asks for a value judges it when it is empty
 * @param siblings the group that the rule may read
 */
export function judgeRule(rule: AnyRule, part: Part, data: unknown, siblings: unknown, run: Run): void {
  try {
    if (rule.need) {
      if (part.isBlank(data) && rule.need(siblings as never)) report(run, part, rule, MISSING);
    } else if (data !== undefined) {
      const value = part.look(data, run);
      const verdict = rule.judge?.(value as never, siblings as never);
      if (verdict !== undefined) report(run, part, rule, verdict);
      if (rule.ask && run.questions) run.entries.push({ path: '', part, rule, value, siblings });
    }
  } catch (error) {
    if (error !== WAIT) reportCrash(run, part, rule.name, error);
  }
}
