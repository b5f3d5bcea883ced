// Writing a report, as findings come: for people, or for programs.

import { createColors } from 'picocolors';
import type { Located, Tally } from './check.ts';
import { print, printable } from './output.ts';

export const REPORTS = ['text', 'json', 'ndjson'] as const;
export type ReportFormat = (typeof REPORTS)[number];

export interface ReportOptions {
  readonly format: ReportFormat;
  /** How many findings to print at most; all are counted. */
  readonly max: number;
  /** Prints nothing; the exit code is the result. */
  readonly quiet: boolean;
  /** Paints text for people. */
  readonly coloured: boolean;
}

const count = (number: number, what: string): string => `${number} ${what}${number === 1 ? '' : 's'}`;

/** Writes a finding as a line, in colour or not. */
function lineWriter(coloured: boolean): (finding: Located) => string {
  const { red, yellow, green, dim } = createColors(coloured);
  const paint = { error: red, warning: yellow, notice: green };
  return ({ file, line, pointer, severity, message, code }) => {
    const place = printable(`${file}${line === undefined ? '' : `:${line}`}#${pointer}`);
    return `${place}: ${paint[severity](severity)}: ${printable(message)} ${dim(`[${printable(code)}]`)}\n`;
  };
}

/** A report that is written while the files are read. */
export class Report {
  readonly #options: ReportOptions;
  readonly #tally: Tally;
  readonly #asLine: (finding: Located) => string;
  readonly #timer: NodeJS.Timeout | undefined;
  #reported = 0;

  constructor(options: ReportOptions, tally: Tally) {
    this.#options = options;
    this.#tally = tally;
    this.#asLine = lineWriter(options.coloured);
    if (options.format === 'json') void this.#write('{\n  "findings": [');
    // Shows progress on a terminal. `unref`: the timer must not keep the process running.
    if (process.stderr.isTTY && !options.quiet)
      this.#timer = setInterval(() => process.stderr.write(`\r${count(tally.records, 'record')} …`), 200).unref();
  }

  /** Writes a finding. @returns a promise if the caller has to wait before the next */
  add(finding: Located): Promise<void> | undefined {
    if (this.#reported >= this.#options.max) return undefined;
    this.#reported += 1;
    const { format } = this.#options;
    if (format === 'text') return this.#write(this.#asLine(finding));
    if (format === 'ndjson') return this.#write(`${JSON.stringify(finding)}\n`);
    return this.#write(`${this.#reported > 1 ? ',' : ''}\n    ${JSON.stringify(finding)}`);
  }

  /** Writes the totals, after `stop`. */
  async end(): Promise<void> {
    const { records, passed, error, warning, notice } = this.#tally;
    const all = error + warning + notice;
    const { format } = this.#options;
    if (format === 'json')
      await this.#write(
        `${this.#reported > 0 ? '\n  ' : ''}],\n  "records": ${records},\n  "passed": ${passed},\n  "errors": ${error}\n}\n`,
      );
    if (format !== 'text') return;
    if (all > this.#reported) await this.#write(`… and ${count(all - this.#reported, 'more finding')}.\n`);
    const found = [
      count(error, 'error'),
      ...(warning > 0 ? [count(warning, 'warning')] : []),
      ...(notice > 0 ? [count(notice, 'notice')] : []),
    ];
    await this.#write(`${count(records, 'record')} checked, ${passed} without errors; ${found.join(', ')}.\n`);
  }

  /** Clears the progress line of the terminal. */
  stop(): void {
    if (!this.#timer) return;
    clearInterval(this.#timer);
    process.stderr.write('\r\x1b[K');
  }

  #write(text: string): Promise<void> | undefined {
    return this.#options.quiet ? undefined : print(text);
  }
}
