// Every recipe that needs a page runs in one: with its HTML, in a real browser, as a user works on it.

import { setTimeout as sleep } from 'node:timers/promises';
import { afterEach, expect, test } from '@jest/globals';
import type { Page, Request } from 'playwright-core';
import { drawn } from '../../packages/upper-gate/__tests__/browser/heard.ts';
import { useBrowser } from '../../packages/upper-gate/__tests__/browser/launch.ts';
import { codeOf, htmlOf, variantsOf, type Variant } from '../live/blocks.ts';
import { blocksOf, pages, textOf } from './examples.ts';
import { openPage, shownBy, type Replied, type Reply } from './inPage.ts';

const browser = useBrowser();

let page: Page;
let faults: string[] = [];
let requests: Request[] = [];
afterEach(async () => {
  await page.close();
  expect(faults).toEqual([]);
});

/** The way in which the recipe under test is written. */
let variant: Variant = 'plain';
/** Opens a page with the HTML of a recipe, and runs its code there. @param path of the page */
async function open(recipe: string, reply: Reply = () => ({ status: 201 }), path = ''): Promise<void> {
  const text = textOf(`docs/recipes/${recipe}.md`);
  ({ page, faults, requests } = await openPage(browser(), { code: shownBy[variant](codeOf(text, variant)), html: htmlOf(text, variant), reply, path }));
}
const run = (code: string) => page.addScriptTag({ type: 'module', content: code });

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
  'upload-preview': async () => {
    await open('upload-preview');
    const pick = (mimeType: string) => page.setInputFiles('[name=picture]', { name: 'otter.png', mimeType, buffer: Buffer.from('x') });
    await pick('text/plain');
    await press('Send');
    expect([await message('picture'), await page.locator('img').isHidden()]).toEqual([expect.stringContaining('choose a file of type image'), true]);
    await pick('image/png');
    expect(await page.locator('img').evaluate((image: HTMLImageElement) => [image.hidden, image.alt, image.src.slice(0, 5)])).toEqual([false, 'Preview of otter.png', 'blob:']);
  },
  'confirm-warning': async () => {
    await open('confirm-warning');
    await type('beam', '5');
    await page.locator('[name=beam]').blur();
    expect([await message('beam'), await page.locator('[name=sure]').isVisible()]).toEqual(['That leaves 20 cm on either side', true]);
    await press('Book');
    await shows('Confirm that the boat is that wide');
    await page.check('[name=sure]');
    expect(await book()).toBe('beam=5&sure=on');
  },
  'strength-meter': async () => {
    await open('strength-meter');
    await type('phrase', 'harbour wall');
    await press('Send');
    expect([await message('phrase'), await page.locator('meter').evaluate((meter: HTMLMeterElement) => meter.value)]).toEqual([expect.stringContaining('Make it longer'), 2]);
    await type('phrase', 'Harbour wall 12 tides');
    await Promise.all([page.waitForResponse('**/keepers'), press('Send')]);
  },
  'phone-by-country': async () => {
    await open('phone-by-country');
    await type('phone', '+44 20 12345678');
    await type('postcode', '1012ab');
    await page.selectOption('select', 'NL');
    await press('Book');
    await shows('Write it like +31 20 1234567');
    await page.selectOption('select', 'GB');
    expect([await message('phone'), await message('postcode')]).toEqual(['', 'Write it like SW1A 1AA']);
    await type('postcode', 'sw1a 1aa');
    expect(await book()).toContain('country=GB');
  },
  mask: async () => {
    await open('mask');
    await type('registration', 'ot1204');
    await page.locator('input').blur();
    expect([await page.inputValue('input'), await message('registration')]).toEqual(['OT-1204', '']);
  },
  reorder: async () => {
    await open('reorder');
    const names = () => page.locator('li input').evaluateAll((inputs) => inputs.map((input) => (input as HTMLInputElement).value));
    await page
      .locator('li')
      .nth(2)
      .dragTo(page.locator('li').first(), { sourcePosition: { x: 2, y: 2 } });
    expect(await names()).toEqual(['Weyford', 'Oster', 'Wester']);
    await page.getByRole('button', { name: 'Move up' }).nth(2).click();
    expect(await names()).toEqual(['Weyford', 'Wester', 'Oster']);
    await page.getByText('Stop 3 moved to 2').waitFor({ state: 'attached' });
    expect(await book()).toBe('stops.0.name=Weyford&stops.1.name=Wester&stops.2.name=Oster');
  },
  prefill: async () => {
    await open('prefill', undefined, '?vessel=Otter&beam=9&__proto__=x');
    expect([await page.inputValue('[name=vessel]'), await page.inputValue('[name=beam]')]).toEqual(['Otter', '9']);
    await press('Book');
    expect(await message('beam')).toMatch(/at most 5\.2/);
  },
  yesterday: async () => {
    await open('yesterday', (request) => (request.url().endsWith('yesterday') ? { status: 200, contentType: 'application/json', body: '1.4' } : { status: 201 }));
    await type('level', '2.4');
    await page.locator('[name=level]').blur();
    await shows('It was 1.4 m yesterday: check the gauge');
    await Promise.all([page.waitForResponse('**/levels'), press('Send')]);
  },
  pause: async () => {
    await open('pause');
    await type('route', 'Oster, Nowhere');
    expect(await message('route')).toBe('');
    await shows('There is no harbour called Nowhere');
  },
  'dark-mode': async () => {
    await open('dark-mode');
    const color = () => page.locator('[data-gate-severity]').evaluate((element) => getComputedStyle(element).color);
    await press('Book');
    const light = await color();
    await page.emulateMedia({ colorScheme: 'dark' });
    expect([light, await color()]).toEqual(['rgb(179, 38, 30)', 'rgb(242, 184, 181)']);
  },
  iframe: async () => {
    await open('iframe', undefined, '?host=http://recipes.test');
    await page.evaluate(() =>
      addEventListener('message', ({ data }: MessageEvent<object>) => Object.assign(globalThis, { told: { ...(globalThis as { told?: object }).told, ...data } })),
    );
    await type('vessel', 'Otter');
    await press('Book');
    const told = () => page.evaluate(() => (globalThis as { told?: { height?: number; booked?: string } }).told);
    await page.waitForFunction(() => (globalThis as { told?: { booked?: string } }).told?.booked);
    await press('Book');
    expect((await told())!.booked).toBe('Otter');
  },
  drafts: async () => {
    await open('drafts');
    await page.getByLabel('Remarks').fill('Two swans');
    await page.waitForFunction(() => localStorage.getItem('note')?.includes('swans'));
    const code = await page.locator('script').last().textContent();
    await page.reload();
    await run(code!);
    await shows('Your earlier entries are back');
    expect(await page.getByLabel('Remarks').inputValue()).toBe('Two swans');
    await Promise.all([page.waitForResponse('**/notes'), press('Send')]);
    await page.waitForFunction(() => localStorage.getItem('note') === null);
  },
  facts: async () => {
    await open('facts');
    await page.getByLabel('Beam (m)').fill('4');
    await page.getByLabel('Beam (m)').blur();
    await press('The narrow lock');
    await shows('At most 3 m at this lock');
  },
  'two-buttons': async () => {
    await open('two-buttons');
    await press('Save');
    await shows('Vessel name is required');
    await page.getByLabel('Vessel name').fill('Otter');
    await Promise.all([page.waitForResponse('**/passages/save'), press('Save')]);
    await Promise.all([page.waitForResponse('**/passages/book'), press('Book')]);
  },
  'fetched-options': async () => {
    await open('fetched-options', (request) =>
      /berths$/.test(request.url())
        ? { status: request.url().includes('Wester') ? 503 : 200, contentType: 'application/json', body: '[{"id": "a1", "name": "North quay 1"}]' }
        : { status: 201 },
    );
    await press('Book');
    await shows('Choose Harbour first');
    await page.selectOption('[name=harbour]', 'Wester');
    await shows('The options for Berth could not be loaded right now');
    await page.selectOption('[name=harbour]', 'Oster');
    await page.selectOption('[name=berth]', { label: 'North quay 1' });
    await Promise.all([page.waitForResponse('**/stays'), press('Book')]);
    expect(requests.at(-1)!.postDataJSON()).toEqual({ harbour: 'Oster', berth: 'a1' });
  },
  'read-only': async () => {
    await open('read-only');
    expect(await page.locator('dt, dd').allTextContents()).toEqual([
      'Vessel name',
      'Otter',
      'Beam (m)',
      '2.1',
      'Arrival',
      'May 12, 2027',
      'Call me back',
      'Yes',
      'Crew',
      'Crew member 1',
      'Name',
      'Ada',
    ]);
  },
  'date-range': async () => {
    await open('date-range');
    const span = async (from: string, to: string) => (await type('stay.from', from), await type('stay.to', to), await press('Book'));
    await span('2090-05-10', '2090-05-09');
    await shows('To must not be before From');
    await span('2090-05-10', '2090-06-09');
    await shows('At most 14 nights');
    await type('stay.to', '2090-05-12');
    expect(await book()).toBe('stay.from=2090-05-10&stay.to=2090-05-12');
  },
  'nested-rows': async () => {
    await open('nested-rows');
    await press('Add a member');
    await press('Book');
    await shows('Name is required');
    expect(await page.getByLabel('Name').first().inputValue()).toBe('Ada');
  },
};

const written = Object.keys(recipes).flatMap((name) => variantsOf(textOf(`docs/recipes/${name}.md`)).map((each) => [name, each] as const));
test.each(written)('the recipe %s, %s', async (name, each) => {
  variant = each;
  await recipes[name]!();
});

test('every recipe is in the list, and runs', () => {
  const names = pages.flatMap((each) => /^docs\/recipes\/(.*)\.md$/.exec(each)?.[1] ?? []).filter((name) => name !== 'index');
  const listed = [...textOf('docs/recipes/index.md').matchAll(/\]\((.*?)\.md\)/g)].map(([, name]) => name!);
  // The others run in Node, with the examples of all pages.
  const inNode = names.filter((name) => variantsOf(textOf(`docs/recipes/${name}.md`)).length === 0);
  expect({ listed: listed.sort(), run: [...Object.keys(recipes), ...inNode].sort() }).toEqual({ listed: names.sort(), run: names.sort() });
});
