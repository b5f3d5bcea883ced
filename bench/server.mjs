// P16: requests a second of a JSON post (4 fields, 2 rows), read and validated under Node's http by the shipped adapter, against a
// bare JSON.parse server. Each server is a separate process; this one sends over kept-alive connections.
import { fork } from 'node:child_process';
import { once } from 'node:events';
import { Agent, createServer, request } from 'node:http';
import { email, group, list, number, range, required, text } from 'upper-gate';
import { nodeHandler, validateRequest } from 'upper-gate/server';
import { note } from './rounds.mjs';

const passage = group({
  vessel: text('Vessel', required()),
  email: text('E-mail', required(), email()),
  beam: number('Beam', required(), range({ max: 5.2 })),
  remarks: text('Remarks'),
  crew: list('Crew', group({ name: text('Name', required()), age: number('Age') })),
});
const BODY = JSON.stringify({
  vessel: 'Otter',
  email: 'a@example.org',
  beam: 2.1,
  remarks: '',
  crew: [
    { name: 'Ada', age: 41 },
    { name: 'Bo', age: 12 },
  ],
});

const SERVERS = {
  ours: nodeHandler(async (incoming) => {
    const result = await validateRequest(passage, incoming);
    return { status: result.ok ? 200 : result.problem.status, body: result.ok ? 'ok' : 'no' };
  }),
  bare: (incoming, outgoing) => {
    const chunks = [];
    incoming.on('data', (chunk) => chunks.push(chunk));
    incoming.on('end', () => outgoing.end(JSON.parse(Buffer.concat(chunks).toString()).vessel === 'Otter' ? 'ok' : 'no'));
  },
};

const [, , role] = process.argv;
if (role) {
  const server = createServer(SERVERS[role]).listen(0, '127.0.0.1', () => process.send(server.address().port));
} else {
  const CLIENTS = 16;
  const SECONDS = 1;
  const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });
  const headers = { 'content-type': 'application/json', 'content-length': Buffer.byteLength(BODY) };
  const ask = (port) =>
    new Promise((resolve, reject) => {
      const asked = request({ port, host: '127.0.0.1', method: 'POST', agent, headers }, (answer) => {
        if (answer.statusCode !== 200) reject(new Error(`The status is ${answer.statusCode}.`));
        answer.resume().on('end', resolve);
      });
      asked.on('error', reject).end(BODY);
    });
  /** Requests a second. */
  const rateOf = async (port) => {
    const end = performance.now() + SECONDS * 1000;
    let count = 0;
    await Promise.all(
      Array.from({ length: CLIENTS }, async () => {
        for (; performance.now() < end; count += 1) await ask(port);
      }),
    );
    return count / SECONDS;
  };
  const children = Object.keys(SERVERS).map((name) => fork(new URL(import.meta.url), [name], { execArgv: process.execArgv }));
  const ports = await Promise.all(children.map(async (child) => (await once(child, 'message'))[0]));
  const rates = [[], []];
  for (const port of ports) await rateOf(port);
  for (let round = 0; round < 7; round += 1) for (const which of round % 2 ? [1, 0] : [0, 1]) rates[which].push(await rateOf(ports[which]));
  const [ours, bare] = rates.map((all) => all.sort((a, b) => a - b)[3]);
  const ratio = ours / bare;
  // The other way round than the others: how long a request takes.
  note({ id: 'P16', what: 'a request read and validated, against JSON.parse', ratio: 1 / ratio, budget: 1 / 0.65 });
  console.log(
    `P16  requests read and validated by nodeHandler, against a bare JSON.parse server: ${ours.toFixed(0)} and ${bare.toFixed(0)} a second, ${ratio.toFixed(2)}x  ${ratio >= 0.65 ? 'within' : 'OVER'} 0.65x`,
  );
  for (const child of children) child.kill();
  agent.destroy();
}
