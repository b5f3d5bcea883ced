// The demo as a service: many clients at once, a process that is killed, a database that goes away, several processes.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { Agent, request } from 'node:http';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import { startPostgres } from '../scripts/postgres.mjs';

const MAIN = join(import.meta.dirname, '../examples/lock-passage/dist-server/server/main.js');

/** Starts a process of the demo on a free port. */
async function start(env) {
  const child = spawn(process.execPath, [MAIN], { env: { ...process.env, PORT: '0', ...env }, stdio: ['ignore', 'pipe', 'ignore'] });
  let said = '';
  for await (const text of child.stdout) {
    said += text;
    const url = /http:\S+/.exec(said)?.[0];
    if (url) return { url, child };
  }
  throw new Error('The demo did not start.');
}

async function stop(child, signal = 'SIGTERM') {
  if (child.exitCode !== null || child.signalCode !== null) return;
  child.kill(signal);
  await once(child, 'exit');
}

const freePort = async () => {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address();
  server.close();
  return port;
};

const VESSELS = { 'OT-1204': 'Otter', 'HE-2210': 'Heron', 'KF-3307': 'Kingfisher', 'TE-5120': 'Teal', 'VO-6033': 'Water Vole' };

/** A booking that is right, as a browser sends it. */
function booking(registration, otherwise = {}) {
  const form = new FormData();
  const values = {
    ...{ vessel: VESSELS[registration], registration, lengthM: '17.5', beam: '2.1', kind: 'barge', arrival: '2027-05-02', slot: '13:00' },
    ...{ 'window.from': '12:15', 'window.to': '12:45', 'crew.0.name': 'Ada Fen', 'crew.0.age': '41', 'cargo.load': 'none' },
    ...{ email: 'a@example.org', emailAgain: 'a@example.org', terms: 'on', ...otherwise },
  };
  for (const [name, value] of Object.entries(values)) form.append(name, value);
  for (const kit of ['horn', 'lights']) form.append('kit', kit);
  form.append('insurance', new File(['%PDF'], 'a.pdf', { type: 'application/pdf' }));
  return form;
}
const book = async (url, registration, otherwise, headers = {}) => {
  const answer = await fetch(`${url}/api/bookings`, { method: 'POST', body: booking(registration, otherwise), headers });
  return { status: answer.status, text: await answer.text() };
};

/** The memory of a process, in MB. */
const memoryOf = ({ pid }) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024;

