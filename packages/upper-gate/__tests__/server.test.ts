// Requests as they come over the network: what is let in, and what is answered to the rest.

import { createServer } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { Readable } from 'node:stream';
import { expect, jest, test } from '@jest/globals';
import fastify, { type FastifyInstance } from 'fastify';
import { asyncCheck, choice, choices, createGate, file, fileSize, group, length, list, number, range, required, text } from 'upper-gate';
import { fastifyForms, fromNode, nodeHandler, readForm, validateRequest, type Limits, type NodeRequest } from 'upper-gate/server';

const passage = group({
  vessel: text(
    'Vessel',
    required(),
    length({ max: 10 }),
    asyncCheck(() => 'only asked on the page', { name: 'register' }),
  ),
  kit: choices('Kit', ['horn', 'lights']),
  crew: list('Crew', group({ name: text('Name', required()), age: number('Age', range({ min: 0 })) })),
  paper: file('Paper', fileSize({ max: 100 })),
});
const checks = { register: (vessel: string) => vessel !== 'Ghost' };

const post = (body: unknown, headers: Record<string, string> = {}): Request =>
  new Request('http://localhost/', { method: 'POST', body: body as string, headers, ...(body instanceof ReadableStream && { duplex: 'half' }) });
const json = (value: unknown): Request => post(typeof value === 'string' ? value : JSON.stringify(value), { 'content-type': 'application/json' });
const form = (text: string): Request => post(text, { 'content-type': 'application/x-www-form-urlencoded' });
function formData(entries: readonly (readonly [string, string | File])[]): FormData {
  const data = new FormData();
  for (const [name, value] of entries) data.append(name, value as string);
  return data;
}
const multipart = (entries: readonly (readonly [string, string | File])[]): Request => post(formData(entries), { accept: 'text/html' });
const ENTRIES: readonly (readonly [string, string | File])[] = [
  ...Object.entries({ vessel: 'Otter', kit: 'horn', 'crew.0.name': 'Ada', 'crew.0.age': '41', 'crew.1.name': 'Bo', 'crew.1.age': '' }),
  ['paper', new File([], '')],
];

test.each<[string, () => Request | FormData]>([
  ['JSON', () => json({ vessel: 'Otter', kit: ['horn'], crew: [{ name: 'Ada', age: 41 }, { name: 'Bo' }] })],
  ['urlencoded', () => form('vessel=Otter&kit=horn&crew.0.name=Ada&crew.0.age=41&crew.1.name=Bo&crew.1.age=')],
  ['multipart', () => multipart(ENTRIES)],
  ['form data that a framework has read', () => formData(ENTRIES)],
])('%s is read into the same data', async (_, request) => {
  expect(await validateRequest(passage, request(), { checks })).toMatchObject({
    ok: true,
    data: {
      vessel: 'Otter',
      kit: ['horn'],
      crew: [
        { name: 'Ada', age: 41 },
        { name: 'Bo', age: undefined },
      ],
      paper: undefined,
    },
  });
});

test('findings are answered as problem details, which a gate puts on the fields; network rules ask the server itself', async () => {
  const result = await validateRequest(
    passage,
    multipart([
      ['vessel', 'Ghost'],
      ['crew.0.age', '-1'],
      ['paper', new File(['x'.repeat(200)], 'p.pdf', { type: 'application/pdf' })],
    ]),
    { checks },
  );
  if (result.ok) throw new Error('let in');
  expect({ status: result.response.status, 'get content-type': result.response.headers.get('content-type'), acceptsHtml: result.acceptsHtml }).toEqual({
    status: 422,
    'get content-type': 'application/problem+json',
    acceptsHtml: true,
  });
  expect(result.raw).toMatchObject({ vessel: 'Ghost', crew: [{ age: '-1' }] });
  const gate = createGate(passage, { initial: { crew: [{}] } });
  gate.addFindings((await result.response.json()) as object);
  expect(gate.findings.map(({ path, code }) => `${path} ${code}`)).toEqual(
    expect.arrayContaining(['vessel customError', 'crew.0.name valueMissing', 'crew.0.age rangeUnderflow', 'paper fileTooLarge']),
  );
});

