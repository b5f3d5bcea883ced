// A request, as of fetch, or as little of one as reading a form takes.

/** The headers of a request: as of fetch, or as Node's http has them (names in lower case). */
export type RequestHeaders = Pick<Headers, 'get'> | Readonly<Record<string, string | readonly string[] | undefined>>;

/** What is read of a request. A `Request` of fetch is one; so is a request of Node's http, as `{ headers: incoming.headers, body: incoming }`. */
export interface RequestLike {
  readonly headers: RequestHeaders;
  /** Its bytes, as they come. */
  readonly body?: AsyncIterable<Uint8Array> | ReadableStream<Uint8Array> | null | undefined;
  readonly method?: string | undefined;
  readonly url?: string | undefined;
  /** Aborted when the client has gone. */
  readonly signal?: AbortSignal | undefined;
}

/** The value of a header; `''` if there is none. */
export function headerOf({ headers }: RequestLike, name: string): string {
  const value = typeof headers.get === 'function' ? headers.get(name) : (headers as Exclude<RequestHeaders, Pick<Headers, 'get'>>)[name];
  return value === null || value === undefined ? '' : String(value);
}

/** The bytes of a body, as they come; none without a body. */
export const bytesOf = ({ body }: RequestLike): AsyncIterable<Uint8Array> => (body ?? []) as AsyncIterable<Uint8Array>;