export const attacks = [
  {
    name: 'the demo: 200 bookings at once, killed, started again',
    long: true,
    async run({ holds }) {
      const folder = await mkdtemp(join(tmpdir(), 'upper-gate-drill-'));
      let demo = await start({ LOCK_PASSAGE_DATA: folder });
      try {
        const answers = await Promise.all(Array.from({ length: 200 }, (_, i) => book(demo.url, Object.keys(VESSELS)[i % 5])));
        const count = (status) => answers.filter((answer) => answer.status === status).length;
        holds(count(201) === 1, `${count(201)} of 200 bookings of one slot were taken`);
        for (const { status, text } of answers) {
          holds([201, 409, 422].includes(status), `a booking was answered with ${status}`);
          holds(!/constraint|relation|pglite|stack/i.test(text), `an answer has the words of the database: ${text}`);
        }
        await stop(demo.child, 'SIGKILL');
        demo = await start({ LOCK_PASSAGE_DATA: folder });
        const again = await Promise.all(Object.keys(VESSELS).map((registration) => book(demo.url, registration)));
        holds(
          again.every(({ status }) => status !== 201),
          'a booking was lost as the process was killed',
        );
      } finally {
        await stop(demo.child, 'SIGKILL');
        await rm(folder, { recursive: true, force: true });
      }
    },
  },
  {
    name: 'the demo: stopped while connections are kept alive, and a booking is under way',
    long: true,
    async run({ holds, note }) {
      const { url, child } = await start({ LOCK_PASSAGE_DATA: 'memory://' });
      const agent = new Agent({ keepAlive: true });
      await Promise.all(
        Array.from({ length: 10 }, async () => {
          const asked = request(url, { agent });
          asked.on('error', () => undefined);
          asked.end();
          const [answer] = await once(asked, 'response');
          answer.resume();
          await once(answer, 'end');
        }),
      );
      const half = connect(Number(new URL(url).port), '127.0.0.1', () =>
        half.write('POST /api/bookings HTTP/1.1\r\nHost: x\r\nContent-Length: 99\r\n\r\n'),
      );
      half.on('error', () => undefined);
      const underWay = book(url, 'OT-1204', {}, { 'x-demo-weather': 'slow' });
      await sleep(300);
      const started = performance.now();
      await stop(child);
      const { status } = await underWay.catch(() => ({ status: 'cut' }));
      holds(status === 201, `the booking under way was answered with ${status}`);
      const time = performance.now() - started;
      agent.destroy();
      holds(child.exitCode === 0, `it ended with ${child.exitCode ?? child.signalCode}`);
      holds(time < 11_000, `it took ${time} ms`);
      note(`ended after ${(time / 1000).toFixed(1)} s`);
    },
  },
  {
    name: 'the demo: two processes on one PostgreSQL, which goes away and comes back',
    long: true,
    async run({ holds }) {
      const postgres = startPostgres(await freePort());
      const demos = await Promise.all([1, 2].map(() => start({ DATABASE_URL: postgres.url })));
      try {
        const answers = await Promise.all(Array.from({ length: 100 }, (_, i) => book(demos[i % 2].url, Object.keys(VESSELS)[i % 5])));
        const taken = answers.filter(({ status }) => status === 201).length;
        holds(taken === 1, `${taken} of 100 bookings of one slot were taken`);
        for (const { status } of answers) holds([201, 409, 422].includes(status), `a booking was answered with ${status}`);
        // A register that does not answer: somebody holds its table.
        const holder = new pg.Client(postgres.url);
        holder.on('error', () => undefined);
        await holder.connect();
        await holder.query('begin; lock table vessels in access exclusive mode');
        const slow = await book(demos[0].url, 'OT-1204', { slot: '16:00' });
        holds(slow.status === 503, `with a register that does not answer a booking was answered with ${slow.status}`);
        await holder.query('rollback');
        await holder.end();
        postgres.stop();
        for (const { url } of demos)
          for (const headers of [{}, { accept: 'text/html' }]) {
            const { status, text } = await book(url, 'OT-1204', { slot: '16:00' }, headers);
            holds(status === 503, `without a database a booking was answered with ${status}`);
            holds(!/ECONN|postgres|terminating|stack/i.test(text), `an answer has the words of the database: ${text.slice(0, 200)}`);
          }
        postgres.start();
        const back = await Promise.all(demos.map(({ url }, i) => book(url, ['OT-1204', 'VO-6033'][i], { slot: ['07:00', '16:00'][i] })));
        holds(
          back.every(({ status }) => [201, 409, 422].includes(status)),
          `afterwards ${back.map(({ status }) => status).join()}`,
        );
        holds(
          back.some(({ status }) => status === 201),
          'nothing can be booked any more',
        );
      } finally {
        await Promise.all(demos.map(({ child }) => stop(child, 'SIGKILL')));
        postgres.remove();
      }
    },
  },
  {
    name: 'the demo: a minute of hostile clients',
    long: true,
    async run({ holds, note }) {
      const { url, child } = await start({ LOCK_PASSAGE_DATA: 'memory://' });
      const port = Number(new URL(url).port);
      const end = Date.now() + 60_000;
      const rows = Array.from({ length: 600 }, (_, i) => `crew.${i}.name=`).join('&');
      const send = (bytes) =>
        new Promise((resolve) => {
          const socket = connect(port, '127.0.0.1', () => socket.write(bytes));
          socket
            .on('error', () => undefined)
            .on('close', resolve)
            .resume();
          setTimeout(() => socket.destroy(), 500);
        });
      const post = (body, headers) =>
        fetch(`${url}/api/bookings`, { method: 'POST', body, headers }).then(
          (answer) => answer.arrayBuffer(),
          () => undefined,
        );
      const CLIENTS = [
        () => post(rows, { 'content-type': 'application/x-www-form-urlencoded', accept: 'text/html' }),
        () =>
          post(`remarks=${'</textarea><script>'.repeat(2000)}`, {
            'content-type': 'application/x-www-form-urlencoded',
            accept: 'text/html',
          }),
        () => post('x'.repeat(2_000_000), { 'content-type': 'application/json' }),
        () => post(JSON.stringify({ crew: Array(1000).fill({ name: 'x'.repeat(40) }) }), { 'content-type': 'application/json' }),
        () => post(booking('OT-1204', { remarks: '\u0301'.repeat(30_000) })),
        () =>
          send(
            `POST /api/bookings HTTP/1.1\r\nHost: x\r\nContent-Type: multipart/form-data; boundary=x\r\nContent-Length: 99999999\r\n\r\n${'p'.repeat(60_000)}`,
          ),
        () => send('POST /api/bookings HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\n\r\nfff\r\n'),
        () =>
          fetch(`${url}/api/register/${encodeURIComponent("'; drop table vessels; --\0")}`).then(
            (answer) => answer.arrayBuffer(),
            () => undefined,
          ),
      ];
      const before = memoryOf(child);
      let most = 0;
      let slowest = 0;
      const hostile = CLIENTS.map(async (attack) => {
        while (Date.now() < end) await attack();
      });
      while (Date.now() < end) {
        const started = performance.now();
        const answer = await fetch(`${url}/api/register/OT-1204`);
        holds(answer.status === 200 && (await answer.json()).known, 'an honest question meanwhile');
        slowest = Math.max(slowest, performance.now() - started);
        most = Math.max(most, memoryOf(child));
        await sleep(100);
      }
      await Promise.all(hostile);
      holds(slowest < 3000, `an honest answer took ${slowest} ms`);
      holds(most < 800, `the process grew to ${most} MB`);
      note(`memory ${before.toFixed(0)} MB, at most ${most.toFixed(0)} MB; slowest honest answer ${slowest.toFixed(0)} ms`);
      await stop(child);
    },
  },
];
