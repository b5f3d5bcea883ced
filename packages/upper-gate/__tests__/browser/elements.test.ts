// Forms as custom elements: what only these can be asked. What holds for every binding is in the tables.

import { beforeAll, beforeEach, expect, test } from '@jest/globals';
import type { Page } from 'playwright-core';
import type * as Library from 'upper-gate';
import type * as Elements from 'upper-gate/elements';
import { computed, drawn } from './heard.ts';
import { loadLibrary, useBrowser } from './launch.ts';
import { worded } from '../wording.ts';

declare const UpperGate: typeof Library & typeof Elements;
declare const gate: Library.Gate<Library.Node> & { field(path: string): Library.Handle & { set(value: unknown): void } };

const browser = useBrowser();
let page: Page;
let faults: string[];
beforeAll(async () => {
  page = await browser().newPage();
  page.on('pageerror', (error) => faults.push(String(error)));
  page.on('console', (message) => ['error', 'warning'].includes(message.type()) && faults.push(message.text()));
});
beforeEach(async () => {
  await page.goto('about:blank');
  faults = [];
});

/** Defines the elements, with a gate of many kinds. */
async function define(): Promise<void> {
  await loadLibrary(page);
  await page.evaluate(() => {
    const { appliesWhen, boolean, choice, choices, createGate, defineForms, file, group, length, required, text } = UpperGate;
    const schema = group({
      name: text({ label: 'Name', hint: 'As painted' }, required(), length({ max: 9 })),
      side: choice('Side', ['port', 'starboard'], required()),
      kit: choices('Kit', ['horn', 'rope'], required()),
      kind: choice('Kind', ['barge', 'canoe'], required()),
      ok: boolean('Fine', required()),
      paper: file('Paper', required()),
      plain: text('Plain'),
    }).with(appliesWhen({ plain: ({ ok }) => ok }));
    defineForms({ passage: () => Object.assign(window, { gate: createGate(schema, { reveal: 'blur' }) }).gate });
  });
}

const CONTROLS: Readonly<Record<string, string>> = {
  name: '<label>Name <input></label> <small data-gate-hint></small> <p data-gate-messages></p>',
  side: '<fieldset><legend>Side</legend><label><input type="radio" name="s" value="port"> port</label><label><input type="radio" name="s" value="starboard"> starboard</label></fieldset>',
  kit: '<fieldset><legend>Kit</legend><label><input type="checkbox" value="horn"> horn</label><label><input type="checkbox" value="rope"> rope</label></fieldset>',
  kind: '<label>Kind <select><option></option><option>barge</option><option>canoe</option></select></label>',
  ok: '<label><input type="checkbox"> Fine</label>',
  paper: '<label>Paper <input type="file"></label>',
};
const field = (name: string, mode: string) => `<upper-gate-field name="${name}"><template shadowrootmode="${mode}">${CONTROLS[name]!}</template></upper-gate-field>`;
const fields = (mode: string) =>
  `<fieldset id="all">${Object.keys(CONTROLS)
    .map((name) => field(name, mode))
    .join('')}</fieldset><label>Plain <input name="plain"></label>`;
const SIMPLE = '<input name="name" aria-label="Name"><small data-gate-hint="name">As painted</small>';
const form = (inside: string) => `<upper-gate-form gate="passage"><form>${inside}<button>Go</button></form></upper-gate-form>`;
const host = (name: string) => page.locator(`upper-gate-field[name=${name}]`);
const raw = () => page.evaluate(() => gate.root.raw);
const sent = () => page.evaluate(() => [...new FormData(document.forms[0])].map(([name, value]) => `${name}=${value instanceof File ? value.name : value}`));

