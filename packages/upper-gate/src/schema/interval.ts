// From and to.

import { rangeUnderflow } from '../messages/en.ts';
import { position } from './calendar.ts';
import type { Field } from './field.ts';
import { group, type Group } from './group.ts';
import type { DATA, LabelOr, RAW, Settings } from './node.ts';
import { makeRule, type Verdict } from './rule.ts';

/**
 * A stretch between two values of a kind, `from` and `to`; `to` must not lie before `from` (`rangeUnderflow`).
 *
 * @param settings its label, or label and settings
 * @param from a field of numbers, dates or times
 * @param to another of the same kind
 *
 * @example
 * interval('Stay', date('From', required()), date('To', required())) // data: { from: string; to: string }
 */
export function interval<
  From extends Field<string | number | undefined>,
  To extends Field<From[typeof DATA] | undefined, From[typeof RAW]>,
>(settings: LabelOr<Settings>, from: From, to: To): Group<{ from: From; to: To }> {
  const test = (value: unknown, siblings: { readonly from: unknown }): Verdict | undefined =>
    siblings.from === undefined || position(value) >= position(siblings.from)
      ? undefined
      : { code: 'rangeUnderflow', text: rangeUnderflow };
  return group({ from, to }, settings).rules({
    to: makeRule('after', { other: 'from', orSame: true }, { test }, undefined),
  });
}
