// The formats of records, and what is read of files in them.

import { fstatSync, type Stats } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { Failure } from '../failure.ts';
import { factsOf, parseJson } from '../files.ts';
import { bytesOf, type Source } from './bytes.ts';
import type { CsvOptions, Judge } from './csv.ts';
import { recordsOfJson } from './json.ts';
import { linesOf } from './ndjson.ts';
import { FORMATS, type Format } from './names.ts';
import type { Found, Lines } from './records.ts';

/** A part of a file: the `part`th, from 1, of `of`. */
export interface Slice {
  readonly part: number;
  readonly of: number;
}

/** How files are read. */
export interface ReadOptions {
  /** The format of all files. Default: from their extensions. */
  readonly input?: Format;
  /** What standard input is called; its extension gives the format. Default: `-`, NDJSON. */
  readonly stdinName?: string;
  readonly slice?: Slice;
  readonly delimiter?: string;
  /** A file that maps headers of CSV to paths. */
  readonly columns?: string;
}

/** A file of records in a format. */
export interface DataFile extends Source {
  readonly format: Format;
  readonly csv: CsvOptions;
}

const EXTENSIONS: Readonly<Record<string, Format>> = { '.json': 'json', '.ndjson': 'ndjson', '.jsonl': 'ndjson', '.csv': 'csv' };

/** The format that a name has by its extension, with or without `.gz`. */
const formatOf = (name: string): Format | undefined => EXTENSIONS[extname(name.replace(/\.gz$/i, '')).toLowerCase()];

/**
 * Looks at the files, before any is read.
 *
 * @param paths `-` is standard input
 * @throws Failure if there is no such file, its name does not give the format, or an option does not fit it
 */
export async function dataFiles(paths: readonly string[], options: ReadOptions): Promise<readonly DataFile[]> {
  const { input, stdinName, slice, delimiter, columns } = options;
  if (slice && paths.length > 1) throw new Failure('--slice takes one file. Call the command for each.');
  const csv: CsvOptions = {
    ...(delimiter !== undefined && { delimiter }),
    ...(columns !== undefined && { columns: await mappingOf(columns) }),
  };
  const files: DataFile[] = [];
  for (const path of paths) {
    const name = path === '-' ? (stdinName ?? '-') : path;
    const facts = path === '-' ? fstatSync(0) : await factsOf(path, 'data');
    const format = input ?? formatOf(name) ?? (name === '-' ? 'ndjson' : undefined);
    if (format === undefined) throw new Failure(`${name}: the extension does not give the format. Add --input ${FORMATS.join('|')}.`);
    if (slice && (format !== 'ndjson' || path === '-'))
      throw new Failure(`${name}: --slice takes a file of NDJSON, whose lines stand alone.`);
    if (format !== 'csv' && (delimiter ?? columns) !== undefined)
      throw new Failure(`${name}: --delimiter and --columns are for CSV. Add --input csv if it is.`);
    const range = slice && bytesIn(slice, facts);
    // A pipe or a terminal has no size.
    const size = range ? range.end - range.start : facts.isFile() ? facts.size : undefined;
    files.push({ path, name, format, csv, size, slice: range });
  }
  return files;
}

const bytesIn = ({ part, of }: Slice, { size }: Stats): { start: number; end: number } => ({
  start: Math.floor((size * (part - 1)) / of),
  end: Math.floor((size * part) / of),
});

/** Headers and their paths. */
async function mappingOf(path: string): Promise<Readonly<Record<string, string | null>>> {
  await factsOf(path, 'mapping of columns');
  const mapping = parseJson(await readFile(path, 'utf8'), path);
  const isMapping =
    typeof mapping === 'object' &&
    mapping !== null &&
    !Array.isArray(mapping) &&
    Object.values(mapping).every((to) => to === null || typeof to === 'string');
  if (!isMapping) throw new Failure(`${path} is no mapping of columns: write { "header": "path", "another": null }.`);
  return mapping as Readonly<Record<string, string | null>>;
}

/** How many records of JSON and CSV are validated together: what is found in them is kept until it is written. */
const TOGETHER = 500;

/**
 * The records of a file, in batches.
 *
 * @param asOne whether a list in JSON is one record, since the schema is a list
 * @param judge of the columns of CSV
 * @throws Failure for what cannot be read
 */
export async function* recordsOf(
  file: DataFile,
  asOne: boolean,
  onRead: (bytes: number) => void,
  judge: Judge,
): AsyncIterable<Lines | readonly Found[]> {
  const { format, name, csv } = file;
  if (format === 'ndjson') yield* linesOf(file, onRead);
  else if (format === 'json') {
    const records = await recordsOfJson(bytesOf(file, onRead), name, asOne);
    for (let from = 0; from < records.length; from += TOGETHER) yield records.slice(from, from + TOGETHER);
  } else {
    const { rowsOf } = await import('./csv.ts');
    yield* inBatches(rowsOf(bytesOf(file, onRead), name, csv, judge));
  }
}

/** Puts rows together. Those before a broken one come, too. */
async function* inBatches(rows: AsyncIterable<Found>): AsyncIterable<readonly Found[]> {
  let batch: Found[] = [];
  let broken: { readonly error: unknown } | undefined;
  try {
    for await (const row of rows) {
      if (batch.push(row) < TOGETHER) continue;
      yield batch;
      batch = [];
    }
  } catch (error) {
    broken = { error };
  }
  yield batch;
  if (broken) throw broken.error;
}
