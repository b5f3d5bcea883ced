import { afterEach, beforeEach, expect, test } from '@jest/globals';
import type { Page, Request } from 'playwright-core';
import { fillIn, focused, messagesOf, useDemo, watch } from './browser.ts';
import { worded } from '../../../packages/upper-gate/__tests__/wording.ts';

const demo = useDemo();
let page: Page;
let asked: string[];
let posted: Request[];
let errors: string[];

/** Opens the page in a new browser profile. */
async function open(): Promise<Page> {
  const opened = await (await demo.browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' })).newPage();
  opened.setDefaultTimeout(20_000);
  watch(opened, errors);
  await opened.addInitScript(() => {
    const { fetch: real } = window;
    window.fetch = (url, init) => {
      if (init?.body instanceof FormData)
        Object.assign(window, { sent: Object.fromEntries([...init.body].map(([name, value]) => [name, value instanceof File ? value.name : value])) });
      return real(url, init);
    };
  });
  await opened.goto(`${demo.url}/plain.html`);
  return opened;
}

beforeEach(async () => {
  asked = [];
  posted = [];
  errors = [];
  page = await open();
  page.on('request', (request) => {
    if (request.url().includes('/api/register/')) asked.push(request.url().split('/').at(-1)!);
    if (request.method() === 'POST') posted.push(request);
  });
});
afterEach(async () => {
  await page.context().close();
  expect(errors).toEqual([]);
});

/** Waits until a field shows these messages, and no others. */
async function shows(field: string, expected: (string | RegExp)[], on = page): Promise<void> {
  await on
    .locator(`[data-gate-messages="${field}"] > *`)
    .nth(Math.max(0, expected.length - 1))
    .waitFor({ state: expected.length > 0 ? 'visible' : 'detached' });
  expect(await messagesOf(on, field)).toEqual(expected.map((message) => expect.stringMatching(message)));
}

test('the state of every kind of control follows its field: native validity, required, data-gate-state', async () => {
  const facts = () =>
    page.evaluate(() =>
      ['vessel', 'lengthM', 'arrival', 'kind', 'slot', 'callBack', 'phone', 'remarks'].map((name) => {
        const control = document.querySelector<HTMLInputElement>(`[name=${name}]`)!;
        return `${name} ${control.required ? 'required' : ''} ${control.validationMessage || 'fine'} ${control.dataset['gateState']!}`;
      }),
    );
  expect(await facts()).toEqual([
    `vessel required ${worded('valueMissing', 'Vessel name')} idle`,
    `lengthM required ${worded('valueMissing', 'Length (m)')} idle`,
    `arrival required ${worded('valueMissing', 'Day')} idle`,
    `kind required ${worded('valueMissing', 'Kind of boat', { holds: 'option' })} idle`,
    `slot required ${worded('valueMissing', 'Lockage', { holds: 'option' })} idle`,
    'callBack  fine idle',
    'phone  fine idle',
    'remarks  fine idle',
  ]);
  await page.check('[name=callBack]');
  await fillIn(page);
  await page.fill('#remarks', 'x'.repeat(301));
  await page.locator('[name=remarks]').press('Tab');
  await shows('remarks', [worded('tooLong', 'Remarks', { max: 300 })]);
  expect((await facts()).slice(3)).toEqual([
    'kind required fine idle',
    'slot required fine valid',
    'callBack  fine valid',
    'phone required Phone is required if we are to call you back idle',
    `remarks  ${worded('tooLong', 'Remarks', { max: 300 })} error`,
  ]);
});

test('a server that cannot be reached is reported, and does not stop the person', async () => {
  await page.check('[name=weather][value=gone]');
  await fillIn(page);
  await page.locator('[name=registration]').focus();
  await page.locator('[name=email]').focus();
  await shows('registration', [worded('unanswered', 'Registration')]);
  await page.click('#send');
  await page.locator('[data-gate-messages=""]', { hasText: 'cannot be reached' }).waitFor();
  expect(await page.evaluate(() => document.activeElement?.getAttribute('data-gate-messages'))).toBe('');
  expect(await page.inputValue('#vessel')).toBe('Otter');
});

test('a double click posts once, and the button says that it is busy', async () => {
  await page.check('[name=weather][value=slow]');
  await fillIn(page, { registration: 'VO-6033', arrival: '2027-06-01' });
  await page.dblclick('#send');
  await page.locator('#send[aria-disabled=true]').waitFor();
  await page.locator('#send').press('Enter');
  await page.locator('#outcome', { hasText: 'Booked: Otter' }).waitFor();
  expect(posted).toHaveLength(1);
  expect(await page.evaluate(() => (window as unknown as { sent: unknown }).sent)).toEqual({
    vessel: 'Otter',
    registration: 'VO-6033',
    lengthM: '17.5',
    beam: '2.1',
    kind: 'narrowboat',
    arrival: '2027-06-01',
    slot: '13:00',
    'window.from': '12:15',
    'window.to': '12:45',
    'crew.0.name': 'Ada Fen',
    'crew.0.age': '41',
    'cargo.load': 'none',
    'kit.0': 'lifejackets',
    'kit.1': 'lights',
    insurance: 'otter.pdf',
    email: 'otter@example.org',
    emailAgain: 'otter@example.org',
    terms: 'on',
  });
  expect(await page.locator('#send').getAttribute('aria-disabled')).toBe(null);
});

test('two browsers book the same slot: one wins, the other learns so on the field, and nothing typed is lost', async () => {
  const other = await open();
  await fillIn(page, { registration: 'HE-2210', arrival: '2027-07-01' });
  await fillIn(other, { registration: 'KF-3307', arrival: '2027-07-01', vessel: 'Kingfisher' });
  await Promise.all([page.click('#send'), other.click('#send')]);
  const refused = async (on: Page) => {
    await on.locator('#outcome > *, [data-gate-messages=slot] > *').first().waitFor();
    return (await messagesOf(on, 'slot')).length > 0;
  };
  const [first, second] = [await refused(page), await refused(other)];
  expect([first, second].sort()).toEqual([false, true]);
  const loser = first ? page : other;
  await shows('slot', [/Somebody has just booked this lockage/], loser);
  expect(await focused(loser)).toBe('slot');
  expect(await loser.inputValue('#arrival')).toBe('2027-07-01');
  await loser.check('[name=slot][value="16:00"]');
  expect(await messagesOf(loser, 'slot')).toEqual([]);
  await loser.click('#send');
  await loser.locator('#outcome', { hasText: 'Booked' }).waitFor();
  await other.context().close();
});

test('the server validates by the same schema: the page can be by-passed, the server cannot', async () => {
  const response = await fetch(`${demo.url}/api/bookings`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{"vessel": "O", "registration": "ZZ-0000", "beam": 50}',
  });
  expect({ status: response.status, 'get content-type': response.headers.get('content-type') }).toEqual({
    status: 422,
    'get content-type': expect.stringMatching('^application/problem.json'),
  });
  const { errors: told } = (await response.json()) as { errors: object[] };
  expect(told).toContainEqual({ pointer: '/vessel', detail: worded('tooShort', 'Vessel name', { min: 2 }), code: 'tooShort', params: { min: 2, max: 40 } });
  expect(told).toContainEqual(expect.objectContaining({ pointer: '/registration', detail: 'ZZ-0000 is not on the register of vessels' }));
});

