// Operations of an OpenAPI document as forms: what they ask for, and what they send.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, jest, test } from '@jest/globals';
import { createGate, validate, type Node } from 'upper-gate';
import { fromJsonSchema, notesOf, toJsonSchema, type JsonObject } from 'upper-gate/json-schema';
import { fromOpenApi, type FromOpenApiOptions } from 'upper-gate/openapi';
import { parse } from 'yaml';

const BOAT = {
  type: 'object',
  required: ['name', 'id'],
  properties: { id: { type: 'integer', readOnly: true }, name: { type: 'string', minLength: 1 }, beam: { type: 'number', nullable: true } },
};
const api = (operation: JsonObject, path = '/berths', more: JsonObject = {}): JsonObject => ({
  openapi: '3.0.3',
  servers: [{ url: 'https://{host}/v1/', variables: { host: { default: 'locks.example' } } }],
  paths: { [path]: { put: { operationId: 'put', ...operation } } },
  components: { schemas: { Boat: BOAT }, parameters: { limit: { name: 'limit', in: 'query', schema: { type: 'integer', minimum: 1 } } } },
  ...more,
});
const json = (schema: unknown, more: JsonObject = {}): JsonObject => ({ requestBody: { required: true, content: { 'application/json': { schema, ...more } } } });
const BOAT_BODY = json({ $ref: '#/components/schemas/Boat' });

/** What an operation sends of values, as the server gets it. */
async function sent(document: JsonObject, data: unknown, options: Partial<FromOpenApiOptions> = {}): Promise<Request> {
  const requests: Request[] = [];
  const fetch = (url: string, init: RequestInit): Promise<Response> => {
    requests.push(new Request(url, init));
    return Promise.resolve(new Response());
  };
  const { send } = fromOpenApi<Node>(document, { operation: 'put', fetch, ...options });
  await send(data);
  return requests[0]!;
}

const IN_QUERY = { in: 'query', name: 'q' };
const IN_PATH = { in: 'path', name: 'q', required: true };
const NUMBERS = { type: 'array', items: { type: 'integer' } };
const SIDES = { type: 'object', properties: { side: { type: 'string' }, lock: { type: 'string' } } };
test.each([
  [{ ...IN_QUERY, schema: { type: 'string' } }, 'a b&c', '/berths?q=a%20b%26c'],
  [{ ...IN_QUERY, schema: { type: 'boolean' } }, false, '/berths?q=false'],
  [{ ...IN_QUERY, schema: NUMBERS }, [3, 4], '/berths?q=3&q=4'],
  [{ ...IN_QUERY, schema: NUMBERS, explode: false }, [], '/berths'],
  [{ ...IN_QUERY, schema: NUMBERS, explode: false }, [3, 4], '/berths?q=3,4'],
  [{ ...IN_QUERY, schema: NUMBERS, style: 'spaceDelimited' }, [3, 4], '/berths?q=3%204'],
  [{ ...IN_QUERY, schema: NUMBERS, style: 'pipeDelimited', explode: false }, [3, 4], '/berths?q=3|4'],
  [{ ...IN_QUERY, schema: SIDES }, { side: 'port', lock: 'A' }, '/berths?side=port&lock=A'],
  [{ ...IN_QUERY, schema: SIDES, explode: false }, { side: 'port', lock: 'A' }, '/berths?q=side,port,lock,A'],
  [{ ...IN_QUERY, schema: SIDES, style: 'deepObject' }, { side: 'port' }, '/berths?q%5Bside%5D=port'],
  [{ ...IN_QUERY, schema: { type: 'string' }, allowReserved: true }, 'a/b?c=d&e#f', '/berths?q=a/b?c=d%26e%23f'],
  [{ ...IN_QUERY, content: { 'application/json': { schema: SIDES } } }, { side: 'port' }, '/berths?q=%7B%22side%22%3A%22port%22%7D'],
  [{ ...IN_PATH, schema: { type: 'string' } }, 'a/../b', '/berths/a%2F..%2Fb'],
  [{ ...IN_PATH, schema: NUMBERS }, [3, 4], '/berths/3,4'],
  [{ ...IN_PATH, schema: NUMBERS, style: 'label', explode: true }, [3, 4], '/berths/.3.4'],
  [{ ...IN_PATH, schema: NUMBERS, style: 'matrix' }, [3, 4], '/berths/;q=3,4'],
  [{ ...IN_PATH, schema: NUMBERS, style: 'matrix', explode: true }, [3, 4], '/berths/;q=3;q=4'],
  [{ ...IN_PATH, schema: SIDES, explode: true }, { side: 'port', lock: 'A' }, '/berths/side=port,lock=A'],
  [{ ...IN_PATH, schema: SIDES }, { side: 'port', lock: 'A' }, '/berths/side,port,lock,A'],
])('a parameter %j of %j is sent as %s', async (parameter, value, expected) => {
  const document = api({ parameters: [parameter] }, parameter.in === 'path' ? '/berths/{q}' : '/berths');
  expect((await sent(document, { q: value })).url).toBe(`https://locks.example/v1${expected}`);
});

