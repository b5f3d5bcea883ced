// Which callback read which node. While a watch runs its callback, each node that the callback reads learns of the watch,
// and has it run again when its value changes. Reads are compared with those of the last run: a callback that takes the
// same way again, as most do, costs no bookkeeping; one that takes another depends on what it read there and on no more.

import type { Readable, Recorder, Watch } from '../schema/kit.ts';

let active: Recorder | undefined;

/**
 * Has what follows recorded by another recorder.
 *
 * @returns the one before, to restore afterwards
 */
export function swapRecorder(recorder: Recorder | undefined): Recorder | undefined {
  const before = active;
  active = recorder;
  return before;
}

class TrackedCallback implements Watch {
  /** What the last run read, in order. */
  reads: Readable[] = [];
  /** How many of them the run under way has read again. */
  at = 0;
  readonly invalidate: () => void;

  constructor(invalidate: () => void) {
    this.invalidate = invalidate;
  }

  track<T>(callback: () => T): T {
    const outer = active;
    this.at = 0;
    // eslint-disable-next-line @typescript-eslint/no-this-alias -- the reads that follow belong to this callback
    active = this;
    try {
      return callback();
    } finally {
      active = outer;
      if (this.at < this.reads.length) this.forgetFrom(this.at);
    }
  }

  recordRead(what: Readable): void {
    const { at, reads } = this;
    if (reads[at] === what) this.at += 1;
    else if (at === 0 || reads[at - 1] !== what) {
      // Another way than last time: what was read behind it then counts no more.
      if (at < reads.length) this.forgetFrom(at);
      (what.readers ??= new Set()).add(this);
      reads.push(what);
      this.at += 1;
    }
  }

  untrack(): void {
    this.at = 0;
    this.forgetFrom(0);
  }

  forgetFrom(at: number): void {
    const dropped = this.reads.splice(at);
    const kept = new Set(this.reads);
    for (const read of dropped) if (!kept.has(read)) read.readers!.delete(this);
  }
}

/** Makes the watch of a callback. @param invalidate called when something that it read has changed */
export const createWatch = (invalidate: () => void): Watch => new TrackedCallback(invalidate);

/** Records that a callback has read a node. @param by default: the callback under way */
export const read = (what: Readable, by: Recorder | undefined = active): void => by?.recordRead(what);

/** Has every callback run again that read a node. */
export function changed(what: Readable): void {
  what.readers?.forEach(invalidate);
}

const invalidate = (watch: Watch): void => watch.invalidate();
