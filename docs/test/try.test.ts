// The playground of the documentation, as the demo serves it.

import { expect, test } from '@jest/globals';
import axe from 'axe-core';
import type { Page } from 'playwright-core';
import { useDemo, watch } from '../../examples/lock-passage/test/browser.ts';

const demo = useDemo();
async function open(hash = '', options: Parameters<typeof demo.browser.newPage>[0] = {}) {
  const page = await demo.browser.newPage(options);
  const faults: string[] = [];
  watch(page, faults);
  page.setDefaultTimeout(20_000);
  await page.goto(`${demo.url}/docs/try/${hash}`);
  await page.locator('.cm-content').waitFor();
  return { page, faults, form: page.frameLocator('#run') };
}
async function write(page: Page, text: string): Promise<void> {
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+a');
  // (Where text is replaced, Chromium tries to keep its colour by a style.)
  await page.keyboard.press('Delete');
  await page.keyboard.insertText(text);
}
const view = async (page: Page, name: string) => (await page.getByLabel(name, { exact: true }).check(), page.locator('#view').textContent());

test('a schema becomes a form, and everything else that it can be; it is in the address', async () => {
  const { page, faults, form } = await open();
  await form.getByLabel('Vessel name').waitFor();
  await write(page, "import { group, number, range, required } from 'upper-gate';\nexport default group({ beam: number('Beam (m)', required(), range({ max: 5.2 })) });");
  await form.getByLabel('Vessel name').waitFor({ state: 'detached' });
  await form.getByLabel('Beam (m)').fill('9');
  await form.getByLabel('Beam (m)').blur();
  await form.getByText('Beam (m) must be at most 5.2').first().waitFor();
  expect(await view(page, 'Findings')).toBe('error beam [rangeOverflow] Beam (m) must be at most 5.2');
  await form.getByLabel('Beam (m)').fill('3');
  await form.getByRole('button').last().click();
  await page.waitForFunction(() => document.querySelector('#view')!.textContent === 'None');
  expect(JSON.parse((await view(page, 'State'))!)).toMatchObject({ status: 'accepted' });
  expect(await view(page, 'Data')).toBe('Accepted:\n{\n  "beam": 3\n}');
  expect(JSON.parse((await view(page, 'JSON Schema'))!)).toMatchObject({ properties: { beam: { maximum: 5.2 } } });
  for (const [name, part] of Object.entries({ Types: 'beam: number;', Markdown: '| `beam`', HTML: 'id="beam"' })) expect(await view(page, name)).toContain(part);
  const again = await open(new URL(page.url()).hash);
  await again.form.getByLabel('Beam (m)').waitFor();
  expect([faults, again.faults]).toEqual([[], []]);
  await Promise.all([page.close(), again.page.close()]);
});

test('types complete, and errors show where they are', async () => {
  const { page } = await open();
  await write(page, "import { group, text, required } from 'upper-gate';\nexport default group({ vessel: text('Vessel', required(), 3) });\nreq");
  await page.locator('.cm-lintRange-error').first().waitFor();
  await page.keyboard.press('Control+ ');
  await page.locator('.cm-completionLabel', { hasText: 'requestAnimationFrame' }).waitFor();
  expect(await page.locator('.cm-completionLabel').allTextContents()).toContain('required');
  await write(page, 'export const nothing = 1;');
  await page.getByText('Export a schema: export default group').waitFor();
  await page.close();
});

test('what is written reaches nothing of the site', async () => {
  const { page, form } = await open();
  const tries = ['() => localStorage.length', '() => parent.document.title', '() => document.cookie', "() => fetch('/api/tides/today')", "() => import('/docs/assets/live.js')"];
  await write(
    page,
    `import { group, text } from 'upper-gate';
    const tried = await0([${tries.join()}]);
    function await0(all: (() => unknown)[]) { return Promise.all(all.map(async (each) => { try { await each(); return 'reached'; } catch { return 'kept out'; } })); }
    void tried.then((all) => document.body.append(all.join()));
    export default group({ a: text('<img src=x onerror=alert(1)>') });`,
  );
  await form.getByText(Array<string>(tries.length).fill('kept out').join()).waitFor();
  expect([await form.locator('img').count(), await form.locator('label').textContent()]).toEqual([0, '<img src=x onerror=alert(1)>']);
  await page.close();
});

test.each(['light', 'dark'] as const)('no accessibility faults in %s mode, nothing is cut off at 320 pixels', async (colorScheme) => {
  const { page, form } = await open('', { colorScheme, bypassCSP: true, viewport: { width: 320, height: 800 } });
  await form.getByLabel('Vessel name').waitFor();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(320);
  await page.addScriptTag({ content: axe.source });
  const { violations } = await page.evaluate(() => (globalThis as unknown as { axe: typeof axe }).axe.run(document, { iframes: false }));
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html])).toEqual([]);
  await page.close();
});
