import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, test } from '@jest/globals';
import ts from 'typescript';

const root = join(__dirname, '../..');
// Within the workspace, so that the packages are found.
const folder = join(root, 'node_modules/.docs');
const pages = [
  'README.md',
  ...readdirSync(join(root, 'docs'))
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
];

/** The TypeScript of a page as one module: its examples one after the other, imports in front. */
function moduleOf(page: string, blocks: RegExp): string {
  const code = [...readFileSync(join(root, page), 'utf8').matchAll(blocks)].map(([, block]) => block!).join('\n');
  const names = new Map<string, Set<string>>();
  const body = code.replace(/^import \{([^}]*)\} from '([^']*)';$/gm, (_, list: string, from: string) => {
    const known = names.get(from) ?? new Set();
    list
      .split(',')
      .map((name) => name.trim())
      .filter(Boolean)
      .forEach((name) => known.add(name));
    names.set(from, known);
    return '';
  });
  return `${[...names].map(([from, list]) => `import { ${[...list].join(', ')} } from '${from}';`).join('\n')}\n${body}\nexport {};\n`;
}

const fileOf = (page: string): string => join(folder, page.replace(/\W/g, '-'));

beforeAll(() => {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  for (const page of pages) {
    // Examples marked "page" need a browser: they are compiled, and not run.
    writeFileSync(`${fileOf(page)}.tsx`, moduleOf(page, /^```tsx?(?: page)?\n([\s\S]*?)^```/gm));
    const run = moduleOf(page, /^```ts\n([\s\S]*?)^```/gm);
    writeFileSync(`${fileOf(page)}.mjs`, ts.transpileModule(run, { compilerOptions: { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 } }).outputText);
  }
});

test('the examples of the documentation compile', () => {
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
    execFileSync(process.execPath, [join(root, 'node_modules/typescript/bin/tsc'), '-p', folder], { encoding: 'utf8' });
  } catch (error) {
    told = (error as { stdout: string }).stdout;
  }
  expect(told).toBe('');
});

test.each(pages)('the examples of %s print what they say', (page) => {
  const said = [...readFileSync(join(root, page), 'utf8').matchAll(/^\/\/ → (.*)$/gm)].map(([, line]) => line!);
  const printed = execFileSync(process.execPath, [`${fileOf(page)}.mjs`], { encoding: 'utf8' })
    .split('\n')
    .slice(0, -1);
  expect(printed).toEqual(said);
});

test('what the documentation sends as JSON says so: its own server refuses anything else', () => {
  const calls = pages.flatMap((page) => [...readFileSync(join(root, page), 'utf8').matchAll(/fetch\([^;]*?body:\s+JSON\.stringify/g)].map(([call]) => call));
  expect(calls.length).toBeGreaterThan(3);
  expect(calls.filter((call) => !/content-type|\bheaders,/.test(call))).toEqual([]);
});

test('every attack of the drill is in the table of the docs', () => {
  const drill = join(root, 'drill');
  const names = readdirSync(drill).flatMap((file) => [...readFileSync(join(drill, file), 'utf8').matchAll(/^ {4}name: '(.*)'/gm)].map(([, name]) => name!));
  const rows = [...readFileSync(join(root, 'docs/reliability.md'), 'utf8').matchAll(/^\| (.*?) +\| \d+ +\| \d+/gm)].map(([, name]) => name!);
  expect(rows.sort()).toEqual(names.sort());
});
