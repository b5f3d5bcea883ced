// Judging by rules that may read siblings: of a group, on one of its fields; or on a group or list as a whole.

import { MISSING } from './field.ts';
import type { Part } from './node.ts';
import type { AnyRule } from './rule.ts';
import { report, reportCrash, type Run } from './run.ts';
import { WAIT } from './siblings.ts';

/**
 * Lets a rule judge data. Its findings, or its question to the network, go to the run with paths relative to the part.
 *
 * @param data what the part holds; only a rule that asks for a value judges it when it is empty
 * @param siblings the group that the rule may read
 */
export function judgeRule(rule: AnyRule, part: Part, data: unknown, siblings: unknown, run: Run): void {
  try {
    if (rule.need) {
      if (part.isBlank(data) && rule.need(siblings as never)) report(run, part, rule, MISSING);
    } else if (!part.passes(data)) {
      const value = part.look(data, run);
      if (rule.judge) report(run, part, rule, rule.judge(value as never, siblings as never, run.now));
      else if (run.questions) run.entries.push({ path: '', part, rule, value, siblings });
    }
  } catch (error) {
    if (error !== WAIT) reportCrash(run, part, rule.name, error);
  }
}
