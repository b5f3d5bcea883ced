import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { moduleOf, pages, root } from './examples.ts';
import { declarationsOf } from './schemas.ts';

/** The sources of the examples that load without a page of their own. */
const EXAMPLES = ['lock-passage/src/manifest.ts', 'component-kit/src/Mooring.tsx', 'component-kits/src/mooring.ts'];
const BUILT = ['data/schema.js', 'src/berth.js'].map((file) => join(root, 'examples/lock-passage/dist-server', file));

test('the page about lint says what it finds in the gallery', () => {
  execFileSync(process.execPath, [join(root, 'scripts/lintPage.mjs'), '--check'], { cwd: root });
});

test('lint finds nothing in the schemas of the documentation, the recipes, the examples and the demo', () => {
  // (Within the workspace, so that the packages are found.)
  const folder = join(root, 'node_modules/.lint');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const sources = [
    // (The page about lint shows what is wrong.)
    ...pages.filter((page) => page !== 'docs/lint.md').flatMap((page) => [/^```ts(?: page)?/, /^```tsx(?: page)?/].map((fence) => [page, moduleOf(page, fence)] as const)),
    ...EXAMPLES.map((file) => [file, readFileSync(join(root, 'examples', file), 'utf8')] as const),
  ];
  const modules = sources.map(([name, source], i) => {
    const file = join(folder, `${name.replace(/\W/g, '-')}.${i}.mjs`);
    writeFileSync(file, declarationsOf(source));
    return file;
  });
  const run = join(folder, 'lintAll.mjs');
  copyFileSync(join(root, 'docs/test/lintAll.mjs'), run);
  const printed = execFileSync(process.execPath, [run, ...modules, ...BUILT], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });
  const { count, found } = JSON.parse(printed) as { count: number; found: object };
  expect(found).toEqual({});
  expect(count).toBeGreaterThan(90);
  expect(readdirSync(folder).length).toBeGreaterThan(50);
});
