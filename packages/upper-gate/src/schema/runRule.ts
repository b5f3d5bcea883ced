// Judging by rules that may read siblings: of a group, on one of its fields; or on a group or list as a whole.

import { VALUE_MISSING } from './field.ts';
import type { Part } from './node.ts';
import type { AnyRule } from './rule.ts';
import { report, reportCrash, type Walk } from './walk.ts';
import { WAITING } from './siblings.ts';

/**
 * Lets a rule judge data. Its findings, or its question to the network, go to the run with paths relative to the part.
 *
 * @param data what the part holds; only a rule that asks for a value judges it when it is empty
 * @param siblings the group that the rule may read
 */
export function runRule(rule: AnyRule, part: Part, data: unknown, siblings: unknown, run: Walk): void {
  try {
    if (rule.requires) {
      if (part.isEmpty(data) && rule.requires(siblings as never)) report(run, part, rule, VALUE_MISSING);
    } else if (!part.skipsRules(data)) {
      const value = part.readForRule(data, run);
      if (rule.test) report(run, part, rule, rule.test(value as never, siblings as never, run.now));
      else if (run.collectAsync) run.entries.push({ path: '', part, rule, value, siblings });
    }
  } catch (error) {
    if (error !== WAITING) reportCrash(run, part, rule.name, error);
  }
}
