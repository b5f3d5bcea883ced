// From a request to raw values.

import { LONGEST_TIMER } from '../evaluate/timers.ts';
import { LimitError, nestNames, type RowCost } from '../interop/names.ts';
import { readMultipart, readText, readUrlencoded, type Entries } from './body.ts';
import { inspect } from './inspect.ts';
import { limitsOf, type Limits } from './limits.ts';
import { fileTooLarge, problemResponse, RequestProblem, tooLarge, tooManyFiles, type Problem } from './problemDetails.ts';
import { headerOf, type RequestLike } from './request.ts';

/** A refused request, and the response to send. */
export interface UnreadRequest {
  readonly ok: false;
  readonly problem: Problem;
  /** The problem as `application/problem+json`, with the right status: 400, 408, 413 or 415. */
  readonly response: Response;
}

/** The values of a request, or the reason why it cannot be read. */
export type FormRead =
  | {
      readonly ok: true;
      /** The values as a schema validates them: nested by their names (`crew.0.name`), files as `File`. */
      readonly raw: unknown;
      /** Whether they came as JSON, which has its own types; forms have texts and files. */
      readonly isJson: boolean;
      /** Whether a page is wanted: the browser sent the form itself, without script. */
      readonly acceptsHtml: boolean;
    }
  | UnreadRequest;

/**
 * Reads the values of a request: JSON, urlencoded, or multipart. Nothing that a client sends makes it reject.
 *
 * @param request as of fetch, or as little of one as `RequestLike` says; its body is read as it comes, no further than the
 *   limits allow. Or the data of a form that a framework has read already, as a server function gets it
 * @param limits what it may hold
 * @returns the values; or the answer to give for a body that is too large (413), too slow (408), of another type (415) or
 *   broken (400)
 * @throws TypeError for a limit that is not a number
 *
 * @example
 * const read = await readForm(request, { bytes: 50_000 });
 * if (!read.ok) return read.response;
 */
export async function readForm(request: RequestLike | FormData, limits: Limits = {}): Promise<FormRead> {
  return readNested(request, limitsOf(limits), undefined);
}

/** @param rowCost what a row costs that nobody sent, but that the index of a later one implies */
export async function readNested(
  request: RequestLike | FormData,
  limits: Required<Limits>,
  rowCost: RowCost | undefined,
): Promise<FormRead> {
  try {
    if (request instanceof FormData) {
      const raw = nestNames(entriesOf(request, limits), limits, rowCost);
      return { ok: true, raw, isJson: false, acceptsHtml: false };
    }
    const type = headerOf(request, 'content-type').split(';', 1)[0]!.trim().toLowerCase();
    return {
      ok: true,
      raw: await inTime(readAs(type, request, limits, rowCost), limits.time),
      isJson: isJson(type),
      acceptsHtml: !isJson(type) && /\btext\/html\b/.test(headerOf(request, 'accept')),
    };
  } catch (error) {
    const { problem } = problemIn(error);
    return { ok: false, problem, response: problemResponse(problem) };
  }
}

/** What is wrong with a request. Any other error comes from the stream: the client is gone, or broke off. */
function problemIn(error: unknown): RequestProblem {
  if (error instanceof RequestProblem) return error;
  return error instanceof LimitError
    ? new RequestProblem(400, 'Beyond the limits', error.message)
    : new RequestProblem(400, 'Broken off', 'The body ended before it was complete. Send it again.');
}

function inTime<T>(read: Promise<T>, time: number): Promise<T> {
  return new Promise((resolve, reject) => {
    const late = (): void => reject(new RequestProblem(408, 'Too slow', `The body must arrive within ${time} ms.`));
    const timer = setTimeout(late, Math.min(time, LONGEST_TIMER));
    read.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}

/** The values of a form that somebody else has read, within the same limits. */
function entriesOf(data: FormData, { bytes, files, fileBytes }: Required<Limits>): Entries {
  const entries = [...data];
  const sent = entries.flatMap(([, value]) => (typeof value === 'string' ? [] : [value]));
  const sizes = entries.map(([name, value]) => Buffer.byteLength(name) + (typeof value === 'string' ? Buffer.byteLength(value) : 0));
  if (sizes.reduce((sum, size) => sum + size, 0) > bytes) throw tooLarge(bytes);
  if (sent.length > files) throw tooManyFiles(files);
  for (const { name, size } of sent) if (size > fileBytes) throw fileTooLarge(name, fileBytes);
  return entries;
}

const isJson = (type: string): boolean => type === 'application/json' || (type.startsWith('application/') && type.endsWith('+json'));

async function readAs(type: string, request: RequestLike, limits: Required<Limits>, rowCost: RowCost | undefined): Promise<unknown> {
  const encoding = headerOf(request, 'content-encoding') || 'identity';
  if (encoding !== 'identity')
    throw new RequestProblem(415, 'Encoded body', `The body is encoded as ${encoding}. Send it without an encoding.`);
  if (type === 'multipart/form-data') return nestNames(await readMultipart(request, limits), limits, rowCost);
  if (type === 'application/x-www-form-urlencoded') return nestNames(await readUrlencoded(request, limits), limits, rowCost);
  if (!isJson(type))
    throw new RequestProblem(
      415,
      'Unsupported type',
      `The type of the body is ${type || 'missing'}. Send application/json, application/x-www-form-urlencoded or multipart/form-data. For JSON, set the header: fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(data) }).`,
    );
  const text = await readText(request, limits);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new RequestProblem(400, 'Not JSON', `The body is not JSON: ${(error as Error).message}.`);
  }
  inspect(value, limits);
  return value;
}
