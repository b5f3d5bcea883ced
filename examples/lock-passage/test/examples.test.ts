// The other examples: the wizard, and the component kit.

import { afterEach, expect, test } from '@jest/globals';
import type { Page } from 'playwright-core';
import { fillIn, focused, messagesOf, useDemo } from './browser.ts';
import { worded } from '../../../packages/upper-gate/__tests__/wording.ts';

const demo = useDemo();
let page: Page;
let faults: string[] = [];
afterEach(async () => {
  await page.context().close();
  expect(faults).toEqual([]);
});

async function open(path: string, before: (page: Page) => Promise<unknown> = () => Promise.resolve()): Promise<void> {
  faults = [];
  page = await (await demo.browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' })).newPage();
  page.setDefaultTimeout(20_000);
  page.on('pageerror', (error) => faults.push(String(error)));
  page.on('console', (message) => ['warning', 'error'].includes(message.type()) && !/Failed to load resource/.test(message.text()) && faults.push(message.text()));
  await before(page);
  await page.goto(demo.url + path);
}
const heading = () => page.locator('h2.card').textContent();

test('a wizard validates each step before the next, keeps what was typed, and goes back to where the server finds fault', async () => {
  await open('/steps/');
  expect(await page.title()).toBe('Boat and day (step 1 of 3) · Book a passage');
  await page.locator('[name=vessel]').press('Enter');
  await page.waitForFunction(() => document.activeElement?.getAttribute('name') === 'vessel');
  // Each step has its summary.
  await page.locator('.summary a', { hasText: 'Beam' }).click();
  expect([await focused(page), await page.locator('.summary h2').textContent()]).toEqual(['beam', '10 entries of this step to check']);
  expect({ heading: await heading(), 'messages of beam': await messagesOf(page, 'beam') }).toEqual({
    heading: 'Step 1 of 3: Boat and day',
    'messages of beam': [worded('valueMissing', 'Beam (m)')],
  });
  const values = { vessel: 'Mallard', registration: 'OT-1204', lengthM: '12', beam: '2', arrival: '2027-05-01', 'window.from': '09:00', 'window.to': '09:30' };
  for (const [name, value] of Object.entries(values)) await page.fill(`[name="${name}"]`, value);
  await page.selectOption('[name=kind]', 'barge');
  await page.setInputFiles('[name=insurance]', { name: 'm.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF') });
  // Booked already, for this very day: the server will say so.
  await page.check('[name=slot][value="10:00"]');
  await page.getByText('Next').click();
  await page.locator('h2', { hasText: 'Step 2 of 3: On board' }).waitFor();
  expect(await page.evaluate(() => document.activeElement!.localName)).toBe('h2');
  await page.fill('[name="crew.0.name"]', 'Ada');
  await page.fill('[name="crew.0.age"]', '41');
  await page.check('[name="cargo.load"][value=none]');
  for (const kit of ['horn', 'lights']) await page.check(`[value=${kit}]`);
  await page.getByText('Back').click();
  expect([await page.inputValue('[name=vessel]'), await page.locator('#kept').textContent()]).toEqual(['Mallard', 'Chosen already: m.pdf']);
  await page.getByText('Next').click();
  await page.locator('h2', { hasText: 'Step 2' }).waitFor();
  expect(await page.inputValue('[name="crew.0.name"]')).toBe('Ada');
  await page.getByText('Next').click();
  for (const name of ['email', 'emailAgain']) await page.fill(`[name=${name}]`, 'm@example.org');
  await page.check('[name=terms]');
  await page.getByText('Read what you entered').click();
  expect((await page.locator('.review').first().innerText()).replace(/\s+/g, ' ')).toMatch(
    /^Vessel name Mallard .* Day May 1, 2027 .* Crew member 1 Name Ada .* I have read the rules of the flight Yes$/,
  );
  expect(await page.locator('.steps .done').count()).toBe(3);
  await page.locator('[name=email]').press('Enter');
  await page.locator('h2', { hasText: 'Step 1' }).waitFor();
  await page.waitForFunction(() => document.activeElement?.getAttribute('name') === 'slot');
  expect(await messagesOf(page, 'slot')).toEqual([expect.stringMatching(/Somebody has just booked this lockage/)]);
});

