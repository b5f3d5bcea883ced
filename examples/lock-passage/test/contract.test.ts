// What every binding owes to everyone who fills in a form: one table, held by the plain page, React and Vue alike.

import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import type { BrowserContextOptions, Page } from 'playwright-core';
import { fillIn, focused, messagesOf, PAGES, testInTurn, useDemo, violations } from './browser.ts';
import { computed } from '../../../packages/upper-gate/__tests__/browser/heard.ts';
import { THOROUGH } from '../../../packages/upper-gate/__tests__/runs.ts';
import { worded } from '../../../packages/upper-gate/__tests__/wording.ts';

const demo = useDemo();

/** The states of the page, and how it gets into each. */
const STATES: Readonly<Record<string, (page: Page) => Promise<unknown>>> = {
  'at rest': async () => undefined,
  'with errors': async (page) => {
    await page.check('[name="cargo.load"][value=dangerous]');
    await page.click('[data-gate-add=crew]');
    await page.click('#send');
    await page.locator('.summary').waitFor();
  },
  'while a field is checked': async (page) => {
    await page.check('[name=weather][value=slow]');
    await page.fill('[name=registration]', 'HE-2210');
    await page.locator('[name=registration][data-gate-state=pending]').waitFor();
  },
  'while it is sent': async (page) => {
    await page.check('[name=weather][value=slow]');
    await fillIn(page, { registration: 'TE-5120', arrival: '2027-09-09' });
    await page.click('#send');
    await page.locator('form[aria-busy=true]').waitFor();
  },
};

const DESCRIBED: readonly (readonly [selector: string, Record<string, unknown>])[] = [
  ['[name=vessel]', { role: 'textbox', name: 'Vessel name', description: `As painted on the bow ${worded('valueMissing', 'Vessel name')}`, invalid: 'true', required: true }],
  ['[name=arrival]', { name: 'Day', description: worded('valueMissing', 'Day'), invalid: 'true' }],
  ['[name=kind]', { role: 'combobox', name: 'Kind of boat', description: worded('valueMissing', 'Kind of boat', { holds: 'option' }), invalid: 'true' }],
  ['[name=slot]', { role: 'radio', name: '07:00 early', description: '' }],
  ['fieldset:has(> .options [name=slot])', { role: 'group', name: 'Lockage', description: worded('valueMissing', 'Lockage', { holds: 'option' }) }],
  [
    'fieldset:has(> .options [name=kit])',
    { role: 'group', name: 'Safety kit on board', description: `Two at least required ${worded('valueMissing', 'Safety kit on board', { holds: 'option' })}` },
  ],
  ['[name=kit]', { role: 'checkbox', name: 'life jackets', description: '' }],
  ['[name="crew.0.name"]', { role: 'textbox', name: 'Name', description: worded('valueMissing', 'Name'), invalid: 'true', required: true }],
  ['[name=remarks]', { role: 'textbox', name: 'Remarks', description: 'Anything the lock keeper should know 0 of 300', invalid: 'false', required: false }],
  [
    '[name=terms]',
    {
      role: 'checkbox',
      name: 'I have read the rules of the flight',
      description: worded('valueMissing', 'I have read the rules of the flight', { holds: 'flag' }),
      invalid: 'true',
    },
  ],
  ['.summary', { role: 'group', name: worded('summary', '', { count: 17 }), description: '' }],
  ['#send', { role: 'button', name: 'Book the passage', description: '' }],
];

