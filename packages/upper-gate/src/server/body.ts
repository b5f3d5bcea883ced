// Reading a body as it comes, no further than the limits allow.

import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Busboy } from '@fastify/busboy';
import type { Limits } from './limits.ts';
import { fileTooLarge, RequestProblem, tooLarge, tooManyFiles } from './problemDetails.ts';

/**
 * The text of a body.
 *
 * @throws Refusal for too many bytes (before all of them are read), or for text that is not UTF-8
 */
export async function readText(request: Request, { bytes }: Required<Limits>): Promise<string> {
  if (Number(request.headers.get('content-length') ?? 0) > bytes) throw tooLarge(bytes);
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += chunk.byteLength;
    if (size > bytes) throw tooLarge(bytes);
    chunks.push(chunk);
  }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks));
  } catch {
    throw new RequestProblem(400, 'Not UTF-8', 'The body is not UTF-8 text.');
  }
}

/**
 * The values and files of a multipart body (RFC 7578), read as they come.
 *
 * @throws Refusal for what is larger or more than the limits allow, or is not multipart at all
 */
export async function readMultipart(request: Request, limits: Required<Limits>): Promise<readonly (readonly [string, unknown])[]> {
  const { bytes, keys, files, fileBytes } = limits;
  const entries: [string, unknown][] = [];
  let size = 0;
  let refusal: RequestProblem | undefined;
  const controller = new AbortController();
  const refuse = (why: RequestProblem): void => {
    refusal ??= why;
    controller.abort();
  };
  try {
    const parser = new Busboy({
      headers: { 'content-type': request.headers.get('content-type')! },
      limits: { fieldNameSize: 1000, fieldSize: bytes, fileSize: fileBytes, files, headerPairs: 50 },
    });
    parser.on('field', (name, value, nameTruncated, valueTruncated) => {
      size += Buffer.byteLength(name) + Buffer.byteLength(value);
      if (size > bytes || nameTruncated || valueTruncated) refuse(tooLarge(bytes));
      if (entries.push([name, value]) > keys)
        refuse(new RequestProblem(400, 'Too many values', `A request can have at most ${keys} values.`));
    });
    // Where none was picked, the file has no name.
    parser.on('file', (name, stream, filename: string | undefined, _encoding, type) => {
      const chunks: Buffer[] = [];
      // In place now, so that the order stays that of the body.
      const entry: [string, unknown] = [name, undefined];
      entries.push(entry);
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('limit', () => refuse(fileTooLarge(filename ?? '', fileBytes)));
      stream.on('end', () => (entry[1] = new File(chunks, filename ?? '', { type })));
    });
    parser.on('filesLimit', () => refuse(tooManyFiles(files)));
    await pipeline(Readable.fromWeb(request.body ?? new Blob([]).stream()), parser, { signal: controller.signal });
  } catch (error) {
    throw (
      refusal ?? new RequestProblem(400, 'Not multipart', `The body cannot be read as multipart/form-data: ${(error as Error).message}.`)
    );
  }
  if (refusal) throw refusal;
  return entries;
}
