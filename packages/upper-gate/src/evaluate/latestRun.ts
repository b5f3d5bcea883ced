// The latest of several runs of something that waits for an answer: an async rule, options that are fetched, a submission, saving.
// A new run takes the place of the one before; what that brings comes too late.

import type { Recorder, Watch } from '../schema/kit.ts';

export class LatestRun {
  /** The run under way. */
  current: AbortController | undefined;

  /** Begins a run. */
  begin(): AbortController {
    return (this.current = new AbortController());
  }

  /**
   * A run is over.
   *
   * @returns whether it was still the latest
   */
  end(run: AbortController): boolean {
    if (run !== this.current) return false;
    this.current = undefined;
    return true;
  }

  /** Ends the run under way; nothing more comes of it. @returns that run */
  abort(): AbortController | undefined {
    const run = this.current;
    this.current = undefined;
    run?.abort();
    return run;
  }
}

/** Records what a run reads, also after an `await`, as long as it is the latest. */
export const recorderOf = (latest: LatestRun, run: AbortController, watch: Watch): Recorder => ({
  recordRead(what) {
    if (run === latest.current) watch.recordRead(what);
  },
});
