// From and to.

import { fieldRules } from '../../clauses/fieldRules/fieldRules.ts';
import type { Field } from '../../schema/field.ts';
import { group, type Group } from '../../schema/group.ts';
import type { DATA, LabelOr, RAW, Settings } from '../../schema/node.ts';
import { compareOrder } from './siblings.ts';

/**
 * Makes a group of two fields of one kind, `from` and `to`. `to` must not be before `from` (`rangeUnderflow`).
 *
 * @param settings its label, or label and settings
 * @param from a field of numbers, dates or times
 * @param to another of the same kind
 * @returns the group of both fields
 *
 * @example
 * interval('Stay', date('From', required()), date('To', required())) // data: { from: string; to: string }
 */
export function interval<
  From extends Field<string | number | undefined>,
  To extends Field<From[typeof DATA] | undefined, From[typeof RAW]>,
>(settings: LabelOr<Settings>, from: From, to: To): Group<{ from: From; to: To }> {
  return group({ from, to }, settings).with(fieldRules({ to: compareOrder('after', 'from', { orSame: true }) }));
}
