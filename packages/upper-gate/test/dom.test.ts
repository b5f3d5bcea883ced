import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import type * as Library from 'upper-gate';
import type * as Dom from 'upper-gate/dom';
import { launchBrowser, loadLibrary } from './browser.ts';

declare const UpperGate: typeof Library & typeof Dom;

let browser: Browser;
let page: Page;
beforeAll(async () => {
  browser = await launchBrowser();
  page = await browser.newPage();
});
afterAll(() => browser.close());
beforeEach(async () => {
  await page.goto('about:blank');
});

/** Sets the page up, and binds its form `f` to a gate with a required text for each name. */
async function bind(html: string, names: readonly string[]): Promise<void> {
  await page.setContent(html);
  await loadLibrary(page);
  await page.evaluate((all) => {
    const { group, text, required, createGate, bindForm } = UpperGate;
    const gate = createGate(group(Object.fromEntries(all.map((name) => [name, text(`Label ${name}`, required())]))));
    Object.assign(window, { gate, undo: bindForm(document.querySelector<HTMLFormElement>('#f')!, gate as never) });
  }, names);
}
const html = () => page.evaluate(() => document.body.innerHTML);
const focused = () => page.evaluate(() => document.activeElement?.id);

test('undoing leaves the page as it was, and the form to itself', async () => {
  const before =
    '<form id="f"><label>A <input name="a" aria-describedby="x"></label><p id="x">Hint</p><label>B <select name="b"><option></option></select></label><button>Go</button></form>';
  await bind(before, ['a', 'b']);
  await page.click('button');
  expect(await html()).toContain('Label a is required');
  expect(await page.getAttribute('[name=a]', 'aria-describedby')).toMatch(/^x gate-\d+$/);
  await page.evaluate(() => (window as unknown as { undo: () => void }).undo());
  expect(await html()).toBe(before);
  expect(await page.evaluate(() => [document.querySelector('input')!.validationMessage, document.querySelector('form')!.noValidate])).toEqual(['', false]);
});

test('text is never HTML, labels and values included', async () => {
  await page.setContent('<form id="f"><input name="a"></form>');
  await loadLibrary(page);
  await page.evaluate(() => {
    const { group, text, check, createGate, bindForm } = UpperGate;
    const gate = createGate(
      group({
        a: text(
          '<b>A</b>',
          check((value) => `<img src=x onerror=alert(1)> ${value}`),
        ),
      }),
    );
    bindForm(document.querySelector('form')!, gate);
    gate.field('a').set('<i>x</i>');
    void gate.submit();
  });
  expect(await page.locator('[data-gate-severity]').textContent()).toBe('<img src=x onerror=alert(1)> <i>x</i>');
  expect(await page.locator('form :is(img, b, i)').count()).toBe(0);
});

test('controls outside the form, submitters that do not validate, and values that were there before', async () => {
  await bind(
    '<form id="f" action="javascript:void 0"><input id="b" name="b" value="there"><button id="draft" formnovalidate>Draft</button><button id="go">Go</button></form><input id="a" name="a" form="f"><input name="other" form="f">',
    ['a', 'b'],
  );
  await page.click('#draft');
  expect(await page.locator('[data-gate-severity]').count()).toBe(0);
  await page.click('#go');
  expect(await focused()).toBe('a');
  await page.locator('#a').pressSequentially('x');
  await page.click('#go');
  expect(await page.evaluate(() => (window as unknown as { gate: { root: { data: unknown } } }).gate.root.data)).toEqual({
    a: 'x',
    b: 'there',
  });
  expect(await page.getAttribute('#f', 'data-gate-state')).toBe('valid');
});

test('a message that appears on leaving a field does not move the button from under the pointer', async () => {
  await bind('<form id="f"><input id="a" name="a"><p data-gate-messages="a" style="margin: 0"></p><button id="go">Go</button></form>', ['a']);
  await page.addStyleTag({ content: '[data-gate-severity] { display: block; height: 200px }' });
  await page.focus('#a');
  await page.click('#go');
  expect(await page.evaluate(() => (window as unknown as { gate: { state: { submitCount: number } } }).gate.state.submitCount)).toBe(1);
});

