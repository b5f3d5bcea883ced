// Forms of an OpenAPI document, in a browser: every operation of it, and a server that validates by the same document.

import { afterEach, beforeEach, expect, test } from '@jest/globals';
import type { Page } from 'playwright-core';
import { useDemo, violations, watch } from './browser.ts';

const demo = useDemo();
let page: Page;
let errors: string[];

beforeEach(async () => {
  errors = [];
  page = await (await demo.browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  page.setDefaultTimeout(20_000);
  watch(page, errors);
  await page.goto(`${demo.url}/interface.html`);
});
afterEach(async () => {
  await page.context().close();
  expect(errors).toEqual([]);
});

const choose = async (operation: string): Promise<void> => {
  await page.selectOption('#operation', operation);
  await page.waitForFunction((id) => location.hash === `#${id}` && document.querySelector('#outcome:not([hidden])') === null, operation);
};
/** Sends, and returns what the server has answered. */
async function send(): Promise<{ status: string; received?: { body?: unknown; parameters?: unknown } }> {
  await page.click('form [type=submit]');
  await page.locator('#outcome').waitFor();
  const [, status = '', body = ''] = /^(\d+ .*)\n([^]*)$/.exec((await page.locator('#answer').textContent())!)!;
  return { status, ...(JSON.parse(body) as object) };
}
const PARAMETERS = { 'parameters.passage': 'PS-004711', passage: 'PS-004711', 'parameters.harbour': 'LW-OBH' };
/** With a body, parameters, both, an either-or, a list, a form, files, a part within itself. */
const SENT = ['bookPassage', 'findPassages', 'changePassage', 'orderService', 'sendTracks', 'askForCall', 'sendPapers', 'planVoyage', 'enterFerry'];
const PAPERS = { kind: 'crew', scan: 'scan.pdf', 'about.number': 'CV123456', 'about.kind': 'radio' };

test('an operation of each kind: its example is filled in, sent, and accepted by a server that reads the same document', async () => {
  const operations = await page.locator('#operation option').evaluateAll((options) => options.map((option) => (option as HTMLOptionElement).value));
  expect(operations.length).toBeGreaterThan(50);
  for (const operation of SENT) {
    expect(operations).toContain(operation);
    await choose(operation);
    if (await page.locator('#example').isVisible()) await page.click('#example');
    for (const [name, value] of Object.entries({ ...PARAMETERS, ...(operation === 'sendPapers' && PAPERS) })) {
      const control = page.locator(`form [name="${name}"]`);
      if ((await control.count()) === 0) continue;
      if (name === 'scan') await control.setInputFiles({ name: value, mimeType: 'application/pdf', buffer: Buffer.from('%PDF') });
      else if (await control.evaluate((each) => each.tagName === 'SELECT')) await control.selectOption(value);
      else await control.fill(value);
    }
    expect([operation, (await send()).status]).toEqual([operation, expect.stringMatching(/^20[01] /)]);
  }
});

test('what may be left out is left out, until something in it is filled in; a part within itself is as deep as it is made', async () => {
  await page.click('#example');
  const fuel = page.locator('[name="vessel.engine.fuel"]');
  expect(await fuel.getAttribute('aria-required')).not.toBe('true');
  await page.fill('[name="vessel.engine.power"]', '90');
  await page.click('form [type=submit]');
  expect(await page.locator('[data-gate-summary] a').allTextContents()).toEqual(['Choose an option for Fuel']);
  expect(await fuel.evaluate((each) => each === document.activeElement && (each as HTMLSelectElement).required)).toBe(true);
  expect(await violations(page)).toEqual([]);
  await page.fill('[name="vessel.engine.power"]', '');
  expect((await send()).received?.body).not.toHaveProperty('vessel.engine');
  await choose('planVoyage');
  await page.click('#example');
  await page.locator('[data-gate-add]').first().click();
  await page.fill('[name="stops.0.stops.0.from"]', 'OBR1');
  await page.fill('[name="stops.0.stops.0.to"]', 'OBR2');
  expect((await send()).received?.body).toMatchObject({ stops: [{ stops: [{ from: 'OBR1', to: 'OBR2' }] }, {}] });
  expect(await violations(page)).toEqual([]);
});
