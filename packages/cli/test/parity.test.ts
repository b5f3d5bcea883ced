// One declaration, the same findings everywhere: the live form, whole values, JSON Schema, the server, the command line.

import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import fc from 'fast-check';

const root = join(__dirname, '../../..');
const dist = join(root, 'packages/upper-gate/dist');
const folder = mkdtempSync(join(tmpdir(), 'upper-gate-parity-'));

const declared = `
import { appliesWhen, boolean, check, choice, choices, choicesFrom, context, date, defineKind, defineRule, depending, email, fieldRules, group, groupRules, integer, length, list, number, pattern, range, required, requiredWhen, sameAs, text, unreadable, variant, noDuplicates } from ${JSON.stringify(join(dist, 'index.js'))};
const wide = (boat) => boat.beam > 4, wantsCall = (boat) => boat.ok, differ = (boat) => boat.vessel !== boat.phone;
const isAdult = (boat, one) => boat.ok && one.age !== undefined, mostTolls = (boat) => ({ max: boat.kind === 'barge' ? 900 : 300 });
const quaysOf = (boat) => (boat.kind === 'barge' ? ['East', 'West'] : ['West']), isYoung = (age, boat) => age <= oldest.get() || boat.ok;
export const checks = { wide, wantsCall, differ, isAdult, mostTolls, quaysOf, isYoung };
export const oldest = context('oldest');
export const given = { context: [oldest.of(10)] };
const startsWith = defineRule({ name: 'startsWith', params: { prefix: 'text' }, test: (value, { prefix }) => value.startsWith(prefix), texts: { en: '{label}: {prefix}' } });
const money = defineKind({ name: 'money', json: 'number', type: 'number', texts: { en: 'An amount for {label}' }, writeLimit: (cents) => (cents / 100).toFixed(2),
  read: (raw) => (raw === '' || raw === undefined ? undefined : /^\\d+\\.?\\d*$/.test(raw) ? Math.round(raw * 100) : unreadable()) });
export const own = { rules: [startsWith], kinds: [money] };
export default group({ vessel: text('Vessel', required(), length({ min: 2, max: 6 })),
  email: text('E-mail', email()),
  again: text('Again'),
  beam: number('Beam', required(), range({ min: 0.5, max: 5.2, step: 0.1 })),
  kind: choice('Kind', ['barge', 'canoe'], required()),
  kit: choices('Kit', ['horn', 'lights'], length({ min: 1 })),
  day: date('Day', range({ min: '2027-03-01' })),
  ok: boolean('Fine'),
  phone: text('Phone', pattern(/^\\d+$/)),
  tug: text('Tug', required()),
  crew: list('Crew', group({ name: text('Name', required()), age: integer('Age'), permit: text('Permit', required(), startsWith({ prefix: 'P' })) }), noDuplicates({ by: 'name' })),
  toll: money('Toll'),
  quay: text('Quay'),
  cargo: variant('Cargo', 'load', { none: group({}), goods: group({ tonnes: number('Tonnes', required()) }) }),
})
  .with(appliesWhen({ tug: wide, crew: { permit: isAdult } }))
  .with(fieldRules({ again: sameAs('email'), phone: requiredWhen(wantsCall), toll: range(depending(mostTolls)), quay: choicesFrom(quaysOf), crew: { age: check(isYoung, 'Too old') } }))
  .with(groupRules(check(differ, 'Vessel and phone are the same')));
`;

/** Runs a program of ES modules on values. The tests themselves run as CommonJS. */
function judgeInProcess(values: readonly unknown[]): Promise<{ gate: string[][]; whole: string[][]; again: string[][] }> {
  const program = join(folder, 'judge.mjs');
  writeFileSync(
    program,
    `import { readFileSync } from 'node:fs';
import { createGate, validate } from ${JSON.stringify(join(dist, 'index.js'))};
import { fromJsonSchema, toJsonSchema } from ${JSON.stringify(join(dist, 'json-schema/index.js'))};
import schema, { checks, given, own } from './schema.mjs';
const show = (findings) => findings.map(({ path, code, message }) => path + ' ' + code + ' ' + message);
const values = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const gate = [];
for (const value of values) {
  const live = createGate(schema, given);
  live.set(value);
  await live.submit();
  gate.push(show(live.findings));
}
const again = fromJsonSchema(JSON.parse(JSON.stringify(toJsonSchema(schema))), { checks, ...own });
const judged = (by) => values.map((value) => show(validate(by, value, given).findings));
console.log(JSON.stringify({ gate, whole: judged(schema), again: judged(again) }));`,
  );
  const data = join(folder, 'values.json');
  writeFileSync(data, JSON.stringify(values));
  return new Promise((resolve, reject) => {
    execFile(process.execPath, [program, data], { maxBuffer: 1e8 }, (error, out) =>
      error ? reject(error) : resolve(JSON.parse(out) as { gate: string[][]; whole: string[][]; again: string[][] }),
    );
  });
}

