// From an operation of an OpenAPI document to a schema, and to what sends its data.

import { placedRefusal } from '../gate/serverAnswer.ts';
import type { SubmitRun } from '../gate/submission.ts';
import { shallow, type JsonObject } from '../json-schema/document.ts';
import { readSchema, type ReadingOptions } from '../json-schema/fromJsonSchema.ts';
import { Resources } from '../json-schema/keywords/resources.ts';
import type { Fields, Group } from '../schema/group.ts';
import { isGroup } from '../schema/group.ts';
import type { DATA, Node } from '../schema/node.ts';
import { nodeOf, partAt, partOf, type Part } from '../schema/part.ts';
import { travelling } from '../schema/travel.ts';
import { Descriptions, type Description } from './description.ts';
import { requestOf } from './request.ts';
import { filesIn, REQUEST, requestDocument, shapeOf, type Shape } from './requestSchema.ts';

/** The options of `fromOpenApi`, beside those of `fromJsonSchema`. */
export interface FromOpenApiOptions extends ReadingOptions {
  /** The operation: its `operationId`, or its method and path, such as `'POST /passages'`. */
  readonly operation: string;
  /** The address that paths are relative to. Default: the first of the document's `servers`. */
  readonly server?: string;
  /** Sends the request; default: the platform's. Yours may add what the user does not fill in, such as who they are. */
  readonly fetch?: (url: string, init: RequestInit) => Promise<Response>;
  /** Which media type of the body to send. Default: JSON, else a form's. */
  readonly contentType?: string;
  /** The documents that it refers to, by their addresses. Nothing is fetched. */
  readonly documents?: { readonly [address: string]: unknown };
}

/** What a form needs for one operation. */
export interface OpenApiOperation<N extends Node = Group<Fields>> {
  /**
   * The body's schema; that of the parameters where there is no body; where there are both, or the body is no object, a group of
   * `parameters` and `body`. `notesOf(schema)` lists what has no meaning here.
   */
  readonly schema: N;
  /** The body's schema by itself, as a server validates it; nothing where there is no body. */
  readonly body: Node | undefined;
  /** In capitals, such as `'POST'`. */
  readonly method: string;
  /** As the document has it, such as `'/passages/{id}'`. */
  readonly path: string;
  /** The media type of the body; nothing where there is none. */
  readonly contentType: string | undefined;
  /**
   * Sends the data, as the document says: the `submit` of a gate. What the server refuses with (problem details, RFC 9457) names the fields
   * of the form.
   *
   * @param data of the schema
   * @param run its signal ends the request
   * @returns the answer
   * @throws TypeError for data that cannot be sent
   */
  readonly send: (data: N[typeof DATA], run?: Pick<SubmitRun, 'signal'>) => Promise<Response>;
}

/**
 * Reads an operation of an OpenAPI document (3.0, 3.1): the schema of its request, and what sends the data of a form so. Cookies, and what
 * tells the server who somebody is, are yours to add (`fetch`).
 *
 * @param document parsed JSON
 * @param options which operation, where its server is, what the document refers to
 * @returns the schema, and what sends its data; you may say its type: `fromOpenApi<typeof passage>(api, { operation: 'book' })`
 * @throws JsonSchemaError for an operation that is not there, a body that no form sends, and whatever `fromJsonSchema` refuses
 *
 * @example
 * const { schema, send } = fromOpenApi(api, { operation: 'bookPassage', server: 'https://locks.example' });
 * const gate = createGate(schema, { submit: send });
 */
export function fromOpenApi<N extends Node = Group<Fields>>(
  document: JsonObject,
  { operation, server, fetch: own, contentType, documents = {}, ...options }: FromOpenApiOptions,
): OpenApiOperation<N> {
  const finding = new Resources(document, documents);
  const [description, files] = shallow(() => {
    const found = new Descriptions(document, finding).describe(operation, contentType);
    return [found, filesIn(found.body, finding)] as const;
  }, '/paths');
  const read = (shape: Shape): N => {
    const others = { ...documents, [REQUEST]: requestDocument(description, shape, finding) };
    const reword = files.size > 0 ? (_: JsonObject, at: string) => files.get(at) : undefined;
    return readSchema<N>(new Resources(document, others, { direction: 'request', reword }), `${REQUEST}#`, options);
  };
  let shape = shapeOf(description);
  let schema = read(shape);
  if (shape === 'body' && !isGroup(partOf(schema))) schema = read((shape = 'both'));
  const part = partOf(schema);
  const { method, path, body } = description;
  const base = server ?? description.server;
  const send = async (data: N[typeof DATA], run?: Pick<SubmitRun, 'signal'>): Promise<Response> => {
    const { url, headers, body: sent } = requestOf(description, base, valuesIn(travelling(part, data), shape));
    const init = {
      method,
      headers,
      ...(sent !== undefined && { body: sent }),
      ...(run && { signal: run.signal }),
    };
    const response = await (own ?? fetch)(url, init);
    return shape === 'both' && !response.ok ? placed(response, (path) => placeIn(part, description, path)) : response;
  };
  const whole = shape === 'both' ? nodeOf(partAt(part, 'body')!) : schema;
  return { schema, body: body && whole, method, path, contentType: body?.contentType, send };
}

/** A refusal that names the fields of the form. */
async function placed(response: Response, place: (path: string) => string): Promise<Response> {
  const isJson = /json/.test(response.headers.get('content-type') ?? '');
  const answer = isJson
    ? placedRefusal(
        await response
          .clone()
          .json()
          .catch(() => undefined),
        place,
      )
    : undefined;
  if (answer === undefined) return response;
  const { status, statusText } = response;
  const headers = new Headers(response.headers);
  // (It is another text now.)
  for (const name of ['content-length', 'content-encoding']) headers.delete(name);
  return Response.json(answer, { status, statusText, headers });
}

/** The values of the parameters, and those of the body. */
function valuesIn(data: unknown, shape: Shape): { readonly parameters: unknown; readonly body: unknown } {
  if (shape === 'both') return data as { parameters: unknown; body: unknown };
  return shape === 'body' ? { parameters: undefined, body: data } : { parameters: data, body: undefined };
}

/** The path in the form for one that a server names, which knows nothing of the form: in the body, or a parameter. */
function placeIn(root: Part, { parameters }: Description, path: string): string {
  const isThere = (place: string): boolean => partAt(root, place) !== undefined;
  if (path === '') return '';
  if (isThere(`body.${path}`)) return `body.${path}`;
  const parameter = parameters.find(({ name }) => name === path);
  if (parameter) return `parameters.${parameter.key}`;
  return isThere(path) ? path : `body.${path}`;
}
