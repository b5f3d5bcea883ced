// A request, as of fetch, or as little of one as reading a form takes.

/** The headers of a request: those of fetch, or of Node's http (names in lower case). */
export type RequestHeaders = Pick<Headers, 'get'> | Readonly<Record<string, string | readonly string[] | undefined>>;

/**
 * The parts of a request that are read. A `Request` of fetch is one; so is a request of Node's http, as `{ headers:
 * incoming.headers, body: incoming }`.
 */
export interface RequestLike {
  readonly headers: RequestHeaders;
  /** Its bytes, as they arrive. */
  readonly body?: AsyncIterable<Uint8Array> | ReadableStream<Uint8Array> | null | undefined;
  readonly method?: string | undefined;
  readonly url?: string | undefined;
  /** Aborted if the client disconnects. */
  readonly signal?: AbortSignal | undefined;
}

/** The headers of Node's http in a request made of one: reading these asks for no `get`. */
export const PLAIN_HEADERS: unique symbol = Symbol('plain headers');

/** The value of a header; `''` if there is none. */
export function headerOf(request: RequestLike & { readonly [PLAIN_HEADERS]?: RequestHeaders }, name: string): string {
  const headers = request[PLAIN_HEADERS] ?? request.headers;
  const value = typeof headers.get === 'function' ? headers.get(name) : (headers as Exclude<RequestHeaders, Pick<Headers, 'get'>>)[name];
  return value === null || value === undefined ? '' : String(value);
}

/** What is needed of a stream of Node's. */
interface StreamLike {
  on(event: 'data', listener: (chunk: Uint8Array) => void): StreamLike;
  on(event: 'error', listener: (error: Error) => void): StreamLike;
  on(event: 'end' | 'close', listener: () => void): StreamLike;
  removeAllListeners(event: 'data'): StreamLike;
  pause(): StreamLike;
}

const isStream = (body: object): body is StreamLike => typeof (body as Partial<StreamLike>).on === 'function' && 'pause' in body;

/**
 * Reads a body as it comes.
 *
 * @param take gets each chunk; what it throws ends the reading
 */
export async function readBytes({ body }: RequestLike, take: (chunk: Uint8Array) => void): Promise<void> {
  if (!body) return;
  // Events take half the time of an iteration.
  if (!isStream(body)) for await (const chunk of body as AsyncIterable<Uint8Array>) take(chunk);
  else
    await new Promise<void>((resolve, reject) => {
      const stop = (error: unknown): void => {
        body.removeAllListeners('data').pause();
        reject(error);
      };
      body.on('data', (chunk) => {
        try {
          take(chunk);
        } catch (error) {
          stop(error);
        }
      });
      let ended = false;
      body.on('end', () => {
        ended = true;
        resolve();
      });
      body.on('error', stop);
      body.on('close', () => ended || stop(new Error('The client has gone.')));
    });
}

/** The bytes of a body, one chunk after the other. */
export const bytesOf = ({ body }: RequestLike): AsyncIterable<Uint8Array> => (body ?? []) as AsyncIterable<Uint8Array>;