const FILE = new File(['abc'], 'scan.png', { type: 'image/png' });
const PHOTO = {
  type: 'object',
  required: ['photo'],
  properties: {
    photo: { type: 'string', format: 'binary', maxLength: 3 },
    more: { type: 'array', items: { type: 'string', format: 'binary' } },
    boat: BOAT,
    n: { type: 'integer' },
    tags: { type: 'array', items: { type: 'string' } },
  },
};
const content = (type: string, schema?: unknown, encoding?: unknown): JsonObject => ({ requestBody: { required: true, content: { [type]: { schema, encoding } } } });
test.each<[what: string, operation: JsonObject, data: unknown, type: RegExp, body: unknown]>([
  ['an object', BOAT_BODY, { name: 'Otter', beam: 3.5 }, /^application\/json$/, '{"name":"Otter","beam":3.5}'],
  ['a list', json({ type: 'array', items: BOAT }), { body: [{ name: 'Otter' }] }, /^application\/json$/, '[{"name":"Otter"}]'],
  ['a patch', content('application/merge-patch+json', BOAT), { name: 'Otter' }, /^application\/merge-patch\+json$/, '{"name":"Otter"}'],
  ['text', content('text/plain'), { body: 'Ahoy' }, /^text\/plain$/, 'Ahoy'],
  ['a file', content('image/png', {}), { body: FILE }, /^image\/png$/, 'abc'],
  [
    'a form',
    content(
      'application/x-www-form-urlencoded',
      { type: 'object', properties: { a: { type: 'string' }, tags: PHOTO.properties.tags, b: BOAT, c: PHOTO.properties.tags } },
      { c: { style: 'form', explode: false } },
    ),
    { a: 'x y', tags: ['u', 'v'], b: { name: 'Otter' }, c: ['u', 'v'] },
    /^application\/x-www-form-urlencoded$/,
    'a=x+y&tags=u&tags=v&b=%7B%22name%22%3A%22Otter%22%7D&c=u%2Cv',
  ],
  [
    'a form with files',
    content('multipart/form-data', PHOTO, { photo: { contentType: 'image/png, image/jpeg' }, n: { contentType: 'text/csv' } }),
    { photo: FILE, more: [FILE, FILE], boat: { name: 'Otter' }, n: 3, tags: ['u', 'v'] },
    /^multipart\/form-data; boundary=/,
    ['photo image/png abc', 'more image/png abc', 'more image/png abc', 'boat application/json {"name":"Otter"}', 'n text/csv 3', 'tags u', 'tags v'],
  ],
])('a body: %s', async (_, operation, data, type, body) => {
  const document = api(operation);
  const { schema, contentType } = fromOpenApi<Node>(document, { operation: 'PUT /berths' });
  expect(validate(schema, data).findings).toEqual([]);
  expect(type.test(contentType!) || contentType === 'multipart/form-data').toBe(true);
  const request = await sent(document, data);
  expect(request.headers.get('content-type')).toMatch(type);
  if (typeof body === 'string') return expect(await request.text()).toBe(body);
  const parts = [...(await request.formData())].map(async ([name, value]) => (typeof value === 'string' ? `${name} ${value}` : `${name} ${value.type} ${await value.text()}`));
  expect(await Promise.all(parts)).toEqual(body);
});

