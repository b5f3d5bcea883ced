// Reads what a server answered to a submission: problem details (RFC 9457), or findings. Whatever it is, it is never taken
// for success by mistake, and what is malformed in it never hides what is well formed.

import { keysIn } from '../schema/pointer.ts';
import { failed, refused } from '../messages/english.ts';
import { asIs, isLabel, type Label } from '../messages/text.ts';
import { join, type Params, pathOf } from '../schema/finding.ts';
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
  isObjectLike(value) &&
  typeof value['ok'] === 'boolean' &&
  typeof value['json'] === 'function' &&
  isObjectLike(value['headers']) &&
  typeof value['headers']['get'] === 'function';

/** Whether something holds entries: a list, or a map of names. */
const isFilled = (value: unknown): boolean => isObjectLike(value) && Object.keys(value).length > 0;

/** Whether a plain object turns the values down. */
const isRefusal = (value: unknown): value is Fields =>
  isObjectLike(value) &&
  !(value instanceof Error) &&
  (isFilled(value['errors']) || isFilled(value['findings']) || refusalStatus(value) !== undefined);

/** Longer ones are no paths of a form. */
const LONGEST_PATH = 1000;
/** As deep as names are looked for in a map of a map. */
const DEEPEST = 10;

/** A path from a JSON Pointer (RFC 6901), also from one in a URL fragment (`#/crew/0/age`). */
const fromPointer = (pointer: string): string =>
  pathOf(keysIn(pointer.replace(/^#?\/?/, '/')).filter((key, _, all) => key !== '' || all.length > 1));

/** The path that an entry names: by a pointer, or as servers write names (`crew.0.age`, `crew[0].age`, `['crew', 0, 'age']`). */
function pathIn({ pointer, path, field, name }: Fields): string {
  const named = [pointer, path, field, name].find((each) => typeof each === 'string' || Array.isArray(each));
  const text = Array.isArray(named) ? pathOf(named.map(String)) : (named ?? '');
  if (text.length > LONGEST_PATH) return '';
  return named === pointer || /^#?\//.test(text) ? fromPointer(text) : text.replace(/\[(\w+)\]/g, '.$1');
}

/** The entries of a list, or of a map of names to reasons. `around`: the maps and lists that this one stands in; it may be one of them. */
function entriesOf(errors: unknown, path = '', around: readonly unknown[] = []): readonly Fields[] {
  if (typeof errors === 'string') return [{ path, message: errors }];
  if (!isObjectLike(errors) || around.length > DEEPEST || around.includes(errors)) return [];
  if (around.length > 0 && reasonIn(errors) !== undefined) return [{ ...errors, path }];
  if (Array.isArray(errors) && around.length === 0) return errors.filter(isObjectLike);
  // A list of texts is about one field; other lists are its rows.
  const below = (key: string, value: unknown): string => (Array.isArray(errors) && typeof value === 'string' ? path : join(path, key));
  return Object.entries(errors).flatMap(([key, value]) => entriesOf(value, below(key, value), [...around, errors]));
}

const textIn = (value: unknown): string | undefined => (typeof value === 'string' && value !== '' ? value : undefined);

/** A message: a text that is not empty, or one for each language. */
const labelIn = (value: unknown): Label | undefined => (isLabel(value) && value !== '' ? value : undefined);

/** The reason that an entry, or an answer as a whole, gives. */
function reasonIn({ detail, message, title, error }: Fields): Label | undefined {
  const inner = isObjectLike(error) ? error['message'] : error;
  return labelIn(detail) ?? labelIn(message) ?? labelIn(title) ?? textIn(inner);
}

function verdictOf({ code, severity, params }: Fields, message: Label | undefined): Verdict {
  const knownParams = isObjectLike(params) && !Array.isArray(params) ? params : undefined;
  // What has params is worded in the language of the form, where that has a text for the code.
  const words = message === undefined ? { text: refused } : { [knownParams ? 'text' : 'message']: asIs(message) };
  return {
    code: textIn(code) ?? (message === undefined ? 'refused' : 'customError'),
    severity: isSeverity(severity) ? severity : 'error',
    params: knownParams,
    ...words,
  };
}

/** What a server, or the program, found. Malformed entries are left out; where none is left, the whole is refused. */
export function verdictsOf(answer: unknown): readonly ServerVerdict[] {
  const isList = Array.isArray(answer);
  const { errors, findings, ...whole } = isObjectLike(answer) && !isList ? answer : ({} as Fields);
  const said = reasonIn(whole) ?? textIn(errors);
  const entries = [...entriesOf(isList ? answer : findings), ...(isObjectLike(errors) ? entriesOf(errors) : [])];
  if (entries.length > 0 || isList)
    return entries.map((entry) => ({ path: pathIn(entry), verdict: verdictOf(entry, reasonIn(entry) ?? (isList ? undefined : said)) }));
  const isBreakdown = (refusalStatus(whole) ?? 0) >= 500;
  const text = isBreakdown ? failed : refused;
  return [{ path: '', verdict: { code: isBreakdown ? 'failed' : 'refused', text, ...(said !== undefined && { message: asIs(said) }) } }];
}

/** What a plain answer, one that is no `Response`, found; nothing if it accepts. */
export const plainRefusalIn = (answer: unknown): readonly ServerVerdict[] | undefined =>
  isRefusal(answer) ? verdictsOf(answer) : undefined;

/** Reads refusals in other formats: returns findings, or nothing if the answer is no refusal. */
export type ReadRefusal = (
  answer: unknown,
) => readonly GivenFinding[] | ProblemDetails | undefined | Promise<readonly GivenFinding[] | ProblemDetails | undefined>;

/**
 * What a submit handler's answer means.
 *
 * @param own reads it first; what it finds is the refusal
 * @returns what was found, if the answer is a refusal: a `Response` that is not ok, or a plain object with `errors` or `findings` in which
 *   there is something, or with a `status` from 400 to 599. Nothing if the answer accepts.
 */
export async function refusalIn(reply: unknown, own?: ReadRefusal): Promise<readonly ServerVerdict[] | undefined> {
  let answer = reply;
  const isHttp = isResponse(reply);
  if (isHttp) {
    if (reply.ok) return undefined;
    const isJson = /json/.test(reply.headers.get('content-type') ?? '');
    const body: unknown = isJson ? await reply.json().catch(() => undefined) : undefined;
    answer = { status: reply.status, ...(Array.isArray(body) ? { errors: body } : isObjectLike(body) ? body : {}) };
  }
  const found = await own?.(answer);
  if (isFilled(found)) return verdictsOf(Array.isArray(found) ? { findings: found } : found);
  return isHttp ? verdictsOf(answer) : plainRefusalIn(answer);
}

/**
 * A refusal for a form that is arranged in another way than what was sent.
 *
 * @param body the JSON of the answer
 * @param place the path in the form, for one that the server names
 * @returns nothing where it has no entries
 */
export function placedRefusal(body: unknown, place: (path: string) => string): object | undefined {
  const { errors, findings, ...whole } = (Array.isArray(body) ? { errors: body } : (body ?? {})) as Fields;
  const entries = [...entriesOf(errors), ...entriesOf(findings)];
  if (entries.length === 0) return undefined;
  // (Only a path is left of all that an entry may be named by.)
  return {
    ...whole,
    errors: entries.map((entry) => ({ ...entry, pointer: undefined, field: undefined, name: undefined, path: place(pathIn(entry)) })),
  };
}

/** Whether something that was thrown is a server's answer, not the report of a breakdown. */
export const isAnswer = (thrown: unknown): boolean => isRefusal(thrown) || isResponse(thrown);

/** The same for what a submit handler has thrown. */
export const refusalThrown = async (thrown: unknown, own?: ReadRefusal): Promise<readonly ServerVerdict[] | undefined> =>
  (own ?? isAnswer(thrown)) ? refusalIn(thrown, own) : undefined;
