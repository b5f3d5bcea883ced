// What a request may hold. A larger one is refused before it is read whole.

import { assertNumber } from '../schema/assertUse.ts';

/** The limits of a request, which is refused beyond them. */
export interface Limits {
  /** Bytes of the body, without files. Default 1,000,000. */
  readonly bytes?: number;
  /** The number of values, including files. Default 1,000. */
  readonly keys?: number;
  /** The depth of nesting: `crew.0.name` is three deep. Default 8. */
  readonly depth?: number;
  /** The length of each list. Default 1,000. */
  readonly listLength?: number;
  /** The number of files. Default 10. */
  readonly files?: number;
  /** Bytes of each file. Default 10,000,000. */
  readonly fileBytes?: number;
  /** Milliseconds until the body must have arrived. Default 30,000. */
  readonly time?: number;
}

const DEFAULTS: Required<Limits> = {
  bytes: 1_000_000,
  keys: 1000,
  depth: 8,
  listLength: 1000,
  files: 10,
  fileBytes: 10_000_000,
  time: 30_000,
};

/** The limits, with the defaults for those that are not given. @throws TypeError for a limit that is not a number */
export function limitsOf(given: Limits): Required<Limits> {
  const limits = { ...DEFAULTS };
  for (const name of Object.keys(DEFAULTS) as (keyof Limits)[]) {
    limits[name] = given[name] ?? DEFAULTS[name];
    assertNumber(`limits.${name}`, limits[name], 0);
  }
  return limits;
}
