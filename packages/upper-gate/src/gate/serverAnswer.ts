// Reads what a server answered to a submission: problem details (RFC 9457), or findings. Whatever it is, it is never taken
// for success by mistake, and what is malformed in it never hides what is well formed.

import { failed, refused } from '../messages/english.ts';
import type { Label } from '../messages/text.ts';
import type { Params } from '../schema/finding.ts';
import { isSeverity, type Severity } from '../schema/severity.ts';
import type { Verdict } from '../schema/verdict.ts';
import { isObjectLike } from '../schema/safeAccess.ts';

/** A finding from a server or from your program. */
export interface GivenFinding {
  readonly path: string;
  /**
   * The message, or one for each language: `{ en: '...', fr: '...' }`. Default: the text of the code in the language of the
   * form.
   */
  readonly message?: Label;
  readonly code?: string;
  readonly severity?: Severity;
  /** Params for the message. With them, a code that the catalogue of the form has a text for is worded by the catalogue. */
  readonly params?: Params;
}

/** Problem details (RFC 9457) of a refused submission. */
export interface ProblemDetails {
  readonly title?: string;
  readonly detail?: string;
  readonly status?: number;
  readonly errors?: readonly { readonly pointer?: string; readonly detail?: string; readonly code?: string; readonly params?: Params }[];
}

/** A verdict of a server, and the path that it names. */
export interface ServerVerdict {
  readonly path: string;
  readonly verdict: Verdict;
}

interface ResponseLike {
  readonly ok: boolean;
  readonly status: number;
  readonly headers: { get(name: string): string | null };
  json(): Promise<unknown>;
}

type Fields = Readonly<Record<string, unknown>>;

/** The status of an answer, as a number or as digits: that of a refusal from 400 to 599. */
export function refusalStatus({ status }: Fields): number | undefined {
  const number = typeof status === 'string' && /^\d{3}$/.test(status) ? Number(status) : status;
  return typeof number === 'number' && number >= 400 && number <= 599 ? number : undefined;
}

/** Whether an answer is a `Response`, as of fetch. */
export const isResponse = (value: unknown): value is ResponseLike =>
  isObjectLike(value) && typeof value['ok'] === 'boolean' && typeof value['json'] === 'function' && isObjectLike(value['headers']);

/** Whether a plain object turns the values down. */
const isRefusal = (value: unknown): value is Fields =>
  isObjectLike(value) &&
  !(value instanceof Error) &&
  (Array.isArray(value['errors']) || Array.isArray(value['findings']) || refusalStatus(value) !== undefined);

/** Longer ones are no paths of a form. */
const LONGEST_PATH = 1000;

/** A path from a JSON Pointer (RFC 6901), also from one in a URL fragment (`#/crew/0/age`); the form itself if it is none. */
const pathOf = (pointer: unknown): string =>
  typeof pointer !== 'string' || pointer.length > LONGEST_PATH
    ? ''
    : pointer
        .replace(/^#?\//, '')
        .split('/')
        .map((key) => key.replace(/~1/g, '/').replace(/~0/g, '~'))
        .join('.');

const textIn = (value: unknown): string | undefined => (typeof value === 'string' && value !== '' ? value : undefined);

/** A message: a text, or one for each language. */
const labelIn = (value: unknown): Label | undefined =>
  isObjectLike(value) && Object.values(value).length > 0 && Object.values(value).every((text) => typeof text === 'string')
    ? (value as Label)
    : textIn(value);

function verdictOf({ code, severity, params }: Fields, message: Label | undefined): Verdict {
  const knownParams = isObjectLike(params) && !Array.isArray(params) ? params : undefined;
  // What has params is worded in the language of the form, where that has a text for the code.
  const words = message === undefined ? { text: refused } : knownParams ? { text: message } : { message: verbatim(message) };
  return {
    code: textIn(code) ?? (message === undefined ? 'refused' : 'customError'),
    severity: isSeverity(severity) ? severity : 'error',
    params: knownParams,
    ...words,
  };
}

/** A text in which braces are braces. */
const verbatim = (message: Label): Verdict['message'] => (typeof message === 'string' ? () => message : message);

/** What a server, or the program, found. Malformed entries are left out; where none is left, the whole is refused. */
export function verdictsOf(answer: unknown): readonly ServerVerdict[] {
  const whole = isObjectLike(answer) && !Array.isArray(answer) ? answer : {};
  const said = textIn(whole['detail']) ?? textIn(whole['title']);
  const { errors, findings } = whole;
  const entries = Array.isArray(answer) ? answer : Array.isArray(findings) ? findings : [];
  const verdicts = [
    ...entries.filter(isObjectLike).map((entry) => ({
      path: typeof entry['path'] === 'string' && entry['path'].length <= LONGEST_PATH ? entry['path'] : '',
      verdict: verdictOf(entry, labelIn(entry['message'])),
    })),
    ...(Array.isArray(errors) ? errors : []).filter(isObjectLike).map((entry) => ({
      path: pathOf(entry['pointer']),
      verdict: verdictOf(entry, labelIn(entry['detail']) ?? said),
    })),
  ];
  if (verdicts.length > 0 || Array.isArray(answer)) return verdicts;
  const isBreakdown = (refusalStatus(whole) ?? 0) >= 500;
  const text = isBreakdown ? failed : refused;
  return [{ path: '', verdict: { code: isBreakdown ? 'failed' : 'refused', text, ...(said !== undefined && { message: () => said }) } }];
}

/** What a plain answer, one that is no `Response`, found; nothing if it accepts. */
export const plainRefusalIn = (answer: unknown): readonly ServerVerdict[] | undefined =>
  isRefusal(answer) ? verdictsOf(answer) : undefined;

/**
 * What a submit handler's answer means.
 *
 * @returns what was found, if the answer is a refusal: a `Response` that is not ok, or a plain object with an array `errors`
 *   or `findings`, or with a `status` from 400 to 599. Nothing if the answer accepts.
 */
export async function refusalIn(reply: unknown): Promise<readonly ServerVerdict[] | undefined> {
  if (isResponse(reply)) {
    if (reply.ok) return undefined;
    const isJson = /json/.test(reply.headers.get('content-type') ?? '');
    const body: unknown = isJson ? await reply.json().catch(() => undefined) : undefined;
    return verdictsOf({ status: reply.status, ...(isRefusal(body) || isObjectLike(body) ? body : {}) });
  }
  return plainRefusalIn(reply);
}

/** Whether something that was thrown is a server's answer, not the report of a breakdown. */
export const isAnswer = (thrown: unknown): boolean => isRefusal(thrown) || isResponse(thrown);
