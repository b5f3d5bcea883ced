// Conditions: `if` of JSON Schema as a function on siblings, which remembers what it was made from.

import type { AnyRule, AuthorFunction, Clock } from '../schema/rule.ts';
import type { JsonObject } from './document.ts';

/** An `if`, and whether it has to hold, or must not. */
export interface IfCondition {
  readonly if: JsonObject;
  readonly holds: boolean;
}

/** What a function or a rule was made from: it holds while any of the conditions does. */
interface Origin {
  readonly conditions: readonly IfCondition[];
  /** The rule that runs while they do. */
  readonly rule?: AnyRule;
}

const origins = new WeakMap<object, Origin>();

/** What a function or a rule was made from, if from a document. */
export const originOf = (made: object): Origin | undefined => origins.get(made);

/** Remembers what a function was made from. */
export function remember<F extends AuthorFunction>(made: F, conditions: readonly IfCondition[]): F {
  origins.set(made, { conditions });
  return made;
}

/** A rule that runs only while a condition on the siblings holds. */
export function whileHolds(rule: AnyRule, holds: (siblings: unknown) => boolean, conditions: readonly IfCondition[]): AnyRule {
  const { test, requires } = rule;
  const made: AnyRule = {
    ...rule,
    ...(test && {
      test: (value: never, siblings: never, now: Clock) => (holds(siblings) ? test(value, siblings, now) : undefined),
    }),
    ...(requires && { requires: (siblings: never) => holds(siblings) && requires(siblings) }),
  };
  // Run on the list as a whole, not row by row: a live form would go by it whether the condition holds or not.
  delete (made as { distinct?: unknown }).distinct;
  origins.set(made, { conditions, rule });
  return made;
}
