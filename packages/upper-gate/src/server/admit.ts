// Letting the data of a request in, or turning it down.

import type { Finding } from '../schema/finding.ts';
import type { DATA, Node } from '../schema/node.ts';
import { validateAsync, type ValidateAsyncOptions } from '../validate/validate.ts';
import type { Limits } from './limits.ts';
import { problemOf, responseOf, type Problem } from './problem.ts';
import { readForm } from './readForm.ts';

export interface AdmitOptions extends Omit<ValidateAsyncOptions, 'signal'> {
  /** Whether values that come as JSON are judged by JSON's types; forms never are. Default: as forms hold them. */
  readonly json?: boolean;
  readonly limits?: Limits;
}

/** What was let in, or why it was not. */
export type Admitted<D> =
  | { readonly ok: true; readonly data: D; readonly findings: readonly Finding[]; readonly wantsPage: boolean }
  | {
      readonly ok: false;
      readonly problem: Problem;
      /** The problem as `application/problem+json`: 422 for findings; 400, 413 or 415 where the request cannot be read. */
      readonly response: Response;
      /** Empty where the request cannot be read. */
      readonly findings: readonly Finding[];
      /** What was sent, to be shown again; nothing where it cannot be read. */
      readonly raw: unknown;
      /** Whether a page is wanted, to be drawn again with the findings: the browser sent the form itself, without script. */
      readonly wantsPage: boolean;
    };

/**
 * Reads a request and judges it by the schema of the page: the page can be by-passed, this cannot.
 *
 * @param schema the same as on the page
 * @param options `checks`: the server's own functions for the network rules, by their names; `limits`: see `readForm`
 * @returns the data, as `validateAsync`; or the answer to give. `gate.submit` understands it, and puts each error on its field.
 *
 * @example
 * const admitted = await admit(passage, request, { checks: { register: (number) => db.isRegistered(number) } });
 * if (!admitted.ok) return admitted.response;
 * await db.book(admitted.data);
 */
export async function admit<N extends Node>(schema: N, request: Request, options: AdmitOptions = {}): Promise<Admitted<N[typeof DATA]>> {
  const { limits, json = false, ...how } = options;
  const read = await readForm(request, limits);
  if (!read.ok) return { ...read, findings: [], raw: undefined, wantsPage: false };
  const { raw, wantsPage, isJson } = read;
  const judged = await validateAsync(schema, raw, { ...how, json: json && isJson, signal: request.signal });
  if (judged.ok) return { ...judged, wantsPage };
  const problem = problemOf(judged.findings);
  return { ok: false, problem, response: responseOf(problem), findings: judged.findings, raw, wantsPage };
}
