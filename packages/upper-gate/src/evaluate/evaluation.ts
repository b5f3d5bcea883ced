// What running rules needs of whoever runs them: a walk over a whole value, or a live form.

import type { AnyRule } from '../schema/rule.ts';
import type { Clock } from '../schema/verdict.ts';

/** Where a fault happened: in which rule, on which field. */
export interface Fault {
  /** What was thrown, or what is wrong. */
  readonly error: unknown;
  readonly path: string;
  readonly rule: string;
}

export interface Evaluation {
  readonly now: Clock;
  /** Whether the moment of a rule has come. Default: that of every rule has, as for a whole value. */
  readonly isDue?: ((rule: AnyRule) => boolean) | undefined;
  /** The language in which values are written, by its tag. Default `'en'`. */
  readonly locale?: string | undefined;
  /** Whether the value has JSON's types. Default: those of a form. */
  readonly isJson?: boolean;
  /** Reports what a callback of the value at hand threw. */
  fault(error: unknown, rule: string): void;
}
