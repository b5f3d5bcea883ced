// What is sent of the values of a form: the address, the headers and the body, as the description says.

import { isFile } from '../schema/files.ts';
import type { Json } from '../schema/json.ts';
import { isObjectLike } from '../schema/safeAccess.ts';
import { asJson } from '../schema/travel.ts';
import type { Body, Description, Encoding, Parameter } from './description.ts';
import { pairsOf, pieceOf, textOf, type Pair } from './style.ts';

/** What a request consists of. */
export interface Sent {
  readonly url: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | FormData | URLSearchParams | Blob | undefined;
}

type Values = Readonly<Record<string, unknown>>;

/** The parameters that have a value, as JSON. */
function valuesOf(parameters: readonly Parameter[], values: unknown): (readonly [Parameter, Json])[] {
  return parameters.flatMap((parameter) => {
    const value = isObjectLike(values) ? values[parameter.key] : undefined;
    if (value === undefined) return [];
    const json = asJson(value, [parameter.key]);
    return [[parameter, parameter.isJson ? JSON.stringify(json) : json] as const];
  });
}

/** A text in an address: reserved signs too, if they may stay; not those that would end a query or be read otherwise. */
const escapedOf =
  ({ allowReserved }: Parameter) =>
  (text: string): string =>
    allowReserved ? encodeURI(text).replace(/[#&+]/g, encodeURIComponent) : encodeURIComponent(text);

/** @throws TypeError for a value that is missing, or would lead to another address */
function pathOf(path: string, values: readonly (readonly [Parameter, Json])[]): string {
  const written = new Map(
    values.flatMap(([each, value]) => (each.in === 'path' ? [[each.name, pieceOf(each.name, value, each, escapedOf(each))]] : [])),
  );
  return path
    .split('/')
    .map((segment) => {
      const filled = segment.replace(/\{([^}]*)\}/g, (_, name: string) => {
        const text = written.get(name);
        if (text) return text;
        throw new TypeError(`The path ${path} needs a value for {${name}}.`);
      });
      if (filled !== segment && /^(?:\.|%2e){1,2}$/i.test(filled))
        throw new TypeError(`"${filled}" in the path ${path} would lead to another address.`);
      return filled;
    })
    .join('/');
}

function queryOf(values: readonly (readonly [Parameter, Json])[]): string {
  const written = values.flatMap(([parameter, value]) =>
    parameter.in === 'query' ? pairsOf(parameter.name, value, parameter).map((pair) => inQuery(pair, escapedOf(parameter))) : [],
  );
  return written.length > 0 ? `?${written.join('&')}` : '';
}

const inQuery = ({ name, pieces, between }: Pair, escape: (text: string) => string): string =>
  `${encodeURIComponent(name)}=${pieces.map(escape).join(between === ' ' ? '%20' : between)}`;

/** The parts of a form body: the values by name, those of a list one by one. */
function* partsOf(values: unknown, { encodings }: Body): Generator<{ name: string; value: unknown; encoding: Encoding | undefined }> {
  for (const [name, value] of Object.entries((values ?? {}) as Values)) {
    if (value === undefined) continue;
    const encoding = encodings.get(name);
    const isOneByOne = Array.isArray(value) && encoding?.written === undefined;
    for (const each of isOneByOne ? (value as readonly unknown[]) : [value]) yield { name, value: each, encoding };
  }
}

/** A file as it is sent. @throws TypeError for what has no bytes */
function bytesOf(value: unknown, name: string): Blob {
  if (value instanceof Blob) return value;
  throw new TypeError(`"${name}" is no file that can be sent: it has to be a File, or a Blob.`);
}

function formData(values: unknown, body: Body): FormData {
  const form = new FormData();
  for (const { name, value, encoding } of partsOf(values, body)) {
    if (isFile(value)) {
      form.append(name, bytesOf(value, name), value.name);
      continue;
    }
    const json = asJson(value, [name]);
    if (encoding?.written) {
      for (const pair of pairsOf(name, json, encoding.written)) form.append(pair.name, pair.pieces.join(pair.between));
      continue;
    }
    // (What is in it travels as JSON, and says so.)
    const type = encoding?.contentType ?? (typeof json === 'object' && json !== null ? 'application/json' : undefined);
    if (type === undefined) form.append(name, textOf(json));
    else form.append(name, new Blob([/json/i.test(type) ? JSON.stringify(json) : textOf(json)], { type }));
  }
  return form;
}

function urlencoded(values: unknown, body: Body): URLSearchParams {
  const form = new URLSearchParams();
  for (const { name, value, encoding } of partsOf(values, body)) {
    const json = asJson(value, [name]);
    const pairs = encoding?.written
      ? pairsOf(name, json, encoding.written)
      : [{ name, pieces: [/json/i.test(encoding?.contentType ?? '') ? JSON.stringify(json) : textOf(json)], between: '' }];
    for (const pair of pairs) form.append(pair.name, pair.pieces.join(pair.between));
  }
  return form;
}

function bodyOf(body: Body, values: unknown): Sent['body'] {
  if (body.format === 'multipart') return formData(values, body);
  if (body.format === 'urlencoded') return urlencoded(values, body);
  if (values === undefined) return undefined;
  if (body.format === 'file') return bytesOf(values, 'body');
  const json = asJson(values, ['body']);
  return body.format === 'text' ? textOf(json) : JSON.stringify(json);
}

/**
 * What is sent of the values of the parameters and of the body, as they travel.
 *
 * @param description of the operation
 * @param server the address that the path is relative to
 * @param values the values of both
 * @throws TypeError for values that cannot be sent
 */
export function requestOf(
  description: Description,
  server: string,
  values: { readonly parameters: unknown; readonly body: unknown },
): Sent {
  const { path, parameters, body } = description;
  const given = valuesOf(parameters, values.parameters);
  const headers = Object.fromEntries(
    given.flatMap(([each, value]) => (each.in === 'header' ? [[each.name, pieceOf(each.name, value, each, (text) => text)]] : [])),
  );
  const sent = body && bodyOf(body, values.body);
  // (What a form body says of itself, with the line between its parts, only fetch knows.)
  const type = sent === undefined || body?.format === 'multipart' ? {} : { 'content-type': body!.contentType };
  return { url: server.replace(/\/$/, '') + pathOf(path, given) + queryOf(given), headers: { ...headers, ...type }, body: sent };
}