const CHANGE = api(
  {
    summary: 'Change a boat',
    parameters: [
      { $ref: '#/components/parameters/limit' },
      { name: 'X-Trace', in: 'header', schema: { type: 'integer' } },
      { name: 'session', in: 'cookie', schema: {} },
      { name: 'Accept', in: 'header', schema: {} },
    ],
    ...BOAT_BODY,
  },
  '/boats/{id}',
  {},
);
(CHANGE['paths'] as { '/boats/{id}': Record<string, unknown> })['/boats/{id}']['parameters'] = [
  { name: 'id', in: 'path', required: true, schema: { type: 'string' } },
  { name: 'limit', in: 'query', schema: { type: 'string' } },
];

test('parameters and a body: one form, and what the server refuses is on its fields', async () => {
  const requests: [string, RequestInit][] = [];
  const fetch = (url: string, init: RequestInit): Promise<Response> => {
    requests.push([url, init]);
    const errors = [{ pointer: '/name', detail: 'Taken' }, { name: 'limit', detail: 'Too many' }, { pointer: '#/body/beam', detail: 'Too wide' }, { detail: 'Closed' }];
    return Promise.resolve(Response.json({ title: 'No', errors }, { status: 422, headers: { 'content-type': 'application/problem+json', 'retry-after': '9' } }));
  };
  const { schema, send, method, path } = fromOpenApi<Node>(CHANGE, { operation: 'put', fetch, server: 'https://other.example' });
  expect([method, path, notesOf(schema)]).toEqual(['PUT', '/boats/{id}', []]);
  expect(toJsonSchema(schema)).toMatchObject({
    title: 'Change a boat',
    properties: { parameters: { properties: { id: {}, limit: { type: 'integer' }, 'X-Trace': {} }, required: ['id'] }, body: { required: ['name'] } },
  });
  const codes = (id: string): readonly string[] =>
    validate(schema, { parameters: { id }, body: { name: 'Otter', id: 3 } }, { source: 'json' }).findings.map((each) => `${each.path} ${each.code}`);
  expect([codes('a'), codes('..'), codes('.')]).toEqual([[], ['parameters.id notAllowed'], ['parameters.id notAllowed']]);
  const gate = createGate(schema as never, { submit: send, initial: { parameters: { id: 'a/b', 'X-Trace': 7 }, body: { name: 'Otter' } } as never });
  expect((await gate.submit()).status).toBe('refused');
  expect(requests.map(([url, { method: verb, headers, body }]) => [url, verb, headers, body])).toEqual([
    ['https://other.example/boats/a%2Fb', 'PUT', { 'X-Trace': '7', 'content-type': 'application/json' }, '{"name":"Otter"}'],
  ]);
  expect(gate.findings.map((each) => `${each.path} ${each.message}`)).toEqual(['parameters.limit Too many', 'body.name Taken', 'body.beam Too wide', ' Closed']);
  expect((await send({ parameters: { id: 'a' }, body: { name: 'Otter' } })).headers.get('retry-after')).toBe('9');
});

test('answers that are no refusal with entries stay as they are', async () => {
  for (const response of [
    Response.json({ id: 3 }),
    new Response('<p>', { status: 502 }),
    Response.json({ title: 'No' }, { status: 422 }),
    new Response('{', { status: 400, headers: { 'content-type': 'application/json' } }),
  ]) {
    const { send } = fromOpenApi<Node>(CHANGE, { operation: 'put', fetch: () => Promise.resolve(response) });
    expect(await send({ parameters: { id: 'a' }, body: { name: 'x' } })).toBe(response);
  }
});