test('what the browser restores on going back is known to the form', async () => {
  await page.addInitScript(() => (Storage.prototype.setItem = () => undefined));
  await page.goto(`${demo.url}/plain.html`);
  await page.fill('[name=email]', 'otter@example.org');
  await page.check('[name=slot][value="10:00"]');
  await page.goto(demo.url);
  await page.goBack();
  await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[name=email]')!.value === 'otter@example.org');
  await page.click('#send');
  await page.locator('.summary li').first().waitFor();
  expect({ 'messages of email': await messagesOf(page, 'email'), 'messages of slot': await messagesOf(page, 'slot'), 'messages of beam': await messagesOf(page, 'beam') }).toEqual({
    'messages of email': [],
    'messages of slot': [],
    'messages of beam': [worded('valueMissing', 'Beam (m)')],
  });
});

test('before there is script, the browser validates by the attributes that the schema gives', async () => {
  const bare = await (await demo.browser.newContext({ javaScriptEnabled: false })).newPage();
  await bare.goto(`${demo.url}/plain.html`);
  await bare.click('#send');
  expect(await bare.evaluate('document.activeElement.name')).toBe('vessel');
  expect(await bare.locator('[name=beam]').evaluate((input: HTMLInputElement) => [input.min, input.max, input.step, input.required])).toEqual(['0.5', '5.2', 'any', true]);
  await bare.context().close();
});

