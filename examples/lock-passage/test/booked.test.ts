// A booking is changed after it was made: saved as it is edited, by several people, over a network that fails.

import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import type { Page } from 'playwright-core';
import { testInTurn, useDemo, violations, watch } from './browser.ts';

const demo = useDemo();
const REFERENCE = 'FF-10000';
const url = (): string => `${demo.url}/api/bookings/${REFERENCE}`;
const JSON_PATCH = { 'content-type': 'application/merge-patch+json' };
let errors: string[];

interface Stored {
  readonly etag: string;
  readonly details: Readonly<Record<string, unknown>>;
}
async function stored(): Promise<Stored> {
  const response = await fetch(url());
  return { etag: response.headers.get('etag')!, ...((await response.json()) as { details: Record<string, unknown> }) };
}
const patch = (body: string, headers: Record<string, string> = {}) => fetch(url(), { method: 'PATCH', headers: { ...JSON_PATCH, ...headers }, body });
/** Somebody else changes it. */
const change = async (to: object): Promise<number> => (await patch(JSON.stringify(to), { 'if-match': (await stored()).etag })).status;
const BEGINNING = { lengthM: 14.5, beam: 2.1, crew: [{ name: 'Bram Weir', age: 52 }], kit: ['lifejackets', 'horn'], callBack: false, phone: null, remarks: 'A dog on board' };

beforeEach(async () => {
  errors = [];
  expect(await change(BEGINNING)).toBe(200);
});
afterEach(() => expect(errors).toEqual([]));

