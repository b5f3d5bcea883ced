// Requests that are broken, slow, endless, or that lie about what they are, against servers made with the shipped adapters.
import { once } from 'node:events';
import { createServer } from 'node:http';
import { connect } from 'node:net';
import { setTimeout as sleep } from 'node:timers/promises';
import fastify from 'fastify';
import { choice, group, list, required, text } from 'upper-gate';
import { fastifyForms, fromNode, nodeHandler, readForm, validateRequest } from 'upper-gate/server';

const passage = group({
  vessel: text('Vessel', required()),
  kind: choice(
    'Kind',
    Array.from({ length: 300 }, (_, i) => `kind ${i}`),
  ),
  crew: list('Crew', group({ name: text('Name', required()), kids: list('Kids', text('Kid', required())) })),
});
const LIMITS = { bytes: 5000, files: 2, fileBytes: 5000, time: 1000 };
const handle = async (request) => {
  const result = await validateRequest(passage, request, { limits: LIMITS });
  return result.ok ? Response.json(result.data) : result.response;
};

/** Servers of either kind, for as long as something is done with them. */
async function withServers(act) {
  const node = createServer(nodeHandler(handle)).listen(0, '127.0.0.1');
  await once(node, 'listening');
  const app = fastify();
  app.register(fastifyForms((forms) => forms.all('*', (request, reply) => handle(fromNode(request.raw, reply.raw)))));
  await app.listen({ port: 0, host: '127.0.0.1' });
  try {
    for (const server of [node, app.server]) await act(server.address().port);
  } finally {
    node.closeAllConnections();
    node.close();
    app.server.closeAllConnections();
    await app.close();
  }
}

const URLENCODED = 'Content-Type: application/x-www-form-urlencoded\r\n';
const MULTIPART = 'Content-Type: multipart/form-data; boundary=x\r\n';
const JSON_TYPE = 'Content-Type: application/json\r\n';
const raw = (body, headers = URLENCODED, start = 'POST / HTTP/1.1') =>
  `${start}\r\nHost: x\r\nConnection: close\r\n${headers}Content-Length: ${Buffer.byteLength(body, 'latin1')}\r\n\r\n${body}`;
const part = (value, header = 'Content-Disposition: form-data; name="vessel"') => `--x\r\n${header}\r\n\r\n${value}\r\n`;

