// The inspector on a page of the demo, or of its documentation: behind a button, under the policy of the page.

import { expect } from '@jest/globals';
import type { Frame, Page } from 'playwright-core';
import { violations, watch, type Demo } from './browser.ts';

/** Opens the inspector of a page, and uses it. @param isFramed whether the form is in a frame of the page */
export async function useInspector(demo: Demo, path: string, isFramed = false): Promise<void> {
  const errors: string[] = [];
  const page = await demo.browser.newPage();
  page.setDefaultTimeout(20_000);
  // (Its shadow root is closed: here it is opened, to look into it.)
  await page.addInitScript(() => {
    const attach = Element.prototype.attachShadow;
    Element.prototype.attachShadow = function (init) {
      return attach.call(this, { ...init, mode: 'open' });
    };
  });
  watch(page, errors);
  await page.goto(demo.url + path);
  const at: Page | Frame = isFramed ? (await (await page.waitForSelector('iframe')).contentFrame())! : page;
  await at.locator('form').waitFor();
  await page.getByRole('button', { name: 'Inspect the form' }).click();
  const panel = at.locator('upper-gate-inspector');
  await panel.locator('.row').nth(1).click();
  await panel.getByRole('region', { name: 'Field', exact: true }).getByRole('heading', { level: 2 }).waitFor();
  await at.locator('form :is(input, textarea):visible').first().fill('1');
  await panel.getByRole('region', { name: 'Timeline' }).getByText('the user enters "1"').first().waitFor();
  expect(errors).toEqual([]);
  if (!isFramed) expect(await violations(page)).toEqual([]);
  await page.close();
}