test('two forms of the same names on a page keep their messages apart', async () => {
  await bind('<form><p data-gate-messages="a"></p></form><form id="f"><input name="a"><button>Go</button></form><p data-gate-messages="b">', ['a']);
  await page.click('#f button');
  expect(await page.locator('#f [data-gate-messages=a]').textContent()).toBe('Label a is required');
  expect(await page.locator('form:not(#f)').textContent()).toBe('');
});

test('several values, and files, go both ways between controls and fields', async () => {
  await page.setContent(
    '<form id="f"><select name="ports" multiple><option>a</option><option selected>b</option><option>c</option></select><input type="checkbox" name="kit" value="x"><input type="checkbox" name="kit" value="y"><input type="file" name="paper"><input type="file" name="photos" multiple></form>',
  );
  await loadLibrary(page);
  await page.evaluate(() => {
    const { group, choices, file, files, createGate, bindForm } = UpperGate;
    const gate = createGate(group({ ports: choices('Ports', ['a', 'b', 'c']), kit: choices('Kit', ['x', 'y']), paper: file('Paper'), photos: files('Photos') }), {
      initial: { kit: ['y'] },
    });
    bindForm(document.querySelector('form')!, gate);
    Object.assign(window, { gate });
  });
  const raw = () =>
    page.evaluate(() => {
      const { ports, kit, paper, photos } = (window as unknown as { gate: { root: { raw: Record<string, File & File[]> } } }).gate.root.raw;
      return { ports, kit, paper: paper?.name, photos: photos?.map(({ name }) => name) };
    });
  expect(await raw()).toEqual({ ports: ['b'], kit: ['y'], photos: [] });
  await page.selectOption('[name=ports]', ['a', 'c']);
  await page.check('[value=x]');
  const upload = (name: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from('x') });
  await page.setInputFiles('[name=paper]', upload('one.txt'));
  await page.setInputFiles('[name=photos]', [upload('two.txt'), upload('three.txt')]);
  expect(await raw()).toEqual({ ports: ['a', 'c'], kit: ['x', 'y'], paper: 'one.txt', photos: ['two.txt', 'three.txt'] });
  await page.evaluate(() => (window as unknown as { gate: { reset: (to: object) => void } }).gate.reset({ ports: ['c'], kit: [] }));
  expect(
    await page.evaluate(() => [
      [...document.querySelector('select')!.selectedOptions].map(({ value }) => value),
      document.querySelectorAll(':checked:not(option)').length,
      document.querySelector<HTMLInputElement>('[name=paper]')!.files!.length,
    ]),
  ).toEqual([['c'], 0, 0]);
});

interface FocusCase {
  id: string;
  html: string;
  focused: string | null;
  custom?: object;
  prevent?: object;
  call?: string;
  removes?: string;
}
const cases = JSON.parse(readFileSync(join(__dirname, 'data/html-focus-order.json'), 'utf8')) as FocusCase[];
// A gate has no `invalid` events to prevent, sets its own custom validity, and is always asked to submit.
const comparable = cases.filter((each) => !each.custom && !each.prevent && !each.call && !each.removes && !each.html.includes('novalidate'));
// The native constraint of these does not apply to the control that HTML bars from validation.
const barred: Record<string, string> = { 'order.disabled-first': 'a', 'order.readonly-first': 'a' };

test.each(comparable.filter(({ id }) => !(id in barred)).map((each) => [each.id, each] as const))(
  'focus goes where a browser sets it: %s',
  async (_, { html: markup, focused: expected }) => {
    // Names from ids, but for radios, which have theirs.
    const named = markup.replace(/<input (?!type=radio)([^>]*)id=(\w)/g, '<input $1 name=$2 id=$2').replace(/<input id=(\w)/g, '<input name=$1 id=$1');
    const required = [...named.matchAll(/<input([^>]*)>/g)]
      .map(([tag]) => ({ name: /name=(\w)/.exec(tag)?.[1], required: tag.includes('required') }))
      .filter((control) => control.required && control.name);
    await bind(named, [...new Set(required.map(({ name }) => name!))]);
    await page.evaluate(() => document.querySelector<HTMLFormElement>('#f')!.requestSubmit());
    expect(await focused()).toBe(expected);
  },
);
