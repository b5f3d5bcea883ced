import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, beforeEach, expect, test } from '@jest/globals';
import type { Page } from 'playwright-core';
import type * as Library from 'upper-gate';
import type * as Dom from 'upper-gate/dom';
import type * as Html from 'upper-gate/html';
import type * as Binding from 'upper-gate/binding';
import { drawn } from './heard.ts';
import { bundleLibrary, loadLibrary, useBrowser } from './launch.ts';
import { worded } from '../wording.ts';

declare const UpperGate: typeof Library & typeof Dom & typeof Html & typeof Binding;

const browser = useBrowser();
let page: Page;
beforeAll(async () => {
  page = await browser().newPage();
});
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
const focused = async () => (await drawn(page), page.evaluate(() => document.activeElement?.id));
const focusedBy = async (attribute: string) => (await drawn(page), page.evaluate((name) => document.activeElement!.getAttribute(name), attribute));

test('undoing leaves the page as it was, and the form to itself', async () => {
  const before =
    '<form id="f"><label>A <input name="a" aria-describedby="x"></label><p id="x">Hint</p><label>B <select name="b"><option></option></select></label><button>Go</button></form>';
  await bind(before, ['a', 'b']);
  await page.click('button');
  expect(await html()).toContain(worded('valueMissing', 'Label a'));
  expect(await page.getAttribute('[name=a]', 'aria-describedby')).toMatch(/^x gate-\d+$/);
  await page.evaluate(() => (window as unknown as { undo: () => void }).undo());
  expect(await html()).toBe(before);
  expect(await page.evaluate(() => [document.querySelector('input')!.validationMessage, document.querySelector('form')!.noValidate])).toEqual(['', false]);
});

