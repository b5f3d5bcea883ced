// Why a rule does not run, as it follows from what a node is at the moment.

import type { FieldNode } from '../gate/fieldNode.ts';
import type { BaseNode } from '../gate/node.ts';
import { isField, isUnreadable } from '../schema/field.ts';
import type { LiveNode, Readable, TracedRule } from '../schema/kit.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { RunnableRule } from '../schema/rule.ts';
import type { Reason } from './entries.ts';

const isFieldNode = (node: LiveNode): node is FieldNode => isField((node as BaseNode).part);

/** Whether a node holds something that cannot be read. */
export const isUnread = (node: LiveNode): boolean => isFieldNode(node) && isUnreadable(node.value);

/** Whether what a callback read last has no value of its type: then it waits for that. */
const isLacking = (read: Readable): boolean => {
  if ('part' in read) return (read as LiveNode).data === NO_VALUE || !(read as LiveNode).applies;
  return 'isKnown' in read && read.isKnown === false;
};

/** What a callback waits for: the last that it read, if that has no value. */
export function awaitedIn(reads: readonly Readable[]): Readable | undefined {
  const last = reads.at(-1);
  return last && isLacking(last) ? last : undefined;
}

/** Why a sync rule on a node does not run now; undefined if it does. */
export function whyNot(node: LiveNode, rule: TracedRule): Reason | undefined {
  if (!node.applies) return 'notApplying';
  if (!node.isDue(rule as never)) return 'notYet';
  if (isUnread(node)) return 'unreadable';
  const { skips, requires }: RunnableRule = rule as never;
  if (requires) return undefined;
  if (node.skipsRules || (isFieldNode(node) && node.value === undefined)) return 'empty';
  const covers = skips !== undefined && isFieldNode(node) && skips(node.value, node.part.ruleList);
  return covers ? 'covered' : undefined;
}

/** What a condition is called where rules are named. */
export const APPLIES = 'appliesWhen';

/** Why a rule that ran found nothing, if that is since its own value is not there. */
export function whyUnvalued(node: LiveNode, rule: TracedRule): Reason | undefined {
  if ('requires' in rule) return undefined;
  return whyNot(node, rule) ?? (node.data === NO_VALUE ? 'empty' : undefined);
}

/** Why an async rule on a node does not run now; undefined if it may. */
export function whyNotAsync(node: LiveNode, rule: TracedRule): Reason | undefined {
  const why = whyNot(node, { ...rule, on: 'change' });
  if (why) return why;
  if (!node.syncValid) return 'hasErrors';
  if (!node.asyncEnabled) return 'untouched';
  return node.isDue(rule as never) ? undefined : 'notYet';
}