/** Bytes as they go over the wire, and the statuses with which they may end (0: the connection ends without one). */
const BYTES = [
  [raw('vessel=Otter'), [200]],
  [raw('vessel='), [422]],
  [raw('vessel=%FF'), [400]],
  [raw('vessel=%'), [200]],
  [raw('{"vessel": "Otter"', JSON_TYPE), [400]],
  [raw('{"vessel": "\\ud800"}', JSON_TYPE), [422]],
  [raw('{"vessel": "\\u0000"}', JSON_TYPE), [422]],
  [raw('[[[[[[[[[[1]]]]]]]]]]', JSON_TYPE), [400]],
  [raw('{}', 'Content-Type: text/plain\r\n'), [415]],
  [raw('x', `${JSON_TYPE}Content-Encoding: gzip\r\n`), [415]],
  [raw(`${part('Otter')}--x--\r\n`, MULTIPART), [200]],
  [raw(part('Otter'), MULTIPART), [400]],
  [raw('--x\r\n', MULTIPART), [400]],
  [raw('', MULTIPART), [400]],
  [raw(`${part('Otter', 'Content-Disposition: form-data')}--x--\r\n`, MULTIPART), [400]],
  [raw(`${part('\xff\xfe')}--x--\r\n`, MULTIPART), [400]],
  [raw('x', 'Content-Type: multipart/form-data\r\n'), [400]],
  [raw('x', ''), [415]],
  [raw('', '', 'GET / HTTP/1.1'), [415]],
  [raw('', '', 'TRACE / HTTP/1.1'), [415, 404, 400]],
  [raw('vessel=Otter', URLENCODED, 'PUT / HTTP/1.1'), [200]],
  [raw('vessel=Otter', URLENCODED, 'POST /%00%ff/../..?__proto__[x]=1 HTTP/1.1'), [200, 400]],
  [raw('vessel=Otter', URLENCODED, 'BREW / HTTP/1.1'), [400, 0]],
  [`POST / HTTP/1.1\r\nHost: x\r\n${URLENCODED}Transfer-Encoding: chunked\r\n\r\nZZ\r\n`, [400]],
  [
    `POST / HTTP/1.1\r\nHost: x\r\nConnection: close\r\n${URLENCODED}Transfer-Encoding: chunked\r\n\r\nc\r\nvessel=Otter\r\n0\r\n\r\n`,
    [200],
  ],
  [`POST / HTTP/1.1\r\nHost: x\r\n${URLENCODED}Content-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n`, [400, 0]],
  [raw('x'.repeat(6000)), [413]],
  [raw(`${'p'.repeat(20_000)}\r\n${part('Otter')}--x--\r\n`, MULTIPART), [413]],
  [raw(`${part('Otter')}--x--\r\n${'e'.repeat(20_000)}`, MULTIPART), [413]],
  [raw(`${part('Otter', `X-Long: ${'h'.repeat(90_000)}\r\nContent-Disposition: form-data; name="vessel"`)}--x--\r\n`, MULTIPART), [413]],
  [raw(`${part('y'.repeat(6000))}--x--\r\n`, MULTIPART), [413]],
  [raw(`${part('y'.repeat(6000), 'Content-Disposition: form-data; name="p"; filename="../../a"')}--x--\r\n`, MULTIPART), [413]],
  [raw(`${part('y', 'Content-Disposition: form-data; name="p"; filename="a"').repeat(3)}--x--\r\n`, MULTIPART), [413]],
  [raw(`crew.9999999.name=x`), [400]],
  [raw(`${'a.'.repeat(50)}b=x`), [400]],
  [raw('a=&'.repeat(1500)), [400]],
];

/** Sends bytes. @returns the status of the answer, 0 without one */
const exchange = (port, bytes, after = (socket) => socket.end()) =>
  new Promise((resolve) => {
    let said = '';
    const socket = connect(port, '127.0.0.1', () => {
      socket.write(Buffer.from(bytes, 'latin1'));
      after(socket);
    });
    socket.on('data', (data) => (said += String(data)));
    socket.on('error', () => undefined);
    socket.on('close', () => resolve(Number(/^HTTP\/1\.1 (\d{3})/.exec(said)?.[1] ?? 0)));
  });

const honest = async (port) => {
  const started = performance.now();
  const { status } = await fetch(`http://127.0.0.1:${port}/`, { method: 'POST', body: new URLSearchParams({ vessel: 'Otter' }) });
  return { ok: status === 200, time: performance.now() - started };
};

