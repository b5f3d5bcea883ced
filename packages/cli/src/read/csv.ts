// The rows of CSV (RFC 4180): the headers, or what they are mapped to, are the paths of their values.

import { pipeline, Readable } from 'node:stream';
import { parse, type CsvError } from 'csv-parse';
import { nestNames } from 'upper-gate/interop';
import { Failure, firstLine } from '../failure.ts';
import type { Node } from 'upper-gate';
import { unknownColumns, type UnknownColumns } from './columns.ts';
import type { Found } from './records.ts';
import { decoded } from './text.ts';

export interface CsvOptions {
  /** What separates the values of a row. Default: a comma. */
  readonly delimiter?: string;
  /** The path for a header, or null for a column to leave out. Other headers are paths themselves. */
  readonly columns?: Readonly<Record<string, string | null>>;
}

/** By what columns are judged. */
export interface Judge {
  readonly schema: Node;
  /** Told the columns that are no fields, before the first row. What it throws ends the reading. */
  readonly onUnknown: (columns: UnknownColumns, name: string) => void;
}

/** The longest row, in characters. */
const LONGEST = 10_000_000;
/** What a row may hold: the entries of a list count, also those which no column names. */
const ROW = { keys: 10_000, depth: 20, listLength: 10_000 };

interface Row {
  readonly record: readonly string[];
  readonly info: { readonly lines: number };
}

/** @throws Failure for what is not CSV, too long, or does not fit the mapping */
export async function* rowsOf(
  chunks: AsyncIterable<Uint8Array>,
  name: string,
  options: CsvOptions,
  { schema, onUnknown }: Judge,
): AsyncIterable<Found> {
  const { delimiter = ',' } = options;
  const parser = parse({ delimiter, info: true, skip_empty_lines: true, skip_records_with_empty_values: true, max_record_size: LONGEST });
  // What goes wrong before the parser comes out of it, too.
  pipeline(Readable.from(decoded(chunks, name)), parser, () => undefined);
  let paths: readonly (string | null)[] | undefined;
  const seen = new Set<string | null>();
  const repeated = new Set<string | null>();
  let count = 0;
  try {
    for await (const { record, info } of parser as AsyncIterable<Row>) {
      if (!paths) {
        paths = pathsOf(record, name, options);
        const unknown = unknownColumns(schema, { headers: record, paths, delimiter });
        if (unknown) onUnknown(unknown, name);
        for (const path of paths) (seen.has(path) ? repeated : seen).add(path);
      } else {
        const entries: [string, string][] = [];
        for (const [index, path] of paths.entries())
          // An empty cell of several for one field is no entry of its list.
          if (path !== null && (record[index] !== '' || !repeated.has(path))) entries.push([path, record[index]!]);
        yield { line: info.lines, pointer: `/${count}`, value: nestNames(entries, ROW) };
        count += 1;
      }
    }
  } catch (error) {
    if (error instanceof Failure) throw error;
    const { code = '', message } = error as Partial<CsvError> & Error;
    const what = code.startsWith('CSV_') || error instanceof RangeError ? message : firstLine(error);
    throw new Failure(`${name} is not valid CSV after ${count} records: ${what.replace(/\.$/, '')}.`);
  }
}

/** The path of each column. */
function pathsOf(headers: readonly string[], name: string, { delimiter = ',', columns = {} }: CsvOptions): readonly (string | null)[] {
  if (headers.length > ROW.keys)
    throw new Failure(
      `${name} has ${headers.length} columns; at most ${ROW.keys} are taken. Check the delimiter, now ${JSON.stringify(delimiter)}.`,
    );
  const missing = Object.keys(columns).find((header) => !headers.includes(header));
  if (missing !== undefined)
    throw new Failure(`${name} has no column ${JSON.stringify(missing)}, which --columns names. Its columns: ${list(headers)}.`);
  return headers.map((header) => (Object.hasOwn(columns, header) ? columns[header]! : header));
}

/** The first few names. */
const list = (names: readonly string[]): string => `${names.slice(0, 10).join(', ')}${names.length > 10 ? ', …' : ''}`;
