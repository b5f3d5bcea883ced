// The lines of NDJSON, in pieces that threads can validate.

import { Failure } from '../failure.ts';
import { bytesOf, lineEnds, slicedBytes, type Source } from './bytes.ts';
import type { Lines } from './records.ts';

/** The longest line that is taken, in bytes. */
const LONGEST = 10_000_000;

/** @throws Failure for what cannot be read, and for a line that is too long */
export async function* linesOf(source: Source, onRead: (bytes: number) => void): AsyncIterable<Lines> {
  const opened = source.slice ? await slicedBytes(source, source.slice, onRead) : { line: 1, chunks: bytesOf(source, onRead) };
  let { line } = opened;
  let begun: Buffer[] = [];
  let length = 0;
  for await (const chunk of opened.chunks) {
    const end = chunk.lastIndexOf('\n') + 1;
    if (end > 0) {
      const bytes = joined([...begun, chunk.subarray(0, end)]);
      const ends = lineEnds(bytes);
      yield { bytes, line };
      line += ends;
      [begun, length] = [[], 0];
    }
    begun.push(chunk.subarray(end));
    length += chunk.length - end;
    if (length > LONGEST)
      throw new Failure(`${source.name}, line ${line}, is longer than ${LONGEST} bytes. Check that it is NDJSON, one record per line.`);
  }
  if (length > 0) yield { bytes: joined(begun), line };
}

/** Bytes in memory of their own, so that it can move to another thread. */
function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const bytes = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    bytes.set(piece, at);
    at += piece.length;
  }
  return bytes;
}