test('an async rule without an answer does not let the values in: 503 if nothing else is wrong', async () => {
  const down = { register: () => Promise.reject(new Error('down')) };
  const status = async (vessel: string, with_: object = down) => {
    const result = await validateRequest(passage, json({ vessel, crew: [] }), { checks: with_, onFault: () => undefined } as never);
    return result.ok ? 200 : `${result.response.status} ${result.problem.errors!.map(({ code }) => code).join()}`;
  };
  expect(await status('Otter', checks)).toBe(200);
  expect(await status('Otter')).toBe('503 unanswered');
  expect(await status('Otter, much too long')).toBe('422 tooLong');
});

const nested = (depth: number): unknown => (depth === 0 ? 'x' : { a: nested(depth - 1) });
const big = 'x'.repeat(3000);
const small: Limits = { bytes: 2000, keys: 5, depth: 3, listLength: 4, files: 1, fileBytes: 50 };
const endless = () =>
  Readable.toWeb(
    Readable.from(
      (function* () {
        for (;;) yield Buffer.alloc(1000, 120);
      })(),
    ),
  );

test("JSON holds data, unless source is 'form'; a form holds what controls hold", async () => {
  const boat = group({ beam: number('Beam', required()) });
  const beam = async (request: Request, options?: object): Promise<unknown> => {
    const result = await validateRequest(boat, request, options);
    return result.ok ? result.data.beam : result.findings.map(({ code }) => code);
  };
  expect({
    text: await beam(json({ beam: '2' })),
    held: await beam(json({ beam: '2' }), { source: 'form' }),
    number: await beam(json({ beam: 2 })),
    form: await beam(form('beam=2'), { source: 'json' }),
  }).toEqual({ text: ['badInput'], held: 2, number: 2, form: 2 });
});

/** A multipart body, byte by byte. */
const parts = (name: string, value: string, before = '', after = '', header = ''): Request =>
  post(Buffer.from(`${before}\r\n--x\r\n${header}Content-Disposition: form-data${name && `; name="${name}"`}\r\n\r\n${value}\r\n--x--\r\n${after}`, 'latin1'), {
    'content-type': 'multipart/form-data; boundary=x',
  });

test.each<[string, () => Request | FormData, number, RegExp]>([
  ['JSON of too many bytes', () => json({ vessel: big }), 413, /2000 bytes/],
  ['a body without end', () => post(endless(), { 'content-type': 'application/json' }), 413, /2000 bytes/],
  ['a form of too many bytes', () => form(`vessel=${big}`), 413, /2000 bytes/],
  ['multipart of too many bytes', () => multipart([['vessel', big]]), 413, /2000 bytes/],
  ['a file that is too large', () => multipart([['paper', new File(['x'.repeat(51)], 'p.pdf')]]), 413, /"p\.pdf" is larger than 50 bytes/],
  [
    'too many files',
    () =>
      multipart([
        ['paper', new File(['x'], 'p')],
        ['paper', new File(['x'], 'q')],
      ]),
    413,
    /1 files/,
  ],
  ['another type', () => post('<a/>', { 'content-type': 'text/xml' }), 415, /text\/xml.*Send application\/json/],
  ['no type', () => new Request('http://localhost/', { method: 'POST' }), 415, /type of the body is missing/],
  ['an encoded body', () => post('x', { 'content-type': 'application/json', 'content-encoding': 'gzip' }), 415, /gzip/],
  ['broken JSON', () => json('{"a": '), 400, /not JSON/],
  ['an empty body', () => post('', { 'content-type': 'application/json' }), 400, /not JSON/],
  ['broken UTF-8', () => post(new Uint8Array([34, 0xff, 34]), { 'content-type': 'application/json' }), 400, /UTF-8/],
  ['broken multipart', () => post('--x\r\nnothing', { 'content-type': 'multipart/form-data; boundary=x' }), 400, /multipart/],
  ['multipart without a boundary', () => post('x', { 'content-type': 'multipart/form-data' }), 400, /multipart/],
  ['JSON too deep', () => json(nested(4)), 400, /at most 3 levels deep/],
  ['a form too deep', () => form('a.b.c.d=1'), 400, /at most 3 levels deep/],
  ['too many values in JSON', () => json({ a: 1, b: 2, c: 3, d: { e: 1, f: 2 } }), 400, /5 values/],
  ['too many values in a form', () => form('a=1&a=2&a=3&a=4&a=5&a=6'), 400, /5 values/],
  ['too many values in multipart', () => multipart(['a', 'b', 'c', 'd', 'e', 'f'].map((name) => [name, '1'])), 400, /5 values/],
  ['a list too long in JSON', () => json([1, 2, 3, 4, 5]), 400, /4 entries/],
  ['a list too long in a form', () => form('crew.4.name=x'), 400, /4 entries/],
  ['a huge index', () => form('crew.999999999.name=x'), 400, /4 entries/],
  ['text that is not UTF-8 in a form', () => form('vessel=%FF'), 400, /UTF-8/],
  ['a name that is not UTF-8 in a form', () => form('%C3=x'), 400, /UTF-8/],
  ['text that is not UTF-8 in multipart', () => parts('vessel', 'a\xffb'), 400, /UTF-8/],
  ['bytes before the first part', () => parts('vessel', 'x', 'p'.repeat(9000)), 413, /2000 bytes/],
  ['bytes after the last part', () => parts('vessel', 'x', '', 'e'.repeat(9000)), 413, /2000 bytes/],
  ['a part without a name', () => parts('', 'x'.repeat(9000)), 400, /no name/],
  ['a part whose header is too long', () => parts('vessel', 'x', '', '', `X-Long: ${'h'.repeat(90_000)}\r\n`), 413, /2000 bytes/],
  ['form data of too many bytes', () => formData([['vessel', big]]), 413, /2000 bytes/],
  ['form data with too large a file', () => formData([['paper', new File(['x'.repeat(51)], 'p.pdf')]]), 413, /"p\.pdf"/],
  ['form data of too many files', () => formData(['p', 'q'].map((name) => ['paper', new File(['x'], name)])), 413, /1 files/],
])('%s is refused with its status', async (_, request, status, detail) => {
  const read = await readForm(request(), small);
  if (read.ok) throw new Error('was read');
  expect(read.response.status).toBe(status);
  expect(await read.response.json()).toEqual({ type: 'about:blank', title: expect.any(String), status, detail: expect.stringMatching(detail) });
});

