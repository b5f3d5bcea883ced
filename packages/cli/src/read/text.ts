// Bytes as text.

import { Failure } from '../failure.ts';

/** @throws Failure for what is not UTF-8 */
export async function* decoded(chunks: AsyncIterable<Uint8Array>, name: string): AsyncIterable<string> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const decode = (bytes?: Uint8Array): string => {
    try {
      return decoder.decode(bytes, { stream: bytes !== undefined });
    } catch {
      throw new Failure(`${name} is not UTF-8 text. Save it as UTF-8.`);
    }
  };
  for await (const bytes of chunks) yield decode(bytes);
  yield decode();
}
