// The inspector, on a page with two forms. (Its shadow root is closed: here it is opened, to look into it.)

import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import { buildSync } from 'esbuild';
import type { BrowserContext, Page } from 'playwright-core';
import type * as upperGate from 'upper-gate';
import type * as dom from 'upper-gate/dom';
import type * as inspector from 'upper-gate/inspector';
import type * as testing from 'upper-gate/testing';
import type * as trace from 'upper-gate/trace';
import { SOURCE, useBrowser } from './launch.ts';

const script = buildSync({
  stdin: {
    contents:
      "export * from 'upper-gate'; export * from 'upper-gate/dom'; export { inspect, defineInspector } from 'upper-gate/inspector'; export { traceGate } from 'upper-gate/trace'; export { rehearse } from 'upper-gate/testing';",
    resolveDir: __dirname,
  },
  bundle: true,
  write: false,
  format: 'iife',
  globalName: 'UpperGate',
  external: ['fast-check'],
  conditions: [SOURCE],
}).outputFiles[0]!.text;
const axe = readFileSync(createRequire(__filename).resolve('axe-core/axe.min.js'), 'utf8');

type Library = typeof upperGate & typeof dom & typeof inspector & typeof trace & typeof testing;
declare const UpperGate: Library;
declare const made: { boat: ReturnType<Library['createGate']>; harbour: ReturnType<Library['createGate']>; events: string[] };

const HTML = `<!doctype html><html lang="en"><title>Boats</title><main><h1>Boats</h1>
  <form id="boat"><label>Length <input name="lengthM"></label><p data-gate-messages="lengthM"></p><label>Beam <input name="beam"></label><p data-gate-messages="beam"></p>
  <label>Door code <input name="code"></label><p data-gate-messages="code"></p><label>Registration <input name="registration"></label><p data-gate-messages="registration"></p><button>Go</button></form>
  <form aria-label="Harbour"><label>Berth <input name="berth"></label><p data-gate-messages="berth"></p><button>Go</button></form></main>`;

const browser = useBrowser();
let context: BrowserContext;
let page: Page;
let complaints: string[] = [];
beforeAll(async () => {
  context = await browser().newContext({ viewport: { width: 1280, height: 1200 } });
  page = await context.newPage();
  page.setDefaultTimeout(20_000);
  await page.addInitScript(() => {
    const attach = Element.prototype.attachShadow;
    Element.prototype.attachShadow = function (init) {
      return attach.call(this, { ...init, mode: 'open' });
    };
  });
  page.on('pageerror', (error) => complaints.push(String(error)));
  page.on('console', (message) => complaints.push(message.text()));
});
afterAll(() => context.close());
beforeEach(async () => {
  await page.goto('about:blank');
  await page.setContent(HTML);
  await page.addScriptTag({ content: script });
  await page.evaluate(() => {
    const { asyncCheck, bindForm, check, createGate, fieldRules, group, length, number, required, text } = UpperGate;
    const boat = createGate(
      group({
        lengthM: number('Length', required()),
        beam: number('Beam', required()),
        code: text(
          { label: 'Door code', private: true },
          length({ max: 9 }),
          check((code) => code !== 'secret 1' || `${code} is known`),
        ),
        registration: text(
          'Registration',
          length({ max: 7 }),
          asyncCheck(() => new Promise(() => undefined), { name: 'isOnRegister', debounce: 0 }),
        ),
      }).with(fieldRules({ beam: check((beam, { lengthM }) => beam < lengthM || 'Not wider than long') })),
    );
    const harbour = createGate(group({ berth: text('Berth', required()) }));
    const events: string[] = [];
    const [first, second] = [...document.forms] as [HTMLFormElement, HTMLFormElement];
    for (const type of ['focusin', 'focusout', 'click'])
      document.addEventListener(type, (event) => void events.push(`${type} ${(event.target as Element).getAttribute('name') ?? (event.target as Element).localName}`));
    bindForm(first, boat);
    bindForm(second, harbour);
    Object.assign(globalThis, { made: { boat, harbour, events } });
  });
  complaints = [];
});