describe.each([
  ['plain', 0, '/booked.html'],
  ['React', 1, '/react/booked.html'],
] as const)('%s', (_, i, path) => {
  const testHere = testInTurn(i, 2);
  let page: Page;
  beforeEach(async () => {
    page = await (await demo.browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' })).newPage();
    page.setDefaultTimeout(20_000);
    watch(page, errors);
    await page.goto(`${demo.url}${path}?reference=${REFERENCE}`);
    await page.locator('[name=remarks]').waitFor();
  });
  afterEach(() => page.context().close());
  const says = (text: string) => page.locator('#saving', { hasText: text }).waitFor();
  const news = () => page.locator('#news p').first().innerText();

  testHere('what is edited and valid is saved, the rest waits; rows, boxes and cleared fields too', async () => {
    expect([await page.inputValue('[name="crew.0.name"]'), await page.isChecked('[name=kit][value=horn]'), await page.inputValue('[name=remarks]')]).toEqual([
      'Bram Weir',
      true,
      'A dog on board',
    ]);
    await says('All changes are saved');
    await page.fill('[name=remarks]', '');
    await page.fill('[name=beam]', '99');
    await says('an entry needs another look');
    expect([await violations(page), await page.locator('[role=status]').first().innerText()]).toEqual([[], expect.stringContaining('Not saved')]);
    expect((await stored()).details).toEqual({ ...BEGINNING, window: { from: '09:15', to: '09:45' }, remarks: undefined, phone: undefined });
    await page.fill('[name=beam]', '3.2');
    await page.check('[name=kit][value=lights]');
    await page.getByRole('button', { name: 'Add' }).click();
    await page.fill('[name="crew.1.name"]', 'Ida Fen');
    await page.fill('[name="crew.1.age"]', '33');
    await says('All changes are saved');
    expect((await stored()).details).toMatchObject({ beam: 3.2, kit: ['lifejackets', 'horn', 'lights'], crew: [BEGINNING.crew[0], { name: 'Ida Fen', age: 33 }] });
    // The rules between fields are those of the booking.
    await page.check('[name=callBack]');
    await page.locator('[name=phone]').focus();
    await page.locator('[name=remarks]').focus();
    await page.locator('[data-gate-messages=phone] > *', { hasText: 'call you back' }).waitFor();
  });

  testHere('changes of somebody else come in, and overwrite nothing; where both changed a field, the user chooses', async () => {
    await change({ beam: 4.1 });
    await page.fill('[name=remarks]', 'Two dogs');
    await says('All changes are saved');
    expect(await news()).toBe('Somebody else has changed: Beam (m). It is shown here.');
    expect(await page.inputValue('[name=beam]')).toBe('4.1');
    expect((await stored()).details).toMatchObject({ beam: 4.1, remarks: 'Two dogs' });
    for (const [whose, expected] of [
      ['theirs', 'Three cats, theirs'],
      ['mine', 'Three dogs'],
    ] as const) {
      await change({ remarks: `Three cats, ${whose}`, lengthM: whose === 'mine' ? 16 : 15 });
      await page.fill('[name=remarks]', 'Three dogs');
      await page.locator('[data-whose=mine]').waitFor();
      await says('somebody else has changed this booking');
      expect((await stored()).details).toMatchObject({ remarks: `Three cats, ${whose}` });
      expect(await page.locator('#news li').allInnerTexts()).toEqual([`Remarks, theirs: Three cats, ${whose}`]);
      await page.click(`[data-whose=${whose}]`);
      await says('All changes are saved');
      expect([(await stored()).details['remarks'], await page.inputValue('[name=remarks]'), await page.isHidden('#news')]).toEqual([expected, expected, true]);
    }
  });

  testHere('a slow server gets one request at a time, and a failed one is sent again; without a connection it waits; leaving warns while edits are unsaved', async () => {
    let under = 0;
    let most = 0;
    let sent = 0;
    let answer: () => void = () => undefined;
    await page.route('**/api/bookings/*', async (route) => {
      if (route.request().method() !== 'PATCH') return route.continue();
      sent += 1;
      most = Math.max(most, (under += 1));
      if (sent === 1) await new Promise<void>((resolve) => (answer = resolve));
      under -= 1;
      await (sent === 2 ? route.fulfill({ status: 500 }) : route.continue());
    });
    let dialogs = 0;
    page.on('dialog', (dialog) => {
      dialogs += 1;
      void dialog.dismiss();
    });
    const tryToLeave = () => page.evaluate(() => window.dispatchEvent(new Event('beforeunload', { cancelable: true })));
    expect(await tryToLeave()).toBe(true);
    await page.locator('[name=remarks]').press('Control+End');
    await page.locator('[name=remarks]').pressSequentially(' and more');
    expect(await tryToLeave()).toBe(false);
    await says('Saving');
    await page.locator('[name=remarks]').pressSequentially(' of them');
    answer();
    await says('does not answer');
    await says('All changes are saved');
    expect([most, await tryToLeave(), (await stored()).details['remarks']]).toEqual([1, true, 'A dog on board and more of them']);
    await page.context().setOffline(true);
    await page.fill('[name=remarks]', 'On the way');
    await says('there is no connection');
    await page.close({ runBeforeUnload: true });
    expect(page.isClosed()).toBe(false);
    await page.context().setOffline(false);
    await says('All changes are saved');
    expect([dialogs, (await stored()).details['remarks']]).toEqual([1, 'On the way']);
  });
});

test('the server takes no patch but of the version it has, and none that makes the whole wrong', async () => {
  const { etag, details } = await stored();
  const match = { 'if-match': etag };
  for (const [body, headers, status] of [
    ['{}', {}, 428],
    ['{}', { 'if-match': '"0"' }, 412],
    ['beam=3', { ...match, 'content-type': 'application/x-www-form-urlencoded' }, 415],
    ['{', match, 400],
    ['{"beam": "3"}', match, 422],
    ['{"beam": 60}', match, 422],
    ['{"callBack": true}', match, 422],
    ['{"lengthM": 30, "beam": 5}', match, 422],
    ['{"registration": "OT-1204"}', match, 422],
    ['{"crew": null}', match, 422],
    ['[]', match, 422],
    ['{"window": {"to": "09:00"}}', match, 422],
    [`${'{"a":'.repeat(50)}1${'}'.repeat(50)}`, match, 400],
    ['{"__proto__": {"polluted": 1}}', match, 422],
  ] as const)
    expect([body.slice(0, 40), (await patch(body, headers)).status]).toEqual([body.slice(0, 40), status]);
  expect([(await stored()).details, ({} as Record<string, unknown>)['polluted']]).toEqual([details, undefined]);
  for (const [reference, status] of [
    ['FF-00000', 404],
    ['%00', 400],
  ] as const)
    expect((await fetch(url().replace(REFERENCE, reference))).status).toBe(status);
  const { etag: current } = await stored();
  const both = await Promise.all(['a', 'b'].map((remarks) => patch(JSON.stringify({ remarks }), { 'if-match': current })));
  expect(both.map(({ status }) => status).sort()).toEqual([200, 412]);
});
