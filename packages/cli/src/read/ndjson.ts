// The lines of NDJSON, in pieces that threads can validate.

import { Failure } from '../failure.ts';
import { bytesOf, lineEnds, slicedBytes, type Source } from './bytes.ts';
import type { Lines } from './records.ts';

/** The longest line that is taken, in bytes. */
const LONGEST = 10_000_000;
/** How many lines are validated together at most: what is found in them is kept until it is written. */
const TOGETHER = 2000;

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
      let from = 0;
      for (let ends = lineEnds(bytes); ends > 0; ends -= TOGETHER) {
        const to = ends > TOGETHER ? afterLines(bytes, from, TOGETHER) : bytes.length;
        // A copy, whose memory can move to another thread.
        yield { bytes: bytes.slice(from, to), line };
        line += Math.min(ends, TOGETHER);
        from = to;
      }
      [begun, length] = [[], 0];
    }
    begun.push(chunk.subarray(end));
    length += chunk.length - end;
    if (length > LONGEST)
      throw new Failure(`${source.name}, line ${line}, is longer than ${LONGEST} bytes. Check that it is NDJSON, one record per line.`);
  }
  if (length > 0) yield { bytes: joined(begun), line };
}

/** Where as many lines are over, from a place on. */
function afterLines(bytes: Uint8Array, from: number, lines: number): number {
  let at = from;
  for (let line = 0; line < lines; line += 1) at = bytes.indexOf(10, at) + 1;
  return at;
}

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const bytes = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    bytes.set(piece, at);
    at += piece.length;
  }
  return bytes;
}