const text = fc.oneof(fc.constantFrom('', ' ', 'a', 'Otter', 'too long', '12', 'a@b.c'), fc.string({ maxLength: 4 }));
const numeric = fc.constantFrom('', '0', '0.55', '2.1', '4.5', '9', 'x', '1e1');
const row = fc.record({ name: fc.constantFrom('', 'Ada', 'Bo'), age: numeric, permit: fc.constantFrom('', 'P1', 'Q1') });
const values = fc.record({
  vessel: text,
  email: text,
  again: text,
  beam: numeric,
  kind: fc.constantFrom('', 'barge', 'raft'),
  kit: fc.subarray(['horn', 'lights', 'parrot']),
  day: fc.constantFrom('', '2027-02-30', '2027-01-01', '2027-05-01'),
  ok: fc.boolean(),
  phone: text,
  tug: text,
  crew: fc.array(row, { maxLength: 3 }),
  toll: numeric,
  quay: fc.constantFrom('', 'East', 'West'),
  cargo: fc.oneof(fc.record({ load: fc.constantFrom('', 'none', 'lava') }), fc.record({ load: fc.constant('goods'), tonnes: numeric })),
});

/** Values as a form sends them: what is not ticked or not chosen is not there. */
function formOf(value: unknown, path = '', form = new URLSearchParams()): URLSearchParams {
  if (typeof value === 'object' && value !== null) for (const [key, inner] of Object.entries(value)) formOf(inner, path === '' ? key : `${path}.${key}`, form);
  else if (value === true) form.append(path, 'on');
  else if (value !== false) form.append(path, String(value));
  return form;
}

test('the live form, whole values, a schema written and read again, the server (JSON and form, over HTTP) and the command line agree on generated values', async () => {
  writeFileSync(join(folder, 'schema.mjs'), declared);
  const sample = fc.sample(values, { numRuns: 150, seed: 7 });
  const { gate, whole, again } = await judgeInProcess(sample);
  expect(gate).toEqual(whole);
  expect(again).toEqual(whole);
  // Many different things are wrong: the comparison means something.
  expect(new Set(whole.flat().map((line) => line.split(' ')[1])).size).toBeGreaterThanOrEqual(9);

  const [records, facts] = [join(folder, 'values.ndjson'), join(folder, 'facts.json')];
  writeFileSync(facts, '{"oldest": 10}');
  writeFileSync(records, sample.map((value) => JSON.stringify(value)).join('\n'));
  const told = await new Promise<string>((resolve) => {
    execFile(
      process.execPath,
      [join(root, 'packages/cli/bin/upper-gate.js'), 'check', join(folder, 'schema.mjs'), records, '--context', facts, '--format', 'ndjson', '--source', 'form'],
      { maxBuffer: 1e8 },
      (_, out) => resolve(out),
    );
  });
  const byLine = sample.map((): string[] => []);
  for (const line of told.trim().split('\n')) {
    const { line: number, path, code, message } = JSON.parse(line) as { line: number; path: string; code: string; message: string };
    byLine[number - 1]!.push(`${path} ${code} ${message}`);
  }
  expect(byLine).toEqual(whole);

  const program = join(folder, 'serve.mjs');
  writeFileSync(
    program,
    `import { createServer } from 'node:http';
import { Readable } from 'node:stream';
import { validateRequest } from ${JSON.stringify(join(dist, 'server/index.js'))};
import schema, { given } from './schema.mjs';
createServer(async (incoming, outgoing) => {
  const request = new Request('http://localhost/', { method: 'POST', headers: incoming.headers, body: Readable.toWeb(incoming), duplex: 'half' });
  const result = await validateRequest(schema, request, { ...given, source: 'form' });
  outgoing.writeHead(result.ok ? 200 : result.response.status).end(result.ok ? '{"errors": []}' : await result.response.text());
}).listen(0, function () { console.log(this.address().port); });`,
  );
  const server = execFile(process.execPath, [program]);
  const port = await new Promise<string>((resolve) => server.stdout!.once('data', (line: Buffer) => resolve(String(line).trim())));
  const posted = async (body: string | URLSearchParams): Promise<string[]> => {
    const response = await fetch(`http://localhost:${port}/`, { method: 'POST', body, ...(typeof body === 'string' && { headers: { 'content-type': 'application/json' } }) });
    const { errors } = (await response.json()) as { errors: { pointer: string; code: string; detail: string }[] };
    return errors.map(({ pointer, code, detail }) => `${pointer.slice(1).replaceAll('/', '.')} ${code} ${detail}`);
  };
  try {
    for (const [i, value] of sample.entries()) {
      expect({ i, asJson: await posted(JSON.stringify(value)) }).toEqual({ i, asJson: whole[i] });
      expect({ i, asForm: await posted(formOf(value)) }).toEqual({ i, asForm: whole[i] });
    }
  } finally {
    server.kill();
  }
});
