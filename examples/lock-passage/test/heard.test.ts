// A walk through the form with a screen reader: what has the focus, by the browser's accessibility tree, and what is announced. The same
// on every page, and as docs/accessibility.md has it.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@jest/globals';
import { fillIn, PAGES, testInTurn, useDemo } from './browser.ts';
import { computed, drawn, listen } from '../../../packages/upper-gate/__tests__/browser/heard.ts';

const demo = useDemo();
const PAGE = readFileSync(join(__dirname, '../../../docs/accessibility.md'), 'utf8');

for (const [i, [name, [path, registration]]] of Object.entries(PAGES).entries()) {
  testInTurn(i, 3)(
    `${name} announces what the guide shows`,
    async () => {
      const page = await demo.browser.newPage();
      try {
        page.setDefaultTimeout(20_000);
        await page.goto(demo.url + path);
        await page.locator('form > [role=status]:not([id])').waitFor({ state: 'attached' });
        const said = await listen(page);
        const heard: string[] = [];
        const act = async (what: string, does: () => Promise<unknown>, announcements: number, moves = false) => {
          heard.push(`> ${what}`);
          await does();
          await said.until(announcements);
          heard.push(...(await said.take()).map((text) => `  says: ${text}`));
          if (!moves) return;
          await drawn(page);
          const { name, role, required, invalid, description } = await computed(page, ':focus');
          const around = await page.evaluate(() => document.activeElement!.matches('[type=radio], [type=checkbox]') && document.activeElement!.closest('fieldset') !== null);
          const group = around ? await computed(page, 'fieldset:has(:focus):not(:has(fieldset :focus))') : undefined;
          const facts = [
            name || (await page.locator(':focus').innerText()).replace(/\s+/g, ' '),
            role === 'generic' ? '' : role,
            required === true && 'required',
            invalid === 'true' && 'invalid',
            description,
          ];
          const text = [...facts, group && `in ${String(group['name'])}`, group?.['description']].filter(Boolean).join(', ');
          heard.push(`  focus: ${text.replace(/FF-\d+/, 'FF-00000').replace(/2027-06-\d\d/, '2027-06-10')}`);
        };
        const press = (selector: string) => async () => {
          await page.focus(selector);
          await page.keyboard.press('Enter');
        };
        const weather = (to: string) => page.check(`[name=weather][value=${to}]`);

        await act('goes to the first field', () => page.focus('[name=vessel]'), 0, true);
        await act('types "O" and goes on', () => page.keyboard.type('O').then(() => page.keyboard.press('Tab')), 1, true);
        await act('goes back', () => page.keyboard.press('Shift+Tab'), 0, true);
        await act('types "Otter"', () => page.keyboard.type('Otter'), 0, true);
        await weather('slow');
        await page.focus('[name=registration]');
        await act('types a registration, and waits', () => page.keyboard.type('OT-1204'), 2);
        await weather('fair');
        await act('sends the form', press('#send'), 1, true);
        await act('sends it again', press('#send'), 1, true);
        await fillIn(page, { registration, arrival: '2027-05-01' });
        await page.check('[name=slot][value="10:00"]');
        await page.waitForFunction(() => !document.querySelector('[data-gate-state=pending]'));
        await said.take();
        await act('adds somebody to the crew', press('[data-gate-add=crew]'), 1, true);
        await act('removes that row', press('fieldset.row:nth-of-type(2) button:last-child'), 1, true);
        await act('sends the form, of which somebody else was quicker', press('#send'), 2, true);
        // On a day that no other page has booked.
        await page.fill(
          '[name=arrival]',
          `2027-06-${registration.slice(-2)}`.replace(/\d\d$/, (digits) => String(10 + (Number(digits) % 19))),
        );
        await page.focus('[name=slot]:checked');
        await act('chooses another lockage', () => page.keyboard.press('ArrowDown'), 0, true);
        await act('sends it', press('#send'), 2);
        await page.waitForFunction(() => document.activeElement!.id === 'outcome');
        await act('hears the outcome', () => Promise.resolve(), 0, true);
        await act('starts over', press('[type=reset]'), 1);
        expect(heard.join('\n')).toBe(/^```text transcript\n(.*?)\n```/ms.exec(PAGE)?.[1]);
      } finally {
        await page.close();
      }
    },
    90_000,
  );
}