test('fields in shadow roots: named, read, refused, described, focused, sent, disabled and reset as any other', async () => {
  await page.setContent(form(fields('open')));
  await define();
  expect(faults).toEqual([]);
  await page.locator('button').click();
  await drawn(page);
  expect(await page.evaluate(() => document.activeElement!.shadowRoot!.activeElement!.localName)).toBe('input');
  // What describes a control is in its shadow root, also where nobody made a place.
  const inner = (name: string) => `upper-gate-field[name=${name}] :is(input, select)`;
  const [name, kind] = [await computed(page, inner('name')), await computed(page, inner('kind'))];
  expect([name['description'], name['invalid'], name['required'], kind['description'], kind['invalid']]).toEqual([
    `As painted ${worded('valueMissing', 'Name')}`,
    'true',
    true,
    worded('valueMissing', 'Kind', { holds: 'option' }),
    'true',
  ]);
  expect((await computed(page, 'upper-gate-field[name=kit] fieldset'))['description']).toBe(`${worded('required', '')} ${worded('valueMissing', 'Kit', { holds: 'option' })}`);
  const invalid = () => page.evaluate(() => [...document.querySelectorAll('upper-gate-field:invalid')].map((each) => each.getAttribute('name')));
  expect(await invalid()).toEqual(Object.keys(CONTROLS));

  await host('name').locator('input').fill('Otter');
  await host('side').getByLabel('starboard').check();
  for (const label of ['horn', 'rope']) await host('kit').getByLabel(label).check();
  await host('kind').locator('select').selectOption('canoe');
  await host('ok').locator('input').check();
  await host('paper')
    .locator('input')
    .setInputFiles({ name: 'paper.txt', mimeType: 'text/plain', buffer: Buffer.from('x') });
  expect(await raw()).toMatchObject({ name: 'Otter', side: 'starboard', kit: ['horn', 'rope'], kind: 'canoe', ok: true });
  expect(await sent()).toEqual(['plain=', 'name=Otter', 'side=starboard', 'kit=horn', 'kit=rope', 'kind=canoe', 'ok=on', 'paper=paper.txt']);
  expect(await invalid()).toEqual([]);
  await page.locator('button').click();
  await page.waitForFunction(() => gate.state.status === 'accepted');

  // Disabled with the fieldset around them, and with the form's own word.
  await page.evaluate(() => document.querySelector('#all')!.toggleAttribute('disabled', true));
  await drawn(page);
  expect([await sent(), await page.evaluate(() => (gate.root.data as { name: unknown }).name)]).toEqual([['plain='], undefined]);
  expect(await host('name').locator('input').isDisabled()).toBe(true);
  await page.evaluate(() => document.querySelector('#all')!.toggleAttribute('disabled', false));
  await drawn(page);
  expect([await host('name').locator('input').isDisabled(), (await sent()).length]).toEqual([false, 8]);
  await page.evaluate(() => gate.set({ name: 'Heron', side: 'port', kit: ['rope'], kind: 'barge', ok: false }));
  expect([await host('name').locator('input').inputValue(), (await sent()).slice(1, 5)]).toEqual(['Heron', ['name=Heron', 'side=port', 'kit=rope', 'kind=barge']]);
  await page.evaluate(() => document.forms[0]!.reset());
  await page.waitForFunction(() => gate.field('name').raw === '');
  expect(await host('name').locator('input').inputValue()).toBe('');
});

test.each(['closed', 'made by a script', 'the whole form in one'])('a shadow root: %s', async (way) => {
  const whole = way.startsWith('the whole');
  await page.setContent(
    whole
      ? `<div id="widget"><template shadowrootmode="open">${form(field('name', 'open'))}</template></div>`
      : form(way === 'closed' ? field('name', 'closed') : '<x-name name="name"></x-name>'),
  );
  await define();
  if (way.startsWith('made'))
    await page.evaluate((html) => {
      class Name extends UpperGate.FieldElement {
        connectedCallback(): void {
          this.attachShadow({ mode: 'open', delegatesFocus: true }).innerHTML = html;
        }
      }
      customElements.define('x-name', Name);
    }, CONTROLS['name']!);
  // (A closed one is seen by nobody: its user goes by the keyboard.)
  await drawn(page);
  await page.keyboard.press('Tab');
  await page.keyboard.type('An otter on the prowl');
  await page.keyboard.press('Tab');
  expect(await page.evaluate(() => [gate.field('name').raw, gate.field('name').shown.map(({ code }) => code), gate.field('side').touched])).toEqual([
    'An otter on the prowl',
    ['tooLong'],
    false,
  ]);
  if (way !== 'closed')
    expect((await computed(page, way.startsWith('made') ? 'x-name input' : 'upper-gate-field input'))['description']).toBe(`As painted ${worded('tooLong', 'Name', { max: 9 })}`);
  await page.evaluate(() => void gate.submit());
  await drawn(page);
  const data = await page.evaluate(() => [...new FormData((document.querySelector('#widget')?.shadowRoot ?? document).querySelector('form')!)].map(String));
  expect(data).toEqual(['name,An otter on the prowl']);
});