export const attacks = [
  {
    name: 'requests that are broken or too large',
    async run({ holds }) {
      await withServers(async (port) => {
        for (const [bytes, statuses] of BYTES) {
          // (Closed only by the server: whoever closes first gets no answer.)
          const status = await exchange(port, bytes, (socket) => void setTimeout(() => socket.end(), 2000).unref());
          holds(statuses.includes(status), `${JSON.stringify(bytes.slice(0, 150))} ended with ${status}, not ${statuses.join(' or ')}`);
        }
        holds((await honest(port)).ok, 'an honest request afterwards');
      });
    },
  },
  {
    name: 'requests that break off at every byte',
    async run({ holds }) {
      const bytes = raw(`${part('Otter')}--x--\r\n`, MULTIPART);
      await withServers(async (port) => {
        for (let end = 1; end < bytes.length; end += 1) void exchange(port, bytes.slice(0, end), (socket) => socket.destroy());
        await sleep(200);
        for (let i = 0; i < 5; i += 1) holds((await honest(port)).ok, 'an honest request afterwards');
      });
    },
  },
  {
    name: 'requests that never end',
    async run({ holds, note }) {
      let slowest = 0;
      await withServers(async (port) => {
        const start = `POST / HTTP/1.1\r\nHost: x\r\n${URLENCODED}Content-Length: 4000\r\n\r\n`;
        const slow = Array.from({ length: 50 }, () =>
          exchange(port, start, (socket) => {
            const timer = setInterval(() => socket.writable && socket.write('a'), 50);
            socket.on('close', () => clearInterval(timer));
          }),
        );
        for (let i = 0; i < 10; i += 1) {
          const { ok, time } = await honest(port);
          holds(ok, 'an honest request meanwhile');
          slowest = Math.max(slowest, time);
          await sleep(50);
        }
        for (const status of await Promise.all(slow)) holds(status === 408 || status === 0, `a slow request ended with ${status}`);
      });
      note(`slowest honest answer ${slowest.toFixed(0)} ms`);
    },
  },
  {
    name: 'bodies that are read no further than their limits',
    async run({ holds, note }) {
      let most = 0;
      const endless = (first, more) =>
        (async function* () {
          yield Buffer.from(first);
          for (;;) {
            most += more.length;
            yield more;
          }
        })();
      const filler = Buffer.alloc(1000, 97);
      const FORMS = [
        ['application/json', '"'],
        ['application/x-www-form-urlencoded', 'a='],
        ['multipart/form-data; boundary=x', ''],
        ['multipart/form-data; boundary=x', '--x\r\n'],
        ['multipart/form-data; boundary=x', part('Otter') + '--x--\r\n'],
        ['multipart/form-data; boundary=x', '--x\r\nContent-Disposition: form-data; name="a"\r\n\r\n'],
        ['multipart/form-data; boundary=x', '--x\r\nContent-Disposition: form-data; name="a"; filename="b"\r\n\r\n'],
        ['multipart/form-data; boundary=x', '--x\r\nX-Long: '],
      ];
      for (const [type, first] of FORMS) {
        most = 0;
        const read = await readForm({ headers: { 'content-type': type }, body: endless(first, filler) }, LIMITS);
        holds(!read.ok && [400, 413].includes(read.problem.status), `${type} ${first} was read`);
        holds(most < 20_000, `${type} ${first}: ${most} bytes were read under a limit of 5,000`);
      }
      note(`at most ${most} bytes beyond the start`);
    },
  },
  {
    name: 'a few bytes that become many',
    async run({ holds, note }) {
      let largest = 0;
      let longest = 0;
      const rows = (count, name) => Array.from({ length: count }, (_, i) => name(i)).join('&');
      const BODIES = [
        ['application/x-www-form-urlencoded', rows(900, (i) => `crew.${i}.kids.999.z=`)],
        ['application/x-www-form-urlencoded', 'crew.999.z=x'],
        ['application/x-www-form-urlencoded', rows(999, (i) => `crew.${i}.name=`)],
        ['application/x-www-form-urlencoded', 'kind=x'],
        ['application/json', JSON.stringify({ crew: Array(1000).fill(null) })],
        ['application/json', JSON.stringify({ crew: Array.from({ length: 30 }, () => ({ kids: Array(30).fill(0) })) })],
        ['application/json', JSON.stringify(Object.fromEntries(Array.from({ length: 1000 }, (_, i) => [`k${i}`, i])))],
      ];
      for (const [type, body] of BODIES) {
        const started = performance.now();
        const request = { headers: { 'content-type': type }, body: [Buffer.from(body)] };
        const result = await validateRequest(passage, request, { unknown: 'refuse' });
        const answer = result.ok ? '' : await result.response.text();
        largest = Math.max(largest, answer.length);
        longest = Math.max(longest, performance.now() - started);
        holds(!result.ok && result.findings.length <= 1000, `${body.slice(0, 60)}: ${result.findings.length} findings`);
        holds(answer.length < 400_000, `${body.slice(0, 60)}: an answer of ${answer.length} bytes`);
      }
      holds(longest < 2000, `one took ${longest} ms`);
      note(`largest answer ${largest} bytes, longest ${longest.toFixed(0)} ms`);
    },
  },
];
