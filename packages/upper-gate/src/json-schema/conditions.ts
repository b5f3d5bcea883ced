// Conditions: `if` of JSON Schema as a function on siblings, which remembers what it was made from.

import { attachCrossField } from '../rules/crossField/live.ts';
import type { AnyRule, AuthorFunction } from '../schema/rule.ts';
import type { Clock } from '../schema/verdict.ts';
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

/** Where what was made from a document keeps that. */
const ORIGIN = Symbol('origin');
interface Made {
  readonly [ORIGIN]?: Origin;
}

/** What a function or a rule was made from, if from a document. */
export const originOf = (made: object): Origin | undefined => (made as Made)[ORIGIN];

/** Remembers what a function was made from. */
export const remember = <F extends AuthorFunction>(made: F, conditions: readonly IfCondition[]): F =>
  Object.assign(made, { [ORIGIN]: { conditions } });

/** A rule that runs only while a condition on the siblings holds. */
export function whileHolds(rule: AnyRule, holds: (siblings: unknown) => boolean, conditions: readonly IfCondition[]): AnyRule {
  const { test, requires } = rule;
  const made: AnyRule & Made = {
    ...rule,
    ...(test && {
      test: (value: never, siblings: never, now: Clock, beside: never) =>
        holds(siblings) ? test(value, siblings, now, beside) : undefined,
    }),
    ...(requires && { requires: (siblings: never, beside: never) => holds(siblings) && requires(siblings, beside) }),
    // Whatever the rule reads, its condition reads siblings.
    attach: attachCrossField,
    [ORIGIN]: { conditions, rule },
  };
  return made;
}