test('elements may come before their definition or after, be moved, many, have their form replaced, and leave', async () => {
  await page.setContent(`<section></section>${form(field('name', 'open'))}${form(SIMPLE)}`);
  await define();
  const gates = () => page.evaluate(() => [...document.querySelectorAll('upper-gate-form')].map((each) => (each as Elements.FormElement).gate!.root.raw));
  await host('name').locator('input').fill('Otter');
  await page.locator('form > input').fill('Heron');
  const both = [{ name: 'Otter' }, { name: 'Heron' }].map((each) => expect.objectContaining(each));
  expect(await gates()).toEqual(both);
  // Moved: within the page, with its state kept by the browser, and into a shadow root and back.
  await page.evaluate(() => {
    const [section, element] = ['section', 'upper-gate-form'].map((name) => document.querySelector(name)!) as [Element, Element];
    section.append(element);
    if ('moveBefore' in section) (document.body as unknown as { moveBefore(node: Node, before: Node): void }).moveBefore(element, section);
    const root = section.attachShadow({ mode: 'open' });
    root.append(element);
    document.body.prepend(element);
  });
  await host('name').locator('input').fill('Otters');
  await page.locator('button').first().click();
  expect(await gates()).toEqual([expect.objectContaining({ name: 'Otters' }), both[1]]);
  expect(await host('name').locator('input').getAttribute('aria-invalid')).toBe('false');
  // As a server, or a router, draws it again: the gate goes on.
  await page.evaluate((simple) => (document.querySelectorAll('upper-gate-form')[1]!.innerHTML = `<form>${simple}<button>Go</button></form>`), SIMPLE);
  await drawn(page);
  expect(await page.locator('form > input').inputValue()).toBe('Heron');
  await page.locator('form > input').fill('');
  await page.locator('button').last().click();
  expect(await page.locator('form > input').getAttribute('aria-invalid')).toBe('true');
  const left = await page.evaluate(async () => {
    const element = document.querySelectorAll<Elements.FormElement>('upper-gate-form')[1]!;
    const form = element.querySelector('form')!;
    element.remove();
    await Promise.resolve();
    const before = form.outerHTML;
    document.body.append(element);
    return [before, form.noValidate, element.gate!.field('name').shown.length];
  });
  expect(left).toEqual([`<form>${SIMPLE}<button>Go</button></form>`, true, 1]);
  expect(faults.filter((text) => !text.includes('no control'))).toEqual([]);
});

test('going back in the history, what was typed into shadow roots is there again, as an edit', async () => {
  await page.route('http://locks.test/**', (route) =>
    route.fulfill({ contentType: 'text/html', body: route.request().url().endsWith('away') ? 'Away' : `<!doctype html>${form(fields('open'))}` }),
  );
  await page.goto('http://locks.test/');
  await define();
  await host('name').locator('input').fill('Otter');
  await host('side').getByLabel('port').check();
  await host('kit').getByLabel('rope').check();
  await host('kind').locator('select').selectOption('canoe');
  await page.goto('http://locks.test/away');
  await page.goBack();
  await define();
  await page.waitForFunction(() => gate.state.dirty);
  expect(await raw()).toMatchObject({ name: 'Otter', side: 'port', kit: ['rope'], kind: 'canoe' });
  await page.unrouteAll();
});

test('one form that cannot be made is in the way of no other; another name is another gate', async () => {
  await page.setContent(`<upper-gate-form gate="broken"><form>${SIMPLE}</form></upper-gate-form>${form(SIMPLE)}`);
  await loadLibrary(page);
  await page.evaluate(() =>
    UpperGate.defineForms({
      broken() {
        throw new Error('No tide table');
      },
    }),
  );
  await define();
  // (The other was not named by then.)
  expect(faults.filter((text) => !text.includes('gate="passage"'))).toEqual(['Error: No tide table']);
  const [broken, whole] = [page.locator('form').first(), page.locator('form').last()];
  expect([await broken.getAttribute('novalidate'), await whole.getAttribute('novalidate')]).toEqual([null, '']);
  await whole.locator('input').fill('Otter');
  await page.evaluate(() => document.querySelector('upper-gate-form')!.setAttribute('gate', 'passage'));
  expect([await broken.getAttribute('novalidate'), await page.evaluate(() => gate.field('name').raw)]).toEqual(['', '']);
});

