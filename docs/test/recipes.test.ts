// Every recipe that needs a page runs in one: with its HTML, in a real browser, as a user works on it.

import { setTimeout as sleep } from 'node:timers/promises';
import { afterEach, expect, test } from '@jest/globals';
import { buildSync } from 'esbuild';
import type { Page, Request } from 'playwright-core';
import { drawn } from '../../packages/upper-gate/__tests__/browser/heard.ts';
import { SOURCE, useBrowser } from '../../packages/upper-gate/__tests__/browser/launch.ts';
import { blocksOf, moduleOf, pages, root, textOf } from './examples.ts';

const browser = useBrowser();

let page: Page;
let faults: string[] = [];
let requests: Request[] = [];
afterEach(async () => {
  await page.close();
  expect(faults).toEqual([]);
});

interface Replied {
  readonly status: number;
  readonly contentType?: string;
  readonly body?: string;
}
type Reply = (request: Request) => Replied | Promise<Replied>;

const run = (code: string) => page.addScriptTag({ type: 'module', content: code });

/** Opens a page with the HTML of a recipe, and runs its code there. */
async function open(recipe: string, reply: Reply = () => ({ status: 201 })): Promise<void> {
  [faults, requests] = [[], []];
  const name = `docs/recipes/${recipe}.md`;
  const { outputFiles } = buildSync({
    stdin: { contents: moduleOf(name, /^```ts page/), resolveDir: root, loader: 'ts' },
    bundle: true,
    write: false,
    format: 'esm',
    conditions: [SOURCE],
  });
  page = await browser().newPage();
  page.setDefaultTimeout(5000);
  page.on('pageerror', (error) => faults.push(String(error)));
  page.on('console', (message) => message.type() === 'warning' && faults.push(message.text()));
  const html = `<!doctype html><title>Recipe</title>${blocksOf(name, /^```html/).join('')}`;
  await page.route('**/*', async (route) => {
    const request = route.request();
    if (request.resourceType() === 'document') return route.fulfill({ contentType: 'text/html; charset=utf-8', body: html });
    requests.push(request);
    return route.fulfill(await reply(request));
  });
  await page.goto('http://recipes.test/');
  await run(outputFiles[0]!.text);
}

const message = (field: string) => page.locator(`[data-gate-messages="${field}"]`).textContent();
const shows = (text: string) => page.getByText(text).first().waitFor();
const type = (name: string, text: string) => page.locator(`[name="${name}"]`).fill(text);
const press = (button: string) => page.getByRole('button', { name: button, exact: true }).click();
/** Presses the button that sends the form. @returns what arrives, from a handler or from the browser */
async function book(): Promise<string | null> {
  const [request] = await Promise.all([page.waitForRequest((each) => each.method() === 'POST'), press('Book')]);
  return request.postData();
}
const focused = async () => (await drawn(page), page.evaluate(() => (document.activeElement as HTMLInputElement).name || document.activeElement!.localName));
const problem = (status: number, detail: string, pointer: string): Replied => ({
  status,
  contentType: 'application/problem+json',
  body: JSON.stringify({ title: 'No', status, errors: [{ pointer, detail }] }),
});

const recipes: Record<string, () => Promise<void>> = {
  'two-moments': async () => {
    await open('two-moments');
    await type('registration', 'OT1204OT1204');
    expect(await message('registration')).toMatch(/at most 7/);
    await type('registration', 'OT1204');
    expect(await message('registration')).toBe('');
    await page.locator('[name=registration]').blur();
    expect(await message('registration')).toBe('Two letters, a dash, four digits');
    await type('registration', 'OT-1204');
    expect(await message('registration')).toBe('');
  },
  'unique-at-submit': async () => {
    await open('unique-at-submit', (request) => ({ status: request.method() === 'POST' ? 201 : request.url().endsWith('OT-1') ? 200 : 404 }));
    await type('registration', 'OT-1');
    await page.locator('[name=registration]').blur();
    expect(requests).toEqual([]);
    await press('Book');
    await shows('This vessel has a booking already');
    await type('registration', 'OT-2');
    await Promise.all([page.waitForResponse('**/passages'), press('Book')]);
    expect(requests.map((each) => new URL(each.url()).pathname)).toEqual(['/registrations/OT-1', '/registrations/OT-2', '/passages']);
  },
  'server-refusal': async () => {
    await open('server-refusal', () => problem(409, 'The Otter has a booking already', '/vessel'));
    await type('vessel', 'Otter');
    await press('Book');
    await shows('The Otter has a booking already');
    expect(await focused()).toBe('vessel');
    await type('vessel', 'Heron');
    expect(await message('vessel')).toBe('');
  },
  dialog: async () => {
    const [html] = blocksOf('docs/recipes/dialog.md', /^```html part/);
    // It takes longer than the library would wait by itself.
    await open('dialog', () => sleep(400, { status: requests.length > 1 ? 200 : 503, contentType: 'text/html', body: html! }));
    await type('vessel', 'Otter');
    await press('Book');
    await shows('Policy number is required');
    expect(await page.locator('dialog[open]').count()).toBe(0);
    await press('Book');
    await page.locator('dialog[open] [name=policy]').waitFor();
    await page.waitForFunction(() => (document.activeElement as HTMLInputElement).name === 'policy');
    expect(await message('policy')).toBe('Policy number is required');
    await type('policy', 'P-1');
    expect(await message('policy')).toBe('');
    await page.locator('dialog').getByText('Close').click();
    expect(await book()).toBe('vessel=Otter&policy=P-1');
  },
  'form-rule': async () => {
    await open('form-rule');
    await press('Book');
    await shows('Enter a phone number or an e-mail address');
    await type('phone', '0123');
    expect(await message('')).toBe('');
    expect(await book()).toBe('phone=0123&email=');
  },
  'rows-with-total': async () => {
    await open('rows-with-total');
    expect(await page.locator('output').textContent()).toBe('250');
    await press('Add a crate');
    await page.locator('[name="crates.2.weight"]').fill('300');
    expect(await page.locator('output').textContent()).toBe('550');
    await press('Book');
    await shows('550 kg is too much: at most 500 kg');
    await page.getByRole('button', { name: 'Remove' }).first().click();
    expect([await page.locator('output').textContent(), await message('crates')]).toEqual(['350', '']);
    expect(await book()).toBe('crates.0.weight=50&crates.1.weight=300');
  },
  'wizard-with-draft': async () => {
    await open('wizard-with-draft');
    await press('Next');
    await shows('Vessel name is required');
    await type('vessel', 'Otter');
    await press('Next');
    await page.locator('#person:not([hidden])').waitFor();
    await type('email', 'otter@');
    await page.waitForFunction(() => localStorage.getItem('wizard')?.includes('otter@'));
    const code = await page.locator('script').last().textContent();
    await page.reload();
    await run(code!);
    expect([await page.inputValue('[name=vessel]'), await page.inputValue('[name=email]')]).toEqual(['Otter', 'otter@']);
    await press('Next');
    await page.locator('#person:not([hidden])').waitFor();
    await type('email', 'otter@example.org');
    await press('Next');
    await page.waitForFunction(() => location.hash === '#booked');
    expect(await page.evaluate(() => localStorage.getItem('wizard'))).toBe(null);
  },
  counter: async () => {
    await open('counter');
    await type('remarks', 'A dog 👩‍🚀');
    expect(await page.locator('[data-gate-count]').textContent()).toBe('7 of 120');
    await type('remarks', 'x'.repeat(121));
    expect(await message('remarks')).toMatch(/at most 120/);
  },
  'after-success': async () => {
    await open('after-success');
    await type('vessel', 'Otter');
    await press('Book');
    await shows('Booked: Otter');
    expect([await page.inputValue('[name=vessel]'), await focused()]).toEqual(['', 'vessel']);
  },
  stars: async () => {
    await open('stars');
    await press('Send');
    await shows('Choose a number of stars');
    await page.getByLabel('4 stars').check();
    await Promise.all([page.waitForResponse('**/reviews'), press('Send')]);
    expect(requests[0]!.postDataJSON()).toEqual({ rating: 4 });
  },
  stepper: async () => {
    await open('stepper');
    for (const name of ['More', 'More', 'Fewer']) await press(`${name} guests`);
    expect(await page.inputValue('[name=guests]')).toBe('2');
    await type('guests', '9');
    await page.locator('[name=guests]').blur();
    expect(await message('guests')).toMatch(/at most 4/);
  },
  signature: async () => {
    await open('signature');
    await press('Book');
    await shows('Sign before you book');
    expect(await focused()).toBe('canvas');
    const box = (await page.locator('canvas').boundingBox())!;
    const draw = async (steps: number) => {
      await page.mouse.move(box.x + 10, box.y + 20);
      await page.mouse.down();
      await page.mouse.move(box.x + 200, box.y + 60, { steps });
      await page.mouse.up();
    };
    await draw(3);
    await shows('Sign with your whole name');
    await draw(20);
    expect(await message('signature')).toBe('');
    expect(await book()).toMatch(/^\{"signature":\[\[\[/);
    await press('Clear');
    await press('Book');
    await shows('Sign before you book');
  },
  combobox: async () => {
    await open('combobox');
    await page.locator('[name=harbour]').pressSequentially('We');
    expect(await page.getByRole('option').allTextContents()).toEqual(['Wester', 'Weyford']);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowDown');
    expect(await page.getByRole('option', { selected: true }).textContent()).toBe('Weyford');
    await page.keyboard.press('Enter');
    expect(await page.inputValue('[name=harbour]')).toBe('Weyford');
    await type('harbour', 'Nowhere');
    await page.locator('[name=harbour]').blur();
    expect(await message('harbour')).toMatch(/Choose one/);
  },
  tags: async () => {
    await open('tags');
    await press('Book');
    expect([await message('cargo'), await page.evaluate(() => document.activeElement!.id)]).toEqual(['One word at least', 'tag']);
    for (const word of ['Grain', 'spices', 'grain', 'frozen', 'wool', 'coal']) {
      await page.locator('#tag').fill(word);
      await page.keyboard.press('Enter');
    }
    expect(await message('cargo')).toMatch(/at most 4/);
    await press('Remove spices');
    expect([await message('cargo'), await page.getByRole('listitem').allTextContents()]).toEqual(['', ['grain ×', 'frozen ×', 'wool ×', 'coal ×']]);
    await page.keyboard.press('Backspace');
    await page.keyboard.type('salt');
    expect(await book()).toBe('{"cargo":["grain","frozen","wool","salt"]}');
  },
  'own-summary': async () => {
    await open('own-summary');
    await press('Book');
    await shows('2 left to correct');
    await press('Beam (m) is required');
    expect(await focused()).toBe('beam');
    await type('beam', '3');
    await shows('1 left to correct');
    await type('vessel', 'Otter');
    expect(await book()).toBe('vessel=Otter&beam=3');
  },
  'unsaved-changes': async () => {
    await open('unsaved-changes');
    const asked: string[] = [];
    page.on('dialog', (dialog) => {
      asked.push(dialog.type());
      void dialog.dismiss();
    });
    await type('vessel', 'Otter');
    await page.getByText('Another view').click();
    expect([asked.join(), new URL(page.url()).hash]).toEqual(['confirm', '']);
    await type('vessel', '');
    await page.getByText('Another view').click();
    expect([asked.join(), new URL(page.url()).hash]).toEqual(['confirm', '#other']);
    await type('vessel', 'Heron');
    expect(await page.evaluate(() => window.dispatchEvent(new Event('beforeunload', { cancelable: true })))).toBe(false);
  },
  'upload-progress': async () => {
    await open('upload-progress', () => problem(422, 'This policy has ended', '/insurance'));
    await page.setInputFiles('[name=insurance]', { name: 'policy.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF') });
    await press('Send');
    await shows('This policy has ended');
    expect([requests[0]!.method(), await focused()]).toEqual(['POST', 'insurance']);
  },
  languages: async () => {
    await open('languages');
    await page.locator('[name=beam]').focus();
    await page.locator('[name=beam]').blur();
    expect(await message('beam')).toMatch(/at most 5\.2/);
    await page.selectOption('#language', 'de');
    expect([await page.locator('label').textContent(), await page.inputValue('[name=beam]')]).toEqual(['Breite (m)', '6,5']);
    expect(await message('beam')).toMatch(/5,2/);
  },
};

test.each(Object.entries(recipes))('the recipe %s', (_, use) => use());

test('every recipe is in the list, and runs', () => {
  const names = pages.flatMap((each) => /^docs\/recipes\/(.*)\.md$/.exec(each)?.[1] ?? []).filter((name) => name !== 'index');
  const listed = [...textOf('docs/recipes/index.md').matchAll(/\]\((.*?)\.md\)/g)].map(([, name]) => name!);
  // The others run in Node, with the examples of all pages.
  const inNode = names.filter((name) => blocksOf(`docs/recipes/${name}.md`, /^```ts page/).length === 0);
  expect({ listed: listed.sort(), run: [...Object.keys(recipes), ...inNode].sort() }).toEqual({ listed: names.sort(), run: names.sort() });
});
