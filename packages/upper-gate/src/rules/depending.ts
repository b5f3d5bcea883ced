// Limits that depend on other fields.

import { attachCrossField } from './crossField/live.ts';
import { Depending } from './moving.ts';

/**
 * Makes limits that depend on other fields, or on facts from outside, in place of fixed ones in `range`, `length`, `step` and
 * `oneOf`. Params, messages, hints, counters and the attributes of controls follow.
 *
 * @param limits gets the siblings, then the fields beside where it lies further in; returns what the rule takes: nothing for no
 *   limit. While it waits for a field without a value, there is none.
 * @returns what these rules take in place of limits
 *
 * @example
 * .rules({ weight: range(depending((boat) => ({ max: HEAVIEST[boat.kind] }))) })
 */
export const depending = <B, L, T>(limits: (siblings: B, beside: L) => T | undefined): Depending<B, L, T> =>
  new Depending(limits, attachCrossField);
