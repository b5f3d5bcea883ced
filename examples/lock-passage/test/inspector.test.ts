// The inspector on the pages of the demo and of its documentation, under their policy.

import { expect, test } from '@jest/globals';
import type { Frame, Page } from 'playwright-core';
import { useDemo, violations, watch } from './browser.ts';

const demo = useDemo();
const PAGES = {
  plain: '/plain.html',
  React: '/react/',
  Vue: '/vue/',
  'a recipe': '/docs/live/counter.plain.html',
  'a recipe in React': '/docs/live/drafts.react.html',
  'the playground': '/docs/try/index.html',
};

/** A page whose closed shadow roots can be looked into. */
async function openPage(path: string, errors: string[]): Promise<Page> {
  const page = await demo.browser.newPage();
  page.setDefaultTimeout(20_000);
  await page.addInitScript(() => {
    const attach = Element.prototype.attachShadow;
    Element.prototype.attachShadow = function (init) {
      return attach.call(this, { ...init, mode: 'open' });
    };
  });
  watch(page, errors);
  await page.goto(demo.url + path);
  return page;
}

test.each(Object.entries(PAGES))('%s: behind a button, under the policy of the page, and axe has nothing to say', async (name, path) => {
  const errors: string[] = [];
  const page = await openPage(path, errors);
  const at: Page | Frame = name === 'the playground' ? (await (await page.waitForSelector('iframe')).contentFrame())! : page;
  await at.locator('form').waitFor();
  await page.getByRole('button', { name: 'Inspect the form' }).click();
  const panel = at.locator('upper-gate-inspector');
  await panel.locator('.row').nth(1).click();
  await panel.getByRole('region', { name: 'Field', exact: true }).getByRole('heading', { level: 2 }).waitFor();
  await at.locator('form :is(input, textarea):visible').first().fill('1');
  await panel.getByRole('region', { name: 'Timeline' }).getByText('the user enters "1"').first().waitFor();
  expect(errors).toEqual([]);
  if (name !== 'the playground') expect(await violations(page)).toEqual([]);
  await page.close();
});