test('a name that no gate has is told; the form stays plain HTML', async () => {
  await page.setContent('<upper-gate-form gate="pasage"><form><input name="name" required aria-label="Name"></form></upper-gate-form>');
  await define();
  await page.waitForFunction(() => !document.querySelector('form')!.noValidate);
  while (faults.length === 0) await page.waitForEvent('console');
  expect(faults).toEqual([expect.stringContaining('<upper-gate-form gate="pasage"> has no gate')]);
});

test('what a component says itself against what it holds: in its words, as long as it says so, in every way that it may say it', async () => {
  await page.setContent('<upper-gate-form><form><x-open name="a"></x-open><x-shy name="b"></x-shy><x-half name="c"></x-half><button>Go</button></form></upper-gate-form>');
  await loadLibrary(page);
  await page.evaluate(() => {
    const { createGate, defineForms, group, text, date } = UpperGate;
    class Control extends HTMLElement {
      static formAssociated = true;
      readonly internals = this.attachInternals();
      label = 'A label';
      override tabIndex = 0;
      #value = '';
      get value() {
        return this.#value;
      }
      set value(value: string) {
        this.#value = value;
      }
    }
    /** Shows its validity, and takes that of others. */
    class Open extends Control {
      get validity() {
        return this.internals.validity;
      }
      get validationMessage() {
        return this.internals.validationMessage;
      }
      setCustomValidity(message: string) {
        this.internals.setValidity(message ? { customError: true } : {}, message);
      }
    }
    customElements.define('x-open', Open);
    customElements.define('x-shy', class extends Control {});
    customElements.define('x-half', class extends Open {});
    Object.assign(window, { gate: createGate(group({ a: text('A'), b: text('B'), c: date('C') }), { submit: (data) => Object.assign(window, { data }) }) });
    defineForms();
    document.querySelector<Elements.FormElement>('upper-gate-form')!.bind(gate);
  });
  /** An element says something, and tells that it was edited. */
  const say = (name: string, value: string, flags: object, message: string) =>
    page.evaluate(
      ([name, value, flags, message]) => {
        const element = document.querySelector(`x-${name}`) as HTMLElement & { internals: ElementInternals };
        element.internals.setValidity(flags, message);
        Object.assign(element, { value }).dispatchEvent(new InputEvent('input', { bubbles: true }));
      },
      [name, value, flags, message] as const,
    );
  const found = () =>
    page.evaluate(() =>
      ['a', 'b', 'c'].map((path) =>
        gate
          .field(path)
          .findings.map(({ code, message }) => `${code}: ${message}`)
          .join(),
      ),
    );
  await say('open', '12', { customError: true }, 'No such number');
  await say('shy', '12', { customError: true }, 'Kept to itself');
  await say('half', '', { badInput: true }, 'Half a date');
  const all = ['customError: No such number', `badInput: ${worded('incomplete', 'B')}`, `badInput: ${worded('incomplete', 'C')}`];
  expect(await found()).toEqual(all);
  await page.locator('button').click();
  expect(await page.evaluate(() => [gate.state.status, 'data' in window, document.activeElement!.localName])).toEqual(['refused', false, 'x-open']);
  // It is not told its own words, which would stay.
  await say('open', '123', {}, '');
  await say('half', '2027-05-01', {}, '');
  expect(await found()).toEqual(['', all[1], '']);
  // As it is sent, it may say something else than when it was edited.
  await page.evaluate(() => (document.querySelector('x-shy') as HTMLElement & { internals: ElementInternals }).internals.setValidity({}));
  await page.locator('button').click();
  await page.waitForFunction(() => 'data' in window);
  // What rules and servers say is told, and taken back.
  await page.evaluate(() => gate.addFindings([{ path: 'a', message: 'Taken' }]));
  const told = () => page.evaluate(() => (document.querySelector('x-open') as HTMLElement & { validationMessage: string }).validationMessage);
  expect([await told(), await found()]).toEqual(['Taken', ['customError: Taken', '', '']]);
  await page.evaluate(() => gate.clearFindings());
  expect([await told(), await found()]).toEqual(['', ['', '', '']]);
  expect(faults).toEqual([]);
});
