// What is said of a required field that there are no options for, in one form.

import { firstOther } from '../messages/english.ts';
import type { Instead, LiveNode, Readable } from '../schema/kit.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { Part } from '../schema/part.ts';
import { sameValue } from '../schema/sameValue.ts';

/**
 * That another field comes first, if the function that gives the options waits for it.
 *
 * @param reads what the function read: the last of it, that for which it waits
 */
export function firstOf(reads: readonly Readable[]): Instead | undefined {
  const first = reads.at(-1) as Partial<LiveNode<Part>> | undefined;
  // (What is there, or is no field but a fact from outside, is not waited for here.)
  if (first?.part === undefined || first.data !== NO_VALUE) return undefined;
  const { label, traits } = first.part;
  const params = { other: first.path, otherLabel: label, otherHolds: traits.holds };
  return { verdict: { code: 'valueMissing', wordedAs: 'firstOther', text: firstOther, params }, first: first as LiveNode };
}

/** Says something else of a field that lacks a value. */
export function sayInstead(live: { instead?: Instead | undefined }, target: LiveNode, instead: Instead | undefined): void {
  if (live.instead?.first === instead?.first && sameValue(live.instead?.verdict, instead?.verdict)) return;
  live.instead = instead;
  target.reword();
}
