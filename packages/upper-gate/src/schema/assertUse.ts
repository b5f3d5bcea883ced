// Checks of what a developer passes where it decides a verdict: in production too, where a mistake must not let a value in.

import { DEV, explained } from '#development';
import { WRONG_USE } from './brand.ts';

/**
 * Throws a TypeError unless a condition holds.
 *
 * @param problem what is wrong, where, and what to write; `DEV && '...'`, so that production builds leave it out
 */
export function assertUse(holds: boolean, problem: string | false): asserts holds {
  if (!holds) throw wrongUse(problem);
}

/** The error of a wrong use, where its text takes long to make: `if (...) throw wrongUse(DEV && '...')`. */
export const wrongUse = (problem: string | false): TypeError => new TypeError(DEV && problem ? explained(problem) : WRONG_USE);

/** Throws unless an option is a number from `least` on: a comparison with `NaN` or `undefined` would lift the limit. */
export function assertNumber(name: string, value: unknown, least: number): void {
  assertUse(
    typeof value === 'number' && value >= least,
    DEV && `${name} takes a number from ${least}. It got ${typeof value === 'number' ? value : JSON.stringify(value)}.`,
  );
}
