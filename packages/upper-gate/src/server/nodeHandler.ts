// Servers of Node's http module, and Fastify, which is built on it.

import type { IncomingMessage, ServerResponse } from 'node:http';
import { problemResponse, type Problem } from './problemDetails.ts';
import { PLAIN_HEADERS, type RequestLike } from './request.ts';

/** A request of Node's http, as `validateRequest` and `readForm` take it. */
export interface NodeRequest extends RequestLike {
  /** By lower-case name, or by `get`, as those of a `Request`. */
  readonly headers: Omit<IncomingMessage['headers'], 'get'> & Pick<Headers, 'get'>;
  readonly body: AsyncIterable<Uint8Array>;
  readonly method: string;
  /** The whole address, as that of a `Request`; the host as the client says it: `new URL(request.url).pathname` is the path. */
  readonly url: string;
  /** Aborted if the client disconnects before it gets its answer. */
  readonly signal: AbortSignal;
}

/** An answer: a `Response` of fetch, or as much as it takes. */
export interface PlainResponse {
  readonly status: number;
  readonly headers?: Readonly<Record<string, string | string[]>>;
  readonly body?: string | Uint8Array | null | undefined;
}

/** The options of `nodeHandler`. */
export interface NodeHandlerOptions {
  /** Called with the error if the handler throws, or its answer is none; the client gets a plain 500. Default: `console.error`. */
  readonly onError?: (error: unknown) => void;
}

/** What a client learns of a server's own error. */
const BROKEN: Problem = {
  type: 'about:blank',
  title: 'Something went wrong',
  status: 500,
  detail: 'The server could not process the request. Try again later.',
};

/**
 * Wraps a request of Node's http for `validateRequest`; nothing is copied. In Fastify: `fromNode(request.raw, reply.raw)`.
 *
 * @param incoming the request
 * @param outgoing its response, which ends with the connection
 * @returns the request, for `validateRequest`
 *
 * @example
 * const result = await validateRequest(passage, fromNode(request.raw, reply.raw));
 */
export function fromNode(incoming: IncomingMessage, outgoing: ServerResponse): NodeRequest {
  let controller: AbortController | undefined;
  const { headers: plain } = incoming;
  const request: NodeRequest & { readonly [PLAIN_HEADERS]: IncomingMessage['headers'] } = {
    [PLAIN_HEADERS]: plain,
    // Made when somebody asks for them, as what follows: most handlers never do (bench: P16).
    get headers() {
      return withGet(plain);
    },
    body: incoming,
    method: incoming.method ?? 'GET',
    get url() {
      return addressOf(incoming);
    },
    get signal() {
      if (controller) return controller.signal;
      const own = (controller = new AbortController());
      const gone = (): void => {
        if (!outgoing.writableEnded) own.abort(new Error('The client has gone.'));
      };
      if (outgoing.destroyed) gone();
      else outgoing.once('close', gone);
      return own.signal;
    },
  };
  return request;
}

/** The headers of a request, with `get`. (They stay where they are: a copy takes longer than reading a small form.) */
function withGet(headers: IncomingMessage['headers']): NodeRequest['headers'] {
  const get = (name: string): string | null => {
    const value = headers[name.toLowerCase()];
    return value === undefined ? null : Array.isArray(value) ? value.join(', ') : value;
  };
  return { __proto__: headers, get } as unknown as NodeRequest['headers'];
}

/** The whole address of a request. A client may say anything: then it is the path at a host of no name. */
function addressOf({ url = '/', headers, socket }: IncomingMessage): string {
  const scheme = 'encrypted' in socket ? 'https' : 'http';
  const path = url.startsWith('/') ? url : `/${url}`;
  for (const address of [...(url.startsWith('/') ? [] : [url]), `${scheme}://${headers.host ?? ''}${path}`])
    if (URL.canParse(address)) return address;
  return `${scheme}://localhost${URL.canParse(`http://localhost${path}`) ? path : '/'}`;
}

/**
 * Makes a listener for Node's http server. Whatever a client sends, it neither throws nor rejects. If the handler throws, or what it
 * returns is no answer, the client gets a 500 without the text of the error. The body of a `Response` passes through as it comes. If
 * the body of the request was not read to its end, the connection closes.
 *
 * @param handle gets the request, returns the answer
 * @param options `onError` gets what the handler throws
 * @returns the listener, for `createServer`
 *
 * @example
 * createServer(
 *   nodeHandler(async (request) => {
 *     const result = await validateRequest(passage, request);
 *     return result.ok ? Response.json(await db.book(result.data)) : result.response;
 *   }),
 * ).listen(8080);
 */
export const nodeHandler =
  (
    handle: (request: NodeRequest) => Response | PlainResponse | Promise<Response | PlainResponse>,
    { onError = (error) => console.error(error) }: NodeHandlerOptions = {},
  ) =>
  (incoming: IncomingMessage, outgoing: ServerResponse): void => {
    const answer = async (): Promise<void> => {
      try {
        await send(await handle(fromNode(incoming, outgoing)), incoming, outgoing);
      } catch (error) {
        // A client that has gone cannot be answered, and one that has got a part of the answer no other.
        if (outgoing.destroyed) return;
        report(error);
        if (outgoing.headersSent) outgoing.destroy();
        else await send(problemResponse(BROKEN), incoming, outgoing);
      }
    };
    const report = (error: unknown): void => {
      try {
        onError(error);
      } catch {
        // Whoever reports must not keep the client waiting.
      }
    };
    answer().catch(() => outgoing.destroy());
  };

/** What says how long an answer is, or whether the connection goes on: only one may, and that is who writes it. */
const FRAMING = ['content-length', 'transfer-encoding', 'connection', 'keep-alive'];

