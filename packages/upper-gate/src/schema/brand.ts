// A program may hold two copies of this library: one of the application's, one of a package that it uses, one of a command
// that is installed globally. Everything that one copy makes and another takes carries a brand with a version, so that
// two copies either fit or say so. (`instanceof` would be false between them, and a check that asks it would fail open.)

import { DEV, explain, explained } from '#development';

const BRAND: unique symbol = Symbol.for('upper-gate');

/** Grows by one whenever a part, a rule or an unreadable value of one version no longer fits the next. */
const VERSION = 2;

/** The brand, for what is made as a plain object. */
export const brand = { [BRAND]: VERSION } as const;

/** What the library has made: a part of a schema, a rule, a clause, the mark of a value that cannot be read. */
export abstract class Branded {
  readonly [BRAND]: number;

  constructor() {
    this[BRAND] = VERSION;
  }
}

/** The text of errors in production builds. */
export const WRONG_USE = 'Upper Gate: wrong use. A development build of this page explains it.';

const versionOf = (value: unknown): number | undefined =>
  (typeof value === 'object' && value !== null) || typeof value === 'function' ? (value as Partial<Branded>)[BRAND] : undefined;

/** Whether a copy of this library has made a value, of whatever version. */
export const isBranded = (value: unknown): value is Branded => versionOf(value) !== undefined;

/**
 * Throws unless this copy of the library, or one that fits it, has made a value.
 *
 * @param problem what is wrong and what to do if it is something else altogether; `DEV && '...'`
 * @throws TypeError
 */
export function assertFits(value: unknown, problem: string | false): void {
  const version = versionOf(value);
  if (version === VERSION) return;
  throw new TypeError(
    DEV && problem
      ? version === undefined
        ? explained(problem)
        : explain(
            'two-versions',
            `A schema or rule was made by another version of upper-gate: its parts have version ${version}, these have ${VERSION}. Install one version for both: npm ls upper-gate shows which there are.`,
          )
      : WRONG_USE,
  );
}
