import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { beforeAll, expect, test } from '@jest/globals';
import ts from 'typescript';
import { blocksOf, moduleOf, pages, root, textOf } from './examples.ts';
import { referenceModules } from './reference.ts';

// Within the workspace, so that the packages are found.
const folder = join(root, 'node_modules/.docs');
const fileOf = (page: string): string => join(folder, page.replace(/\W/g, '-'));

beforeAll(() => {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  for (const page of pages) {
    // Examples marked "page" need a browser: they are compiled, and not run.
    // (A recipe is written in several ways, each by itself.)
    const isRecipe = page.startsWith('docs/recipes/');
    writeFileSync(`${fileOf(page)}.tsx`, moduleOf(page, isRecipe ? /^```ts(?: page)?/ : /^```tsx?(?: page)?/));
    if (isRecipe) writeFileSync(`${fileOf(page)}-react.tsx`, moduleOf(page, /^```tsx page/));
    const run = moduleOf(page, /^```ts/);
    writeFileSync(`${fileOf(page)}.mjs`, ts.transpileModule(run, { compilerOptions: { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 } }).outputText);
  }
});

test('the examples of the documentation and of the reference compile', () => {
  for (const [name, code] of Object.entries(referenceModules())) writeFileSync(join(folder, `reference-${name}.tsx`), code);
  const options = {
    strict: true,
    noEmit: true,
    module: 'NodeNext',
    target: 'ES2022',
    lib: ['ES2023', 'DOM', 'DOM.Iterable'],
    types: ['node'],
    jsx: 'react-jsx',
    skipLibCheck: true,
  };
  writeFileSync(join(folder, 'tsconfig.json'), JSON.stringify({ compilerOptions: options, include: ['*.tsx'] }));
  writeFileSync(join(folder, 'package.json'), '{"type": "module"}');
  let told = '';
  try {
    execFileSync(process.execPath, [join(root, 'node_modules/typescript-native/bin/tsc'), '-p', folder], { encoding: 'utf8' });
  } catch (error) {
    told = (error as { stdout: string }).stdout;
  }
  expect(told).toBe('');
});

test('what the page on kits shows is in the example', () => {
  const squeeze = (code: string): string => code.replace(/\s+/g, ' ').replace('<V,>', '<V>').trim();
  const shown = [...textOf('docs/kits.md').matchAll(/^```\w+ (\S+\.\w+)\n([\s\S]*?)^```/gm)].map(([, file, code]) => ({ file: file!, code: squeeze(code!) }));
  expect(shown.length).toBeGreaterThan(15);
  expect(shown.filter(({ file, code }) => !squeeze(readFileSync(join(root, 'examples/component-kits', file), 'utf8')).includes(code))).toEqual([]);
});

test('the sizes in the README are those that were recorded', () => {
  const sizes = JSON.parse(readFileSync(join(root, 'bench/sizes.json'), 'utf8')) as Record<string, number>;
  const told = readFileSync(join(root, 'README.md'), 'utf8').match(/(?<=\| )\+?\d+\.\d(, \+?\d+\.\d)*(?= +\|)/g);
  const plus = (...names: string[]) => names.map((name) => `+${sizes[name]!.toFixed(1)}`).join(', ');
  const whole = ['S1', 'S2a', 'S2', 'S2b'].map((name) => sizes[name]!.toFixed(1));
  const sized = (...names: string[]) => names.map((name) => sizes[name]!.toFixed(1)).join(', ');
  expect(told).toEqual([
    ...whole,
    sized('S3', 'S3v', 'S3sv', 'S3so', 'S3ng'),
    sized('S3e'),
    plus('appliesWhen', 'fieldRules', 'groupRules'),
    plus('draft'),
    plus('changes', 'saving'),
  ]);
});

const running = pages.filter((page) => blocksOf(page, /^```ts/).length > 0);
test.each(running)('the examples of %s print what they say', (page) => {
  const said = [...textOf(page).matchAll(/^\/\/ → (.*)$/gm)].map(([, line]) => line!);
  const printed = execFileSync(process.execPath, [`${fileOf(page)}.mjs`], { encoding: 'utf8' })
    .split('\n')
    .slice(0, -1);
  expect(printed).toEqual(said);
});

test('what the documentation sends as JSON says so: its own server refuses anything else', () => {
  const calls = pages.flatMap((page) => [...textOf(page).matchAll(/fetch\([^;]*?body:\s+JSON\.stringify/g)].map(([call]) => call));
  expect(calls.length).toBeGreaterThan(3);
  expect(calls.filter((call) => !/content-type|\bheaders,/.test(call))).toEqual([]);
});

test('every warning and error for developers has its place in the troubleshooting, and every place its text', () => {
  const source = join(root, 'packages/upper-gate/src');
  const named = (text: string, pattern: RegExp) => [...new Set([...text.matchAll(pattern)].map(([, name]) => name!))].sort();
  const code = readdirSync(source, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts') && !file.endsWith('explain.ts'))
    .map((file) => readFileSync(join(source, file), 'utf8'))
    .join('');
  const declared = named(readFileSync(join(source, 'development/explain.ts'), 'utf8'), /^ {2}\| '([\w-]+)'/gm);
  expect(named(readFileSync(join(root, 'docs/troubleshooting.md'), 'utf8'), /^### ([\w-]+)$/gm)).toEqual(declared);
  expect([...named(code, /\bexplain\(\s*'([\w-]+)'/g), 'wrong-argument'].sort()).toEqual(declared);
});

test('every attack of the drill is in the table of the docs', () => {
  const drill = join(root, 'drill');
  const names = readdirSync(drill).flatMap((file) => [...readFileSync(join(drill, file), 'utf8').matchAll(/^ {4}name: '(.*)'/gm)].map(([, name]) => name!));
  const rows = [...readFileSync(join(root, 'docs/reliability.md'), 'utf8').matchAll(/^\| (.*?) +\| \d+ +\| \d+/gm)].map(([, name]) => name!);
  expect(rows.sort()).toEqual(names.sort());
});

test('every command of the command line page runs', () => {
  const place = join(folder, 'command');
  mkdirSync(place, { recursive: true });
  const page = readFileSync(join(root, 'docs/command-line.md'), 'utf8');
  const demo = join(root, 'examples/lock-passage/data');
  const bookings = JSON.parse(readFileSync(join(demo, 'bookings.json'), 'utf8')) as object[];
  const lines = bookings.map((record) => `${JSON.stringify(record)}\n`).join('');
  const files: Record<string, string | Buffer> = {
    'passage.ts': `export { passage } from ${JSON.stringify(join(demo, 'schema.ts'))};`,
    'openapi.yaml': readFileSync(join(demo, 'waterways.yaml')),
    'bodies.ndjson': '{"crew": 2}\n',
    'bookings.json': JSON.stringify(bookings),
    'bookings.ndjson': lines,
    'bookings-1.ndjson.gz': gzipSync(lines),
    'bookings.csv': 'vessel,crew.0.name\nOtter,Ada\n',
    'export.csv': 'Boat;Beam (m);Remarks of the office\nOtter;2,1;none\n',
    'columns.json': /^```json\n(.*?)^```/ms.exec(page)![1]!,
    'hulls.ndjson': '{"draught": 2}\n{"draught": 3}\n',
    ...Object.fromEntries([...page.matchAll(/^```\w+ file=(\S+)\n(.*?)^```/gms)].map(([, name, content]) => [name!, content!])),
  };
  for (const [name, content] of Object.entries(files)) writeFileSync(join(place, name), content);
  const env = { ...process.env, PATH: `${join(root, 'node_modules/.bin')}:${process.env['PATH']}` };
  const run = (command: string) => spawnSync('bash', ['-c', command], { cwd: place, env, encoding: 'utf8' });
  const commands = [...page.matchAll(/^```sh\n(.*?)^```/gms)].flatMap(([, block]) => block!.replaceAll('\\\n', '').trim().split('\n'));
  expect(commands.length).toBeGreaterThan(10);
  for (const command of commands) {
    const { status, stderr } = run(command);
    expect({ command, isFine: status === 0 || status === 1, wrong: stderr.match(/^upper-gate: .*/gm) }).toEqual({ command, isFine: true, wrong: null });
  }
  expect(readFileSync(join(place, 'wrong-order.svg'), 'utf8')).toContain('<title id="title">Answers in the wrong order</title>');
  expect(readFileSync(join(place, 'findings.ndjson'), 'utf8')).toBe(run('upper-gate check passage.ts bookings.ndjson --format ndjson').stdout);
});
