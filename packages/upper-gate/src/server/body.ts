// Reading a body as it comes, no further than the limits allow.

import type { Readable } from 'node:stream';
import type { Busboy } from '@fastify/busboy';
import type { Limits } from './limits.ts';
import { RequestProblem, fileTooLarge, tooLarge, tooManyFiles, tooManyValues } from './problemDetails.ts';
import { bytesOf, headerOf, readBytes, type RequestLike } from './request.ts';

export type Entries = readonly (readonly [name: string, value: unknown])[];

/** Text from bytes. @throws RequestProblem for what is not UTF-8 */
function decode(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    throw new RequestProblem(400, 'Not UTF-8', 'The body is not UTF-8 text. Send it as UTF-8.');
  }
}

/**
 * The text of a body.
 *
 * @throws RequestProblem for too many bytes (before all of them are read), and for text that is not UTF-8
 */
export async function readText(request: RequestLike, { bytes }: Required<Limits>): Promise<string> {
  if (Number(headerOf(request, 'content-length')) > bytes) throw tooLarge(bytes);
  const chunks: Uint8Array[] = [];
  let size = 0;
  await readBytes(request, (chunk) => {
    size += chunk.byteLength;
    if (size > bytes) throw tooLarge(bytes);
    chunks.push(chunk);
  });
  return decode(chunks.length === 1 ? chunks[0]! : Buffer.concat(chunks));
}

/**
 * The names and values of an urlencoded body, as of the URL standard.
 *
 * @throws RequestProblem for text that is not UTF-8 once it is decoded, and for more values than the limits allow
 */
export async function readUrlencoded(request: RequestLike, limits: Required<Limits>): Promise<Entries> {
  const text = await readText(request, limits);
  const pairs = text.split('&', limits.keys + 1).filter((pair) => pair !== '');
  if (pairs.length > limits.keys) throw tooManyValues(limits.keys);
  return pairs.map((pair) => {
    const end = pair.indexOf('=');
    return end < 0 ? [percentDecode(pair), ''] : [percentDecode(pair.slice(0, end)), percentDecode(pair.slice(end + 1))];
  });
}

/** A `%` that no two digits follow stands for itself. */
function percentDecode(text: string): string {
  const given = text.replace(/\+/g, ' ');
  if (!given.includes('%')) return given;
  try {
    return decodeURIComponent(given.replace(/%(?![\da-f]{2})/gi, '%25'));
  } catch {
    throw new RequestProblem(400, 'Not UTF-8', 'The body is not UTF-8 text. Send it as UTF-8.');
  }
}

/** How many bytes of a multipart body may be neither value nor file: boundaries and headers, for each part and around them. */
const OVERHEAD = 2000;

type BusboyConstructor = typeof Busboy;
let busboy: Promise<BusboyConstructor> | undefined;

/** The parser of multipart bodies: loaded with the first of them, so that a server of JSON alone needs none. */
const loadParser = (): Promise<BusboyConstructor> =>
  (busboy ??= import('@fastify/busboy').then(
    (module) => module.Busboy,
    () => {
      busboy = undefined;
      throw new RequestProblem(
        415,
        'Unsupported type',
        'This server cannot read multipart/form-data: it lacks the package @fastify/busboy. Install it beside upper-gate: npm install @fastify/busboy.',
      );
    },
  ));

/**
 * The values and files of a multipart body (RFC 7578), read as they come.
 *
 * @throws RequestProblem for what is larger or more than the limits allow, is not UTF-8, or not multipart at all
 */
export async function readMultipart(request: RequestLike, limits: Required<Limits>): Promise<Entries> {
  const { bytes, keys, files, fileBytes } = limits;
  const Parser = await loadParser();
  const entries: [string, unknown][] = [];
  let problem: RequestProblem | undefined;
  const refuse = (why: RequestProblem): void => void (problem ??= why);
  /** Bytes read so far, those of files, and those of names and values. */
  let seen = 0;
  let inFiles = 0;
  let inValues = 0;
  let fileCount = 0;
  const isBeyond = (): boolean => inValues > bytes || seen - inFiles - inValues > OVERHEAD * (entries.length + 1);

  /** One part: a file if it has a file name, else a value. */
  const readPart = (name: string | undefined, stream: Readable, filename: string | undefined, type: string): void => {
    // A part that breaks off is an error of the parser, too; this one nobody else would catch.
    stream.on('error', () => undefined);
    if (name === undefined) {
      stream.resume();
      return refuse(new RequestProblem(400, 'Not multipart', 'A part of the body has no name (RFC 7578).'));
    }
    const isFile = filename !== undefined;
    const chunks: Buffer[] = [];
    let size = 0;
    // In place now, so that the order stays that of the body.
    const entry: [string, unknown] = [name, undefined];
    inValues += Buffer.byteLength(name);
    if (entries.push(entry) > keys) refuse(tooManyValues(keys));
    if (isFile && (fileCount += 1) > files) refuse(tooManyFiles(files));
    stream.on('data', (chunk: Buffer) => {
      size += chunk.byteLength;
      if (isFile) inFiles += chunk.byteLength;
      else inValues += chunk.byteLength;
      if (isFile && size > fileBytes) refuse(fileTooLarge(filename, fileBytes));
      if (!problem && !(inValues > bytes)) chunks.push(chunk);
    });
    stream.on('end', () => {
      try {
        entry[1] = isFile ? new File(chunks, filename, { type }) : decode(Buffer.concat(chunks));
      } catch (error) {
        refuse(error as RequestProblem);
      }
    });
  };

  try {
    const parser = new Parser({
      headers: { 'content-type': headerOf(request, 'content-type') },
      // Values come as bytes, too: what is not UTF-8 is refused, not replaced.
      isPartAFile: () => true,
      limits: { fieldNameSize: 1000, fileSize: Infinity },
    });
    const ended = new Promise<void>((resolve, reject) => parser.on('finish', resolve).on('error', reject));
    // Awaited at the end; an error may come before.
    ended.catch(() => undefined);
    parser.on('file', (name: string | undefined, stream, filename: string | undefined, _encoding, type) =>
      readPart(name, stream as Readable, fileNameOf(filename, type), type),
    );
    for await (const chunk of bytesOf(request)) {
      seen += chunk.byteLength;
      await new Promise<void>((resolve, reject) => parser.write(chunk, (error) => (error ? reject(error) : resolve())));
      // What was read may still be on its way to its part.
      if (!problem && isBeyond()) await new Promise(setImmediate);
      if (isBeyond()) refuse(tooLarge(bytes));
      if (problem) throw problem;
    }
    parser.end();
    await ended;
  } catch (error) {
    if (problem) throw problem;
    throw new RequestProblem(400, 'Not multipart', `The body cannot be read as multipart/form-data: ${(error as Error).message}.`);
  }
  if (problem) throw problem;
  if (isBeyond()) throw tooLarge(bytes);
  return entries;
}

/** A part is a file if it has a name, or where none was picked: browsers send an empty one then, without a name. */
const fileNameOf = (filename: string | undefined, type: string): string | undefined =>
  filename ?? (type === 'application/octet-stream' ? '' : undefined);
