// Validating the records of files while they are read.

import { hasAsyncRules, toJsonPointer, validate, validateAsync, type Finding, type ValueSource } from 'upper-gate';
import { Failure, firstLine } from './failure.ts';
import { formatOf, recordsOf, type Format, type Found } from './records.ts';
import type { Loaded } from './schema.ts';

/** A finding, and where its record stands. */
export interface Located extends Finding {
  readonly file: string;
  /** The line of NDJSON; nothing for other formats. */
  readonly line?: number;
  /** Its place in the file, or in the line, as a JSON Pointer. */
  readonly pointer: string;
}

/** What was found so far. */
export interface Tally {
  records: number;
  /** The records in which no error was found. */
  passed: number;
  error: number;
  warning: number;
  notice: number;
}

export interface CheckOptions {
  /** The format of the files. Default: from their extensions. */
  readonly input?: Format;
  /** How JSON holds values. Default: `'json'` for a schema that came as a JSON Schema document. */
  readonly source?: ValueSource;
}

/**
 * Validates the records of files.
 *
 * @param files paths; `-` is standard input
 * @param tell called with each finding, as soon as it is found
 * @param tally is kept up to date on the way
 * @throws Failure for a file that cannot be read
 */
export async function checkFiles(
  { schema, isJson }: Loaded,
  files: readonly string[],
  { input, source: given }: CheckOptions,
  tell: (finding: Located) => Promise<void> | undefined,
  tally: Tally,
): Promise<void> {
  const hasAsync = hasAsyncRules(schema);
  for (const file of files) {
    const chosen = await formatOf(file, input);
    // CSV holds texts alone, as forms do.
    const source = chosen === 'csv' ? 'form' : (given ?? (isJson ? 'json' : 'form'));
    for await (const { place, value } of readable(recordsOf(file, chosen, schema.kind === 'list'), file)) {
      const result = hasAsync ? await validateAsync(schema, value, { source }) : validate(schema, value, { source });
      tally.records += 1;
      if (result.ok) tally.passed += 1;
      for (const finding of result.findings) {
        tally[finding.severity] += 1;
        const where = place.startsWith(':')
          ? { line: Number(place.slice(1)), pointer: toJsonPointer(finding) }
          : { pointer: place + toJsonPointer(finding) };
        await tell({ ...finding, file, ...where });
      }
    }
  }
}

/** The records of a file. @throws Failure if the system cannot read it any further */
async function* readable(records: AsyncIterable<Found>, file: string): AsyncIterable<Found> {
  try {
    yield* records;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).syscall === undefined) throw error;
    throw new Failure(`Cannot read ${file}: ${firstLine(error)}.`);
  }
}