test('the inputs of a component kit show messages and required marks, and take the focus in their order', async () => {
  await open('/kit/');
  const book = page.getByText('Book the mooring');
  await book.click();
  expect(await focused(page)).toBe('vessel');
  expect(await messagesOf(page, 'quay')).toEqual([worded('valueMissing', 'Quay', { holds: 'option' })]);
  expect(await page.locator('label', { hasText: 'Length (m)' }).textContent()).toContain('*');
  const power = page.getByRole('radiogroup', { name: 'Shore power' });
  expect([await power.getAttribute('aria-required'), await power.getAttribute('aria-invalid')]).toEqual(['true', 'true']);
  expect(await page.locator(`#${(await power.getAttribute('aria-describedby'))!.replaceAll('.', '\\.')}`).textContent()).toBe(
    worded('valueMissing', 'Shore power', { holds: 'option' }),
  );
  await page.fill('[name=vessel]', 'Otter');
  await page.fill('[name=lengthM]', '12');
  await page.fill('[name=from]', '2027-05-01');
  await book.click();
  // The kit's select is no control of HTML: its own element takes the focus.
  await page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'combobox');
  await page.keyboard.press('ArrowDown');
  await page.getByText('South quay').click();
  await book.click();
  expect(await focused(page)).toBe('power');
  await page.keyboard.press('ArrowDown');
  await page.getByText('Add a guest').click();
  await page.fill('[name="guests.0"]', 'Ada');
  await page.fill('[name=email]', 'otter@example.org');
  await book.click();
  expect(await focused(page)).toBe('rules');
  await page.keyboard.press('Space');
  await book.click();
  await page.getByText('Otter has a place at the South quay.').waitFor();
});

test('at 320 pixels nothing overflows, on any page', async () => {
  await open('/');
  await page.setViewportSize({ width: 320, height: 800 });
  for (const path of [
    '/',
    '/plain.html',
    '/react/',
    '/vue/',
    '/svelte/',
    '/solid/',
    '/angular/',
    '/elements.html',
    '/steps/',
    '/kit/',
    '/manifest.html',
    '/interface.html',
    '/booked.html?reference=FF-10000',
  ]) {
    await page.goto(demo.url + path);
    await page.locator('main').waitFor();
    expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 320]);
  }
});

test('the manifest: rows and buttons have names, what is wrong is announced, how long it took is not', async () => {
  await open('/manifest.html');
  const crate = page.getByRole('group', { name: 'Crate 3', exact: true });
  expect(await crate.locator('[aria-required=true]').count()).toBe(3);
  await crate.getByLabel('Seal').fill('S10001');
  expect(await page.getByRole('status').allTextContents()).toEqual(['1 error in 10000 crates.']);
  await page.getByRole('button', { name: 'Remove Crate 3', exact: true }).click();
  await page.getByRole('status').filter({ hasText: 'All crates are in order.' }).waitFor();
});

test("the server answers in the language of the page: it knows what the page's rules do not", async () => {
  await open('/plain.html');
  await page.selectOption('#language', 'de');
  expect(await page.title()).toMatch(/^Eine Schleusung buchen/);
  expect(await page.locator('#language option').evaluateAll((options) => options.map((option) => (option as HTMLElement).lang))).toEqual(['en', 'de', 'ar']);
  await fillIn(page, { registration: 'TE-5120', arrival: '2027-05-01' });
  await page.check('[name=slot][value="10:00"]');
  await page.click('#send');
  await page.locator('[data-gate-messages=slot]', { hasText: 'gerade jemand gebucht' }).waitFor();
});

