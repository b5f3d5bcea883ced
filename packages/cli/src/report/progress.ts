// The progress line of a terminal.

import type { Tally } from './outcome.ts';
import { counted } from './words.ts';

const { stderr } = process;
/** How often it is drawn, in milliseconds. */
const PAUSE = 250;

/** Shows how far the command is: records, their rate and, where the sizes of all files are known, the time left. */
export class Progress {
  readonly #tally: Tally;
  readonly #isOn: boolean;
  #timer: NodeJS.Timeout | undefined;
  #isShown = false;
  #began = 0;
  #read = 0;
  #size: number | undefined;

  /** @param isOn whether to show it: only on a terminal where somebody looks on */
  constructor(tally: Tally, isOn: boolean) {
    this.#tally = tally;
    this.#isOn = isOn;
  }

  /** @param sizes of the files in bytes, where they are known */
  start(sizes: readonly (number | undefined)[]): void {
    if (!this.#isOn) return;
    this.#began = performance.now();
    this.#size = sizes.reduce((sum, size) => (sum === undefined || size === undefined ? undefined : sum + size), 0);
    // `unref`: the timer must not keep the process running.
    this.#timer = setInterval(() => this.#draw(), PAUSE).unref();
  }

  /** Counts bytes that were read. */
  add(bytes: number): void {
    this.#read += bytes;
  }

  /** Takes the line away, so that something else can be printed. */
  clear(): void {
    if (this.#isShown) stderr.write('\r\x1b[K');
    this.#isShown = false;
  }

  stop(): void {
    clearInterval(this.#timer);
    this.clear();
  }

  #draw(): void {
    const seconds = (performance.now() - this.#began) / 1000;
    const { records } = this.#tally;
    const parts = [counted(records, 'record'), `${counted(Math.round(records / seconds))} a second`];
    if (this.#size !== undefined && this.#read > 0) {
      const share = Math.min(1, this.#read / this.#size);
      parts.push(`${Math.floor(share * 100)} %`, `${duration((seconds / share) * (1 - share))} left`);
    }
    this.clear();
    stderr.write(parts.join(', '));
    this.#isShown = true;
  }
}

/** `95` is `1 min 35 s`. */
function duration(seconds: number): string {
  const whole = Math.ceil(seconds);
  const [hours, minutes] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60)];
  if (hours > 0) return `${hours} h ${minutes} min`;
  return minutes > 0 ? `${minutes} min ${whole % 60} s` : `${whole} s`;
}
