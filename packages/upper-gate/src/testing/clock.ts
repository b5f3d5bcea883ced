// A clock that stands still until it is told to go on. Timers run in the order in which they are due; between two of them, and after
// each step, all that only waits for promises goes on. It needs none of the runner's timers, so those may be replaced by others.

import type { FormClock } from '../schema/kit.ts';

interface Timer {
  readonly due: number;
  readonly run: () => void;
}

/** After so many turns in which nothing has happened, what only waits for promises is over. */
const QUIET_TURNS = 40;

/** A clock for a form that is rehearsed. */
export interface VirtualClock extends FormClock {
  /** Milliseconds since the start. */
  readonly passed: number;
  /** Lets everything go on that waits for no timer. */
  settle(): Promise<void>;
  /** Lets time pass, in milliseconds. */
  pass(milliseconds: number): Promise<void>;
  /** When the next timer is due, in milliseconds since the start; undefined without timers. */
  readonly next: number | undefined;
}

/**
 * Makes a clock that stands still.
 *
 * @param start the moment at which it starts
 * @param activity what counts up with everything that happens
 */
export function virtualClock(start: Date, activity: () => number): VirtualClock {
  let passed = 0;
  const timers = new Set<Timer>();
  const nextTimer = (): Timer | undefined => {
    let first: Timer | undefined;
    for (const timer of timers) if (!first || timer.due < first.due) first = timer;
    return first;
  };
  const settle = async (): Promise<void> => {
    let seen = activity();
    for (let quiet = 0; quiet < QUIET_TURNS; quiet += 1) {
      await Promise.resolve();
      if (activity() !== seen) quiet = 0;
      seen = activity();
    }
  };
  return {
    get passed() {
      return passed;
    },
    get next() {
      return nextTimer()?.due;
    },
    now: () => new Date(start.getTime() + passed),
    setTimeout(run, milliseconds) {
      const timer: Timer = { due: passed + (milliseconds > 0 ? milliseconds : 0), run };
      timers.add(timer);
      return timer;
    },
    clearTimeout: (timer) => void timers.delete(timer as Timer),
    settle,
    async pass(milliseconds) {
      const until = passed + milliseconds;
      await settle();
      for (let timer = nextTimer(); timer && timer.due <= until; timer = nextTimer()) {
        passed = timer.due;
        timers.delete(timer);
        timer.run();
        await settle();
      }
      passed = until;
    },
  };
}