test('berths follow the harbour, the limits of the page the kind of boat, and the draught a tide table that comes later', async () => {
  let letThrough = (): void => undefined;
  const held = new Promise<void>((resolve) => (letThrough = resolve));
  await open('/berth.html', (to) => to.route('**/api/tides/today', (route) => held.then(() => route.continue())));
  const berths = () => page.locator('[name=berth] option').allTextContents();
  await page.selectOption('[name=harbour]', 'Saltby');
  await page.selectOption('[name=berth]', 'Quay B');
  await page.selectOption('[name=kind]', 'barge');
  expect([await page.getAttribute('[name=lengthM]', 'max'), await page.textContent('[data-gate-hint=lengthM]')]).toEqual(['38', 'At most 38 m for this kind of boat']);
  await page.check('[value=starboard]');
  for (const [name, value] of Object.entries({ lengthM: '20', draught: '2.2', arrival: '09:00' })) await page.fill(`[name=${name}]`, value);
  // Nobody knows the tides yet: it cannot be sent, and the page says so.
  await page.getByText('Take this berth').click();
  expect(await page.locator('.summary :is(h2, li)').allTextContents()).toEqual([worded('unchecked', ''), worded('unanswered', 'Form')]);
  letThrough();
  await page.getByText('Saltby takes a draught of 1.1 m at 09:00').first().waitFor();
  await page.selectOption('#table', 'spring');
  await page.fill('[name=arrival]', '12:00');
  await page.locator('[name=draught][aria-invalid=false]').waitFor();
  // Another harbour has other berths; another kind of boat other limits, and one way to moor.
  await page.selectOption('[name=harbour]', 'Thorle');
  expect(await berths()).toEqual(['Choose …', 'Basin 1', 'Basin 2', 'Basin 3', 'Basin 4']);
  await page.selectOption('[name=kind]', 'canoe');
  expect([await page.getAttribute('[name=lengthM]', 'max'), await page.locator('.options label').innerText()]).toEqual(['6', ' Carried ashore']);
  await page.getByText('Take this berth').click();
  expect([await messagesOf(page, 'berth'), await messagesOf(page, 'lengthM'), await messagesOf(page, 'side')]).toEqual([
    [worded('notAllowed', 'Berth')],
    [worded('rangeOverflow', 'Length (m)', { max: 6 })],
    [worded('notAllowed', 'Side to the quay')],
  ]);
  await page.fill('[name=lengthM]', '5');
  await page.selectOption('[name=berth]', 'Basin 2');
  await page.check('[value=ashore]');
  await page.getByText('Take this berth').click();
  await page.getByText('Basin 2 in Thorle is yours from 12:00').waitFor();
});

test('what can only be chosen after something else says so, leads there, and is counted once', async () => {
  await open('/berth.html');
  await page.getByText('The draught is checked against').waitFor();
  await page.getByText('Take this berth').click();
  expect([await page.locator('.summary h2').textContent(), ...(await page.locator('.summary li a').allTextContents())]).toEqual([
    worded('summary', '', { count: 5 }),
    worded('valueMissing', 'Kind of boat', { holds: 'option' }),
    ...['Length (m)', 'Draught (m)'].map((label) => worded('valueMissing', label)),
    worded('valueMissing', 'Harbour', { holds: 'option' }),
    worded('valueMissing', 'Arrival'),
  ]);
  expect([await messagesOf(page, 'berth'), await messagesOf(page, 'side'), await page.locator('.whole').innerText()]).toEqual([
    ['Choose Harbour first'],
    ['Choose Kind of boat first'],
    '',
  ]);
});

test('the server checks a berth with its own tide table', async () => {
  const post = async (values: object, table: string) => {
    const response = await fetch(`${demo.url}/api/berths?table=${table}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(values) });
    return [response.status, ((await response.json()) as { errors?: { pointer: string }[] }).errors?.map(({ pointer }) => pointer)];
  };
  const boat = { harbour: 'Saltby', kind: 'barge', lengthM: 20, draught: 2.2, arrival: '12:00', berth: 'Quay A', side: 'port' };
  expect(await post(boat, 'today')).toEqual([201, undefined]);
  expect(await post({ ...boat, arrival: '09:00', lengthM: 40 }, 'today')).toEqual([422, ['/lengthM', '/draught']]);
  expect(await post({ ...boat, berth: 'Basin 1', side: 'ashore' }, 'spring')).toEqual([422, ['/berth', '/side']]);
});
