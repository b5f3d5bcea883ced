// The bytes of a file or of standard input: unpacked, without a byte order mark, or a slice of them.

import { createReadStream } from 'node:fs';
import { pipeline, Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { Failure, firstLine } from '../failure.ts';

/** A file of records, or standard input. */
export interface Source {
  readonly path: string;
  /** As reports name it. */
  readonly name: string;
  /** How many bytes will be read, where that is known. */
  readonly size: number | undefined;
  /** The bytes within which the lines begin that are read, where it is a slice: from `start`, before `end`. */
  readonly slice: { readonly start: number; readonly end: number } | undefined;
}

/** How many bytes are read at once; so many lines are validated together. */
const CHUNK = 128 * 1024;

/** Opens a file. @param start the first byte */
function open({ path, name }: Source, range: { start?: number; end?: number } = {}): AsyncIterable<Buffer> {
  return readable(path === '-' ? process.stdin : createReadStream(path, { highWaterMark: CHUNK, ...range }), name);
}

/** @throws Failure if the system cannot read any further */
async function* readable(stream: AsyncIterable<Buffer>, name: string): AsyncIterable<Buffer> {
  try {
    yield* stream;
  } catch (error) {
    const { code = '' } = error as NodeJS.ErrnoException;
    if (code.startsWith('Z_')) throw new Failure(`${name} is broken gzip: ${firstLine(error)}. Pack it again.`);
    if (error instanceof Failure) throw error;
    throw new Failure(`Cannot read ${name}: ${firstLine(error)}.`);
  }
}

const GZIP = Buffer.from([0x1f, 0x8b]);
const MARKS = { utf8: Buffer.from([0xef, 0xbb, 0xbf]), utf16: [Buffer.from([0xff, 0xfe]), Buffer.from([0xfe, 0xff])] };
const startsWith = (bytes: Buffer, mark: Buffer): boolean => bytes.subarray(0, mark.length).equals(mark);

/** Splits off the first bytes, as many as a mark has: a pipe may bring them one by one. */
async function begin(chunks: AsyncIterable<Buffer>): Promise<{ first: Buffer; all: AsyncIterable<Buffer> }> {
  const iterator = chunks[Symbol.asyncIterator]();
  let first = Buffer.alloc(0);
  let next: IteratorResult<Buffer> | undefined;
  while (first.length < MARKS.utf8.length && !(next = await iterator.next()).done) first = Buffer.concat([first, next.value]);
  return {
    first,
    all: (async function* () {
      yield first;
      yield* { [Symbol.asyncIterator]: () => iterator };
    })(),
  };
}

/** Counts what goes by. */
async function* counted(chunks: AsyncIterable<Buffer>, onRead: (bytes: number) => void): AsyncIterable<Buffer> {
  for await (const chunk of chunks) {
    onRead(chunk.length);
    yield chunk;
  }
}

/** @throws Failure for UTF-16 */
async function* withoutMark(chunks: AsyncIterable<Buffer>, name: string): AsyncIterable<Buffer> {
  const { first, all } = await begin(chunks);
  if (MARKS.utf16.some((mark) => startsWith(first, mark))) throw new Failure(`${name} is UTF-16 text. Save it as UTF-8.`);
  let skip = startsWith(first, MARKS.utf8) ? MARKS.utf8.length : 0;
  for await (const chunk of all) {
    yield chunk.subarray(skip);
    skip = 0;
  }
}

/** The most bytes of blanks and line ends in a row. */
const MOST_BLANKS = 10_000_000;
const isBlank = (byte: number | undefined): boolean => byte === 32 || byte === 9 || byte === 10 || byte === 13;

/** Ends a file that says nothing for long: a small one may unpack to as much as there is room for. @throws Failure */
async function* notBlank(chunks: AsyncIterable<Buffer>, name: string): AsyncIterable<Buffer> {
  let blanks = 0;
  for await (const chunk of chunks) {
    let said = chunk.length;
    while (said > 0 && isBlank(chunk[said - 1])) said -= 1;
    blanks = said === 0 ? blanks + chunk.length : chunk.length - said;
    if (blanks > MOST_BLANKS)
      throw new Failure(
        `${name} has more than ${MOST_BLANKS} bytes of blanks and empty lines in a row. Check that it is what it should be.`,
      );
    yield chunk;
  }
}

/**
 * The bytes of a whole file, unpacked if it is gzip.
 *
 * @param onRead called with how many bytes of the file were read
 * @throws Failure for what cannot be read, and for UTF-16
 */
export async function* bytesOf(source: Source, onRead: (bytes: number) => void): AsyncIterable<Buffer> {
  const { name } = source;
  const { first, all } = await begin(counted(open(source), onRead));
  // What goes wrong while reading comes out of it, too.
  const unpack = (): Readable => pipeline(Readable.from(all), createGunzip({ chunkSize: CHUNK }), () => undefined);
  yield* notBlank(withoutMark(startsWith(first, GZIP) ? readable(unpack(), name) : all, name), name);
}

const LINE_END = 10;

/** How many lines end in some bytes. */
export function lineEnds(bytes: Uint8Array): number {
  let count = 0;
  for (let at = bytes.indexOf(LINE_END); at !== -1; at = bytes.indexOf(LINE_END, at + 1)) count += 1;
  return count;
}

/** Where the first line begins that a slice has, and its number in the file. */
async function beginningOf(source: Source, start: number): Promise<{ at: number; line: number }> {
  let [at, line] = [0, 1];
  if (start === 0) return { at, line };
  for await (const chunk of open(source)) {
    // Also a line that ends just before the slice.
    const end = chunk.indexOf(LINE_END, Math.max(0, start - 1 - at));
    if (start - 1 - at < chunk.length && end !== -1) return { at: at + end + 1, line: line + lineEnds(chunk.subarray(0, end + 1)) };
    line += lineEnds(chunk);
    at += chunk.length;
  }
  return { at, line };
}

/**
 * The bytes of the lines that begin within a slice of a file, and the number of the first.
 *
 * @throws Failure for what cannot be read, and for a file that is packed
 */
export async function slicedBytes(
  source: Source,
  { start, end }: NonNullable<Source['slice']>,
  onRead: (bytes: number) => void,
): Promise<{ line: number; chunks: AsyncIterable<Buffer> }> {
  const { first } = await begin(open(source, { start: 0, end: GZIP.length }));
  if (startsWith(first, GZIP)) throw new Failure(`${source.name} is packed: --slice takes a plain file. Unpack it with gunzip first.`);
  const { at: begins, line } = await beginningOf(source, start);
  async function* cut(): AsyncIterable<Buffer> {
    let at = begins;
    if (at >= end) return;
    for await (const chunk of counted(open(source, { start: at }), onRead)) {
      const last = end - 1 - at < chunk.length ? chunk.indexOf(LINE_END, Math.max(0, end - 1 - at)) : -1;
      yield last === -1 ? chunk : chunk.subarray(0, last + 1);
      if (last !== -1) return;
      at += chunk.length;
    }
  }
  return { line, chunks: start === 0 ? withoutMark(cut(), source.name) : cut() };
}
