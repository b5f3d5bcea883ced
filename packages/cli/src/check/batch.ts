// Validating some records at a time, in whichever thread.

import { isUtf8 } from 'node:buffer';
import { hasAsyncRules, toJsonPointer, validate, validateAsync, type Fault, type ValueSource } from 'upper-gate';
import { Failure, firstLine } from '../failure.ts';
import type { Found, Lines } from '../read/records.ts';
import { collectorOf, placeOf, withoutRows, type Place, type ReportStyle } from '../report/collect.ts';
import { MOST_FAULTS, newTally, type Outcome } from '../report/outcome.ts';
import type { Loaded } from '../schema.ts';

/** Records of one file. */
export interface Batch {
  /** The file as reports name it. */
  readonly file: string;
  readonly source: ValueSource;
  readonly records: Lines | Iterable<Found>;
}

/** Validates a batch. @param room how many findings the report still takes; all are counted */
export type ValidateBatch = (batch: Batch, room: number) => Promise<Outcome>;

/** What is left out, and what is let in. */
export interface Leniency {
  /** `'skip'`: validates without the async rules. */
  readonly async?: 'skip';
  /** `'refuse'`: keys that the schema does not know are findings; columns, a failure. */
  readonly unknown?: 'refuse';
}

/** The most findings of one record that are counted. */
const MOST_FINDINGS = 100_000;

/** @returns what validates batches by a schema, and collects what a report needs */
export function batchValidator(
  { ofRecords: schema, context, checks }: Loaded,
  style: ReportStyle,
  { async: how, unknown }: Leniency,
): ValidateBatch {
  const hasAsync = hasAsyncRules(schema) && how !== 'skip';
  const further = { ...(unknown && { unknown }), ...(hasAsync ? { checks } : { async: 'skip' as const }) };
  return async ({ file, source, records }, room) => {
    const tally = newTally();
    const collector = collectorOf(style, room);
    const faults = new Map<string, string>();
    let place: Place = { file, line: undefined, pointer: '' };
    const onFault = ({ error, path, rule }: Fault): void => {
      const field = withoutRows(toJsonPointer({ path }));
      const key = `${rule} ${field}`;
      if (faults.size >= MOST_FAULTS || faults.has(key)) return;
      faults.set(
        key,
        `${placeOf(place)}: the rule ${rule} of ${path === '' ? 'the whole' : field} failed: ${causeOf(error)}${hasAsync ? HINT : ''}`,
      );
    };
    const options = { source, maxFindings: MOST_FINDINGS, context, onFault, ...further };
    let failure: string | undefined;
    try {
      for (const { line, pointer, value } of 'bytes' in records ? linesOf(records, file) : records) {
        place = { file, line, pointer };
        const result = hasAsync ? await validateAsync(schema, value, options) : validate(schema, value, options);
        tally.records += 1;
        if (result.ok) tally.passed += 1;
        if (result.more) tally.overfull += 1;
        for (const finding of result.findings) {
          tally[finding.severity] += 1;
          collector.add(place, finding, toJsonPointer(finding), finding === result.findings[0]);
        }
      }
    } catch (error) {
      // The library throws one for a schema that it cannot use so.
      if (!(error instanceof Failure || error instanceof TypeError)) throw error;
      failure = error.message.replace(/Pass \{ context: .*/, 'Give a file with its value: --context context.json.');
    }
    return { ...collector.collected(), tally, faults, failure };
  };
}

/** What to do where an async rule cannot run. */
const HINT = ' (A rule that needs a browser or a server: leave it out with --async skip, or give its function with --checks.)';

/** What was thrown, and where in the author's code. */
function causeOf(error: unknown): string {
  const frames = error instanceof Error ? (error.stack ?? '').split('\n').slice(1) : [];
  const at = frames.find((frame) => !frame.includes('node:'))?.replace(/^\s*at /, '');
  return `${error instanceof Error ? `${error.name}: ` : ''}${firstLine(error)}${at === undefined ? '' : ` (${at})`}`;
}

/** The records of lines. @throws Failure that names a line which is no JSON */
function* linesOf({ bytes, line: first }: Lines, file: string): Iterable<Found> {
  const readable = isUtf8(bytes) ? bytes.length : startOfBrokenLine(bytes);
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, readable).toString('utf8');
  let line = first;
  for (let from = 0; from < text.length; line += 1) {
    const end = text.indexOf('\n', from);
    const written = text.slice(from, end === -1 ? text.length : end);
    from = end === -1 ? text.length : end + 1;
    if (written.trim() === '') continue;
    try {
      yield { line, pointer: '', value: JSON.parse(written) };
    } catch (error) {
      throw new Failure(`${file}, line ${line}, is not JSON: ${firstLine(error)}.`);
    }
  }
  if (readable < bytes.length) throw new Failure(`${file}, line ${line}, is not UTF-8 text. Save it as UTF-8.`);
}

/** Where the first line starts that is no UTF-8. */
function startOfBrokenLine(bytes: Uint8Array): number {
  for (let start = 0; ;) {
    const end = bytes.indexOf(10, start) + 1 || bytes.length;
    if (!isUtf8(bytes.subarray(start, end)) || end === bytes.length) return start;
    start = end;
  }
}
