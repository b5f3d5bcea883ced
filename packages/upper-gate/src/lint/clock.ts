// Whether a function reads the clock of the system: seen by putting another `Date` in its place while it runs.

export class WatchedClock {
  #isRead = false;

  /** Runs something while the clock of the system is watched. */
  watch<T>(run: () => T): T {
    const System = globalThis.Date;
    const note = (): void => void (this.#isRead = true);
    globalThis.Date = new Proxy(System, {
      construct(target, args: readonly unknown[], newTarget) {
        if (args.length === 0) note();
        return Reflect.construct(target, args, newTarget) as Date;
      },
      apply(target) {
        note();
        return target();
      },
      get(target, key, receiver) {
        if (key === 'now') note();
        return Reflect.get(target, key, receiver) as unknown;
      },
    });
    try {
      return run();
    } finally {
      globalThis.Date = System;
    }
  }

  /** Whether it was read since this was asked last. */
  take(): boolean {
    const was = this.#isRead;
    this.#isRead = false;
    return was;
  }
}
