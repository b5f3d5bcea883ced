// Conditions: `if` of JSON Schema as a function on siblings, which remembers what it was made from.

import type { AnyRule, AuthorFunction, Clock } from '../schema/rule.ts';
import type { JsonObject } from './document.ts';

/** An `if`, and whether it has to hold, or must not. */
export interface Condition {
  readonly if: JsonObject;
  readonly holds: boolean;
}

/** What a function or a rule was made from: it holds while any of the conditions does. */
interface Origin {
  readonly conditions: readonly Condition[];
  /** The rule that is in force while they do. */
  readonly rule?: AnyRule;
}

const origins = new WeakMap<object, Origin>();

/** What a function or a rule was made from, if from a document. */
export const originOf = (made: object): Origin | undefined => origins.get(made);

/** Remembers what a function was made from. */
export function remember<F extends AuthorFunction>(made: F, conditions: readonly Condition[]): F {
  origins.set(made, { conditions });
  return made;
}

/** A rule that is in force only while a condition on the siblings holds. */
export function whileHolds(rule: AnyRule, holds: (siblings: unknown) => boolean, conditions: readonly Condition[]): AnyRule {
  const { judge, need } = rule;
  const made = {
    ...rule,
    // Judged as a whole, not row by row: a live form would go by it whether the condition holds or not.
    distinct: undefined,
    ...(judge && {
      judge: (value: never, siblings: unknown, now: Clock) => (holds(siblings) ? judge(value, siblings as never, now) : undefined),
    }),
    ...(need && { need: (siblings: unknown) => holds(siblings) && need(siblings as never) }),
  } as unknown as AnyRule;
  origins.set(made, { conditions, rule });
  return made;
}
