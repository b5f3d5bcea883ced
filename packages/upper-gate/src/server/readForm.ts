// From a request to raw values.

import { LimitError, nestNames } from '../interop/names.ts';
import { readMultipart, readText } from './body.ts';
import { limitsOf, type Limits } from './limits.ts';
import { inspect } from './inspect.ts';
import { fileTooLarge, problemResponse, RequestProblem, tooLarge, tooManyFiles, type Problem } from './problemDetails.ts';

/** What a request holds, or why it cannot be read. */
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
  | {
      readonly ok: false;
      readonly problem: Problem;
      /** The problem as `application/problem+json`, with the right status: 400, 413 or 415. */
      readonly response: Response;
    };

/**
 * Reads the values of a request: JSON, urlencoded, or multipart.
 *
 * @param request as of fetch; its body is read as it comes, no further than the limits allow. Or the data of a form that a
 *   framework has read already, as a server function gets it
 * @param limits what it may hold
 * @returns the values; or, for a body that is too large (413), of another type (415) or broken (400), the answer to give
 *
 * @example
 * const read = await readForm(request, { bytes: 50_000 });
 * if (!read.ok) return read.response;
 */
export async function readForm(request: Request | FormData, limits: Limits = {}): Promise<FormRead> {
  try {
    if (request instanceof FormData) return { ok: true, raw: readFormData(request, limitsOf(limits)), isJson: false, acceptsHtml: false };
    const type = (request.headers.get('content-type') ?? '').split(';', 1)[0]!.trim().toLowerCase();
    const raw = await readAs(type, request, limitsOf(limits));
    return {
      ok: true,
      raw,
      isJson: isJson(type),
      acceptsHtml: !isJson(type) && /\btext\/html\b/.test(request.headers.get('accept') ?? ''),
    };
  } catch (error) {
    const refusal = error instanceof LimitError ? new RequestProblem(400, 'Beyond the limits', error.message) : error;
    if (!(refusal instanceof RequestProblem)) throw error;
    return { ok: false, problem: refusal.problem, response: problemResponse(refusal.problem) };
  }
}

/** The values of a form that somebody else has read, within the same limits. */
function readFormData(data: FormData, limits: Required<Limits>): unknown {
  const entries = [...data];
  const files = entries.flatMap(([, value]) => (typeof value === 'string' ? [] : [value]));
  const sizes = entries.map(([name, value]) => Buffer.byteLength(name) + (typeof value === 'string' ? Buffer.byteLength(value) : 0));
  if (sizes.reduce((sum, size) => sum + size, 0) > limits.bytes) throw tooLarge(limits.bytes);
  if (files.length > limits.files) throw tooManyFiles(limits.files);
  for (const { name, size } of files) if (size > limits.fileBytes) throw fileTooLarge(name, limits.fileBytes);
  return nestNames(entries, limits);
}

const isJson = (type: string): boolean => type === 'application/json' || (type.startsWith('application/') && type.endsWith('+json'));

async function readAs(type: string, request: Request, limits: Required<Limits>): Promise<unknown> {
  const encoding = request.headers.get('content-encoding') ?? 'identity';
  if (encoding !== 'identity')
    throw new RequestProblem(415, 'Encoded body', `The body is encoded as ${encoding}. Send it without an encoding.`);
  if (type === 'multipart/form-data') return nestNames(await readMultipart(request, limits), limits);
  if (type === 'application/x-www-form-urlencoded') return nestNames(new URLSearchParams(await readText(request, limits)), limits);
  if (!isJson(type))
    throw new RequestProblem(
      415,
      'Unsupported type',
      `The type of the body is ${type || 'missing'}. Send application/json, application/x-www-form-urlencoded or multipart/form-data.`,
    );
  const text = await readText(request, limits);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new RequestProblem(400, 'Not JSON', `The body is not JSON: ${(error as Error).message}.`);
  }
  return inspect(value, limits);
}
