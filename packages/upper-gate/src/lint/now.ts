// The moment at which everything happens, so that the same is found at any time.

import type { Clock } from '../schema/verdict.ts';
import type { FormClock } from '../schema/kit.ts';

export const NOW: Clock = () => new Date('2027-05-01T08:00:00Z');

/** A clock that stands still: no pause ends, no time is up. */
export const STILL: FormClock = { now: NOW, setTimeout: () => 0, clearTimeout: () => undefined };

/** An answer that never comes: no function that asks somebody is called. */
export const noAnswer = () => () => new Promise(() => undefined);