test('what happened before the page was bound is no news: a row and a reset are not announced, and move no focus', async () => {
  await page.setContent('<form id="f"><input id="a" name="a"><input name="crew.0"></form>');
  await loadLibrary(page);
  await page.evaluate(() => {
    const { group, text, list, createGate, bindForm } = UpperGate;
    const gate = createGate(group({ a: text('A'), crew: list('Crew', text('Name')) }));
    gate.reset();
    gate.list('crew').add('Ann');
    bindForm(document.querySelector('form')!, gate);
  });
  await page.locator('#a').click();
  await page.keyboard.type('x');
  expect({ focused: await focused(), said: await page.locator('[role=status]').textContent() }).toEqual({ said: '', focused: 'a' });
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
  expect(await page.evaluate(() => (window as unknown as { gate: { root: { data: unknown } } }).gate.root.data)).toEqual({ a: 'x', b: 'there' });
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
  expect(await page.locator('#f [data-gate-messages=a]').textContent()).toBe(worded('valueMissing', 'Label a'));
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

/** Sets the page up, and runs a script in it with the library at hand. */
async function scene(html: string, script: (library: typeof UpperGate, form: HTMLFormElement) => object | undefined): Promise<void> {
  await page.setContent(html);
  await loadLibrary(page);
  await page.evaluate(`Object.assign(window, (${script.toString()})(UpperGate, document.forms[0]))`);
}
const gateData = () => page.evaluate(() => (window as unknown as { gate: { root: { data: Record<string, unknown> } } }).gate.root.data);
const alertLine = () => page.locator('form > [data-gate-messages=""]').allTextContents();

test('values at the start: what is given, else what the markup says, else the default, which is no edit; what was typed before the script ran is one', async () => {
  await page.setContent(
    '<form><select name="kind"><option>a<option>b</select><input type="range" name="speed"><input name="given" value="m"><input name="empty" value="m"><input name="typed" value="m"><input name="said" value="m"><input name="bare"><select name="pick"><option>p<option>q</select></form>',
  );
  await page.fill('[name=typed]', 'early');
  await loadLibrary(page);
  const values = await page.evaluate(() => {
    const { group, text, choice, number, createGate, bindForm } = UpperGate;
    const [form] = document.forms as unknown as [HTMLFormElement];
    const schema = group({
      kind: choice('Kind', ['a', 'b']),
      speed: number('Speed'),
      given: text('Given'),
      empty: text('Empty'),
      typed: text('Typed'),
      said: text({ label: 'Said', default: 'd' }),
      bare: text({ label: 'Bare', default: 'd' }),
      pick: choice({ label: 'Pick', default: 'q' }, ['p', 'q']),
    });
    const gate = createGate(schema, { initial: { given: 'g', empty: null } });
    bindForm(form, gate);
    const now = () => [...Object.values(gate.root.raw), ...Object.keys(gate.root.raw).filter((path) => gate.field(path as 'kind').dirty)].join();
    const seen = [now()];
    gate.set({ kind: 'b', said: 'x', bare: 'x' });
    gate.reset();
    seen.push(now());
    gate.rebase({ kind: 'b', speed: 7 });
    return [...seen, now(), ...['kind', 'empty', 'said', 'bare', 'pick'].map((name) => (form.elements.namedItem(name) as HTMLInputElement).value)];
  });
  expect(values).toEqual(['a,50,g,,early,m,d,q,typed', 'a,50,g,,m,m,d,q', 'b,7,g,,m,m,d,q', 'b', '', 'm', 'd', 'q']);
});

test('rows come from a template: named, labelled, added, moved and removed without losing what is theirs', async () => {
  await scene(
    `<form>
      <fieldset data-gate-row="crew"><input name="crew.0.name" id="n0" value="Ada"><button data-gate-remove>x</button></fieldset>
      <template data-gate-rows="crew"><fieldset><b data-gate-number></b><label for="n" data-gate-label="name"></label><input id="n" name="name" aria-describedby="h">
        <i id="h">as in the pass</i><p data-gate-messages="name"></p><button data-gate-move="up">up</button><button data-gate-remove>x</button>
        <div><template data-gate-rows="jobs"><span><input name=""><button data-gate-remove>x</button></span></template><button data-gate-add="jobs">job</button></div></fieldset></template>
      <p data-gate-messages="crew"></p><button id="add" data-gate-add="crew">add</button><button id="go">go</button></form>`,
    ({ group, list, text, requiredWhen, length, createGate, bindForm }, form) => {
      const member = group({ name: text('Name'), jobs: list('Jobs', text('Job')) });
      // From the outside, of the number of rows.
      const schema = group({ crew: list('Crew', member, length({ min: 1 })) }).with(UpperGate.fieldRules({ crew: { name: requiredWhen(({ crew }) => crew.length > 1) } }));
      const gate = createGate(schema);
      return { gate, undo: bindForm(form, gate, { rows: UpperGate.templateRows, summary: UpperGate.errorSummary }) };
    },
  );
  // Drawn by the server and filled in before: it is the first row.
  expect(await gateData()).toEqual({ crew: [{ name: 'Ada', jobs: [] }] });
  await page.click('#add');
  expect(await focusedBy('name')).toBe('crew.1.name');
  await page.click('#go');
  const second = page.getByLabel('Name');
  const marked = () => page.locator('[name$=name][required]').count();
  expect(await marked()).toBe(2);
  expect(await second.getAttribute('aria-invalid')).toBe('true');
  expect(await page.locator('[data-gate-messages="crew.1.name"]').textContent()).toBe(worded('valueMissing', 'Name'));
  const describing = await second.evaluate((input) => [...input.getAttribute('aria-describedby')!.split(' ')].map((id) => document.getElementById(id)!.textContent));
  expect(describing).toEqual(['as in the pass', worded('valueMissing', 'Name')]);
  await second.fill('Cleo');
  await page.click('[data-gate-add="crew.1.jobs"]');
  await page.locator('[name="crew.1.jobs.0"]').fill('bow');
  await page.click('[data-gate-add="crew.1.jobs"]');
  // A button of a row within a row is about the inner one.
  await page.click('[data-gate-row="crew.1.jobs"]:last-of-type [data-gate-remove]');
  await second.focus();
  await page.locator('[data-gate-move]').dispatchEvent('click');
  const member = (name: string, ...jobs: string[]) => ({ name, jobs });
  expect(await gateData()).toEqual({ crew: [member('Cleo', 'bow'), member('Ada')] });
  await drawn(page);
  const named = await page.evaluate(() => [document.activeElement!, ...document.querySelectorAll('form [name]')].map((control) => control.getAttribute('name')));
  expect(named).toEqual(['crew.0.name', 'crew.0.name', 'crew.0.jobs.0', 'crew.1.name']);
  expect(await page.locator('[data-gate-number]').allTextContents()).toEqual(['1']);
  await page.evaluate(() => Object.assign(globalThis, { gone: document.querySelector('[data-gate-row="crew"] input') }));
  await page.click('[data-gate-row="crew"]:first-of-type > [data-gate-remove]');
  // What has left the page is as its author wrote it, and kept no longer.
  await page.waitForFunction(() => !['aria-invalid', 'data-gate-state'].some((name) => (globalThis as unknown as { gone: Element }).gone.hasAttribute(name)));
  expect(await marked()).toBe(0);
  expect(await focusedBy('name')).toBe('crew.0.name');
  await page.click('[data-gate-remove]');
  expect(await focused()).toBe('add');
  // A row that holds the focus may be removed by program.
  await page.click('#add');
  await page.evaluate(() => (window as unknown as { gate: { reset(): void } }).gate.reset());
  expect(await page.locator('form > [data-gate-row]').count()).toBe(0);
  await page.click('#go');
  expect([await page.locator('[data-gate-messages=crew]').textContent(), await focused()]).toEqual([worded('tooFew', 'Crew', { min: 1 }), 'add']);
});

test('messages of rows without a place for them stand beside their control, whatever rows come, go or move', async () => {
  await scene(`<form><template data-gate-rows="crew"><p><input name="" aria-label="Name"></p></template></form>`, ({ group, list, text, length, createGate, bindForm }, form) => {
    const gate = createGate(group({ crew: list('Crew', text('Name', length({ min: 2 }))) }), { initial: { crew: ['a', 'b', 'c'] } });
    return { gate, undo: bindForm(form, gate, { rows: UpperGate.templateRows }) };
  });
  const places = () =>
    page.evaluate(() =>
      [...document.querySelectorAll('[data-gate-row]')].map((row) => [...row.children].map((each) => each.getAttribute('name') ?? each.getAttribute('data-gate-messages')).join()),
    );
  const crew = (act: string) => page.evaluate(`gate.submit().then(() => { const crew = gate.list('crew'); ${act}; return gate.submit(); })`).then(places);
  const named = (count: number) => Array.from({ length: count }, (_, i) => `crew.${i},crew.${i}`);
  expect({
    removed: await crew('crew.remove(0)'),
    added: await crew("crew.add('d')"),
    'in front': await crew("crew.add('e', 0)"),
    moved: await crew('crew.move(0, 3)'),
  }).toEqual({ removed: named(2), added: named(3), 'in front': named(4), moved: named(4) });
});

test('findings of a field of fields that the page only names, counts, hints at or hides are in the line', async () => {
  const hooks = ['label', 'hint', 'count', 'applies'];
  await scene(
    `<form><div id="line" data-gate-messages=""></div>${hooks.map((hook) => `<p data-gate-${hook}="${hook}"></p>`).join('')}</form>`,
    ({ group, text, length, createGate, bindForm }, form) => {
      const field = (label: string) => text({ label, hint: 'Four digits' }, length({ max: 4 }));
      const gate = createGate(group({ label: field('Label'), hint: field('Hint'), count: field('Count'), applies: field('Applies') }));
      bindForm(form, gate);
      gate.addFindings(Object.keys(gate.schema.fields).map((path) => ({ path, message: `No ${path}` })));
      return { gate };
    },
  );
  expect(await page.locator('#line div').allTextContents()).toEqual(hooks.map((hook) => `No ${hook}`));
});

test.each<[string, () => Promise<unknown>, string]>([
  ['takes the focus', () => page.focus('#vessel'), 'code'],
  ['leaves the focus to a user who types meanwhile', () => page.locator('#vessel').pressSequentially('Otter'), 'vessel'],
  ['leaves the focus where it is if the form was reset meanwhile', () => page.evaluate('document.getElementById("vessel").focus(); gate.reset()'), 'vessel'],
])('a control that is loaded after a refusal %s', async (_, act, expected) => {
  await scene('<form><input id="vessel" name="vessel" aria-label="Vessel"><p></p><button id="go">go</button></form>', ({ group, text, required, createGate, bindForm }, form) => {
    const timers: (() => void)[] = [];
    const clock = { now: () => new Date(), setTimeout: (callback: () => void) => timers.push(callback), clearTimeout: () => undefined };
    const gate = createGate(group({ vessel: text('Vessel'), code: text('Code', required()) }), { clock });
    Object.assign(globalThis, { timers });
    const load = async () => {
      await new Promise((resolve) => ((globalThis as { arrive?: unknown }).arrive = resolve));
      form.querySelector('p')!.innerHTML = '<input id="code" name="code" aria-label="Code">';
    };
    UpperGate.connect(gate.field('code'), { show: load });
    return { gate, undo: bindForm(form, gate) };
  });
  await page.click('#go');
  await page.waitForFunction(() => 'arrive' in globalThis);
  await act();
  await page.evaluate(() => (globalThis as unknown as { arrive(): void }).arrive());
  await page.locator('#code').waitFor();
  // It tries now, and once more.
  await page.waitForFunction(() => (globalThis as unknown as { timers: unknown[] }).timers.length > 0);
  await page.evaluate(() => {
    const { timers } = globalThis as unknown as { timers: (() => void)[] };
    while (timers.length > 0) timers.shift()!();
  });
  expect(await focused()).toBe(expected);
});

test.each(['throws', 'says no', 'fails to load', 'loads something else'])('what cannot be shown is in the line, which takes the focus, until it can be: it %s', async (way) => {
  await scene(
    '<form><p hidden><input id="a" name="a" aria-label="A"><input id="b" name="b" aria-label="B"></p><button id="go">go</button></form>',
    ({ group, text, required, createGate, bindForm }) => {
      const faults: string[] = [];
      const gate = createGate(group({ tab: group({ a: text('A', required()), b: text('B', required()) }) }), { onFault: ({ error }) => faults.push(String(error)) });
      const ways: Record<string, () => unknown> = {
        throws: () => {
          throw new Error('no');
        },
        'says no': () => false,
        'fails to load': () => Promise.reject(new Error('no')),
        'loads something else': () => Promise.resolve(),
        opens: () => void (document.querySelector('p')!.hidden = false),
      };
      const opened: string[] = [];
      for (const name of ['a', 'b']) document.querySelector(`#${name}`)!.setAttribute('name', `tab.${name}`);
      UpperGate.connect(gate.field('tab'), {
        show: () => {
          const { way } = globalThis as unknown as { way: string };
          opened.push(way);
          return ways[way]!();
        },
      });
      return { gate, opened, faults, undo: bindForm(document.forms[0]!, gate) };
    },
  );
  const go = (now: string) => page.evaluate((way) => (Object.assign(globalThis, { way }), document.querySelector<HTMLElement>('#go')!.click()), now);
  const kept = (name: 'opened' | 'faults') => page.evaluate((each) => (globalThis as unknown as Record<string, string[]>)[each], name);
  const line = page.locator('[data-gate-messages=""]');
  await go(way);
  await page.waitForFunction(() => document.activeElement!.matches('[data-gate-messages=""]'));
  expect(await line.locator('div').allTextContents()).toEqual([worded('valueMissing', 'A'), worded('valueMissing', 'B')]);
  // A group is opened once, however many of its fields are wrong.
  expect(await kept('opened')).toEqual([way]);
  expect(await kept('faults')).toEqual(['throws', 'fails to load'].includes(way) ? ['Error: no'] : []);
  await go('opens');
  await page.waitForFunction(() => document.activeElement!.id === 'a');
  expect(await alertLine()).toEqual(['']);
});

test('rows within rows, as deep as they are: an empty template stands for that of its row', async () => {
  const warnings: string[] = [];
  const listen = (message: { text(): string }) => warnings.push(message.text());
  page.on('console', listen);
  await scene(
    `<form><input name="name" id="top" aria-label="Name"><template data-gate-rows="sides"><fieldset><input id="n" name="name" aria-label="Name"><p data-gate-messages="name"></p>
      <template data-gate-rows="sides"></template><button data-gate-add="sides">deeper</button><button data-gate-remove>x</button></fieldset></template>
      <button id="add" data-gate-add="sides">add</button></form>`,
    ({ group, list, text, required, recursive, createGate, bindForm }, form) => {
      const lock: ReturnType<typeof group> = group({
        name: text('Name', required()),
        sides: list(
          'Side locks',
          recursive(() => lock),
        ),
      });
      const gate = createGate(lock, { initial: { name: 'A', sides: [{ name: 'B', sides: [{ name: 'C' }] }] } as never });
      return { gate, undo: bindForm(form, gate, { rows: UpperGate.templateRows, summary: UpperGate.errorSummary }) };
    },
  );
  await page.click('[data-gate-add="sides.0.sides.0.sides"]');
  expect(await focused()).toMatch(/^n-/);
  await page.locator('[name="sides.0.sides.0.sides.0.name"]').press('Tab');
  expect(await page.locator('[data-gate-messages="sides.0.sides.0.sides.0.name"]').textContent()).toBe(worded('valueMissing', 'Name'));
  await page.click('#add');
  await page.locator('[name="sides.1.name"]').fill('E');
  await page.click('[data-gate-row="sides.0.sides"] > [data-gate-remove]:last-child');
  const sides = ['B', 'E'].map((name) => ({ name, sides: [] }));
  expect(await gateData()).toEqual({ name: 'A', sides });
  const names = await page.$$eval('form [name]', (controls) => controls.map((control) => [control.getAttribute('name'), (control as HTMLInputElement).value]));
  expect(names).toEqual([
    ['name', 'A'],
    ['sides.0.name', 'B'],
    ['sides.1.name', 'E'],
  ]);
  page.off('console', listen);
  // (The buttons have no type.)
  expect(warnings.filter((text) => !text.includes('#button-without-type'))).toEqual([]);
  expect(new Set(await page.$$eval('form [id]', (elements) => elements.map(({ id }) => id))).size).toBe(await page.locator('form [id]').count());
});

test('entries of a dictionary have controls by their keys, which name them elsewhere; what is wrong with the whole shows in its place, which takes the focus', async () => {
  await scene(
    `<form><section data-gate-summary hidden></section><div data-gate-messages="tolls" id="whole"></div><input name="tolls.barge" aria-label="Barge"><input name="tolls.canoe" aria-label="Canoe"><button id="go">go</button></form>`,
    ({ group, dictionary, number, required, check, createGate, bindForm }, form) => {
      const three = check((tolls: object) => Object.keys(tolls).length > 2, 'Three tolls at least');
      const gate = createGate(group({ tolls: dictionary('Tolls', number('Toll', required()), three) }), { initial: { tolls: { barge: 3, canoe: null as never } } });
      return { gate, undo: bindForm(form, gate, { summary: UpperGate.errorSummary }) };
    },
  );
  expect(await page.inputValue('[name="tolls.barge"]')).toBe('3');
  await page.click('#go');
  const listed = page.locator('[data-gate-summary] a');
  expect(await listed.allTextContents()).toEqual(['Three tolls at least', `canoe: ${worded('valueMissing', 'Toll')}`]);
  await page.fill('[name="tolls.canoe"]', '4');
  await page.click('#go');
  expect([await focused(), await page.textContent('#whole'), await listed.allTextContents()]).toEqual(['whole', 'Three tolls at least', ['Three tolls at least']]);
});

test('controls that arrive later are wired, and those that leave take nothing with them', async () => {
  await scene(
    '<form><input name="a"><div id="slot"></div><div data-gate-applies="b" id="part"></div><button id="go">go</button></form>',
    ({ group, text, boolean, required, createGate, bindForm }, form) => {
      const gate = createGate(group({ a: text('A'), b: text('B', required()), c: boolean('C') }).with(UpperGate.appliesWhen({ b: (all) => all.a !== 'no' })));
      return { gate, undo: bindForm(form, gate) };
    },
  );
  const slot = (html: string) => page.evaluate((text) => void (document.querySelector('#slot')!.innerHTML = text), html);
  await slot('<dialog open><input name="b" aria-label="B"><input name="c" type="checkbox" disabled></dialog>');
  await page.locator('[name=b][required]').fill('kept');
  expect(await gateData()).toEqual({ a: undefined, b: 'kept', c: undefined });
  await page.evaluate(() => document.querySelector('[name=c]')!.removeAttribute('disabled'));
  await page.check('[name=c]');
  await slot('');
  await slot('<input name="b"><input name="c" type="checkbox">');
  await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[name=b]')!.value === 'kept' && document.querySelector<HTMLInputElement>('[name=c]')!.checked);
  expect(await gateData()).toEqual({ a: undefined, b: 'kept', c: true });
  await page.fill('[name=a]', 'no');
  expect(await page.locator('#part').isHidden()).toBe(true);
  expect(await gateData()).toMatchObject({ b: undefined });
});

test('custom elements of the form are known by what they offer, also when they are defined later: what they hold, write, reset, and what is described', async () => {
  const faults: string[] = [];
  page.on('console', (message) => faults.push(message.text()));
  await scene(
    `<form><x-text id="name" name="name" label="Name"></x-text><x-dial id="d" name="d" label="Draught"></x-dial><x-slide id="s" name="s" aria-label="Slide"></x-slide>
      <x-box id="ok" name="ok">Fine</x-box><x-switch id="on" name="on" selected aria-label="On"></x-switch><x-text id="given" name="given" value="there" label="Given"></x-text>
      <fieldset><legend>Kit</legend><x-box name="kit" value="a" checked>A</x-box><x-box name="kit" value="b">B</x-box></fieldset>
      <fieldset><legend>Side</legend><x-radio id="p" name="side" value="p">Port</x-radio><x-radio name="side" value="s">Starboard</x-radio></fieldset>
      <x-loose name="loose"></x-loose><div contenteditable id="note" aria-label="Note"></div><x-button type="submit" name="ok" id="go">go</x-button><button type="reset" id="again">again</button></form>`,
    ({ group, text, number, boolean, choice, choices, mustBeTrue, required, range, createGate, bindForm }, form) => {
      const fields = {
        name: text('Name', required()),
        d: number('Draught', required(), range({ max: 2 })),
        s: number('Slide'),
        ok: boolean('Fine', mustBeTrue()),
        on: boolean('On'),
        given: text('Given'),
        kit: choices('Kit', ['a', 'b']),
        side: choice('Side', ['p', 's'], required()),
        loose: text('Loose'),
        note: text('Note'),
      };
      const gate = createGate(group(fields), { initial: { s: 7 } });
      const note = document.querySelector<HTMLElement>('#note')!;
      note.addEventListener('input', () => gate.field('note').set(note.textContent));
      UpperGate.connect(gate.field('note'), { element: note, focus: () => note.focus() });
      return { gate, undo: bindForm(form, gate) };
    },
  );
  await page.evaluate(() => {
    /** As kits make them: what takes the focus is in a shadow root, and drawn later. */
    const define = (tag: string, inner: string, members: object, isOfForm = true): void =>
      customElements.define(
        tag,
        class extends HTMLElement {
          static formAssociated = isOfForm;
          static observedAttributes = ['aria-describedby'];
          // Some pass on what describes them, once they draw.
          attributeChangedCallback(name: string, _: unknown, value: string | null): void {
            setTimeout(() => this.shadowRoot?.firstElementChild?.setAttribute(name, value ?? ''));
          }
          constructor() {
            super();
            if (isOfForm) this.attachInternals();
            Object.assign(this, typeof members === 'function' ? (members as (element: HTMLElement) => object)(this) : members);
            const root = this.attachShadow({ mode: 'open', delegatesFocus: true });
            queueMicrotask(() => {
              root.innerHTML = inner;
              root.firstElementChild?.addEventListener('click', () => this.dispatchEvent(new CustomEvent('press')));
            });
          }
        },
      );
    const attribute = (name: string) => (element: HTMLElement) => ({ [name]: element.hasAttribute(name), value: element.getAttribute('value') ?? 'on' });
    define('x-text', '<input aria-label="inner">', (element: HTMLElement) => ({ value: element.getAttribute('value'), label: element.getAttribute('label') }));
    define('x-dial', '<button type="button">+</button>', { value: '' });
    define('x-slide', '<div role="slider" tabindex="0" aria-valuenow="5"></div>', { value: 5 });
    define('x-box', '<div role="checkbox" tabindex="0" aria-checked="false"></div>', attribute('checked'));
    define('x-radio', '<div role="radio" tabindex="0" aria-checked="false"></div>', attribute('checked'));
    define('x-switch', '<div role="switch" tabindex="0" aria-checked="false"></div>', attribute('selected'));
    define('x-button', '', { type: 'submit' });
    define('x-loose', '', {}, false);
  });
  await drawn(page);
  type Element = HTMLElement & Record<string, unknown>;
  const raw = () => page.evaluate(() => (window as unknown as { gate: { root: { raw: object } } }).gate.root.raw);
  const start = { name: '', d: '', s: '7', ok: false, on: true, given: 'there', kit: ['a'], side: '', loose: '', note: '' };
  expect(await raw()).toEqual(start);
  expect(await page.evaluate(() => (document.querySelector('#s') as unknown as Element)['value'])).toBe(7);
  // A warning names the element that is not form-associated; elements that label themselves cause none.
  await page.waitForTimeout(50);
  expect(faults.map((text) => /\(docs: troubleshooting#(.*)\)/s.exec(text)?.[1])).toEqual(['element-not-of-the-form']);
  expect(faults[0]).toContain("connect(field, { element, focus: () => element.focus() });\nelement.addEventListener('change', () => field.set(element.value));");
  await page.click('#go', { force: true }).catch(() => undefined);
  await page.evaluate(() => document.forms[0]!.requestSubmit());
  expect(await focused()).toBe('name');
  // The element that takes the focus, in a shadow root, has description and states.
  const told = (id: string) =>
    page.evaluate((of) => {
      const inner = document.getElementById(of)!.shadowRoot!.firstElementChild! as HTMLElement;
      return [inner.ariaInvalid, inner.ariaRequired, inner.ariaDescribedByElements?.map(({ textContent }) => textContent)];
    }, id);
  expect([await told('name'), await told('ok'), await told('on')]).toEqual([
    ['true', 'true', [worded('valueMissing', 'Name')]],
    ['true', 'true', [worded('valueMissing', 'Fine', { holds: 'flag' })]],
    ['false', null, undefined],
  ]);
  expect(await page.evaluate(() => document.querySelector('fieldset + fieldset')!.getAttribute('aria-describedby'))).toMatch(/^gate-\d+$/);
  // As their users change them.
  const change = (selector: string, to: object) =>
    page.locator(selector).evaluate((element, now) => Object.assign(element, now).dispatchEvent(new Event('change', { bubbles: true })), to);
  await change('#name', { value: 'Otter' });
  await change('#d', { value: '3' });
  await change('#ok', { checked: true });
  await change('#on', { selected: false });
  await change('[name=kit][value=b]', { checked: true });
  await change('[name=side][value=s]', { checked: true });
  await page.locator('#note').pressSequentially('hi');
  expect(await raw()).toEqual({ ...start, name: 'Otter', d: '3', ok: true, on: false, kit: ['a', 'b'], side: 's', note: 'hi' });
  expect(await page.locator('[data-gate-messages=d]').textContent()).toBe(worded('rangeOverflow', 'Draught', { max: 2 }));
  // From radio to radio is not leaving; away from them is.
  await page.evaluate(() => (window as unknown as { gate: { reset(): void } }).gate.reset());
  await page.click('#again');
  await drawn(page);
  expect(await raw()).toEqual(start);
  const ticked = () =>
    page.evaluate(() =>
      [...document.querySelectorAll('x-box, x-radio, x-switch')].map((each) => (each as unknown as Element)['checked'] ?? (each as unknown as Element)['selected']),
    );
  expect(await ticked()).toEqual([false, true, true, false, false, false]);
  const touched = () => page.evaluate(() => (window as unknown as { gate: { field(path: string): { touched: boolean } } }).gate.field('side').touched);
  await page.locator('x-radio').first().focus();
  await page.keyboard.press('Tab');
  expect(await touched()).toBe(false);
  await page.keyboard.press('Tab');
  expect(await touched()).toBe(true);
  // The program's values, and a disabled one.
  await page.evaluate(() => (window as unknown as { gate: { set(values: object): void } }).gate.set({ s: 3, ok: true, on: false, kit: ['b'], side: 'p', given: 'new' }));
  expect(await ticked()).toEqual([true, false, false, true, true, false]);
  expect(await page.evaluate(() => ['s', 'given', 'name'].map((id) => (document.getElementById(id) as unknown as Element)['value']))).toEqual([3, 'new', 'Otter'].with(2, ''));
  await page.evaluate(() => document.querySelector('#ok')!.setAttribute('disabled', ''));
  await drawn(page);
  expect(await gateData()).toMatchObject({ ok: undefined, kit: ['b'], side: 'p' });
  page.removeAllListeners('console');
});

test('what a component hands out leads to its element; what it calls back with is read by the kind; what it shows is its own', async () => {
  await scene(
    `<form><input id="c" name="c"><div id="wrap" tabindex="-1"><input id="inside"></div><input id="shown" value="01.05.2027"><input id="slide" type="range"><button id="bound">x</button>
      <button id="opener" aria-controls="list">open</button><button id="go">go</button></form><ul id="list" role="listbox" tabindex="-1"><li id="one" tabindex="-1">one</li></ul>`,
    ({ group, text, date, number, boolean, choice, required, createGate, attach, leave, wireForm, rawIn }, form) => {
      const fields = {
        a: choice('A', ['one'], required()),
        b: text('B', required()),
        c: text('C', required()),
        d: date('D', required()),
        e: number('E', required()),
        f: boolean('F'),
      };
      const gate = createGate(group(fields));
      const undo = wireForm(form, gate);
      const byId = (id: string) => document.getElementById(id)!;
      // In the order of the schema, which is not that of the page.
      attach(gate, gate.field('a'), { focus: () => byId('opener').focus(), nativeElement: byId('opener') });
      attach(gate, gate.field('b'), byId('wrap'));
      /** As kits do it: functions are those of the element. */
      const get = (target: HTMLElement, key: string): unknown => {
        const value: unknown = Reflect.get(target, key);
        return typeof value === 'function' ? (value.bind(target) as unknown) : value;
      };
      attach(gate, gate.field('c'), new Proxy(byId('c'), { get: get as never }));
      attach(gate, gate.field('d'), byId('shown'));
      attach(gate, gate.field('e'), byId('slide'));
      attach(gate, gate.field('f'), { focus: () => undefined });
      const given = [
        [gate.field('f'), { target: { value: 'on', checked: true } }],
        [gate.field('f'), { target: null }],
        [gate.field('e'), NaN],
        [gate.field('e'), { target: { value: 4 } }],
      ] as const;
      const read = given.map(([of, change]) => rawIn(of, change) ?? null);
      byId('opener').addEventListener('blur', (event) => leave(gate, gate.field('a'), event));
      return { gate, undo, read };
    },
  );
  expect(await page.evaluate(() => (window as unknown as { read: unknown }).read)).toEqual([true, null, null, 4]);
  // Nothing was written, and nothing taken for what somebody typed.
  const values = () => page.evaluate(() => [...document.querySelectorAll('input')].map(({ value }) => value));
  expect([await values(), await page.evaluate(() => (window as unknown as { gate: { root: { raw: object } } }).gate.root.raw)]).toEqual([
    ['', '', '01.05.2027', '50'],
    { a: '', b: '', c: '', d: '', e: '', f: false },
  ]);
  const order: (string | undefined)[] = [];
  for (const path of ['c', 'b', 'd', 'e', 'a']) {
    await page.evaluate(() => document.forms[0]!.requestSubmit());
    order.push(await focused());
    await page.evaluate(
      (at) =>
        (window as unknown as { gate: { field(path: string): { set(value: unknown): void } } }).gate
          .field(at)
          .set(at === 'd' ? new Date(2027, 4, 1, 23, 30) : at === 'e' ? 2 : 'one'),
      path,
    );
  }
  expect(order).toEqual(['c', 'inside', 'shown', 'slide', 'opener']);
  expect(await gateData()).toEqual({ a: 'one', b: 'one', c: 'one', d: '2027-05-01', e: 2, f: false });
  // What a field has opened belongs to it, until the focus leaves that.
  // (A reset forgets what was left just before, with the focus on its way.)
  await page.evaluate(async () => {
    (document.activeElement as HTMLElement).blur();
    (window as unknown as { gate: { reset(): void } }).gate.reset();
    await new Promise((resolve) => setTimeout(resolve, 150));
  });
  const touched = () =>
    page.evaluate(() => ['a', 'b'].filter((path) => (window as unknown as { gate: { field(path: string): { touched: boolean } } }).gate.field(path).touched).join());
  for (const [id, wanted] of ['inside ', 'opener b', 'list b', 'one b', 'opener b', 'list b', 'c a,b'].map((step) => step.split(' '))) {
    await page.evaluate((at) => document.getElementById(at)!.focus(), id!);
    expect([id, await touched()]).toEqual([id, wanted]);
  }
  expect(await page.getAttribute('#inside', 'aria-required')).toBe('true');
});

test('a form in a frame is bound from outside', async () => {
  await page.setContent(
    '<iframe srcdoc="<form><input name=a aria-label=A><select name=b aria-label=B><option><option>x</select><input type=checkbox name=c aria-label=C><button>go</button></form>"></iframe>',
  );
  await loadLibrary(page);
  const frame = page.frameLocator('iframe');
  await frame.locator('button').waitFor();
  await page.evaluate(() => {
    const { group, text, choice, boolean, required, createGate, bindForm } = UpperGate;
    const gate = createGate(group({ a: text('A', required()), b: choice('B', ['x'], required()), c: boolean('C') }));
    Object.assign(window, { gate, undo: bindForm(document.querySelector('iframe')!.contentDocument!.forms[0]!, gate) });
  });
  await frame.locator('button').click();
  expect(await frame.locator('form').evaluate(() => document.activeElement!.getAttribute('name'))).toBe('a');
  await frame.locator('[name=a]').fill('x');
  await frame.locator('[name=b]').selectOption('x');
  await frame.locator('[name=c]').check();
  expect(await gateData()).toEqual({ a: 'x', b: 'x', c: true });
});

test('the browser sends what is right: after async rules, without what does not apply, where the button says; also from a program, a dialog, or a handler', async () => {
  const posts: string[] = [];
  await page.route('http://harbour.test/**', (route) => {
    posts.push(`${new URL(route.request().url()).pathname} ${route.request().postData()}`);
    return route.request().url().endsWith('/page') ? route.fulfill({ contentType: 'text/html', body: '<h1>Moored</h1>' }) : route.fulfill({ status: 204 });
  });
  const status = (wanted: string) => page.waitForFunction(`gate.state.status === '${wanted}'`);
  await scene(
    `<form action="http://harbour.test/moor" method="post"><input name="a" aria-label="A"><input name="b" aria-label="B" value="left out"><input name="c" aria-label="C" disabled value="c">
      <button id="go" name="way" value="up">go</button><button id="other" formaction="http://harbour.test/other" formmethod="post">other</button><button id="page" formaction="http://harbour.test/page">page</button></form>
      <dialog open><form method="dialog"><input name="d" aria-label="D"><button id="close" value="closed">close</button></form></dialog>`,
    ({ group, text, required, asyncCheck, appliesWhen, createGate, bindForm, warnBeforeLeaving }, form) => {
      const asked: unknown[] = [];
      const check = asyncCheck(async (value) => (asked.push(value), await new Promise((resolve) => setTimeout(resolve, 30)), value === 'no' ? 'No' : undefined));
      const schema = group({ a: text('A', required(), check), b: text('B'), c: text('C') }).with(appliesWhen({ b: ({ a }) => a === 'with b' }));
      const gate = createGate(schema);
      const undo = bindForm(document.createElement('form'), gate);
      bindForm(form, gate);
      undo(); // A form that goes leaves its successor alone.
      warnBeforeLeaving(gate);
      const dialog = document.querySelector('dialog')!;
      bindForm(dialog.querySelector('form')!, createGate(group({ d: text('D', required()) })));
      return { gate, dialog, asked };
    },
  );
  await page.fill('[name=a]', 'no');
  await page.click('#go');
  await page.locator('[data-gate-messages=a]:not(:empty)').waitFor();
  await page.fill('[name=a]', 'Otter');
  await page.click('#go');
  await status('sending');
  await status('editing');
  await page.click('#other');
  await status('sending');
  await status('editing');
  const outcome = page.evaluate(() => (window as unknown as { gate: { submit(): Promise<{ status: string }> } }).gate.submit().then((end) => end.status));
  await status('sending');
  expect(await outcome).toBe('sent');
  expect(posts.splice(0)).toEqual(['/moor a=Otter&way=up', '/other a=Otter', '/moor a=Otter']);
  expect(await page.evaluate(() => [...document.querySelectorAll('input:disabled')].map((input) => input.getAttribute('name')))).toEqual(['c']);
  await page.click('#close');
  expect(await page.evaluate(() => (window as unknown as { dialog: HTMLDialogElement }).dialog.open)).toBe(true);
  await page.fill('[name=d]', 'x');
  await page.click('#close');
  await page.waitForFunction(() => (window as unknown as { dialog: HTMLDialogElement }).dialog.returnValue === 'closed');
  // A reset holds back what has not gone out yet.
  const reset = "const stop = gate.watch(({ state }) => state.status === 'sending', (is) => is && (stop(), gate.reset())); gate.submit()";
  expect([await page.evaluate(reset), await drawn(page), posts]).toEqual([{ status: 'interrupted' }, undefined, []]);
  await page.fill('[name=a]', 'Otter');
  // The page is left without a dialog.
  const asked: string[] = [];
  page.on('dialog', (dialog) => asked.push(dialog.type()) && void dialog.accept());
  await page.click('#page');
  await page.getByText('Moored').waitFor();
  expect(asked).toEqual([]);
  // A handler may leave it to the browser.
  await page.goto('about:blank');
  posts.length = 0;
  await scene(
    '<form action="http://harbour.test/moor" method="post"><input name="a" aria-label="A" value="x"><button id="go" name="way" value="up">go</button></form>',
    ({ group, text, createGate, bindForm }, form) => {
      const gate = createGate(group({ a: text('A') }), { submit: () => form.submit() });
      return { gate, undo: bindForm(form, gate) };
    },
  );
  await page.click('#go');
  await status('accepted');
  await drawn(page);
  expect(posts).toEqual(['/moor a=x&way=up']);
  await page.unrouteAll();
});

test('the summary links to the fields, follows what is corrected, and goes; without one, what is out of reach is reported in a line', async () => {
  const fields = '<label>A <input name="a" id="a"></label><label>B <input name="b" id="b"></label><button id="go">go</button>';
  const gateOf = ({ group, text, required, createGate, bindForm }: typeof UpperGate, form: HTMLFormElement) => {
    const gate = createGate(group({ a: text('A', required()), b: text('B', required()), c: text('C') }).with(UpperGate.fieldRules({ c: required() as never })), {
      focus: form.dataset['focus'] as 'first',
    });
    return { gate, undo: bindForm(form, gate, { rows: UpperGate.templateRows, summary: UpperGate.errorSummary }) };
  };
  await scene(`<form data-focus="summary"><section data-gate-summary hidden></section>${fields}</form>`, gateOf);
  const summary = page.locator('[data-gate-summary]');
  expect(await summary.isHidden()).toBe(true);
  await page.click('#go');
  expect(await summary.evaluate((place) => [place === document.activeElement, document.getElementById(place.getAttribute('aria-labelledby')!)!.textContent])).toEqual([
    true,
    worded('summary', '', { count: 3 }),
  ]);
  expect(await summary.locator('li').allTextContents()).toEqual([worded('valueMissing', 'A'), worded('valueMissing', 'B'), worded('valueMissing', 'C')]);
  // The line does not tell it again.
  expect((await alertLine()).join('')).toBe('');
  await summary.getByText(worded('valueMissing', 'B')).click();
  expect(await focused()).toBe('b');
  // Nothing leads to what cannot be shown.
  await page.evaluate(() => (document.getElementById('a')!.hidden = true));
  await page.click('#go');
  expect(await summary.locator('li').allTextContents()).toEqual([worded('valueMissing', 'B'), worded('valueMissing', 'A'), worded('valueMissing', 'C')]);
  expect(await summary.locator('a').allTextContents()).toEqual([worded('valueMissing', 'B')]);
  await page.fill('#b', 'x');
  expect(await summary.locator('h2').textContent()).toBe(worded('summary', '', { count: 2 }));
  await page.evaluate(() => (window as unknown as { gate: { set: (to: object) => void } }).gate.set({ a: 'x', c: 'x' }));
  expect(await summary.isHidden()).toBe(true);
  // One of the author.
  await page.goto('about:blank');
  await scene(`<form><section data-gate-summary></section>${fields}</form>`, ({ group, text, required, createGate, bindForm }, form) => {
    const gate = createGate(group({ a: text('A', required()), b: text('B', required()) }));
    return {
      gate,
      undo: bindForm(form, gate, {
        summary: UpperGate.errorSummary((place, errors, heading) => (place.textContent = [heading, ...errors.map(({ label, path }) => `${label} (${path})`)].join('; '))),
      }),
    };
  });
  await page.click('#go');
  expect(await summary.textContent()).toBe(`${worded('summary', '', { count: 2 })}; A (a); B (b)`);
  // Without a summary.
  await page.goto('about:blank');
  await scene(`<form data-focus="first">${fields}</form>`, gateOf);
  await page.fill('#a', 'x');
  await page.evaluate(() => (document.querySelector<HTMLElement>('#b')!.hidden = true));
  await page.click('#go');
  expect(await alertLine()).toEqual([`${worded('valueMissing', 'B')}${worded('valueMissing', 'C')}`]);
  expect(await focusedBy('data-gate-messages')).toBe('');
});

test('two forms of one schema on a page keep their summaries, and their rows, to themselves', async () => {
  const form = (name: string) =>
    `<form id="${name}"><section data-gate-summary></section><input name="a" aria-label="A"><template data-gate-rows="rows"><p><input name="" aria-label="Row"><button data-gate-remove>x</button></p></template><button data-gate-add="rows">add</button><button class="go">go</button></form>`;
  await scene(`${form('one')}${form('two')}`, ({ group, list, text, required, createGate, bindForm }) => {
    const schema = group({ a: text('A', required()), rows: list('Rows', text('Row')) });
    for (const each of document.forms) bindForm(each, createGate(schema), { rows: UpperGate.templateRows, summary: UpperGate.errorSummary });
    return {};
  });
  await page.click('#two [data-gate-add]');
  await page.click('#two .go');
  expect(await page.evaluate(() => [...document.forms].map((each) => [each.querySelectorAll('[data-gate-row]').length, each.querySelectorAll('section a').length]))).toEqual([
    [0, 0],
    [1, 1],
  ]);
});

test('composed text counts when it is done; the button that submits is a value; what hides the form from us is refused', async () => {
  await scene(
    '<form><input name="a" aria-label="A"><button name="way" value="up" id="up">up</button><button name="way" value="down">down</button></form>',
    ({ group, text, choice, check, required, createGate, bindForm }, form) => {
      const judged: unknown[] = [];
      const gate = createGate(
        group({
          a: text(
            'A',
            check((value) => void judged.push(value)),
          ),
          way: choice('Way', ['up', 'down'], required()),
        }),
      );
      return { gate, judged, undo: bindForm(form, gate) };
    },
  );
  await page.locator('[name=a]').evaluate((input: HTMLInputElement) => {
    const tell = (type: string, isComposing: boolean) =>
      input.dispatchEvent(type === 'input' ? new InputEvent(type, { bubbles: true, isComposing }) : new CompositionEvent(type, { bubbles: true }));
    tell('compositionstart', true);
    for (const typed of ['n', 'に']) {
      input.value = typed;
      tell('input', true);
    }
    tell('compositionend', false);
  });
  expect(await page.evaluate(() => (window as unknown as { judged: unknown[] }).judged)).toEqual(['に']);
  await page.click('#up');
  expect(await gateData()).toEqual({ a: 'に', way: 'up' });
  await page.goto('about:blank');
  for (const member of ['elements', 'setAttribute', 'append'])
    await expect(bind(`<form id="f"><input name="a"><input name="${member}"></form>`, ['a'])).rejects.toThrow(`A control is named "${member}", which hides form.${member}`);
});

test('a form that says all in HTML needs no schema', async () => {
  await scene(
    `<form><label>Vessel <input name="vessel" required minlength="2"></label><fieldset><legend>Side</legend><input type="radio" name="side" value="p" required><input type="radio" name="side" value="s"></fieldset>
      <input type="checkbox" name="kit" value="a"><input type="checkbox" name="kit" value="b" required><input type="checkbox" name="ok" aria-label="Fine" required>
      <select name="kind" aria-label="Kind"><option></option><option>barge</option></select><input name="size.beam" type="number" max="5" aria-label="Beam"><input type="file" name="paper" accept=".pdf" aria-label="Paper">
      <template data-gate-rows="crew" data-gate-min="1" aria-label="Crew"><p><input name="name" aria-label="Name" required></p></template><button data-gate-add="crew">add</button><button id="go">go</button></form>`,
    ({ createGate, bindForm, schemaFromForm, defineRule, extend, text }, form) => {
      const notTaken = defineRule({
        name: 'notTaken',
        params: { name: 'text' },
        test: (value: string, { name }) => value !== name,
        texts: { en: 'Not {name}' },
        attribute: 'data-not',
      });
      form.querySelector('[name=vessel]')!.setAttribute('data-not', 'Heron');
      const gate = createGate(extend(schemaFromForm(form, { rules: [notTaken] }), { note: text('Note') }));
      return { gate, undo: bindForm(form, gate, { rows: UpperGate.templateRows, summary: UpperGate.errorSummary }) };
    },
  );
  await page.fill('[name="size.beam"]', '7');
  await page.click('#go');
  expect(await page.evaluate(() => (window as unknown as { gate: { findings: { message: string }[] } }).gate.findings.map(({ message }) => message))).toEqual([
    worded('valueMissing', 'Vessel'),
    worded('valueMissing', 'Side', { holds: 'option' }),
    worded('valueMissing', 'kit', { holds: 'options' }),
    worded('valueMissing', 'Fine', { holds: 'flag' }),
    worded('tooFew', 'Crew', { min: 1 }),
    worded('rangeOverflow', 'Beam', { max: 5 }),
  ]);
  await page.fill('[name=vessel]', 'Heron');
  expect(await page.getByText('Not Heron').count()).toBe(1);
  await page.fill('[name=vessel]', 'Otter');
  // Not the box that is required: as in HTML, that is the one to tick.
  await page.check('[value=a]');
  expect(await page.evaluate(() => (window as unknown as { gate: { field(path: string): { valid: boolean } } }).gate.field('kit').valid)).toBe(false);
  await page.uncheck('[value=a]');
  for (const selector of ['[value=p]', '[value=b]', '[name=ok]']) await page.check(selector);
  await page.fill('[name="size.beam"]', '2');
  await page.click('[data-gate-add]');
  await drawn(page);
  await page.keyboard.type('Ada');
  await page.click('#go');
  expect(await gateData()).toEqual({
    vessel: 'Otter',
    side: 'p',
    kit: ['b'],
    ok: true,
    kind: undefined,
    paper: undefined,
    size: { beam: 2 },
    crew: [{ name: 'Ada' }],
    note: undefined,
  });
});

test('mistakes in the wiring are reported once each, with the fix, in development; production bundles do not hold a word of them', async () => {
  const told: string[] = [];
  const listen = (message: { type(): string; text(): string }) => message.type() === 'warning' && told.push(message.text());
  page.on('console', listen);
  await scene(
    `<form><input name="a"><input name="typo" aria-label="x"><label for="gone">Gone</label><i id="d"></i><i id="d"></i><p data-gate-messages="nowhere"></p>
      <template data-gate-options="a"></template><template data-gate-options="no"></template><select name="moving" aria-label="m"></select>
      <section data-gate-summary></section><div><template data-gate-rows="rows"><i><input name="kind"><input name="rows.0.name"><input name="name"></i></template></div>
      <input type="checkbox" name="b2" aria-label="n"><button type="button" data-gate-add="a">add</button><input type="submit" id="go" value="go"></form><button form="f">outside</button>`,
    ({ group, list, text, required, length, choicesFrom, createGate, bindForm }, form) => {
      form.id = 'f';
      const row = group({ name: text('Name') });
      const gate = createGate(
        group({ a: text('A'), b: text('B', required()), b2: UpperGate.number('N'), rows: list('Rows', row, length({ min: 1 })), moving: text('M') }).with(
          UpperGate.fieldRules({ moving: choicesFrom(() => ['x']) }),
        ),
      );
      bindForm(form, gate);
      setTimeout(() => form.insertAdjacentHTML('beforeend', '<p><input name="later"></p><button>plus</button>'));
      HTMLFormElement.prototype.submit = () => undefined;
      for (let times = 0; times < 2; times += 1) {
        form.submit();
        form.requestSubmit();
      }
      let twice = '';
      try {
        bindForm(form, gate);
      } catch (error) {
        twice = String(error);
      }
      console.warn(twice);
      return {};
    },
  );
  while (!told.some((text) => text.includes('no place'))) await page.waitForEvent('console');
  page.off('console', listen);
  expect(told.map((text) => text.replace(/^Upper Gate: /, '').slice(0, 48)).sort()).toEqual(
    [
      'the control <input name="a"> has no label, so sc',
      'the control <input name="typo"> has no field: th',
      'the id "d" is used more than once, so labels and',
      'the control <input name="b2" type="checkbox"> ho',
      'the label <label for="gone"> (Gone) has no contr',
      'the button "plus" has no type, so it submits the',
      'the button "outside" has no type, so it submits ',
      'the control <input name="later"> has no field: t',
      '<button type="button"> has data-gate-add="a", bu',
      'the name "kind" in the template of "rows" names ',
      'the name "rows.0.name" in the template of "rows"',
      '<p> has data-gate-messages="nowhere", but the sc',
      'form.submit() bypasses validation. Call form.req',
      'the field "b" has an error but no control, so th',
      'a template has data-gate-options="a", but no rul',
      'a template has data-gate-options="no", but the s',
      'the options of "moving" depend on other fields, ',
      'the page has a template of rows, but the form is',
      'the page has a place for a summary, but the form',
      'the messages of "rows" have no place, so they ap',
      'TypeError: This form is already bound. Call the ',
    ].sort(),
  );
  const shipped = bundleLibrary(true);
  for (const text of ['bypasses validation', 'has no label', 'already bound', 'more than once'])
    expect({ text, 'includes text': shipped.includes(text) }).toEqual({ text, 'includes text': false });
});

test('the focus stays on a link of the summary as it is drawn again, and goes to its neighbour when its error is gone', async () => {
  await scene(
    '<form><section data-gate-summary></section><input id="a" name="a" aria-label="A"><input id="b" name="b" aria-label="B"><button id="go">go</button></form>',
    ({ group, text, required, createGate, bindForm }) => {
      const gate = createGate(group({ a: text('A', required()), b: text('B', required()) }), { focus: 'summary' });
      bindForm(document.querySelector('form')!, gate, { summary: UpperGate.errorSummary });
      return { gate };
    },
  );
  await page.click('#go');
  await page.locator('section a').nth(1).focus();
  const text = async () => (await drawn(page), page.evaluate(() => document.activeElement!.textContent));
  await page.evaluate(() => (globalThis as unknown as { gate: { setLocale(messages: object): void } }).gate.setLocale({ valueMissing: '{label} fehlt' }));
  expect(await text()).toBe('B fehlt');
  await page.evaluate(() => (globalThis as unknown as { gate: { set(values: object): void } }).gate.set({ b: 'x' }));
  expect(await text()).toContain('A fehlt');
});

test('a group of radios by its role is required; of boxes the wrong one takes the focus', async () => {
  await scene(
    `<form><div role="radiogroup" aria-label="A"><input type="radio" name="a" value="x" aria-label="x"><input type="radio" name="a" value="y" aria-label="y"></div>
      ${['horn', 'whistle'].map((value) => `<input type="checkbox" name="kit" value="${value}" aria-label="${value}" checked>`).join('')}<button id="go">go</button></form>`,
    ({ group, choice, choices, required, createGate, bindForm }, form) => {
      const gate = createGate(group({ a: choice('A', ['x', 'y'], required()), kit: choices('Kit', ['horn']) }));
      return { gate, undo: bindForm(form, gate) };
    },
  );
  expect(await page.locator('[aria-required=true]').getAttribute('role')).toBe('radiogroup');
  // From radio to radio is not leaving; away from them is.
  const left = [];
  for (const next of ['x', 'y', 'horn']) {
    await page.focus(`[value=${next}]`);
    left.push(await page.evaluate(() => (window as unknown as { gate: { field(path: string): { touched: boolean } } }).gate.field('a').touched));
  }
  expect(left).toEqual([false, false, true]);
  await page.check('[value=x]');
  await page.click('#go');
  expect(await focusedBy('value')).toBe('whistle');
});

test('a field behind a tab that its page opens, and one in a shadow root, take the focus; in the order of the page', async () => {
  await scene(
    '<form><div id="host"></div><input id="a" name="a" aria-label="A"><div id="tab" hidden><input id="b" name="b" aria-label="B"></div><button id="go">go</button></form>',
    ({ group, text, required, createGate, bindForm }) => {
      const gate = createGate(group({ a: text('A', required()), b: text('B', required()), c: text('C', required()) }));
      const inner = document.createElement('input');
      document.querySelector('#host')!.attachShadow({ mode: 'open' }).append(inner);
      bindForm(document.querySelector('form')!, gate);
      const b = gate.field('b');
      // Drawn later, as frameworks do.
      UpperGate.connect(b, Object.create({ show: () => void setTimeout(() => (document.querySelector<HTMLElement>('#tab')!.hidden = false)) }) as object);
      UpperGate.connect(gate.field('c'), { element: inner, focus: () => inner.focus() });
      return { gate };
    },
  );
  await page.click('#go');
  expect(await focused()).toBe('host');
  await page.evaluate(() => (globalThis as unknown as { gate: { set(values: object): void } }).gate.set({ c: 'x' }));
  await page.fill('#a', 'x');
  await page.click('#go');
  await page.waitForFunction(() => document.activeElement!.id === 'b');
  expect(await alertLine()).toEqual([]);
});

test('in a shadow root, too, another option takes the focus where the one that had it is gone', async () => {
  await scene('<div id="host"></div>', ({ group, boolean, text, choicesFrom, createGate, bindForm, movingOptions }) => {
    const root = document.querySelector('#host')!.attachShadow({ mode: 'open' });
    root.innerHTML = '<form><template data-gate-options="side"><label><input type="radio"></label></template></form>';
    const schema = group({ shut: boolean('Shut'), side: text('Side') }).with(UpperGate.fieldRules({ side: choicesFrom((it) => (it.shut ? ['right'] : ['left', 'right'])) }));
    const gate = createGate(schema);
    bindForm(root.querySelector('form')!, gate, { options: movingOptions });
    root.querySelector<HTMLInputElement>('[value=left]')!.focus();
    gate.set({ shut: true });
  });
  expect(await page.evaluate(() => document.querySelector('#host')!.shadowRoot!.activeElement!.getAttribute('value'))).toBe('right');
});

interface FocusCase {
  readonly id: string;
  readonly html: string;
  readonly focused: string | null;
  /** Custom validity, by id. */
  readonly custom?: Readonly<Record<string, string>>;
  readonly submitter?: string;
  readonly call?: string;
}
const cases = JSON.parse(readFileSync(join(__dirname, '../data/html-focus-order.json'), 'utf8')) as FocusCase[];
// Two hook into `invalid` events, which a gate does not have. `novalidate` on a form is what pages write that validate by script.
const others = ['order.prevent-all-with-prior-focus', 'order.handler-removes-first', 'order.novalidate-form'];

test.each(cases.filter(({ id }) => !others.includes(id)).map((each) => [each.id, each] as const))(
  'focus goes where a browser sets it: %s',
  async (_, { html: markup, focused: expected, custom = {}, submitter, call }) => {
    // Names from ids, but for radios, which have theirs.
    const named = markup.replace(/<input (?!type=radio)/g, (tag) => `${tag}data-named `).replace(/data-named ([^>]*)id=(\w)/g, '$1id=$2 name=$2');
    await page.setContent(named);
    await loadLibrary(page);
    await page.evaluate(
      ({ custom, submitter, call }) => {
        const { createGate, bindForm, schemaFromForm } = UpperGate;
        const form = document.querySelector<HTMLFormElement>('#f')!;
        const gate = createGate(schemaFromForm(form));
        bindForm(form, gate);
        const given = Object.entries(custom).filter(([id]) => gate.has(id as never));
        gate.on('submit', () => gate.addFindings(given.map(([path, message]) => ({ path, message }))));
        form.addEventListener('submit', (event) => event.preventDefault());
        if (call) form.checkValidity();
        else form.requestSubmit(submitter === undefined ? null : document.getElementById(submitter));
      },
      { custom, submitter, call },
    );
    expect((await focused()) || null).toBe(expected);
  },
);

/** What a real browser said of a control that a script had set. */
interface Case {
  readonly id: string;
  readonly control: 'input' | 'select' | 'textarea';
  readonly attrs: Readonly<Record<string, string | true>>;
  readonly value: string | null;
  readonly typed?: boolean;
  readonly wrap?: unknown;
  readonly checked?: boolean;
  readonly members?: readonly { readonly attrs: Case['attrs']; readonly checked: boolean; readonly form: string }[];
  readonly options?: readonly { readonly value?: string; readonly text: string; readonly disabled?: boolean; readonly optgroup?: unknown }[];
  readonly selected?: readonly number[];
  readonly files?: readonly string[];
  readonly native: Readonly<Record<string, boolean>>;
}

test('forms that are read from their HTML agree with the browser, for every type of control; what is written back refuses nothing more', async () => {
  const all = JSON.parse(readFileSync(join(__dirname, '../data/html-constraints.json'), 'utf8')) as Case[];
  const cases = all.filter(
    ({ typed, wrap, members, files, attrs }) => !typed && !wrap && !members?.some(({ form }) => form !== 'a') && !files?.length && attrs['type'] !== 'submit',
  );
  await page.setContent('<form></form>');
  await loadLibrary(page);
  const judged = await page.evaluate((given) => {
    const { createGate, bindForm, schemaFromForm, toAttributes } = UpperGate;
    const form = document.querySelector('form')!;
    const make = (name: string, attributes: object): HTMLInputElement => {
      const control = document.createElement(name) as HTMLInputElement;
      for (const [key, value] of Object.entries(attributes)) if (value !== undefined) control.setAttribute(key, value === true ? '' : String(value));
      return control;
    };
    return given.map(({ id, control, attrs, value, checked, members, options, selected }) => {
      const controls = (members ?? [{ attrs, checked }]).map((member) => {
        const made = make(control, { ...member.attrs, name: 'f' });
        if (member.checked !== undefined) made.checked = member.checked;
        return made;
      });
      form.replaceChildren(...controls);
      const [first] = controls as [HTMLInputElement & HTMLSelectElement];
      for (const option of options ?? []) first.append(Object.assign(document.createElement('option'), option));
      if (selected) [...first.options].forEach((option, i) => (option.selected = selected.includes(i)));
      if (value !== null) first.value = value;
      const flags = (element: HTMLInputElement) => {
        const found: string[] = [];
        for (const flag in element.validity) if (element.validity[flag as keyof ValidityState] && flag !== 'valid') found.push(flag);
        return found;
      };
      // A browser has flags also for controls that it does not validate because they are read-only.
      const native = first.willValidate || first.disabled || !first.hasAttribute('readonly') ? flags(first) : [];
      const schema = schemaFromForm(form);
      const gate = createGate(schema);
      const undo = bindForm(form, gate);
      // Natively only what a person typed is too long or too short; here it is whoever set the value.
      const codes = [...new Set(gate.findings.map(({ code }) => code))].filter((code) => !/^too(Long|Short)$/.test(code));
      const { value: now } = first;
      undo();
      const back = make(control, toAttributes((schema as unknown as { fields: Record<string, never> }).fields['f']!));
      if (control !== 'select' && back.type !== 'file') back.value = now;
      return {
        id,
        native: native.sort().join(),
        ours: codes.sort().join(),
        more: control === 'select' || first.checked || first.disabled ? [] : flags(back).filter((flag) => !codes.includes(flag)),
      };
    });
  }, cases);
  const differing = judged.filter(({ native, ours }) => native !== ours).map(({ id }) => id);
  const listed = [...readFileSync(join(__dirname, '../../../../docs/html-agreement.md'), 'utf8').matchAll(/^- `([\w.-]+)`/gm)].map(([, id]) => id);
  expect(differing.sort()).toEqual(listed.sort());
  expect({
    'count of cases': cases.length,
    filter: judged.filter(({ id, more }) => more.length > 0 && !listed.includes(id)),
    value: judged.filter(({ native }) => native !== '').length > 100,
  }).toEqual({ 'count of cases': 879, filter: [], value: true });
});