test.each<[problem: string, document: unknown, options: Partial<FromOpenApiOptions>, data: unknown]>([
  ['"openapi" is missing', { type: 'object' }, {}, {}],
  ['"openapi" is "2.0"', { swagger: '2.0', paths: {} }, {}, {}],
  ['there is no operation "book". There is: put.', api(BOAT_BODY), { operation: 'book' }, {}],
  ['there is no operation "POST /berths". There is: put.', api(BOAT_BODY), { operation: 'POST /berths' }, {}],
  ['Here is: application/xml.', api(content('application/xml', {})), {}, {}],
  ['there is no content "text/plain" that a form sends. There is: application/json.', api(BOAT_BODY), { contentType: 'text/plain' }, {}],
  ['#/paths/~1berths/put/parameters/0: a parameter needs a "name"', api({ parameters: [{ in: 'query' }] }), {}, {}],
  ['"in" is path, query, header or cookie. It is "body".', api({ parameters: [{ in: 'body', name: 'x' }] }), {}, {}],
  ['the path /berths has no {q}', api({ parameters: [{ ...IN_PATH, schema: {} }] }), {}, {}],
  ['"style" is "constructor". Here it can be form, spaceDelimited,', api({ parameters: [{ ...IN_QUERY, style: 'constructor', schema: {} }] }), {}, {}],
  ['/encoding/a: "style" is "matrix"', api(content('application/x-www-form-urlencoded', { type: 'object' }, { a: { style: 'matrix' } })), {}, {}],
  ['needs a value for {q}', api({ parameters: [{ ...IN_PATH, schema: {} }] }, '/berths/{q}'), {}, {}],
  ['".." in the path /berths/{q} would lead to another address', api({ parameters: [{ ...IN_PATH, schema: {} }] }, '/berths/{q}'), {}, { q: '..' }],
  ['Pass it under "documents": { "boats.json": ... }', api(json({ $ref: 'boats.json#/Boat' })), {}, {}],
  ['"body" is no file that can be sent', api(content('image/png', {})), {}, { body: { name: 'x', size: 1, type: '' } }],
])('what cannot be: %s', async (problem, document, options, data) => {
  await expect((async () => sent(document as JsonObject, data, options))()).rejects.toThrow(problem);
});

test('documents that the description refers to', async () => {
  const document = api({ requestBody: { $ref: 'shared/bodies.json#/boat' } });
  const documents = { 'shared/bodies.json': { boat: { content: { 'application/json': { schema: { $ref: '../boats.json#/Boat' } } } } }, 'boats.json': { Boat: BOAT } };
  expect(await (await sent(document, { name: 'Otter' }, { documents })).text()).toBe('{"name":"Otter"}');
});

test('the document of the demo, of 200 schemas: each is read, nothing in them is unknown, and every example is right', () => {
  // (One of them is deprecated.)
  const warned = jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  const api = parse(readFileSync(join(__dirname, '../../../examples/lock-passage/data/waterways.yaml'), 'utf8')) as JsonObject & {
    readonly components: { readonly schemas: Readonly<Record<string, { readonly examples?: readonly unknown[] }>> };
  };
  const schemas = Object.entries(api.components.schemas);
  const wrong = schemas.flatMap(([name, { examples = [] }]) => {
    const schema = fromJsonSchema(api, { pointer: `/components/schemas/${name}` });
    const findings = examples.flatMap((example) => validate(schema, example, { source: 'json' }).findings);
    return [...findings.map(({ path, message }) => `${name} ${path}: ${message}`), ...notesOf(schema).map(({ pointer }) => pointer)];
  });
  expect([schemas.length, schemas.filter(([, { examples }]) => examples).length, wrong]).toEqual([200, 199, []]);
  warned.mockRestore();
});
