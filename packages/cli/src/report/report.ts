// Writing a report while files are read: for people, or for programs.

import { Failure } from '../failure.ts';
import { addSort, type ReportStyle, type Sort } from './collect.ts';
import { print, printable } from './output.ts';
import { MOST_FAULTS, type Outcome, type Receiver, type Tally } from './outcome.ts';
import { SEVERITIES } from './severities.ts';
import type { Progress } from './progress.ts';
import { counted } from './words.ts';

export interface ReportOptions extends ReportStyle {
  /** How many findings to print at most; all are counted. */
  readonly max: number;
  /** Prints nothing; the exit code is the result. */
  readonly quiet: boolean;
}

/** How a report in JSON begins. */
const HEAD = '{\n  "findings": [';

/** A report that is written as outcomes come. */
export class Report implements Receiver {
  readonly #options: ReportOptions;
  readonly #tally: Tally;
  readonly #progress: Progress;
  readonly #sorts = new Map<string, Sort>();
  /** The causes of faults that were told. */
  readonly #told = new Set<string>();
  #printed = 0;

  constructor(options: ReportOptions, tally: Tally, progress: Progress) {
    this.#options = options;
    this.#tally = tally;
    this.#progress = progress;
  }

  get room(): number {
    return this.#options.quiet ? 0 : this.#options.max - this.#printed;
  }

  /** @throws Failure if the file could not be read to the end of the batch */
  async take({ tally, text, ends, sorts, faults, failure }: Outcome): Promise<void> {
    for (const key of Object.keys(tally) as (keyof Tally)[]) this.#tally[key] += tally[key];
    for (const sort of sorts.values()) addSort(this.#sorts, sort);
    for (const [cause, told] of faults) {
      if (this.#told.size >= MOST_FAULTS || this.#told.has(cause)) continue;
      this.#told.add(cause);
      this.note(told);
    }
    const count = Math.min(ends.length, this.room);
    if (count > 0) {
      const taken = count === ends.length ? text : text.slice(0, ends[count - 1]);
      await this.#write(this.#options.format === 'json' && this.#printed === 0 ? HEAD + taken.slice(1) : taken);
      this.#printed += count;
    }
    if (failure !== undefined) throw new Failure(failure);
  }

  /** Says something that is no finding, on standard error. */
  note(text: string): void {
    if (this.#options.quiet) return;
    this.#progress.clear();
    process.stderr.write(`upper-gate: ${printable(text)}\n`);
  }

  /** Writes the totals. */
  async end(): Promise<void> {
    const { records, passed, error } = this.#tally;
    const { format, coloured, quiet } = this.#options;
    if (format === 'json')
      return this.#write(
        `${this.#printed > 0 ? '\n  ' : HEAD}],\n  "records": ${records},\n  "passed": ${passed},\n  "errors": ${error}\n}\n`,
      );
    // The lines of slices, one after the other, are the lines of the whole.
    if (format === 'ndjson') return quiet ? undefined : void process.stderr.write(`${this.#totals()}\n`);
    const before = format === 'summary' ? (await import('./summary.ts')).summaryOf(this.#sorts.values(), coloured) : this.#rest();
    return this.#write(`${before}${this.#totals()}\n`);
  }

  #rest(): string {
    const more = SEVERITIES.reduce((sum, severity) => sum + this.#tally[severity], -this.#printed);
    return `${more > 0 ? `… and ${counted(more, 'more finding')}.\n` : ''}${this.#printed > 0 ? '\n' : ''}`;
  }

  #totals(): string {
    const { records, passed, overfull } = this.#tally;
    // The number of errors always stands there.
    const found = SEVERITIES.flatMap((severity) => {
      const count = this.#tally[severity];
      return count > 0 || severity === 'error' ? counted(count, severity) : [];
    });
    const beyond = overfull > 0 ? ` ${counted(overfull, 'record')} ${overfull === 1 ? 'has' : 'have'} more findings than are counted.` : '';
    return `${counted(records, 'record')} checked, ${counted(passed)} without errors; ${found.join(', ')}.${beyond}`;
  }

  async #write(text: string): Promise<void> {
    if (this.#options.quiet) return;
    this.#progress.clear();
    await print(text);
  }
}
