// Problem details (RFC 9457): what a server answers when it turns a request down.

import { toJsonPointer, type Finding, type Params } from '../schema/finding.ts';
import { blocks } from '../schema/severity.ts';

/** The body of a refusal (RFC 9457). `errors` lists each finding with the JSON Pointer of its field. */
export interface Problem {
  readonly type: 'about:blank';
  readonly title: string;
  readonly status: number;
  readonly detail?: string;
  readonly errors?: readonly { readonly pointer: string; readonly detail: string; readonly code: string; readonly params: Params }[];
}

/** A request that cannot be read, or is not let in. */
export class RequestProblem extends Error {
  readonly problem: Problem;

  constructor(status: 400 | 408 | 413 | 415, title: string, detail: string) {
    super(detail);
    this.problem = { type: 'about:blank', title, status, detail };
  }
}

// Requests beyond the limits.
export const tooLarge = (bytes: number): RequestProblem =>
  new RequestProblem(413, 'Too large', `The body can have at most ${bytes} bytes.`);
export const tooManyValues = (keys: number): RequestProblem =>
  new RequestProblem(400, 'Too many values', `A request can have at most ${keys} values.`);
export const tooManyFiles = (files: number): RequestProblem =>
  new RequestProblem(413, 'Too many files', `A request can have at most ${files} files.`);
export const fileTooLarge = (name: string, bytes: number): RequestProblem =>
  new RequestProblem(413, 'File too large', `"${name}" is larger than ${bytes} bytes.`);

/**
 * Turns findings into problem details (RFC 9457): the errors among them.
 *
 * @param findings what `validate` found
 * @returns status 422; or 503 if nothing is wrong but that async rules got no answer: the same request may pass later
 */
export function toProblemDetails(findings: readonly Finding[]): Problem {
  const errors = findings.filter(blocks);
  const isUnanswered = errors.length > 0 && errors.every(({ code }) => code === 'unanswered');
  return {
    type: 'about:blank',
    title: isUnanswered ? 'The values could not be checked' : 'The values are not valid',
    status: isUnanswered ? 503 : 422,
    errors: errors.map((finding) => ({
      pointer: toJsonPointer(finding),
      detail: finding.message,
      code: finding.code,
      params: plainParams(finding.params),
    })),
  };
}

/** Numbers, texts and the like. Long ones, such as all options of a choice, would be repeated with each finding. */
const plainParams = (params: Params): Params =>
  Object.fromEntries(Object.entries(params).filter(([, value]) => typeof value !== 'object' || value === null));

/**
 * Makes the response with problem details, as `application/problem+json`.
 *
 * @param problem the problem details
 * @returns the response
 */
export const problemResponse = (problem: Problem): Response =>
  new Response(JSON.stringify(problem), { status: problem.status, headers: { 'content-type': 'application/problem+json' } });
