// Whether a field applies: all its conditions hold.

import { atOnce } from '../../schema/safeAccess.ts';
import { DEV } from '#development';
import { CRASHED } from '../../evaluate/rule.ts';
import { NOT_TAKEN } from '../../schema/applying.ts';
import type { Predicate } from '../../schema/group.ts';
import type { Scopes } from '../../schema/kit.ts';
import { WAITING } from '../../schema/noValue.ts';
import type { Verdict } from '../../schema/verdict.ts';
import type { Evaluation } from '../../schema/walker.ts';

/** What the conditions of a field came to. */
export interface Applies {
  readonly applies: boolean;
  /** If not: the depth of the group that declares the condition which does not hold. */
  readonly takenAt: number;
  /** The finding on a condition that threw: its field applies (fail closed). */
  readonly verdict: Verdict | undefined;
}

/** A condition of a field, and what it reads. */
export interface ScopedCondition {
  readonly when: Predicate;
  /** The depth of the group that declares it. */
  readonly depth: number;
  readonly scopes: () => Scopes;
}

export const HOLDS: Applies = { applies: true, takenAt: NOT_TAKEN, verdict: undefined };
const BROKEN: Applies = { applies: true, takenAt: NOT_TAKEN, verdict: CRASHED };

/**
 * Runs the conditions of a field. One that waits for a field without a value does not hold.
 *
 * @param conditions those of the innermost group first
 */
export function runConditions(conditions: readonly ScopedCondition[], evaluation: Pick<Evaluation, 'fault'>): Applies {
  for (const { when, depth, scopes } of conditions) {
    try {
      const [siblings, beside] = scopes();
      if (atOnce<unknown>(when(siblings as never, beside as never))) continue;
    } catch (error) {
      if (error !== WAITING) {
        evaluation.fault(error, 'appliesWhen');
        return BROKEN;
      }
    }
    return { applies: false, takenAt: depth, verdict: undefined };
  }
  return HOLDS;
}

/**
 * The nodes of a graph that a node leads to and that lead back to it, in linear time.
 *
 * @param next the nodes that a node leads to
 * @returns the node first, if it is among them; nothing if none leads back
 */
export function circlesThrough<T>(start: T, next: (node: T) => Iterable<T>): readonly T[] | undefined {
  /** The nodes that it leads to, each with those that lead there. */
  const from = new Map<T, T[]>([[start, []]]);
  for (const [node] of from)
    for (const other of next(node)) {
      const before = from.get(other);
      if (before) before.push(node);
      else from.set(other, [node]);
    }
  const back = new Set(from.get(start));
  for (const node of back) for (const other of from.get(node)!) back.add(other);
  return back.size > 0 ? [start, ...[...from.keys()].filter((node) => node !== start && back.has(node))] : undefined;
}

/** The fault of conditions that depend on each other. */
export const circleError = (keys: readonly string[]): Error =>
  new Error(
    DEV
      ? `The conditions of ${keys.join(', ')} in appliesWhen() read each other in a circle, so these fields always apply. Remove one of the reads.`
      : `Circle in appliesWhen: ${keys.join()}`,
  );
