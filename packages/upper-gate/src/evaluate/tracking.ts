// Which callback read which node. While a watch runs its callback, each node that the callback reads learns of the watch,
// and has it run again when its value changes. Reads are compared with those of the last run: a callback that takes the
// same way again, as most do, costs no bookkeeping; one that takes another depends on what it read there and on no more.

import type { Kit, LiveNode, Readable, Recorder, Watch } from '../schema/kit.ts';

class TrackedCallback implements Watch {
  /** What the last run read, in order. */
  reads: Readable[] = [];
  /** How many of them the run under way has read again. */
  at = 0;
  readonly node: LiveNode;
  readonly invalidate: () => void;

  constructor(node: LiveNode, invalidate: () => void) {
    this.node = node;
    this.invalidate = invalidate;
  }

  track<T>(callback: () => T): T {
    this.at = 0;
    try {
      return recordedBy(this.node.kit, this, callback);
    } finally {
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

/** Makes the watch of a callback. @param node what the callback is about @param invalidate called when something that it read has changed */
export const createWatch = (node: LiveNode, invalidate: () => void): Watch => new TrackedCallback(node, invalidate);

/** Calls a function whose reads are recorded. */
export function recordedBy<T>(kit: Kit, recorder: Recorder, callback: () => T): T {
  const outer = kit.recorder;
  kit.recorder = recorder;
  try {
    return callback();
  } finally {
    kit.recorder = outer;
  }
}
