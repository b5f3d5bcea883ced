// The documentation as a site, as the demo serves it: every page and link, the search, accessibility.

import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
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
  page.setDefaultTimeout(20_000);
  watch(page, faults);
  await page.goto(`${demo.url}/docs${path}`);
}

test('every link leads to a page and a heading, and the contents name every page', () => {
  const files = readdirSync(site, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.html') && !file.startsWith('live'));
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
  const isText = (file: string): boolean => file.startsWith('sources/') && existsSync(join(site, file));
  expect(links.filter(([, to, hash]) => (!ids.has(to) && !isText(to)) || (hash !== '' && !ids.get(to)!.has(hash)))).toEqual([]);
  const linked = new Set(links.map(([, to]) => to));
  expect(files.filter((file) => !linked.has(file))).toEqual([]);
});

const PAGES = ['/', '/running.html', '/recipes/combobox.html', '/reference/upper-gate/functions/range.html', '/live/phone-by-country.plain.html'];
// (One kind of page each way while working; in CI, more of them.)
const LIGHT = THOROUGH ? PAGES : [PAGES[1]!];
const DARK = THOROUGH ? [PAGES[1]!, PAGES[3]!, PAGES[4]!] : [PAGES[4]!];
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

test('what people ask in their own words is answered by one of the first three pages; an entry of the reference says what it is imported from', async () => {
  await open('/');
  const questions = JSON.parse(readFileSync(join(__dirname, 'questions.json'), 'utf8')) as [question: string, page: string][];
  const asked = JSON.stringify([...questions.map(([question]) => question), 'useGateList']);
  // (As text, which the test runner leaves as it is.)
  const found = await page.evaluate<readonly (readonly { id: string; title: string; page: string }[])[]>(
    `import('/docs/assets/find.js').then(({ find }) => Promise.all(${asked}.map(find)))`,
  );
  expect(questions.length).toBeGreaterThanOrEqual(60);
  const firstOf = (at: number) => [...new Set(found[at]!.map(({ id }) => id.replace(/\.html.*/, '')))].slice(0, 3);
  expect(questions.flatMap(([question, wanted], at) => (firstOf(at).includes(wanted) ? [] : [[question, wanted, ...firstOf(at)]]))).toEqual([]);
  expect(found.at(-1)!.map(({ page: on, title }) => `${on}: ${title}`)).toEqual(expect.arrayContaining(['upper-gate/react: useGateList()', 'upper-gate/vue: useGateList()']));
});

test('a recipe runs where it is read, with a server in every mood, in each way in which it is written', async () => {
  await open('/recipes/two-buttons.html');
  expect(page.frames()).toHaveLength(1);
  await page.locator('.live').scrollIntoViewIfNeeded();
  const frame = page.frameLocator('iframe[title="Try it: Two submit buttons"]');
  const said = (text: string) => frame.locator('#log li').filter({ hasText: text }).waitFor();
  for (const way of ['Plain page', 'React', 'Vue']) {
    if (way !== 'Plain page') await frame.getByRole('link', { name: way }).click();
    await frame.locator('strong', { hasText: way }).waitFor();
    await frame.getByRole('button', { name: 'Save' }).click();
    await frame.getByText('Vessel name is required').waitFor();
    await frame.getByLabel('Vessel name').fill('Otter');
    await frame.getByRole('button', { name: 'Save' }).click();
    await said('POST /passages/save {"vessel":"Otter"} → 201');
  }
  for (const [mood, log, shown] of [
    ['refusing', '→ 422', 'The server refuses this'],
    ['failing', '→ no answer', 'This could not be sent. Try again'],
  ] as const) {
    await frame.getByLabel('Server').selectOption(mood);
    await frame.getByLabel('Vessel name').fill(mood);
    await frame.getByRole('button', { name: 'Book' }).click();
    await said(log);
    await frame.getByText(shown).waitFor();
  }
  // The frame is as high as what is in it.
  expect(await frame.locator('html').evaluate((html) => html.scrollHeight <= innerHeight)).toBe(true);
  await page.close();
  await open('/recipes/stars.html', { javaScriptEnabled: false });
  expect([page.frames().length, await page.locator('pre').count()]).toEqual([1, 2]);
});

const LIVE = readdirSync(join(site, 'live')).filter((file) => file.endsWith('.html'));
test('every recipe that runs in the documentation begins without a fault, under the policy of the site', async () => {
  expect(LIVE.length).toBeGreaterThan(40);
  for (const file of THOROUGH ? LIVE : LIVE.filter((_, i) => i % 6 === 0)) {
    await open(`/live/${file}`);
    await page.locator('main > :nth-child(2)').first().waitFor({ state: 'attached' });
    expect([
      file,
      faults,
      await page
        .locator('#log li')
        .filter({ hasText: /error|warn/ })
        .allTextContents(),
    ]).toEqual([file, [], []]);
    await page.close();
  }
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