const panel = () => page.locator('upper-gate-inspector');
const row = (name: string) => panel().locator('.row', { hasText: name });
const details = () => panel().getByRole('region', { name: 'Field', exact: true });
const open = () => page.evaluate(() => void UpperGate.inspect(undefined, { open: true }));
const violations = async () => {
  await page.evaluate(axe);
  const { violations: found } = await page.evaluate<{ violations: { id: string; nodes: { html: string }[] }[] }>('axe.run()');
  return found.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html}`));
};

test('fields with what they hold and why; rules with what they read; the timeline; what is private is dots', async () => {
  await open();
  await page.fill('[name=lengthM]', '3');
  await page.fill('[name=beam]', '7');
  await page.fill('[name=code]', 'secret 1');
  await page.fill('[name=registration]', 'OT-1204');
  await row('Beam').click();
  await details().getByText('Not wider than long').first().waitFor();
  const said = await details().innerText();
  expect(said).toMatch(/raw\s+"7"\s+data\s+7/);
  expect(said).toContain('error customError shown, from check: Not wider than long');
  expect(said).toMatch(/check ran, and found customError; reads lengthM/);
  await details().getByRole('button', { name: 'lengthM' }).first().click();
  await details().getByText('Read by: beam').waitFor();
  await row('Registration').click();
  await details()
    .getByText(/isOnRegister (started|ran)/)
    .waitFor();
  expect(await details().innerText()).toContain('pending');
  await row('Door code').click();
  await details().getByText('(private)').waitFor();
  const all = await panel().evaluate((element) => element.shadowRoot!.textContent);
  expect(all).not.toContain('secret');
  expect(all).toContain('••••');
  expect(await panel().getByRole('region', { name: 'Timeline' }).innerText()).toMatch(/isOnRegister asks/);
  expect(complaints).toEqual([]);
});

test('a fact from outside is no field to go to', async () => {
  await page.evaluate(() => {
    const { check, context, createGate, fieldRules, group, inspect, number } = UpperGate;
    const widest = context<number>('widest');
    const lock = createGate(group({ beam: number('Beam') }).with(fieldRules({ beam: check((beam) => beam <= widest.get()) })), { context: [widest.of(5)] });
    inspect(lock, { open: true });
    lock.field('beam').set('7');
  });
  await row('Beam').click();
  await details().getByText('reads context widest').waitFor();
  expect(await details().getByRole('button').allTextContents()).toEqual(['Go to the field on the page']);
});

test('by keyboard alone; the page does not notice that the focus goes there and comes back', async () => {
  await page.evaluate(() => void UpperGate.inspect());
  await page.focus('[name=beam]');
  await page.evaluate(() => void (made.events.length = 0));
  const state = () => page.evaluate(() => [made.boat.field('beam' as never).touched, ...made.events]);
  await panel().getByRole('button', { name: 'Inspect forms' }).focus();
  await page.keyboard.press('Enter');
  await panel().getByRole('button', { name: 'Pick a field' }).and(page.locator(':focus')).waitFor();
  await row('Length').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await details().getByRole('heading', { name: 'Beam' }).waitFor();
  await page.keyboard.press('End');
  expect(await panel().evaluate((element) => element.shadowRoot!.activeElement!.textContent)).toContain('Registration');
  await page.keyboard.press('Escape');
  await panel().getByRole('button', { name: 'Inspect forms' }).and(page.locator(':focus')).waitFor();
  await page.focus('[name=beam]');
  expect(await state()).toEqual([false]);
  await page.focus('[name=code]');
  expect(await state()).toEqual([true, 'focusout beam', 'focusin code']);
});

test('a field is picked by a click that the page does not get; several forms; filter, pause, clear', async () => {
  await open();
  expect(await panel().locator('select option').allTextContents()).toEqual(['boat', 'Harbour']);
  await panel().getByRole('button', { name: 'Pick a field' }).click();
  await page.click('[name=berth]');
  await details().getByRole('heading', { name: 'Berth' }).waitFor();
  expect(await page.evaluate(() => made.events)).toEqual([]);
  await panel().getByRole('button', { name: 'Pick a field' }).click();
  await page.click('text=Length');
  await details().getByRole('heading', { name: 'Length' }).waitFor();
  await panel().getByLabel('Filter').fill('be');
  expect(await panel().locator('.row .label').allTextContents()).toEqual(['Beam']);
  await panel().getByLabel('Filter').fill('');
  await panel().getByRole('button', { name: 'Pause' }).click();
  await page.fill('[name=beam]', '4');
  // It would have drawn in the first of these.
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
  expect(await row('Beam').innerText()).not.toContain('"4"');
  await panel().getByRole('button', { name: 'Pause' }).click();
  await row('Beam').getByText('"4"').waitFor();
  await panel().getByRole('button', { name: 'Clear' }).click();
  expect(await panel().getByRole('region', { name: 'Timeline' }).innerText()).toContain('Nothing has happened');
  await page.evaluate(() => made.harbour.dispose());
  expect(await panel().locator('select option').allTextContents()).toEqual(['boat']);
});

test('copied as a rehearsal, it plays; a trace of the page goes on beside it; closed, it follows nothing', async () => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']).catch(() => undefined);
  await page.evaluate(() => Object.assign(globalThis, { trace: UpperGate.traceGate(made.boat) }));
  const count = () =>
    page.evaluate(() => (globalThis as unknown as { trace: { entries: readonly { kind: string }[] } }).trace.entries.filter(({ kind }) => kind === 'edited').length);
  await open();
  const atFirst = await count();
  await page.fill('[name=lengthM]', '3');
  expect(await count()).toBeGreaterThan(atFirst);
  await page.fill('[name=beam]', '7');
  await page.press('[name=beam]', 'Tab');
  await panel().getByRole('button', { name: 'Copy as rehearsal' }).click();
  await panel().getByText(/^Cop/).first().waitFor();
  // (What cannot be put into the clipboard stays until it is copied.)
  await page.waitForTimeout(1200);
  const copied = await panel().evaluate((element) => element.shadowRoot!.querySelector('textarea')?.value ?? navigator.clipboard.readText());
  const played = await page.evaluate(async (text) => {
    const { trace } = await UpperGate.rehearse(made.boat.schema as never, JSON.parse(text) as never);
    return trace.entries.filter(({ kind }) => kind === 'edited' || kind === 'shown').length;
  }, copied);
  expect(played).toBeGreaterThan(2);
  const before = await count();
  await panel().getByRole('button', { name: 'Close' }).click();
  await page.fill('[name=beam]', '2');
  expect(await count()).toBeGreaterThan(before);
  const followers = () =>
    page.evaluate(() => {
      const internals = Object.getOwnPropertySymbols(made.harbour).map((key) => (made.harbour as never)[key] as { store?: { tracer?: unknown } });
      return internals.some(({ store }) => store?.tracer !== undefined);
    });
  expect(await followers()).toBe(false);
});

test.each([1280, 320])('at %i pixels, in light and dark, axe has nothing to say; it is last, and its element can be written in markup', async (width) => {
  await page.setViewportSize({ width, height: 800 });
  await open();
  await page.fill('[name=beam]', '7');
  await row('Beam').click();
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    expect(await violations()).toEqual([]);
  }
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth && document.body.lastElementChild!.localName)).toBe('upper-gate-inspector');
  const wide = await panel().evaluate((element) => [...element.shadowRoot!.querySelectorAll('.pane')].filter((pane) => pane.scrollWidth > pane.clientWidth + 1).length);
  expect(wide).toBe(0);
  await page.evaluate(() => document.querySelector('upper-gate-inspector')!.remove());
  await page.evaluate(() => {
    document.querySelector('main')!.insertAdjacentHTML('beforeend', '<upper-gate-inspector open></upper-gate-inspector>');
    UpperGate.inspect(made.boat);
  });
  await row('Beam').waitFor();
  await page.setViewportSize({ width: 1280, height: 1200 });
});