describe.each(Object.entries(PAGES).map(([name, page], i) => [name, i, ...page] as const))('%s', (name, i, path, registration) => {
  const testHere = testInTurn(i, 3);
  let page: Page;
  let faults: string[];
  async function open(options: BrowserContextOptions = {}): Promise<Page> {
    const opened = await (await demo.browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', ...options })).newPage();
    opened.setDefaultTimeout(20_000);
    opened.on('pageerror', (error) => faults.push(String(error)));
    opened.on('console', (message) => ['warning', 'error'].includes(message.type()) && !/Failed to load resource/.test(message.text()) && faults.push(message.text()));
    await opened.goto(demo.url + path);
    await opened.locator('#send').waitFor();
    return opened;
  }
  beforeEach(async () => {
    faults = [];
    page = await open();
  });
  afterEach(async () => {
    await page.context().close();
    expect(faults).toEqual([]);
  });

  // The pages share their style, and what is shown while something is under way is drawn by the same code everywhere.
  const isLookedAt = name === 'plain' || THOROUGH;
  const states = Object.entries(STATES).slice(0, name === 'plain' ? undefined : isLookedAt ? 2 : 0);
  if (states.length > 0)
    test.each(states)('axe-core finds nothing %s', async (_state, reach) => {
      await reach(page);
      expect(await violations(page)).toEqual([]);
    });

  testHere('names, descriptions, invalid and required reach assistive technology as declared', async () => {
    await page.click('#send');
    await page.locator('.summary').waitFor();
    for (const [selector, expected] of DESCRIBED)
      expect({ selector, 'computed selector': await computed(page, selector) }).toEqual({ selector, 'computed selector': expect.objectContaining(expected) });
  });

  testHere('a live region says each answer once, politely, and what is wrong as a field is left, but nothing with a keystroke', async () => {
    await page.evaluate(() => {
      const said: string[] = [];
      const region = document.querySelector('form > [role=status]:not([id])')!;
      new MutationObserver((records) => records.forEach(({ addedNodes }) => addedNodes.forEach((added) => said.push(added.textContent!)))).observe(region, {
        childList: true,
        subtree: true,
      });
      Object.assign(window, { said });
    });
    const said = () => page.evaluate(() => (window as unknown as { said: string[] }).said);
    await page.locator('[name=registration]').pressSequentially('ot-1204', { delay: 15 });
    await page.locator('[data-gate-messages=registration] > *').waitFor();
    await page.locator('[name=vessel]').pressSequentially('O');
    await page.locator('[name=lengthM]').pressSequentially('99');
    await page.locator('[name=beam]').focus();
    await page.locator('[data-gate-messages=lengthM] > *').waitFor();
    expect(await said()).toEqual(['On the register: Otter', worded('tooShort', 'Vessel name', { min: 2 }), worded('rangeOverflow', 'Length (m)', { max: 30 })]);
    expect(await page.locator('[aria-live=assertive]').count()).toBe(0);
  });

  testHere('the keyboard alone gets through, from the first field to the booking', async () => {
    page.on('filechooser', (chooser) => void chooser.setFiles({ name: 'p.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF') }));
    const keys: Readonly<Record<string, readonly string[]>> = {
      vessel: ['Teal'],
      registration: [registration],
      lengthM: ['12'],
      beam: ['2'],
      kind: ['Narrow'],
      insurance: ['!Enter'],
      arrival: ['06072027'],
      'window.from': ['0900AM'],
      'window.to': ['0930AM'],
      slot: Array<string>(Object.values(PAGES).findIndex(([each]) => each === path) + 1).fill('!ArrowDown'),
      'crew.0.name': ['Ada'],
      'crew.0.age': ['41'],
      'cargo.load': ['!Space'],
      kit: ['!Space'],
      email: ['teal@example.org'],
      emailAgain: ['teal@example.org'],
      terms: ['!Space'],
    };
    await page.focus('#language');
    const seen = new Set<string>();
    for (let steps = 0; steps < 60 && !seen.has('send'); steps += 1) {
      await page.keyboard.press('Tab');
      const name = await focused(page);
      // Each part of a date is a tab stop; each box of a group too.
      if (seen.has(name) && name !== 'kit') continue;
      seen.add(name);
      for (const key of keys[name] ?? []) await (key.startsWith('!') ? page.keyboard.press(key.slice(1)) : page.keyboard.type(key));
    }
    await page.keyboard.press('Enter');
    await page.locator('#outcome', { hasText: /Booked: Teal, 2027-06-07, \d/ }).waitFor();
    expect(await focused(page)).toBe('outcome');
    expect(await violations(page)).toEqual([]);
  });

  testHere('after a refusal the focus is on the first invalid control as the person sees it; the summary leads to the others', async () => {
    await page.click('#send');
    expect(await focused(page)).toBe('vessel');
    await page.locator('.summary a', { hasText: `Crew member 1: ${worded('valueMissing', 'Age')}` }).click();
    expect(await focused(page)).toBe('crew.0.age');
    await page.locator('.summary a', { hasText: 'Lockage' }).click();
    expect(await focused(page)).toBe('slot');
    await page.keyboard.press('ArrowDown');
    expect({ 'messages of slot': await messagesOf(page, 'slot'), '.summary a count': await page.locator('.summary a', { hasText: 'Lockage' }).count() }).toEqual({
      'messages of slot': [],
      '.summary a count': 0,
    });
    await fillIn(page, { email: 'otter' });
    await page.click('#send');
    await page.waitForFunction(() => document.activeElement?.getAttribute('name') === 'email');
    await page.locator('[data-gate-add=crew] >> xpath=preceding::button[1]').click();
    await page.fill('[name=email]', 'otter@example.org');
    await page.click('#send');
    await page.waitForFunction(() => document.activeElement?.matches('[data-gate-add=crew]'));
    expect(await messagesOf(page, 'crew')).toEqual([worded('tooFew', 'Crew on board', { min: 1 })]);
  });

  testHere('rows and either-or: added, moved and removed with what was typed', async () => {
    await page.click('[data-gate-add=crew]');
    await page.fill('[name="crew.0.name"]', 'Ada');
    await page.fill('[name="crew.1.name"]', 'Bo');
    await page.locator('[data-gate-move]').last().click();
    expect({ 'crew.0.name': await page.inputValue('[name="crew.0.name"]'), 'crew.1.name': await page.inputValue('[name="crew.1.name"]') }).toEqual({
      'crew.0.name': 'Bo',
      'crew.1.name': 'Ada',
    });
    await page.check('[name="cargo.load"][value=goods]');
    await page.fill('[name="cargo.what"]', 'Willow');
    expect(await page.locator('[name="cargo.permit"]').isVisible()).toBe(false);
    await page.check('[name="cargo.load"][value=dangerous]');
    await page.fill('[name="cargo.permit"]', 'P-1');
    await page.click('#send');
    expect(await messagesOf(page, 'cargo.permit')).toEqual(['Permit: P, four digits, three digits']);
    await page.check('[name="cargo.load"][value=none]');
    expect(await page.locator('[name="cargo.what"]').isVisible()).toBe(false);
  });

  if (isLookedAt)
    test('at 320 pixels (1280 at 400 %), in Arabic, nothing is cut off; the language changes with what is shown', async () => {
      await page.setViewportSize({ width: 320, height: 800 });
      await page.click('#send');
      await page.selectOption('#language', 'ar');
      await page.locator('html[dir=rtl][lang=ar]').waitFor();
      expect(await messagesOf(page, 'vessel')).toEqual(['\u2068اسم القارب\u2069: هذا الحقل مطلوب']);
      expect(await page.locator('.summary h2').textContent()).toMatch(/حقلًا بحاجة إلى مراجعة/);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(320);
      const cut = await page.evaluate(() =>
        [...document.querySelectorAll('label, legend, [data-gate-severity], button')]
          .filter((element) => element.scrollWidth > element.clientWidth + 1 && getComputedStyle(element).display !== 'inline')
          .map(({ outerHTML }) => outerHTML),
      );
      expect(cut).toEqual([]);
      expect(await violations(page)).toEqual([]);
    });

  if (isLookedAt)
    test('errors can be recognised without colour: in forced colours, and nothing moves with reduced motion', async () => {
      await page.emulateMedia({ forcedColors: 'active', reducedMotion: 'reduce' });
      await page.click('#send');
      const facts = () =>
        page.evaluate(() => {
          const message = document.querySelector('[data-gate-messages=vessel] > *')!;
          return [getComputedStyle(message, '::before').content.includes('✕'), document.getAnimations().length];
        });
      expect(await facts()).toEqual([true, 0]);
      expect(await violations(page)).toEqual([]);
    });

  testHere('a half-filled form survives a reload', async () => {
    await page.fill('[name=vessel]', 'Otter');
    await page.click('[data-gate-add=crew]');
    await page.fill('[name="crew.1.name"]', 'Bo');
    await page.waitForFunction(() => Object.values(localStorage).some((kept) => String(kept).includes('Bo')));
    await page.reload();
    await page.locator('[name="crew.1.name"]').waitFor();
    expect({
      vessel: await page.inputValue('[name=vessel]'),
      'crew.1.name': await page.inputValue('[name="crew.1.name"]'),
      '#restored textContent': await page.locator('#restored').textContent(),
    }).toEqual({ vessel: 'Otter', 'crew.1.name': 'Bo', '#restored textContent': 'Your earlier entries are back.' });
  });
});
