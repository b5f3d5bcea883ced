// The documentation as a site, as the demo serves it: every page and link, the search, accessibility.

import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join, posix } from 'node:path';
import { afterEach, expect, test } from '@jest/globals';
import axe from 'axe-core';
import type { Page } from 'playwright-core';
import { useDemo, watch } from '../../examples/lock-passage/test/browser.ts';
import { THOROUGH } from '../../packages/upper-gate/__tests__/runs.ts';
import { root } from './examples.ts';

const site = join(root, 'docs/dist');
const demo = useDemo();
let page: Page;
let faults: string[] = [];
afterEach(async () => {
  await (page as Page | undefined)?.close();
  expect(faults).toEqual([]);
});

async function open(path: string, options: Parameters<typeof demo.browser.newPage>[0] = {}): Promise<void> {
  faults = [];
  // The checks of accessibility are added to the page, against its policy; the policy's reports are watched all the same.
  page = await demo.browser.newPage(options);
  page.setDefaultTimeout(5000);
  watch(page, faults);
  await page.goto(`${demo.url}/docs${path}`);
}

test('every link leads to a page and a heading, and the contents name every page', () => {
  const files = readdirSync(site, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.html'));
  const ids = new Map<string, Set<string>>();
  const links: (readonly [from: string, to: string, hash: string])[] = [];
  for (const file of files) {
    const html = readFileSync(join(site, file), 'utf8');
    const body = html.slice(html.indexOf('<main'));
    ids.set(file, new Set([...html.matchAll(/ id="(.*?)"/g)].map(([, id]) => id!)));
    for (const [, href] of body.matchAll(/<a href="(.*?)"/g)) {
      const [path = '', hash = ''] = href!.split('#');
      if (!/^\w+:/.test(path)) links.push([file, path === '' ? file : posix.join(posix.dirname(file), decodeURIComponent(path)), hash]);
    }
  }
  expect(files.length).toBeGreaterThan(300);
  expect(links.filter(([, to, hash]) => !ids.has(to) || (hash !== '' && !ids.get(to)!.has(hash)))).toEqual([]);
  const linked = new Set(links.map(([, to]) => to));
  expect(files.filter((file) => !linked.has(file))).toEqual([]);
});

const PAGES = ['/', '/running.html', '/recipes/combobox.html', '/reference/upper-gate/functions/range.html'];
// (One kind of page each way while working; in CI, more of them.)
const LIGHT = THOROUGH ? PAGES : [PAGES[1]!];
const DARK = THOROUGH ? [PAGES[1]!, PAGES[3]!] : [PAGES[3]!];
test.each([...LIGHT.map((path) => [path, 'light'] as const), ...DARK.map((path) => [path, 'dark'] as const)])('%s has no accessibility faults in %s mode', async (path, scheme) => {
  await open(path, { colorScheme: scheme, bypassCSP: true });
  await page.addScriptTag({ content: axe.source });
  const { violations } = await page.evaluate(() => (globalThis as unknown as { axe: typeof axe }).axe.run());
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html])).toEqual([]);
});

test('the search finds pages by keyboard, without a network, under the policy of the demo', async () => {
  await open('/concepts.html');
  await page.route('**/*', (route) => (route.request().url().startsWith(demo.url) ? route.continue() : route.abort()));
  await page.fill('#search', 'save while editing');
  await page.locator('#results a').first().waitFor();
  expect(await page.locator('#found').textContent()).toMatch(/^\d+ found$/);
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => document.activeElement?.closest('#results'));
  await Promise.all([page.waitForURL('**/saving.html#save-while-the-user-edits'), page.keyboard.press('Enter')]);
  await page.fill('#search', 'zzzz');
  await page.getByText('Nothing found for “zzzz”').waitFor();
  await page.keyboard.press('Escape');
  expect(await page.inputValue('#search')).toBe('');
  // An address that nobody has leads there, too.
  expect((await page.goto(`${demo.url}/no/such/page`))!.status()).toBe(404);
  await page.fill('#words', 'draft');
  await page.keyboard.press('Enter');
  await page.locator('#results a').first().waitFor();
  expect([new URL(page.url()).pathname, await page.inputValue('#search')]).toEqual(['/docs/', 'draft']);
  expect(await (await fetch(`${demo.url}/no/such/page`)).json()).toMatchObject({ status: 404 });
});

test('nothing is cut off at 320 pixels', async () => {
  for (const path of PAGES) {
    await open(path, { viewport: { width: 320, height: 640 } });
    expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 320]);
    await page.close();
  }
});

test('the charts are those of the figures that were recorded', () => {
  // (Vega is an ES module, which this test runner cannot import.)
  const made = execFileSync(process.execPath, ['--input-type=module', '-e', "import('./bench/charts.mjs').then(async (c) => console.log(JSON.stringify(await c.makeCharts())))"], {
    cwd: root,
    encoding: 'utf8',
  });
  for (const [name, svg] of Object.entries(JSON.parse(made) as Record<string, string>)) expect(readFileSync(join(root, `docs/charts/${name}.svg`), 'utf8').trim()).toBe(svg);
});
