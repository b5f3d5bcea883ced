// What a screen reader says, by the browser's accessibility tree and by live regions.

import type { Page } from 'playwright-core';
import { ENGINE } from './launch.ts';

/** The name, description and states of an element, as the browser computes them. */
export async function computed(page: Page, selector: string): Promise<Record<string, unknown>> {
  // (Firefox does not hand its tree out: what its attributes say.)
  if (ENGINE === 'firefox')
    return page
      .locator(selector)
      .first()
      .evaluate((element: Element) => ({
        description: (element.getAttribute('aria-describedby') ?? '')
          .split(' ')
          // (Blocks read apart.)
          .map((id) => document.getElementById(id)?.innerText.replace(/\s+/g, ' ').trim())
          .filter(Boolean)
          .join(' '),
        invalid: element.getAttribute('aria-invalid') ?? 'false',
      }));
  const session = await page.context().newCDPSession(page);
  const handle = await page.locator(selector).first().elementHandle();
  await handle.evaluate((element) => Object.assign(globalThis, { wanted: element }));
  const { result } = await session.send('Runtime.evaluate', { expression: 'wanted' });
  const { nodes } = await session.send('Accessibility.getPartialAXTree', { objectId: result.objectId!, fetchRelatives: false });
  const node = nodes[0]!;
  await session.detach();
  return {
    role: node.role?.value as unknown,
    name: node.name?.value as unknown,
    description: (node.description?.value as unknown) ?? '',
    ...Object.fromEntries((node.properties ?? []).map(({ name, value }) => [name, value.value as unknown])),
    invalid: String(node.properties?.find(({ name }) => name === 'invalid')?.value.value ?? 'false'),
  };
}

/** Notes from now on what the live region of the form says. */
export async function listen(page: Page): Promise<{ until(count: number): Promise<void>; take(): Promise<string[]>; standing(): Promise<string[]> }> {
  await page.evaluate(() => {
    const said: string[] = [];
    const region = document.querySelector('form > [role=status]:not([id])')!;
    new MutationObserver((records) => records.forEach(({ addedNodes }) => addedNodes.forEach(({ textContent }) => said.push(textContent!)))).observe(region, { childList: true });
    Object.assign(globalThis, { said });
  });
  return {
    until: async (count) => {
      await page.waitForFunction((wanted) => (globalThis as unknown as { said: string[] }).said.length >= wanted, count).catch(() => undefined);
    },
    take: () => page.evaluate(() => (globalThis as unknown as { said: string[] }).said.splice(0)),
    standing: () => page.evaluate(() => [...document.querySelectorAll('form > [role=status]:not([id]) > *')].map(({ textContent }) => textContent)),
  };
}

/** Waits, by the page's own clock, until it is drawn and the focus has followed: within 100 milliseconds after a change. */
export const drawn = (page: Page): Promise<void> => page.evaluate(() => new Promise<void>((resolve) => setTimeout(resolve, 110)));
