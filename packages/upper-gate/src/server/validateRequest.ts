// Letting the data of a request in, or turning it down.

import type { Finding } from '../schema/finding.ts';
import { isGroup } from '../schema/group.ts';
import type { DATA, Node } from '../schema/node.ts';
import { hasAsyncRules, partAt, partOf, type Part } from '../schema/part.ts';
import type { ValueSource } from '../validate/walk.ts';
import { validateAsync, type ValidateAsyncOptions } from '../validate/validate.ts';
import { limitsOf, type Limits } from './limits.ts';
import { type Problem, problemResponse, toProblemDetails } from './problemDetails.ts';
import { readNested } from './readForm.ts';
import type { RequestLike } from './request.ts';

/** The options of `validateRequest`. */
export interface ValidateRequestOptions extends Omit<ValidateAsyncOptions, 'signal'> {
  /** What a JSON body holds: `'json'`, data as `jsonOf` writes them (default), or `'form'`, what controls hold. Other bodies hold the latter. */
  readonly source?: ValueSource;
  readonly limits?: Limits;
}

/** The data of a request, or the refusal. */
export type RequestResult<D> =
  | { readonly ok: true; readonly data: D; readonly findings: readonly Finding[]; readonly acceptsHtml: boolean }
  | {
      readonly ok: false;
      readonly problem: Problem;
      /**
       * The problem as `application/problem+json`: 422 for findings, 503 if async rules got no answer; 400, 408, 413 or 415
       * where the request cannot be read.
       */
      readonly response: Response;
      /** Empty where the request cannot be read. */
      readonly findings: readonly Finding[];
      /** What was sent, to be shown again; nothing where it cannot be read. */
      readonly raw: unknown;
      /** Whether a page is wanted, to be drawn again with the findings: the browser sent the form itself, without script. */
      readonly acceptsHtml: boolean;
    };

/**
 * Reads a request and validates it with the schema of the page. Nothing that a client sends makes it reject.
 *
 * @param schema the same as on the page
 * @param request as of fetch or as little of one as `RequestLike` says; or the `FormData` that a server function gets
 * @param options `checks`: the server's own functions for the async rules, by their names; `limits`: see `readForm`;
 *   `maxFindings`: default 1,000
 * @returns the data, as `validateAsync`; or the answer to give. `gate.submit` understands it, and puts each error on its field.
 * @throws TypeError for options that do not fit
 *
 * @example
 * const result = await validateRequest(passage, request, { checks: { register: (number: string) => db.isRegistered(number) } });
 * if (!result.ok) return result.response;
 * await db.book(result.data);
 */
export async function validateRequest<N extends Node>(
  schema: N,
  request: RequestLike | FormData,
  { limits = {}, source = 'json', maxFindings = 1000, ...rest }: ValidateRequestOptions = {},
): Promise<RequestResult<N[typeof DATA]>> {
  const part = partOf(schema);
  const read = await readNested(request, limitsOf(limits), (list) => fieldsIn(partAt(part, `${list}.0`)));
  if (!read.ok) return { ...read, findings: [], raw: undefined, acceptsHtml: false };
  const { raw, acceptsHtml, isJson } = read;
  const options = { ...rest, maxFindings, source: isJson ? source : ('form' as const) };
  // A signal is asked for only where async rules run: making one takes longer than reading a small form.
  const signal = !hasAsyncRules(schema) || request instanceof FormData ? undefined : request.signal;
  const result = await validateAsync(schema, raw, signal ? { ...options, signal } : options);
  if (result.ok) return { ...result, acceptsHtml };
  const problem = toProblemDetails(result.findings);
  return { ok: false, problem, response: problemResponse(problem), findings: result.findings, raw, acceptsHtml };
}

/** How many fields are validated in a row that is empty. */
function fieldsIn(row: Part | undefined): number {
  const part = row?.row?.() ?? row;
  return part && isGroup(part) ? part.parts.reduce((sum, child) => sum + (isGroup(child) ? fieldsIn(child) : 1), 0) : 1;
}
