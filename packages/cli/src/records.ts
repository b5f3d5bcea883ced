// The records of a file, one by one, however long it is.

import { createReadStream } from 'node:fs';
import { extname } from 'node:path';
import { pipeline, Readable } from 'node:stream';
import { parse, type CsvError } from 'csv-parse';
import { nestNames } from 'upper-gate/interop';
import { Failure, firstLine } from './failure.ts';
import { factsOf, parseJson } from './files.ts';

export const FORMATS = ['json', 'ndjson', 'csv'] as const;
export type Format = (typeof FORMATS)[number];

/** A record, and where it stands: `''` for a file of one record, `/3` for the fourth of a list, `:4` for the fourth line. */
export interface Found {
  readonly place: string;
  readonly value: unknown;
}

/** The longest line of NDJSON that is taken, in characters. */
const LONGEST = 10_000_000;
/** The longest file of JSON, which is held as a whole, in characters. */
const LARGEST = 200_000_000;
/** What the columns of one CSV row may hold. */
const ROW = { keys: 10_000, depth: 20, listLength: 10_000 };

const EXTENSIONS: Readonly<Record<string, Format>> = { '.json': 'json', '.ndjson': 'ndjson', '.jsonl': 'ndjson', '.csv': 'csv' };

/**
 * The format of a file: by its extension, if it is not said; NDJSON for standard input.
 *
 * @throws Failure if there is no such file, or its name does not tell
 */
export async function formatOf(path: string, said: Format | undefined): Promise<Format> {
  if (path !== '-') await factsOf(path, 'data');
  const format = said ?? (path === '-' ? 'ndjson' : EXTENSIONS[extname(path).toLowerCase()]);
  if (format === undefined) throw new Failure(`${path}: the extension does not give the format. Add --input ${FORMATS.join('|')}.`);
  return format;
}

/**
 * The records of a file.
 *
 * @param path a file, or `-` for standard input
 * @param asOne whether a list in JSON is one record, since the schema is a list
 * @throws Failure for what cannot be read
 */
export async function* recordsOf(path: string, format: Format, asOne: boolean): AsyncIterable<Found> {
  const stream = path === '-' ? process.stdin : createReadStream(path, { highWaterMark: 256 * 1024 });
  const chunks = decoded(stream, path);
  if (format === 'json') yield* listed(parseJson(await joined(chunks, path), path), asOne);
  else if (format === 'ndjson') yield* lines(chunks, path);
  else yield* rows(chunks, path);
}

/** The text of a stream, without a byte order mark. */
async function* decoded(stream: AsyncIterable<Uint8Array>, path: string): AsyncIterable<string> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let begun = false;
  const decode = (bytes?: Uint8Array): string => {
    try {
      return decoder.decode(bytes, { stream: bytes !== undefined });
    } catch {
      throw new Failure(`${path} is not UTF-8 text. Save it as UTF-8.`);
    }
  };
  for await (const bytes of stream) {
    const isUtf16 = !begun && ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff));
    if (isUtf16) throw new Failure(`${path} is UTF-16 text. Save it as UTF-8.`);
    begun = true;
    yield decode(bytes);
  }
  yield decode();
}

async function joined(chunks: AsyncIterable<string>, path: string): Promise<string> {
  let text = '';
  for await (const chunk of chunks) {
    text += chunk;
    if (text.length > LARGEST)
      throw new Failure(
        `${path} is longer than ${LARGEST} characters. Write one record per line and use --input ndjson, which has no limit.`,
      );
  }
  return text;
}

function* listed(value: unknown, asOne: boolean): Iterable<Found> {
  if (!Array.isArray(value) || asOne) yield { place: '', value };
  else for (const [index, record] of value.entries()) yield { place: `/${index}`, value: record as unknown };
}

async function* lines(chunks: AsyncIterable<string>, path: string): AsyncIterable<Found> {
  let rest = '';
  let number = 0;
  const read = (line: string): Found | undefined => {
    number += 1;
    if (line.trim() === '') return undefined;
    try {
      return { place: `:${number}`, value: JSON.parse(line) };
    } catch (error) {
      throw new Failure(`${path}, line ${number}, is not JSON: ${firstLine(error)}.`);
    }
  };
  for await (const chunk of chunks) {
    const parts = (rest + chunk).split('\n');
    rest = parts.pop()!;
    for (const part of parts) {
      const found = read(part);
      if (found) yield found;
    }
    if (rest.length > LONGEST)
      throw new Failure(`${path}, line ${number + 1}, is longer than ${LONGEST} characters. Check that it is NDJSON.`);
  }
  const last = read(rest);
  if (last) yield last;
}

async function* rows(chunks: AsyncIterable<string>, path: string): AsyncIterable<Found> {
  const parser = parse({ columns: true, skip_empty_lines: true, max_record_size: LONGEST, bom: true });
  // What goes wrong before the parser comes out of it, too.
  pipeline(Readable.from(chunks), parser, () => undefined);
  let number = 0;
  try {
    for await (const row of parser as AsyncIterable<Readonly<Record<string, string>>>) {
      number += 1;
      yield { place: `/${number - 1}`, value: nestNames(Object.entries(row), ROW) };
    }
  } catch (error) {
    if (error instanceof Failure) throw error;
    const { code = '', message } = error as Partial<CsvError> & Error;
    const what = code.startsWith('CSV_') || error instanceof RangeError ? message : firstLine(error);
    throw new Failure(`${path} is not valid CSV after ${number} records: ${what.replace(/\.$/, '')}.`);
  }
}