test('without script the form is validated by the server, drawn again with what was entered and what is wrong, and booked', async () => {
  const bare = await (await demo.browser.newContext({ javaScriptEnabled: false, locale: 'en-GB' })).newPage();
  await bare.goto(`${demo.url}/plain.html`);
  const script = '</textarea><script>document.title = "owned"</script>';
  await fillIn(bare, { vessel: '<b>O', registration: 'ZZ-0000', arrival: '2027-08-01', emailAgain: 'other@example.org', remarks: script });
  await bare.click('#send');
  expect(await bare.locator('.summary li').allTextContents()).toEqual([
    'Registration: ZZ-0000 is not on the register of vessels',
    worded('differs', 'Repeat e-mail', { otherLabel: 'E-mail' }),
  ]);
  expect({
    'messagesOf emailAgain bare': await messagesOf(bare, 'emailAgain'),
    vessel: await bare.inputValue('[name=vessel]'),
    'value lights': await bare.isChecked('[value=lights]'),
    kind: await bare.inputValue('[name=kind]'),
    remarks: await bare.inputValue('[name=remarks]'),
    title: await bare.title(),
  }).toEqual({
    'messagesOf emailAgain bare': [worded('differs', 'Repeat e-mail', { otherLabel: 'E-mail' })],
    vessel: '<b>O',
    'value lights': true,
    kind: 'narrowboat',
    remarks: script,
    title: expect.stringContaining(worded('summary', '', { count: 2 })),
  });
  await fillIn(bare, { registration: 'TE-5120', arrival: '2027-08-01' });
  await bare.click('#send');
  expect(await bare.locator('#outcome').textContent()).toMatch(/^Booked: Otter\.Your reference is FF-\d{5}\.$/);
  await bare.context().close();
});

test('a manifest of 10,000 rows: any two seals are compared, rows come and go, and what is out of sight is validated too', async () => {
  await page.goto(`${demo.url}/manifest.html`);
  const facts = page.locator('#errors');
  expect(await facts.textContent()).toBe('All crates are in order.');
  const seal = page.locator('.window .crate').nth(2).getByLabel('Seal');
  await seal.fill('s19999'); // that of the last crate
  expect(await facts.textContent()).toBe('1 error in 10000 crates.');
  await page.click('#next');
  const lastSeal = page.locator('.window .crate', { hasText: '10000' }).getByLabel('Seal');
  await lastSeal.waitFor();
  expect(await page.locator('.window [data-gate-severity]').textContent()).toBe(worded('duplicate', 'Seal', { first: 3 }));
  await page.click('#add');
  expect(await facts.textContent()).toBe('4 errors in 10001 crates.');
  await page
    .locator('.window .crate')
    .filter({ hasText: /^1Remove/ })
    .getByRole('button')
    .click();
  expect(await facts.textContent()).toBe('1 error in 10000 crates.');
  expect(await page.locator('#work').textContent()).toMatch(/^This keystroke took \d+\.\d\d ms of script\.$/);
});
