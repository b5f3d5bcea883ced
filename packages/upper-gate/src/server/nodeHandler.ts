// Servers of Node's http module, and Fastify, which is built on it.

import type { IncomingMessage, ServerResponse } from 'node:http';
import { problemResponse, type Problem } from './problemDetails.ts';
import type { RequestLike } from './request.ts';

/** A request of Node's http, as `validateRequest` and `readForm` take it. */
export interface NodeRequest extends RequestLike {
  readonly headers: IncomingMessage['headers'];
  readonly body: AsyncIterable<Uint8Array>;
  readonly method: string;
  /** The path and query, as in the request line. */
  readonly url: string;
  /** Aborted if the client disconnects before it gets its answer. */
  readonly signal: AbortSignal;
}

/** An answer: a `Response` of fetch, or as much as it takes. */
export interface PlainResponse {
  readonly status: number;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: string | Uint8Array;
}

/** The options of `nodeHandler`. */
export interface NodeHandlerOptions {
  /** Called with the error if the handler throws; the client gets a plain 500. Default: `console.error`. */
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
  return {
    headers: incoming.headers,
    body: incoming,
    method: incoming.method ?? 'GET',
    url: incoming.url ?? '/',
    // Made when somebody asks for it.
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
}

/**
 * Makes a listener for Node's http server. Whatever a client sends, it neither throws nor rejects. If the handler throws, the
 * client gets a 500 without the text of the error. If a body was not read to its end, the connection closes.
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
      let response: Response | PlainResponse;
      try {
        response = await handle(fromNode(incoming, outgoing));
      } catch (error) {
        onError(error);
        response = problemResponse(BROKEN);
      }
      await send(response, incoming, outgoing);
    };
    // A client that has gone cannot be answered.
    answer().catch(() => outgoing.destroy());
  };

/** The headers of a `Response`, as Node writes them: each cookie is a separate header. */
function headersOf(headers: Headers): Readonly<Record<string, string | string[]>> {
  const cookies = headers.getSetCookie();
  return { ...Object.fromEntries(headers), ...(cookies.length > 0 && { 'set-cookie': cookies }) };
}

async function send(response: Response | PlainResponse, incoming: IncomingMessage, outgoing: ServerResponse): Promise<void> {
  const { status, headers = {}, body } = response;
  const content = response instanceof Response ? Buffer.from(await response.arrayBuffer()) : (body as string | Uint8Array | undefined);
  if (outgoing.destroyed) return;
  // A client that is still sending something else would be listened to until it ends.
  const isUnread = !incoming.complete;
  outgoing.writeHead(status, {
    ...(headers instanceof Headers ? headersOf(headers) : headers),
    // These two have no body, and so no length.
    ...(status !== 204 && status !== 304 && { 'content-length': content === undefined ? 0 : Buffer.byteLength(content) }),
    ...(isUnread && { connection: 'close' }),
  });
  outgoing.end(content, () => {
    if (isUnread) incoming.destroy();
  });
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
