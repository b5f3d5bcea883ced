// Whether a field applies: all its conditions hold.

import { DEV } from '#development';
import type { Predicate } from '../schema/group.ts';
import type { Evaluation } from './evaluation.ts';
import { CRASHED } from './rule.ts';
import type { Verdict } from '../schema/verdict.ts';
import { WAITING } from '../schema/noValue.ts';

/** What the conditions of a field came to. */
export interface Applies {
  readonly applies: boolean;
  /** The finding on a condition that threw: its field applies (fail closed). */
  readonly verdict: Verdict | undefined;
}

const HOLDS: Applies = { applies: true, verdict: undefined };
const FAILS: Applies = { applies: false, verdict: undefined };
const BROKEN: Applies = { applies: true, verdict: CRASHED };

/** Runs the conditions of a field. One that waits for a field without a value does not hold. */
export function runConditions(predicates: readonly Predicate[], siblings: unknown, evaluation: Pick<Evaluation, 'fault'>): Applies {
  try {
    return predicates.every((predicate) => predicate(siblings as never)) ? HOLDS : FAILS;
  } catch (error) {
    if (error === WAITING) return FAILS;
    evaluation.fault(error, 'appliesWhen');
    return BROKEN;
  }
}

/**
 * The way from a node of a graph back to itself, in linear time.
 *
 * @param next the nodes that a node leads to
 * @returns the nodes of the circle, the first one first; nothing if there is none
 */
export function circleThrough<T>(start: T, next: (node: T) => Iterable<T>): readonly T[] | undefined {
  const seen = new Set<T>();
  const way: T[] = [];
  const leadsBack = (node: T): boolean => {
    way.push(node);
    for (const other of next(node)) {
      if (other === start) return true;
      if (seen.has(other)) continue;
      seen.add(other);
      if (leadsBack(other)) return true;
    }
    way.pop();
    return false;
  };
  return leadsBack(start) ? way : undefined;
}

/** The fault of conditions that depend on each other. */
export const circleError = (keys: readonly string[]): Error =>
  new Error(
    DEV
      ? `The conditions of ${keys.join(', ')} in appliesWhen() read each other in a circle, so these fields always apply. Remove one of the reads.`
      : `Circle in appliesWhen: ${keys.join()}`,
  );
