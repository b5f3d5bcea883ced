// P13: a million records of NDJSON by the command, in one thread, in two, and in two slices at once, against a bare JSON.parse loop
// over the same file; and the peak of memory.
import { spawn } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { finished } from 'node:stream/promises';
import { note } from './rounds.mjs';

const COUNT = 1_000_000;
const folder = mkdtempSync(join(tmpdir(), 'upper-gate-bench-'));
const data = join(folder, 'bookings.ndjson');
const out = createWriteStream(data);
for (let i = 0; i < COUNT; i += 1) {
  const record = {
    vessel: i % 10 === 0 ? 'O' : `Otter ${i}`,
    registration: `OT-${1000 + (i % 9000)}`,
    lengthM: 17.5,
    beam: i % 100 === 0 ? 7 : 2.1,
    kind: 'barge',
    arrival: '2027-05-02',
  };
  if (!out.write(`${JSON.stringify(record)}\n`)) await new Promise((resolve) => out.once('drain', resolve));
}
out.end();
await finished(out);
const library = JSON.stringify(new URL('../packages/upper-gate/dist/index.js', import.meta.url).pathname);
const schema = join(folder, 'schema.mjs');
writeFileSync(
  schema,
  `import { group, text, number, choice, date, required, length, range, pattern } from ${library};
export default group({ vessel: text('Vessel', required(), length({ min: 2, max: 40 })), registration: text('Registration', required(), pattern(/^[A-Z]{2}-\\d{4}$/)),
  lengthM: number('Length', required(), range({ min: 2, max: 30 })), beam: number('Beam', required(), range({ min: 0.5, max: 5.2 })), kind: choice('Kind', ['barge', 'canoe'], required()), arrival: date('Arrival', required()) });`,
);
const loop = join(folder, 'loop.mjs');
writeFileSync(
  loop,
  `import { createReadStream } from 'node:fs';
let rest = '', count = 0;
for await (const chunk of createReadStream(${JSON.stringify(data)}, { encoding: 'utf8', highWaterMark: 262144 })) {
  const lines = (rest + chunk).split('\\n');
  rest = lines.pop();
  for (const line of lines) if (JSON.parse(line)) count += 1;
}
if (count !== ${COUNT}) throw new Error(String(count));`,
);

/** Runs programs at the same time. @returns the seconds until all have ended, and the most memory that one took, in MB */
async function run(...programs) {
  const start = process.hrtime.bigint();
  const peaks = await Promise.all(
    programs.map(async (args) => {
      const child = spawn(process.execPath, ['--import', peak, ...args], { stdio: ['ignore', 'ignore', 'pipe'] });
      let told = '';
      child.stderr.setEncoding('utf8').on('data', (text) => (told += text));
      await new Promise((resolve) => child.once('close', resolve));
      return Number(/\[peak (.*)\]/.exec(told)[1]);
    }),
  );
  return { seconds: Number(process.hrtime.bigint() - start) / 1e9, memory: Math.max(...peaks) };
}
const peak = join(folder, 'peak.mjs');
// Prints its peak memory at the end.
writeFileSync(
  peak,
  `import { isMainThread } from 'node:worker_threads';
if (isMainThread) process.on('exit', () => process.stderr.write('[peak ' + process.resourceUsage().maxRSS / 1024 + ']'));`,
);
const command = [new URL('../packages/cli/bin/upper-gate.js', import.meta.url).pathname, 'check', schema, data];
const WAYS = {
  'two threads': [command],
  'one thread': [[...command, '--workers', '1']],
  'two slices at once': ['1/2', '2/2'].map((slice) => [...command, '--workers', '1', '--slice', slice, '--format', 'ndjson']),
};
const median = (values) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];
const bare = [];
const runs = Object.keys(WAYS).map((way) => ({ way, seconds: [], memory: 0 }));
for (let round = 0; round < 3; round += 1) {
  bare.push((await run([loop])).seconds);
  for (const each of runs) {
    const { seconds, memory } = await run(...WAYS[each.way]);
    each.seconds.push(seconds);
    each.memory = Math.max(each.memory, memory);
  }
}
rmSync(folder, { recursive: true });
const figures = runs.map(
  ({ way, seconds, memory }) =>
    `${way} ${median(seconds).toFixed(2)} s, ${(median(seconds) / median(bare)).toFixed(2)}x, ${memory.toFixed(0)} MB`,
);
note({
  id: 'P13',
  what: '1,000,000 records by the command, against JSON.parse',
  ratio: median(runs[0].seconds) / median(bare),
  budget: 2.3,
});
console.log(
  `P13  ${COUNT} records of NDJSON, JSON.parse alone ${median(bare).toFixed(2)} s: ${figures.join('; ')} (wanted: at most 2.3x, under 200 MB)`,
);
