// Reads a server's refusal: problem details (RFC 9457), or findings.

import type { Params } from '../schema/finding.ts';
import type { Severity } from '../schema/severity.ts';

/** A finding as a server may give it. */
export interface GivenFinding {
  readonly path: string;
  readonly message: string;
  readonly code?: string;
  readonly severity?: Severity;
  readonly params?: Params;
}

/** Problem details (RFC 9457) of a refused submission. */
export interface ProblemDetails {
  readonly title?: string;
  readonly detail?: string;
  readonly status?: number;
  readonly errors?: readonly { readonly pointer?: string; readonly detail?: string; readonly code?: string; readonly params?: Params }[];
}

interface ResponseLike {
  readonly ok: boolean;
  readonly status: number;
  readonly headers: { get(name: string): string | null };
  json(): Promise<unknown>;
}

const isObject = (value: unknown): value is Readonly<Record<string, unknown>> => typeof value === 'object' && value !== null;

/** Whether a value is problem details that turn the values down (and not the report of a breakdown). */
export function isProblem(value: unknown): value is ProblemDetails {
  if (!isObject(value) || value instanceof Error) return false;
  const { status, title, errors } = value;
  return Array.isArray(errors)
    ? errors.every(isObject)
    : typeof title === 'string' && typeof status === 'number' && status >= 400 && status < 500;
}

const isResponse = (value: unknown): value is ResponseLike =>
  isObject(value) &&
  typeof value['ok'] === 'boolean' &&
  typeof value['status'] === 'number' &&
  typeof value['json'] === 'function' &&
  isObject(value['headers']);

/** Whether something that was thrown is a server's answer. */
export const isAnswer = (thrown: unknown): boolean => isProblem(thrown) || isResponse(thrown);

/** A path from a JSON Pointer (RFC 6901); also from one in a URL fragment (`#/crew/0/age`). */
function pathOf(pointer: string): string {
  return pointer
    .replace(/^#?\//, '')
    .split('/')
    .map((key) => key.replace(/~1/g, '/').replace(/~0/g, '~'))
    .join('.');
}

/** The findings in a server's answer: as they are, or from problem details. */
export function findingsIn(answer: readonly GivenFinding[] | ProblemDetails): readonly GivenFinding[] {
  if (Array.isArray(answer)) return answer as readonly GivenFinding[];
  const { errors = [], detail, title } = answer as ProblemDetails;
  const whole = detail ?? title;
  if (errors.length === 0 && whole !== undefined) return [{ path: '', message: whole }];
  return errors.map(({ pointer = '', detail: message = whole ?? '', code, params }) => ({
    path: pathOf(pointer),
    message,
    ...(code !== undefined && { code }),
    ...(params !== undefined && { params }),
  }));
}

/**
 * The findings in what a submit handler returned or threw.
 *
 * @returns the findings of a refusal; nothing where it is none
 * @throws Error for a response that reports a failure (a status of 400 or more without problem details)
 */
export async function refusalIn(reply: unknown): Promise<readonly GivenFinding[] | undefined> {
  if (isResponse(reply)) {
    if (reply.ok) return undefined;
    const body: unknown = /json/.test(reply.headers.get('content-type') ?? '') ? await reply.json().catch(() => undefined) : undefined;
    if (reply.status < 500 && isProblem(body)) return findingsIn(body);
    throw new Error(`The server answered with status ${reply.status}.`);
  }
  if (isProblem(reply)) return findingsIn(reply);
  return isObject(reply) && Array.isArray(reply['findings']) ? (reply['findings'] as readonly GivenFinding[]) : undefined;
}
