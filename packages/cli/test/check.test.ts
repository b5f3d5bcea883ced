import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';

const root = join(__dirname, '../../..');
const example = join(root, 'examples/lock-passage');
const command = join(root, 'packages/cli/bin/upper-gate.js');
const scratch = mkdtempSync(join(tmpdir(), 'upper-gate-'));

/** Writes a file among the throw-away ones. */
function file(name: string, text: string): string {
  const path = join(scratch, name);
  writeFileSync(path, text);
  return path;
}

const run = (...args: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile(process.execPath, [command, ...args], { cwd: example }, (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }));
  });

const schema = 'data/schema.ts';
const library = JSON.stringify(join(root, 'packages/upper-gate/dist/index.js'));

test('findings: a line each, a summary, exit code 1', async () => {
  const { code, out } = await run('check', schema, 'data/bookings.json');
  expect(out).toContain('data/bookings.json#/1/vessel: error: Vessel name needs at least 2 characters [tooShort]\n');
  expect(out).toContain('data/bookings.json#/2/crew: error: A canoe takes at most 3 [customError]\n');
  expect(out).toMatch(/^3 records checked, 1 without errors; 16 errors, 2 notices\.$/m);
  expect(code).toBe(1);
});

test('a report for programs', async () => {
  const { code, out } = await run('check', schema, 'data/bookings.json', '--format', 'json');
  const report = JSON.parse(out) as { records: number; passed: number; findings: object[] };
  expect(report).toMatchObject({ records: 3, passed: 1 });
  expect(report.findings).toContainEqual(
    expect.objectContaining({
      file: 'data/bookings.json',
      pointer: '/1/beam',
      path: 'beam',
      code: 'rangeOverflow',
      params: { min: 0.5, max: 5.2 },
    }),
  );
  expect(code).toBe(1);
});

test('nothing found: exit code 0; one record needs no list; a byte order mark is no data', async () => {
  const module = file('one.mjs', `import { group, text, required } from ${library}; export const a = group({ name: text('Name', required()) }); export default a;`);
  const data = file('one.json', '\uFEFF{"name": "Otter"}');
  expect(await run('check', module, data)).toEqual({ code: 0, out: '1 record checked, 1 without errors; 0 errors.\n', err: '' });
});

const two = () => file('two.mjs', `import { group, text } from ${library}; export const a = group({ n: text('N') }); export const b = group({ m: text('M') });`);

test.each<[string, () => string[], RegExp]>([
  ['no such data', () => ['check', schema, 'nope.json'], /^upper-gate: No data at nope\.json: check the path\.\n$/],
  ['no such schema', () => ['check', 'nope.ts', 'data/bookings.json'], /No schema at nope\.ts/],
  ['a folder for a file', () => ['check', schema, 'data'], /^upper-gate: data is not a file/],
  ['broken JSON', () => ['check', schema, file('broken.json', '{"a": 1,}')], /broken\.json is not JSON: .+\.\n$/],
  ['an empty file', () => ['check', schema, file('empty.json', ' \n')], /empty\.json is empty/],
  ['a module without a schema', () => ['check', 'src/client.ts', 'data/bookings.json'], /has no schema\. It exports none/],
  ['a module that throws', () => ['check', file('throws.mjs', 'throw new Error("oops\\nmore")'), 'data/bookings.json'], /throws\.mjs cannot be loaded: oops\n$/],
  ['several schemas', () => ['check', two(), 'data/bookings.json'], /several schemas: say which with --export\. It exports a, b\.\n$/],
  ['no such export', () => ['check', two(), 'data/bookings.json', '--export', 'c'], /no schema "c"\. It exports a, b\./],
  ['a format that is none', () => ['check', schema, 'data/bookings.json', '--format', 'xml'], /Allowed choices are text, json/],
  ['an unknown command', () => ['chek'], /unknown command 'chek'/],
])('told in plain words, exit code 2: %s', async (_, args, message) => {
  const { code, out, err } = await run(...args());
  expect(err).toMatch(message);
  expect([code, out]).toEqual([2, '']);
});
