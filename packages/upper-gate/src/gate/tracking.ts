// Which callback read which cell. A watch is one callback of the form (a rule between fields, a condition); while it
// runs, each cell that it reads learns of it, and has it run again when its value changes. Reads are recorded anew at
// each run, so that a callback depends on the branch that it took and on no other.

/** What can be read: knows its readers, each with the number of the run that last read it. */
export interface Readable {
  readers: Map<Watch, number> | undefined;
}

/** Whoever records what a callback reads. */
export interface Recorder {
  recordRead(cell: Readable): void;
}

let active: Watch | undefined;

export abstract class Watch implements Recorder {
  /** What the last run read. */
  reads: Readable[] = [];
  #before: Readable[] = [];
  #run = 0;

  /** Called when something that was read has changed. */
  abstract invalidate(): void;

  /** Calls the callback and records what it reads until it returns. */
  protected track<T>(callback: () => T): T {
    const outer = active;
    [this.#before, this.reads] = [this.reads, this.#before];
    this.reads.length = 0;
    this.#run += 1;
    // eslint-disable-next-line @typescript-eslint/no-this-alias -- the reads that follow belong to this watch
    active = this;
    try {
      return callback();
    } finally {
      active = outer;
      for (const read of this.#before) if (read.readers!.get(this) !== this.#run) read.readers!.delete(this);
    }
  }

  /** Forgets all that was read: nothing has this watch run again. */
  protected untrack(): void {
    for (const read of this.reads) read.readers!.delete(this);
    this.reads.length = 0;
  }

  recordRead(cell: Readable): void {
    const readers = (cell.readers ??= new Map());
    if (readers.get(this) === this.#run) return;
    readers.set(this, this.#run);
    this.reads.push(cell);
  }
}

/** Records that a callback, by default the one under way, has read a cell. */
export const read = (cell: Readable, by: Recorder | undefined = active): void => by?.recordRead(cell);

/** Has everything run again that read the cell. */
export function changed(cell: Readable): void {
  if (cell.readers) for (const watch of cell.readers.keys()) watch.invalidate();
}
