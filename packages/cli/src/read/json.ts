// The records of JSON: one, or those of a list. The file is kept as a whole.

import { Failure } from '../failure.ts';
import { parseJson } from '../files.ts';
import type { Found } from './records.ts';
import { decoded } from './text.ts';

/** The longest file that is taken, in characters. */
const LARGEST = 200_000_000;

/**
 * @param asOne whether a list is one record, since the schema is a list
 * @throws Failure for what is not JSON, or too long
 */
export async function recordsOfJson(chunks: AsyncIterable<Uint8Array>, name: string, asOne: boolean): Promise<readonly Found[]> {
  const value = parseJson(await whole(decoded(chunks, name), name), name);
  return Array.isArray(value) && !asOne
    ? value.map((record: unknown, index) => ({ pointer: `/${index}`, value: record }))
    : [{ pointer: '', value }];
}

async function whole(pieces: AsyncIterable<string>, name: string): Promise<string> {
  let text = '';
  for await (const piece of pieces) {
    text += piece;
    if (text.length > LARGEST)
      throw new Failure(
        `${name} is longer than ${LARGEST} characters. Write one record per line and use --input ndjson, which has no limit.`,
      );
  }
  return text;
}
