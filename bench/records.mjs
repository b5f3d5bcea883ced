// P13: a million records of NDJSON by the command, against a bare JSON.parse loop over the same file; and the peak of memory.
import { spawnSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { finished } from 'node:stream/promises';

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

/** The seconds that a program takes, and what it says on standard error. */
function run(...args) {
  const start = process.hrtime.bigint();
  const { stderr } = spawnSync(process.execPath, args, { stdio: ['ignore', 'ignore', 'pipe'], encoding: 'utf8' });
  return { seconds: Number(process.hrtime.bigint() - start) / 1e9, stderr };
}
const command = new URL('../packages/cli/bin/upper-gate.js', import.meta.url).pathname;
const peak = join(folder, 'peak.mjs');
// Prints the peak of its own memory at the end.
writeFileSync(peak, `process.on('exit', () => process.stderr.write(String(process.resourceUsage().maxRSS / 1024)));`);
const median = (values) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];
const ours = [];
const bare = [];
let memory = 0;
for (let round = 0; round < 3; round += 1) {
  const { seconds, stderr } = run('--import', peak, command, 'check', schema, data);
  memory = Math.max(memory, Number.parseFloat(stderr));
  ours.push(seconds);
  bare.push(run(loop).seconds);
}
rmSync(folder, { recursive: true });
const ratio = median(ours) / median(bare);
console.log(
  `P13  ${COUNT} records of NDJSON: ${median(ours).toFixed(2)} s, JSON.parse alone ${median(bare).toFixed(2)} s: ${ratio.toFixed(2)}x (wanted: at most 2.6x); peak ${memory.toFixed(0)} MB (under 200)`,
);