/** Headers as Node writes them, by lower-case name; each cookie is a separate one. */
function headersOf(headers: Headers | NonNullable<PlainResponse['headers']>): Record<string, string | string[]> {
  const named = Object.entries(headers instanceof Headers ? Object.fromEntries(headers) : headers).map(
    ([name, value]) => [name.toLowerCase(), value] as const,
  );
  const cookies = headers instanceof Headers ? headers.getSetCookie() : [];
  return {
    ...Object.fromEntries(named.filter(([name]) => !FRAMING.includes(name))),
    ...(cookies.length > 0 && { 'set-cookie': cookies }),
  };
}

/** A part of a body, and whether it is the last. */
type Chunk = readonly [bytes: Uint8Array, isLast: boolean];

/** The parts of a body as they come; what is there at once, as most bodies are, as one. */
async function* chunksOf(body: ReadableStream<Uint8Array>): AsyncGenerator<Chunk, void> {
  const reader = body.getReader();
  let ready: Uint8Array[] = [];
  try {
    for (;;) {
      const next = reader.read();
      const isHere = (): Promise<boolean> =>
        Promise.race([next.then(() => true), new Promise<boolean>((resolve) => void setImmediate(() => resolve(false)))]);
      if (ready.length > 0 && !(await isHere())) {
        yield [Buffer.concat(ready), false];
        ready = [];
      }
      const { done, value } = await next;
      if (done) break;
      ready.push(value);
    }
    yield [Buffer.concat(ready), true];
  } finally {
    // (Nobody wants the rest of what was not read to its end.)
    void reader.cancel().catch(() => undefined);
  }
}

async function send(response: Response | PlainResponse, incoming: IncomingMessage, outgoing: ServerResponse): Promise<void> {
  const { status, headers, body } = response;
  // A client that is still sending something else would be listened to until it ends.
  const isUnread = !incoming.complete;
  const begin = (length: number | undefined): void =>
    void outgoing.writeHead(status, {
      ...(headers && headersOf(headers)),
      // These two have no body, and so no length.
      ...(length !== undefined && status !== 204 && status !== 304 && { 'content-length': length }),
      ...(isUnread && { connection: 'close' }),
    });
  const end = (content: string | Uint8Array): void => {
    if (isUnread) outgoing.end(content, () => incoming.destroy());
    else outgoing.end(content);
  };
  if (typeof body !== 'object' || body === null || !('getReader' in body)) {
    const content = body ?? '';
    const length = Buffer.byteLength(content);
    if (outgoing.destroyed) return;
    begin(length);
    return end(content);
  }
  for await (const [bytes, isLast] of chunksOf(body)) {
    if (outgoing.destroyed) return;
    if (!outgoing.headersSent) begin(isLast ? bytes.byteLength : undefined);
    if (isLast) end(bytes);
    else if (!outgoing.write(bytes)) await new Promise<unknown>((resolve) => outgoing.once('drain', resolve).once('close', resolve));
  }
}

/** What the plugin needs of Fastify, its requests and its replies. */
interface FastifyLike {
  removeAllContentTypeParsers(): unknown;
  addContentTypeParser(
    type: string,
    options: object,
    parser: (request: FastifyRequestLike, payload: IncomingMessage, done: (error: null) => void) => void,
  ): unknown;
  addHook(name: 'onSend', hook: (request: FastifyRequestLike, reply: FastifyReplyLike, payload: unknown) => Promise<unknown>): unknown;
  addHook(name: 'onResponse', hook: (request: FastifyRequestLike) => Promise<void>): unknown;
  setErrorHandler(handler: (error: unknown, request: FastifyRequestLike, reply: FastifyReplyLike) => unknown): unknown;
}
interface FastifyRequestLike {
  readonly raw: IncomingMessage;
  readonly log: { error(what: unknown): void };
}
interface FastifyReplyLike {
  code(status: number): FastifyReplyLike;
  type(mediaType: string): FastifyReplyLike;
  header(name: string, value: string): FastifyReplyLike;
  send(body: unknown): unknown;
}

/**
 * Makes a Fastify plugin for routes that read forms, in an encapsulated context: Fastify reads no body there before
 * `validateRequest` does. Elsewhere nothing changes. If a route throws, the client gets a 500 without the text of the error.
 *
 * @param routes adds them
 * @returns the plugin, for `app.register`
 *
 * @example
 * app.register(
 *   fastifyForms(async (forms: FastifyInstance) => {
 *     forms.post('/bookings', async (request, reply) => {
 *       const result = await validateRequest(passage, fromNode(request.raw, reply.raw));
 *       return result.ok ? db.book(result.data) : result.response;
 *     });
 *   }),
 * );
 */
export const fastifyForms =
  <A extends FastifyLike>(routes: (app: A) => void | Promise<void>): ((app: A) => Promise<void>) =>
  async (app) => {
    app.removeAllContentTypeParsers();
    app.addContentTypeParser('*', {}, (_request, _payload, done) => done(null));
    // A client that is still sending something would be listened to until it ends.
    app.addHook('onSend', async (request, reply, payload) => {
      if (!request.raw.complete) reply.header('connection', 'close');
      return Promise.resolve(payload);
    });
    app.addHook('onResponse', async ({ raw }) => {
      if (!raw.complete) raw.destroy();
      return Promise.resolve();
    });
    app.setErrorHandler((error, request, reply) => {
      const { statusCode = 500 } = error as { readonly statusCode?: number };
      if (statusCode < 500) return reply.send(error);
      request.log.error(error);
      return reply.code(500).type('application/problem+json').send(JSON.stringify(BROKEN));
    });
    await routes(app);
  };