test.each<[string, () => Request, unknown]>([
  ['hostile names in a form', () => form('__proto__.x=1&constructor.prototype.y=2&a.__proto__.z=3&ok=1'), { ok: '1' }],
  ['keys of JSON', () => json('{"__proto__": {"x": 1}, "ok": 1}'), JSON.parse('{"__proto__": {"x": 1}, "ok": 1}')],
  ['names that cannot stand beside one another', () => form('a=1&a.b=2&c.d=3&c=4&l.0=1&l.x=2'), { a: '1', c: { d: '3' }, l: ['1'] }],
  ['names of brackets', () => form('a[999999999]=1'), { 'a[999999999]': '1' }],
  ['rows that are left out', () => form('l.2=x'), { l: [undefined, undefined, 'x'] }],
])('%s reach nothing', async (_, request, raw) => {
  expect(await readForm(request())).toMatchObject({ ok: true, acceptsHtml: false });
  expect(((await readForm(request())) as { raw: unknown }).raw).toEqual(raw);
  expect(({} as { x?: unknown }).x).toBeUndefined();
});

test('under Node and Fastify: what is let in, what is refused, what a client breaks off, and what the handler throws', async () => {
  const errors: unknown[] = [];
  const handle = async (request: NodeRequest) => {
    const { pathname } = new URL(request.url);
    if (pathname === '/cookies')
      return new Response(null, {
        status: 204,
        headers: [
          ['set-cookie', 'a=1'],
          ['set-cookie', 'b=2'],
        ],
      });
    if (pathname === '/broken') throw new Error('relation "vessels" does not exist');
    const result = await validateRequest(passage, request, { checks, limits: { ...small, time: 300 } });
    return result.ok ? Response.json(result.data) : result.response;
  };
  const node = createServer(nodeHandler(handle, { onError: (error) => errors.push(error) })).listen(0);
  const app = fastify({ logger: { level: 'error', stream: { write: (line: string) => void errors.push(line) } } });
  app.post('/own', (request) => request.body);
  void app.register(fastifyForms((forms: FastifyInstance) => void forms.all('*', (request, reply) => handle(fromNode(request.raw, reply.raw)))));
  await app.listen({ port: 0 });
  try {
    for (const server of [node, app.server]) {
      errors.length = 0;
      const { port } = server.address() as AddressInfo;
      const url = `http://localhost:${port}`;
      const ask = async (body: BodyInit | undefined, path = '/', method = 'POST') => {
        const answer = await fetch(url + path, { method, ...(body !== undefined && { body }) });
        return `${answer.status} ${answer.headers.get('content-type')} ${await answer.text()}`;
      };
      /** What comes back to bytes that are sent as they are. */
      const raw = (text: string, ends = true) =>
        new Promise<string>((resolve) => {
          let said = '';
          const socket = connect(port, 'localhost', () => (ends ? socket.end(text) : socket.write(text)));
          socket
            .on('data', (data) => (said += String(data)))
            .on('close', () => resolve(said.slice(9, 12)))
            .on('error', () => undefined);
        });
      const head = 'POST / HTTP/1.1\r\nHost: x\r\nConnection: close\r\nContent-Type: application/x-www-form-urlencoded\r\n';
      expect(await ask(new URLSearchParams({ vessel: 'Otter' }))).toBe('200 application/json {"vessel":"Otter","kit":[],"crew":[]}');
      expect(await ask(new URLSearchParams({ vessel: '' }))).toMatch(/^422 application\/problem\+json/);
      expect(await ask('{}')).toMatch(/^415 .*fetch\(url/);
      expect(await ask(undefined, '/', 'GET')).toMatch(/^415 /);
      expect(await ask(new URLSearchParams({ vessel: big }))).toMatch(/^413 /);
      const { status, headers } = await fetch(`${url}/cookies`, { method: 'POST' });
      expect([status, headers.getSetCookie(), headers.get('content-length')]).toEqual([204, ['a=1', 'b=2'], null]);
      const broken = await ask('x', '/broken');
      expect(broken).toMatch(/^500 application\/problem\+json/);
      expect(broken).not.toMatch(/relation/);
      expect(errors.map(String).join()).toMatch(/relation/);
      expect({
        'never ends': await raw(`${head}Content-Length: 100\r\n\r\nvessel=`, false),
        'broken chunks': await raw(`${head}Transfer-Encoding: chunked\r\n\r\nzz\r\n`),
      }).toEqual({ 'never ends': '408', 'broken chunks': '400' });
      await raw(`${head}Content-Length: 100\r\n\r\nvessel=`);
      expect(await ask(new URLSearchParams({ vessel: 'Otter' }))).toMatch(/^200/);
    }
    const own = await fetch(`http://localhost:${(app.server.address() as AddressInfo).port}/own`, {
      method: 'POST',
      body: '{"a":1}',
      headers: { 'content-type': 'application/json' },
    });
    expect(await own.json()).toEqual({ a: 1 });
  } finally {
    node.close();
    await app.close();
  }
});

test('answers under Node: those that are none become a 500, framing is ours, streams pass through, a request has what a Request has', async () => {
  const errors: unknown[] = [];
  let goOn = (): void => undefined;
  const streamOf = (...parts: (string | Error | Promise<void>)[]) =>
    new ReadableStream({
      async start(controller) {
        for (const part of parts) {
          if (part instanceof Error) return controller.error(part);
          if (typeof part === 'string') controller.enqueue(new TextEncoder().encode(part));
          else await part;
        }
        controller.close();
      },
    });
  const waits = new Promise<void>((resolve) => (goOn = resolve));
  const answers: Record<string, (request: NodeRequest) => unknown> = {
    '/none': () => undefined,
    '/status': () => ({ status: 9999 }),
    '/header': () => ({ status: 200, headers: { 'x-a': 'b\r\nx-c: d' } }),
    '/body': () => ({ status: 200, body: 5 }),
    '/breaks': () => new Response(streamOf(new Error('broken'))),
    '/framing': () => ({ status: 200, headers: { 'Content-Length': '999', 'Transfer-Encoding': 'chunked', 'X-A': 'b' }, body: 'Otter' }),
    '/late': () => new Response(streamOf('Ot', waits, 'ter')),
    '/late-breaks': () => new Response(streamOf('Ot', waits, new Error('broken'))),
    '/ready': () => Response.json({ a: 1 }),
    '/asks?q=1': ({ headers, url }) => ({ status: 200, body: [headers.get('X-Asked'), headers['x-asked'], headers.get('nothing'), new URL(url).search].join() }),
  };
  const handle = nodeHandler((request) => answers[request.url.replace(/^http:\/\/[^/]+/, '')]!(request) as Response, {
    onError(error) {
      errors.push(error);
      throw new Error('of whoever reports');
    },
  });
  const server = createServer(handle).listen(0);
  const ask = (path: string) => fetch(`http://localhost:${(server.address() as AddressInfo).port}${path}`, { headers: { 'x-asked': 'yes' } });
  try {
    for (const path of ['/none', '/status', '/header', '/body', '/breaks']) {
      errors.length = 0;
      const answer = await ask(path);
      expect([path, answer.status, answer.headers.get('x-c'), errors.length]).toEqual([path, 500, null, 1]);
    }
    const framed = await ask('/framing');
    expect([framed.headers.get('content-length'), framed.headers.get('transfer-encoding'), framed.headers.get('x-a'), await framed.text()]).toEqual(['5', null, 'b', 'Otter']);
    expect((await ask('/ready')).headers.get('content-length')).toBe('7');
    expect(await (await ask('/asks?q=1')).text()).toBe('yes,yes,,?q=1');
    // The first part arrives while the second is awaited.
    const [late, breaks] = await Promise.all([ask('/late'), ask('/late-breaks')]);
    goOn();
    expect([late.headers.get('content-length'), await late.text(), await breaks.text().catch(() => 'broken')]).toEqual([null, 'Otter', 'broken']);
  } finally {
    server.close();
  }
});

test('rows that nobody sent cost as many values as they have fields; a finding of a choice does not repeat its options', async () => {
  const crew = list('Crew', group({ name: text('Name', required()), kids: list('Kids', text('Kid', required())), a: text('A', required()) }));
  const kinds = Array.from({ length: 500 }, (_, i) => `kind ${i}`);
  const many = group({
    crew,
    kind: choice('Kind', kinds),
  });
  const answer = async (body: string) => {
    const result = await validateRequest(many, form(body));
    return result.ok ? '' : `${result.problem.status} ${JSON.stringify(result.problem).length < 500}`;
  };
  const amplified = Array.from({ length: 300 }, (_, i) => `crew.${i}.kids.999.z=`).join('&');
  expect([await answer('crew.999.z=x'), await answer(amplified), await answer('crew.999.kids.0=x'), await answer('kind=x')]).toEqual([
    ...['400 true', '400 true', '400 true'],
    '422 true',
  ]);
});

test('a limit that is not a number lifts nothing: it is refused; one that is not given keeps its default', async () => {
  const no = asyncCheck(() => false, { name: 'no' });
  const asks = group({ a: text('A', no) });
  for (const [wrong, shown] of [
    [Number.NaN, 'NaN'],
    [-1, '-1'],
    ['9' as never, '"9"'],
  ] as const) {
    for (const name of ['bytes', 'keys', 'depth', 'listLength', 'files', 'fileBytes'] as const)
      await expect(readForm(json({}), { [name]: wrong })).rejects.toThrow(`limits.${name} takes a number from 0. It got ${shown}.`);
    for (const name of ['concurrency', 'timeout'] as const) await expect(validateRequest(asks, json({ a: 'x' }), { [name]: wrong })).rejects.toThrow(`${name} takes a number from`);
  }
  await expect(validateRequest(asks, json({ a: 'x' }), { concurrency: 0 })).rejects.toThrow('concurrency takes a number from 1. It got 0');
  expect(await readForm(form('a.'.repeat(9) + 'a=1'), { depth: undefined as never })).toMatchObject({ ok: false, problem: { status: 400 } });
  for (const most of [1, 1.5, Infinity])
    expect(await validateRequest(asks, json({ a: 'x' }), { concurrency: most, timeout: Infinity })).toMatchObject({ ok: false, findings: [{ code: 'customError' }] });
});

test('without the parser of multipart bodies, JSON is read, and multipart is refused with what to install', async () => {
  await jest.isolateModulesAsync(async () => {
    jest.doMock('@fastify/busboy', () => {
      throw new Error('not installed');
    });
    const server = await import('upper-gate/server');
    expect(await server.readForm(json({ a: 1 }))).toMatchObject({ ok: true, raw: { a: 1 } });
    expect(await server.readForm(multipart([['a', '1']]))).toMatchObject({ ok: false, problem: { status: 415, detail: expect.stringContaining('npm install @fastify/busboy') } });
  });
});
