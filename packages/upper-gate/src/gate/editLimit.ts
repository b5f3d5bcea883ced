// Rules and listeners may edit the form. Those that edit each other's fields would go on for ever: their edits are counted.

import { DEV } from '#development';

/** How often callbacks may edit in one operation. */
const MOST_EDITS = 1000;
/** The paths of so many of the last of them are named. */
const NAMED = 8;

export class EditLimit {
  #count = 0;
  /** Of the last edits, in development. */
  readonly #paths = new Set<string>();

  /** Another operation begins. */
  reset(): void {
    this.#count = 0;
  }

  /** Whether a callback may make another edit of a field. @param report called when it may not, the first time */
  admits(path: string, report: (error: Error) => void): boolean {
    this.#count += 1;
    if (DEV) {
      if (this.#count === MOST_EDITS - NAMED) this.#paths.clear();
      this.#paths.add(path);
    }
    if (this.#count === MOST_EDITS + 1) {
      report(
        new Error(
          DEV
            ? `Rules or listeners edit "${[...this.#paths].join('", "')}" again and again: ${MOST_EDITS} times in one operation. Further edits are dropped.`
            : `Endless edits of "${path}"`,
        ),
      );
    }
    return this.#count <= MOST_EDITS;
  }
}
