// What validating some records came to, as a report takes it. It goes from thread to thread as it is.

import type { Severity } from 'upper-gate';
import type { Collected } from './collect.ts';
import { NONE } from './severities.ts';

/** How many records there were, and what was found. */
export interface Tally extends Record<Severity, number> {
  records: number;
  /** The records in which no error was found. */
  passed: number;
  /** The records with more findings than are counted. */
  overfull: number;
}
export const newTally = (): Tally => ({ records: 0, passed: 0, overfull: 0, ...NONE });

/** How many causes of faults are told. */
export const MOST_FAULTS = 20;

/** What validating some records came to. */
export interface Outcome extends Collected {
  readonly tally: Tally;
  /** What rules threw, each cause once, by what tells them apart. */
  readonly faults: ReadonlyMap<string, string>;
  /** Why the file cannot be read any further. */
  readonly failure: string | undefined;
}

/** What takes outcomes. */
export interface Receiver {
  /** How many findings it still takes. */
  readonly room: number;
  take(outcome: Outcome): Promise<void>;
}
