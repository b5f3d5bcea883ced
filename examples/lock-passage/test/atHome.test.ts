// The booking where forms are built: the same form, refused and booked, in each framework and as a custom element, under the strict policy.

import { expect, test } from '@jest/globals';
import { fillIn, focused, messagesOf, useDemo, violations, watch } from './browser.ts';

const demo = useDemo();

/** The pages, each with a vessel and a lockage of its own. */
const PAGES = [
  ['Svelte', '/svelte/', 'KF-3307', '07:00'],
  ['Solid', '/solid/', 'HE-2210', '10:00'],
  ['Angular', '/angular/', 'VO-6033', '13:00'],
  ['custom elements', '/elements.html', 'OT-1204', '16:00'],
] as const;

test.each(PAGES)('%s: refused, the focus is on the first error; filled in, it is booked; nobody is in the way of anybody', async (_, path, registration, slot) => {
  const page = await demo.browser.newPage();
  const errors: string[] = [];
  watch(page, errors);
  await page.goto(demo.url + path);
  await page.click('#send');
  expect([await focused(page), await messagesOf(page, 'lengthM')]).toEqual(['vessel', ['Length (m) is required']]);
  expect(await page.locator('.summary a').count()).toBe(17);
  expect(await violations(page)).toEqual([]);
  await fillIn(page, { registration, 'window.from': '06:00', 'window.to': '17:00' });
  await page.check(`[name=slot][value="${slot}"]`);
  await page.click('#send');
  await page.locator('#outcome p').first().waitFor();
  expect(await page.locator('#outcome').innerText()).toMatch(new RegExp(`^Booked: Otter, 2027-05-02, ${slot}`));
  expect([await focused(page), errors]).toEqual(['outcome', []]);
  await page.close();
});
