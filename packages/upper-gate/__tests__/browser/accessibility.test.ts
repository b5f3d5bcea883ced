// What people get who do not see the page: names, descriptions and states of the accessibility tree, what is announced, where
// the focus is. One table for every binding.

import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { Page } from 'playwright-core';
import type { Gate, Node } from 'upper-gate';
import { worded } from '../wording.ts';
import { computed, drawn, listen } from './heard.ts';
import { BINDINGS, bundle, openInspector } from './harness.ts';
import { useBrowser } from './launch.ts';

declare const Scene: { mountHeard(root: Element): void };
declare const gate: Gate<Node> & { field(path: string): { set(value: unknown): void } };

const browser = useBrowser();

describe.each(BINDINGS)('%s', (_, scene, _server, alias, isShort) => {
  const whole = isShort ? () => undefined : test;
  const script = bundle(scene, 'browser', alias);
  let page: Page;
  beforeAll(async () => {
    page = await browser().newPage();
    page.setDefaultTimeout(20_000);
  });
  beforeEach(async () => {
    await page.goto('about:blank');
    await page.setContent('<!doctype html><div id="root"></div>');
    await page.addScriptTag({ content: script });
    await page.evaluate(() => Scene.mountHeard(document.querySelector('#root')!));
    await page.locator('form > [role=status]').waitFor({ state: 'attached' });
    await openInspector(page);
  });
  afterAll(() => page.close());

  const button = (name: string) => page.getByRole('button', { name, exact: true });
  const byName = (name: string) => page.locator(`[name="${name}"]`);
  const focused = async () => (await drawn(page), page.evaluate(() => document.activeElement!.getAttribute('name') ?? document.activeElement!.textContent));
  /** Holds requests back until they are released. */
  const hold = () => page.evaluate(() => Object.assign(globalThis, { held: new Promise((resolve) => Object.assign(globalThis, { letGo: resolve })) }));
  const letGo = () => page.evaluate(() => (globalThis as unknown as { letGo: () => void }).letGo());

  test('names, descriptions and states: nothing is invalid at the start, only what is there describes, messages read apart', async () => {
    const states = async (selectors: readonly string[]) => {
      const found: Record<string, unknown> = {};
      for (const selector of selectors) {
        const { description, invalid } = await computed(page, selector);
        found[selector] = `${String(description)}|${String(invalid)}`;
      }
      return found;
    };
    const all = ['[name=name]', '[name=code]', 'fieldset:has([name=kit])', '[name=kit]', '[name=side]', '[name=way]', 'text=Add'];
    const dangling = () =>
      page.evaluate(() =>
        [...document.querySelectorAll('[aria-describedby]')].flatMap((element) =>
          element
            .getAttribute('aria-describedby')!
            .split(' ')
            .filter((id) => !document.getElementById(id)),
        ),
      );
    expect({ ...(await states(all)), dangling: await dangling() }).toEqual({
      '[name=name]': 'As painted|false',
      '[name=code]': '|false',
      'fieldset:has([name=kit])': `One at least ${worded('required', '')}|false`,
      '[name=kit]': '|false',
      '[name=side]': '|false',
      '[name=way]': '|false',
      'text=Add': 'Two at most|false',
      dangling: [],
    });
    await byName('name').fill('ab');
    await button('Go').click();
    const short = `${worded('tooShort', 'Name', { min: 6 })} Ends with a digit`;
    const choose = (label: string) => worded('valueMissing', label, { holds: 'option' });
    expect({ ...(await states(all)), dangling: await dangling(), focused: await focused() }).toEqual({
      '[name=name]': `As painted ${short}|true`,
      '[name=code]': '|false',
      'fieldset:has([name=kit])': `One at least ${worded('required', '')} ${choose('Kit')}|false`,
      '[name=kit]': '|true',
      // Two groups of radios in one fieldset: each radio is described by the messages of its group.
      '[name=side]': `${choose('Side')}|true`,
      '[name=way]': '|false',
      'text=Add': `Two at most ${worded('tooFew', 'Crew', { min: 1 })}|false`,
      dangling: [],
      focused: 'name',
    });
  });

  test('typing, answers, refusals, sending and reset are announced once each, and nothing stays that no longer holds', async () => {
    const said = await listen(page);
    const check = async (...expected: readonly string[]) => {
      await said.until(expected.length);
      expect({ said: await said.take() }).toEqual({ said: expected });
    };
    await byName('name').pressSequentially('ab');
    await byName('code').focus();
    await check(`${worded('tooShort', 'Name', { min: 6 })} Ends with a digit`);
    await byName('name').fill('Otter 1');
    expect(await said.standing()).toEqual([]);
    await hold();
    await byName('code').fill('OT-2');
    await check(worded('checking', 'Code'));
    await letGo();
    await check('OT-2 is taken');
    expect(await said.standing()).toEqual(['OT-2 is taken']);
    await byName('code').fill('OT-1');
    await check('OT-1 is free');
    // Answers that are known already.
    await byName('code').fill('OT-2');
    await check('OT-2 is taken');
    await byName('code').fill('OT-1');
    await check('OT-1 is free');
    await button('Go').click();
    await check(worded('summary', '', { count: 3 }));
    await button('Go').click();
    await check(worded('stillRefused', '', { summary: worded('summary', '', { count: 3 }) }));
    expect(await focused()).toBe('kit');
    await page.locator('[value=lights]').check();
    await page.locator('[value=starboard]').check();
    await button('Add').click();
    await check(worded('rowAdded', 'Crew', { row: 1 }));
    await byName('crew.0').fill('Ann');
    await byName('name').fill('Heron');
    await byName('name').fill('Heron 1');
    await hold();
    await button('Go').click();
    await check(worded('sending', ''));
    await letGo();
    await check(worded('sent', ''));
    await page.evaluate(() => gate.field('name').set('Otter 2'));
    expect(await said.standing()).not.toContain(worded('sent', ''));
    await page.evaluate(() => gate.addFindings([{ path: '', message: 'The flight is closed' }]));
    await check('The flight is closed');
    await button('Reset').click();
    await check(worded('reset', ''));
  });

  whole('a submission that an edit interrupts is announced as not sent', async () => {
    const said = await listen(page);
    await hold();
    await byName('code').fill('OT-1');
    await button('Go').click();
    await byName('name').fill('Otter 1');
    await said.until(1);
    // (On a slow machine, after the word that the code is being checked.)
    expect((await said.take()).filter((text) => text !== worded('checking', 'Code'))).toEqual([worded('interrupted', '')]);
    await letGo();
  });

  whole('rows: added, moved and removed, they are announced, and the focus goes along', async () => {
    const said = await listen(page);
    const step = async (act: () => Promise<unknown>, announced: string, focus: string) => {
      await act();
      await said.until(1);
      expect({ said: await said.take(), focused: await focused() }).toEqual({ said: [announced], focused: focus });
    };
    for (const row of [1, 2, 3]) {
      await step(() => button('Add').click(), worded('rowAdded', 'Crew', { row }), `crew.${row - 1}`);
      await page.keyboard.type(`Member ${row}`);
    }
    await step(() => button('Up').nth(2).click(), worded('rowMoved', 'Crew', { row: 3, to: 2 }), 'Up');
    expect(await page.evaluate(() => document.activeElement!.parentElement!.querySelector('input')!.value)).toBe('Member 3');
    // Where it goes the button is hidden, so the row has the focus.
    const hidden = await page.addStyleTag({ content: 'fieldset > div:first-of-type > button:first-of-type { display: none }' });
    await step(() => button('Up').first().click(), worded('rowMoved', 'Crew', { row: 2, to: 1 }), 'crew.0');
    await hidden.evaluate((style) => (style as HTMLElement).remove());
    await step(() => button('Remove').nth(1).click(), worded('rowRemoved', 'Crew', { row: 2 }), 'crew.1');
    await step(() => button('Remove').nth(1).click(), worded('rowRemoved', 'Crew', { row: 2 }), 'crew.0');
    await step(() => button('Remove').click(), worded('rowRemoved', 'Crew', { row: 1 }), 'Add');
  });

  test('where a program moves, removes or replaces the row that has the focus, it stays in the list; no other row is announced, none counts as left', async () => {
    await page.evaluate("gate.set({ crew: ['Ann', 'Bo'] }); gate.addFindings([{ path: 'crew.1', message: 'Not on the list' }])");
    await byName('crew.0').focus();
    const said = await listen(page);
    for (const [act, announced, focus] of [
      ["gate.list('crew').move(0, 1)", [worded('rowMoved', 'Crew', { row: 1, to: 2 })], 'crew.1'],
      ["gate.list('crew').move(1, 0)", [worded('rowMoved', 'Crew', { row: 2, to: 1 })], 'crew.0'],
      ["gate.list('crew').remove(0)", [worded('rowRemoved', 'Crew', { row: 1 })], 'crew.0'],
      ["gate.set({ crew: ['Cleo', 'Di'] })", [], 'crew.0'],
      [
        "gate.batch(() => gate.list('crew').add('Ed') && gate.list('crew').remove(0))",
        [worded('rowAdded', 'Crew', { row: 3 }), worded('rowRemoved', 'Crew', { row: 1 })],
        'crew.0',
      ],
      ['gate.set({ crew: [] })', [], 'Add'],
    ] as const) {
      await page.evaluate(act);
      expect({ act, focused: await focused(), said: await said.take(), touched: await page.evaluate('gate.state.touched') }).toEqual({
        act,
        said: announced,
        focused: focus,
        touched: false,
      });
    }
  });

  whole('whoever goes on before an added row is drawn keeps the focus; of two rows, the later one takes it', async () => {
    const focusedAfter = async (act: (add: HTMLElement) => unknown) => {
      await button('Add').evaluate(act);
      return focused();
    };
    const goesOn = await focusedAfter(async (add) => {
      add.click();
      await Promise.resolve();
      document.querySelector<HTMLElement>('[name=code]')!.focus();
    });
    const addsTwo = await focusedAfter((add) => {
      add.focus();
      add.click();
      add.click();
    });
    expect({ goesOn, addsTwo }).toEqual({ goesOn: 'code', addsTwo: 'crew.2' });
  });

  whole('a field that stops applying hands the focus to its neighbour; a chosen radio takes it, not the first', async () => {
    await page.locator('[value=up]').check();
    await byName('tug').focus();
    await page.evaluate(() => gate.field('way').set('down'));
    await page.waitForFunction(() => document.activeElement!.getAttribute('name') === 'way');
    expect(await page.evaluate(() => (document.activeElement as HTMLInputElement).value)).toBe('down');
    await page.locator('[value=starboard]').check();
    await page.evaluate(() => gate.addFindings([{ path: 'side', message: 'No room on this side' }]));
    await page.evaluate(() => gate.field('side' as never).focus());
    expect(await page.evaluate(() => (document.activeElement as HTMLInputElement).value)).toBe('starboard');
  });

  whole('the only wrong control is hidden: what opens is opened, else the line above the form takes the focus', async () => {
    await byName('name').fill('ab');
    for (const value of ['lights', 'starboard']) await page.locator(`[value=${value}]`).check();
    await button('Add').click();
    await byName('crew.0').fill('Ann');
    for (const [how, hide, show, opens] of [
      ['visibility: hidden', "place.style.visibility = 'hidden'", "place.style.visibility = ''", false],
      ['inert', 'place.inert = true', 'place.inert = false', false],
      ['hidden until found', "place.setAttribute('hidden', 'until-found')", '', true],
      ['in closed details', "const details = document.createElement('details'); place.before(details); details.append(place)", '', true],
    ] as const) {
      const does = (what: string) => page.evaluate(`{ const place = document.querySelector('[name=name]').closest('p'); ${what} }`);
      await does(hide);
      await button('Go').click();
      await page.waitForFunction(() => document.activeElement!.localName !== 'button');
      expect({ how, focused: await focused() }).toEqual({ how, focused: opens ? 'name' : expect.stringMatching(/^Name must .*\s?Ends with a digit$/) });
      await does(show);
    }
  });
});
