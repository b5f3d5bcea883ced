// One table of behaviours for every binding, in a browser and on a server.

import { createRequire } from 'node:module';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { Page } from 'playwright-core';
import type { Gate, Node } from 'upper-gate';
import { BINDINGS, bundle, openInspector } from './harness.ts';
import { drawn } from './heard.ts';
import { bundleLibrary, useBrowser } from './launch.ts';
import type { Refused } from './scenes/server.ts';
import { worded } from '../wording.ts';

/** What a scene offers in the page. */
declare const Scene: {
  renders: Record<string, number>;
  hydrate(root: Element, posted?: unknown): void;
  mount(root: Element, strict?: boolean, initial?: object): () => void;
  mountAction(root: Element): void;
  mountEither(root: Element): void;
  mountNested(root: Element): void;
  mountMoving(root: Element): void;
  mountLost(root: Element): void;
  mountSloppy(root: Element): void;
  mountMany(root: Element): void;
  mountKeptAlive(root: Element): void;
  mountTogether(root: Element): void;
  commits: string[];
  connect(field: object, connection: object): unknown;
  sent: string[];
  draftIn(gate: unknown): Map<string, string>;
  mountWrong(root: Element, make: () => unknown): void;
};
declare const gate: Pick<Gate<Node>, 'root' | 'set' | 'rebase' | 'reset' | 'addFindings'> & {
  field(path: string): { set(value: unknown): void; raw: unknown };
  list(path: string): { add(row: object, at: number): unknown; move(from: number, to: number): void };
};

interface Server {
  draw(posted?: Refused): string | Promise<string>;
  received(body: string): Promise<Refused | undefined>;
}

/** A scene on the server. */
function serverOf(file: string, alias: Record<string, string>): Server {
  const module = { exports: {} as Server };
  // eslint-disable-next-line @typescript-eslint/no-implied-eval, @typescript-eslint/no-unsafe-call -- a bundle of our own
  new Function('module', 'exports', 'require', bundle(file, 'node', alias))(module, module.exports, createRequire(__filename));
  return module.exports;
}

const browser = useBrowser();

describe.each(BINDINGS)('%s', (framework, scene, server, alias, isShort) => {
  const whole = isShort ? () => undefined : test;
  const script = bundle(scene, 'browser', alias);
  let page: Page;
  let complaints: string[];
  beforeAll(async () => {
    page = await browser().newPage();
    page.setDefaultTimeout(20_000);
    page.on('console', (message) => ['error', 'warning'].includes(message.type()) && complaints.push(message.text()));
    page.on('pageerror', (error) => complaints.push(String(error)));
  });
  beforeEach(async () => {
    await page.goto('about:blank');
    complaints = [];
  });
  afterAll(() => page.close());

  async function show(act: (root: Element) => unknown, html = ''): Promise<void> {
    await page.setContent(`<!doctype html><div id="root">${html}</div>`);
    await page.addScriptTag({ content: script });
    await page.evaluate(`(${act.toString()})(document.querySelector('#root'))`);
    await page.locator('form').waitFor({ state: 'attached' });
    await openInspector(page);
  }
  /** The components that have rendered since the last call, and how often. */
  const rendered = () =>
    page.evaluate(() => {
      const now = { ...Scene.renders };
      for (const name of Object.keys(now)) Reflect.deleteProperty(Scene.renders, name);
      return now;
    });
  const messages = (field: string) => page.locator(`[data-gate-messages="${field}"]`).textContent();
  const byName = (name: string) => page.locator(`[name="${name}"]`);
  const button = (name: string) => page.getByRole('button', { name, exact: true });

  if (server !== undefined) {
    let onServer: Server;
    beforeAll(() => {
      onServer = serverOf(server, alias);
    });
    test('what the server draws works without script, is taken over without a word, and what was typed before is kept', async () => {
      const html = await onServer.draw();
      // Until there is script, the browser itself validates what it can.
      expect(html).not.toMatch(/novalidate/i);
      expect(html).toMatch(/<input(?=[^>]* name="name")[^>]* required/);
      expect(html).toMatch(/<form[^>]*action="\/send"/);
      await page.setContent(`<!doctype html><div id="root">${html}</div>`);
      await byName('name').fill('Otter');
      await byName('kind').selectOption('canoe');
      await page.locator('[name=side][value=port]').check();
      await byName('ok').check();
      await page.addScriptTag({ content: script });
      await page.evaluate(() => Scene.hydrate(document.querySelector('#root')!));
      await page.waitForFunction(() => document.querySelector('form')!.noValidate);
      expect(await page.evaluate(() => gate.root.raw)).toMatchObject({ name: 'Otter', kind: 'canoe', side: 'port', ok: true });
      expect([await byName('name').inputValue(), await byName('ok').isChecked(), await byName('kind').inputValue()]).toEqual(['Otter', true, 'canoe']);
      expect(complaints).toEqual([]);
    });

    test('without script, a refused form comes back with what was sent and each message once; with script it goes on from there', async () => {
      const { draw, received } = onServer;
      const context = await browser().newContext({ javaScriptEnabled: false });
      const bare = await context.newPage();
      let posted: Refused | undefined;
      await bare.route('http://locks.test/**', async (route) => {
        const body = route.request().postData();
        posted = body === null ? undefined : await received(body);
        await route.fulfill({ contentType: 'text/html', body: body !== null && !posted ? 'Booked' : `<!doctype html><div id="root">${await draw(posted)}</div>` });
      });
      await bare.goto('http://locks.test/');
      await bare.locator('form').evaluate((form: HTMLFormElement) => (form.noValidate = true));
      await bare.locator('[name=name]').fill('Otter');
      await bare.locator('[name=again]').fill('Heron');
      await bare.locator('select').selectOption('barge');
      await bare.locator('[value=port]').check();
      await bare.locator('[name=ok]').check();
      await bare.getByRole('button', { name: 'Go' }).click();
      // It is read first.
      await bare.locator('section:not([hidden]):focus').waitFor();
      const drawn = (at: Page) =>
        at.evaluate(() => ({
          values: Object.fromEntries(new FormData(document.querySelector('form')!) as never),
          messages: [...document.querySelectorAll('[data-gate-messages]')].map(({ textContent }) => textContent).filter(Boolean),
          summary: [...document.querySelectorAll('section a')].map((link) => `${link.getAttribute('href')!.replace(/.*-/, '')} ${link.textContent}`),
        }));
      const expected = {
        values: { name: 'Otter', again: 'Heron', kind: 'barge', side: 'port', ok: 'on' },
        messages: [worded('differs', 'Again', { otherLabel: 'Name' })],
        summary: [`again ${worded('differs', 'Again', { otherLabel: 'Name' })}`],
      };
      expect(await drawn(bare)).toEqual(expected);
      await context.close();

      await page.setContent(`<!doctype html><div id="root">${await draw(posted)}</div>`);
      await page.addScriptTag({ content: script });
      await page.evaluate((answer) => Scene.hydrate(document.querySelector('#root')!, answer), posted);
      await page.waitForFunction(() => document.querySelector('form')!.noValidate);
      expect(await drawn(page)).toEqual(expected);
      await byName('again').fill('Otter');
      await page.locator('section[hidden]').waitFor({ state: 'attached' });
      await page.getByRole('button', { name: 'Go' }).click();
      await page.locator('output', { hasText: 'accepted 0' }).waitFor();
      expect(complaints).toEqual([]);
    });
  }

  test('an action: one request at a time, waited for; a refusal takes the focus, a failure is shown; the draft stays until it is accepted', async () => {
    await show((root) => Scene.mount(root, true));
    await page.evaluate(() => Object.assign(globalThis, { draft: Scene.draftIn(gate) }));
    for (const name of ['name', 'again']) await byName(name).fill('Heron');
    await byName('kind').selectOption('barge');
    await page.evaluate(() => Object.assign(globalThis, { held: new Promise((resolve) => Object.assign(globalThis, { letGo: resolve })) }));
    await page.getByRole('button', { name: 'Go' }).click();
    await page.locator('output', { hasText: 'sending 0' }).waitFor();
    await page.getByRole('button', { name: 'Go' }).click({ force: true });
    await page.evaluate(() => (globalThis as unknown as { letGo: () => void }).letGo());
    await page.locator('output', { hasText: 'refused 1' }).waitFor();
    expect({
      sent: await page.evaluate(() => Scene.sent),
      focused: await page.evaluate(() => document.activeElement!.localName),
      'messages of name': await messages('name'),
    }).toEqual({ sent: ['undefined name=Heron&again=Heron&kind=barge&way=up'], focused: 'section', 'messages of name': 'Heron is taken' });
    if (['React 19', 'Vue'].includes(framework)) expect(await page.locator('form[data-answer=Refused]').count()).toBe(1);
    for (const name of ['name', 'again']) await byName(name).fill('Storm');
    await page.getByRole('button', { name: 'Go' }).click();
    await page.locator('output', { hasText: 'failed 0' }).waitFor();
    await page.waitForFunction(() => (globalThis as unknown as { draft: Map<string, string> }).draft.get('draft')?.includes('Storm'));
    expect({ line: await messages(''), value: await byName('name').inputValue() }).toEqual({ line: worded('failed', 'Form'), value: 'Storm' });
    for (const name of ['name', 'again']) await byName(name).fill('Otter');
    await page.getByRole('button', { name: 'Go' }).click();
    await page.locator('output', { hasText: 'accepted 0' }).waitFor();
    const drafts = () => page.evaluate(() => (globalThis as unknown as { draft: Map<string, string> }).draft.size);
    expect({ sent: await page.evaluate(() => Scene.sent.length), drafts: await drafts() }).toEqual({ sent: 3, drafts: 0 });
  });

  whole('a page without a line of its own is never silent: answers, failures, findings of the whole form, forgotten and hidden fields', async () => {
    const kind = worded('valueMissing', 'Kind', { holds: 'option' });
    const wanted: Readonly<Record<string, string>> = {
      'a field without a component': kind,
      404: worded('refused', 'Form'),
      409: 'Taken by now',
      500: worded('failed', 'Form'),
      Ghost: 'Ghosts pay twice',
      'no network': worded('failed', 'Form'),
      'a field that is hidden': worded('differs', 'Again', { otherLabel: 'Name' }),
      'a handler that throws': worded('failed', 'Form'),
      'a field that cannot be shown': kind,
    };
    await show((root) => Scene.mountLost(root));
    const said: Record<string, string> = {};
    for (const [name, says] of Object.entries(wanted)) {
      await page.evaluate((values) => gate.set(values), { kind: says === kind ? '' : 'barge', again: name.endsWith('hidden') ? 'other' : name });
      if (name.endsWith('shown')) await page.evaluate(() => void Scene.connect(gate.field('kind'), { show: () => Promise.resolve(false) }));
      await byName('name').fill(name);
      await page.locator('button').click();
      await page.waitForFunction((text) => document.querySelector('form > [data-gate-messages=""]:first-child:focus')?.textContent === text, says).catch(() => undefined);
      said[name] = await page.locator(':focus').innerText();
    }
    expect(said).toEqual(wanted);
    expect(complaints.filter((text) => !/no control|Failed to (load|fetch)|NetworkError|a handler that throws: no|Storm|ERR_/.test(text))).toEqual([]);
  });

  whole('findings that come by themselves on what is not displayed are in the line, until it is', async () => {
    await show((root) => Scene.mountLost(root));
    await page.evaluate(() => gate.addFindings([{ path: 'again', message: 'Ask the keeper', severity: 'warning' }]));
    const line = page.locator('form > [data-gate-messages=""]');
    await line.filter({ hasText: 'Ask the keeper' }).waitFor();
    await page.evaluate(() => {
      document.querySelector<HTMLInputElement>('[name=again]')!.hidden = false;
      gate.addFindings([{ path: 'again', message: 'Or his dog', code: 'dog' }]);
    });
    await page.waitForFunction(() => document.querySelector('form > [data-gate-messages=""]')!.textContent === '');
  });

  whole('findings of a field without a control, or of an unknown path, show with the form, until they are corrected', async () => {
    await show((root) => Scene.mountLost(root));
    await page.evaluate(() => gate.set({ name: 'Otter', kind: 'barge' }));
    await page.evaluate(() =>
      gate.addFindings([
        { path: 'kind', message: 'No barges today' },
        { path: 'no.such.field', message: 'Closed' },
        { path: 'name', message: 'Taken' },
      ]),
    );
    const line = page.locator('[data-gate-messages=""]', { hasText: 'barges' });
    await line.waitFor();
    expect([await line.innerText(), await messages('name')]).toEqual([expect.stringMatching(/^Closed\s+Kind: No barges today$/), 'Taken']);
    await page.evaluate(() => gate.set({ kind: 'canoe' }));
    await page.locator('[data-gate-messages=""]', { hasText: 'barges' }).waitFor({ state: 'detached' });
  });

  whole('mistakes in the wiring are logged, also those that arrive later, and what bypasses validation', async () => {
    await show((root) => Scene.mountSloppy(root));
    await byName('name').fill('Otter');
    await page.getByText('plus').click();
    while (!complaints.some((text) => text.includes('no control')) || !complaints.some((text) => text.includes('later'))) await page.waitForEvent('console');
    await page.evaluate(() => {
      HTMLFormElement.prototype.submit = () => undefined;
      document.querySelector('form')!.submit();
    });
    expect(complaints.map((text) => text.replace(/^Upper Gate: /, '').slice(0, 39)).sort()).toEqual([
      'form.submit() bypasses validation. Call',
      'the button "plus" has no type, so it su',
      'the control <input name="later"> has no',
      'the control <input name="typo"> has no ',
      'the field "kind" has an error but no co',
    ]);
  });

  test('values at the start: initial before empty; what arrives later leaves edits alone; a reset goes back to it; rows and null too', async () => {
    await show((root) => Scene.mount(root, false, { name: 'Otter', again: null, kind: 'barge', ok: true, crew: ['Ann', 'Bo'] }));
    await byName('crew.1').waitFor();
    const values = () => page.evaluate(() => Object.fromEntries(new FormData(document.querySelector('form')!) as never));
    const start = { name: 'Otter', again: '', kind: 'barge', ok: 'on', 'crew.0': 'Ann', 'crew.1': 'Bo' };
    expect(await values()).toEqual(start);
    await byName('again').fill('Heron');
    await byName('crew.0').fill('Cy');
    await page.evaluate(() => gate.rebase({ name: 'Ibis', again: 'Ibis' }));
    await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[name=name]')!.value === 'Ibis');
    expect(await values()).toEqual({ ...start, name: 'Ibis', again: 'Heron', 'crew.0': 'Cy' });
    await page.evaluate(() => gate.reset());
    await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[name=again]')!.value === 'Ibis');
    expect(await values()).toEqual({ ...start, name: 'Ibis', again: 'Ibis' });
  });

  test('refused, the summary takes the focus; by the server too; accepted, all is reported; undone, nothing is left', async () => {
    await show((root) => Object.assign(globalThis, { undo: Scene.mount(root, true) }));
    await page.getByRole('button', { name: 'Go' }).click();
    await page.locator('section:not([hidden])').waitFor();
    expect(await page.evaluate(() => [document.activeElement!.localName, document.querySelector('h2')!.textContent])).toEqual(['section', worded('summary', '', { count: 2 })]);
    await page.locator('section a').first().click();
    expect(await page.evaluate(() => document.activeElement!.getAttribute('name'))).toBe('name');
    await page.keyboard.type('Heron');
    expect([await messages('name'), await byName('name').getAttribute('aria-invalid')]).toEqual(['', 'false']);
    await byName('again').fill('Heron');
    await byName('kind').selectOption('barge');
    await page.locator('section[hidden]').waitFor({ state: 'attached' });
    await page.getByRole('button', { name: 'Go' }).click();
    await page.getByText('Heron is taken').first().waitFor();
    await byName('name').fill('Otter');
    await byName('again').fill('Otter');
    await page.getByRole('button', { name: 'Go' }).click();
    await page.locator('output', { hasText: 'accepted 0' }).waitFor();
    await page.locator('form').evaluate((form: HTMLFormElement) => form.reset());
    await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[name=name]')!.value === '');
    await page.evaluate(() => (globalThis as unknown as { undo: () => void }).undo());
    expect(await page.locator('#root').innerHTML()).toMatch(/^(<!---->)?$/);
    expect(complaints).toEqual([]);
  });

  whole('parts of dates, composed text, and disabled controls', async () => {
    await show((root) => Scene.mount(root, false));
    await byName('name').evaluate((input: HTMLInputElement) => {
      input.focus();
      input.dispatchEvent(new CompositionEvent('compositionstart', { bubbles: true }));
      input.value = 'か';
      input.dispatchEvent(new InputEvent('input', { bubbles: true, isComposing: true }));
      input.dispatchEvent(new CompositionEvent('compositionend', { bubbles: true }));
    });
    await byName('name').press('End');
    await byName('name').press('a');
    expect([await byName('name').inputValue(), await page.evaluate(() => gate.field('name').raw)]).toEqual(['かa', 'かa']);
    await page.evaluate(() => gate.set({ name: 'set from outside', ok: true, side: 'starboard' }));
    await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[name=name]')!.value === 'set from outside');
    expect([await byName('ok').isChecked(), await page.locator('[value=starboard]').isChecked()]).toEqual([true, true]);
  });

  whole('a list in an either-or is that of the case that is chosen', async () => {
    await show((root) => Scene.mountEither(root));
    const told: string[] = [];
    for (const load of ['goods', 'gravel', 'goods']) {
      await page.evaluate((chosen) => gate.field('cargo.load').set(chosen), load);
      await page.getByRole('button', { name: 'Add' }).click();
      told.push(await page.locator('output').innerText());
    }
    expect({ told, complaints }).toEqual({ told: ['Crates 1', 'Heaps 1', 'Crates 2'], complaints: [] });
  });

  test('the rows of a row are its own, wherever it moves', async () => {
    await show((root) => Scene.mountNested(root));
    for (const member of [0, 1]) {
      await button('Add').click();
      await button('Job').nth(member).click();
      await byName(`crew.${member}.jobs.0`).fill(`Job of ${member}`);
    }
    await button('Remove').first().click();
    await button('Job').click();
    await byName('crew.0.jobs.1').fill('Another');
    await button('Drop').first().click();
    await page.evaluate(() => gate.list('crew').add({ name: 'Ann', jobs: ['Bow'] }, 0));
    await button('Drop').nth(1).click();
    await button('Go').click();
    const few = worded('tooFew', 'Jobs', { min: 1 });
    await page.locator('[data-gate-messages="crew.1.jobs"]', { hasText: few }).waitFor();
    expect(await page.evaluate(() => JSON.stringify(gate.root.raw))).toBe('{"vessel":"","crew":[{"name":"Ann","jobs":["Bow"]},{"name":"","jobs":[]}]}');
    expect(await page.locator('button:focus').evaluate((each) => document.getElementById(each.getAttribute('aria-describedby')!)?.textContent)).toBe(few);
    expect(complaints).toEqual([]);
  });

  whole('the focus stays where it is as a program moves rows, and near the list as the last one goes', async () => {
    await show((root) => Scene.mountNested(root));
    await page.evaluate(() => gate.set({ crew: ['Ann', 'Bo'].map((name) => ({ name, jobs: [] })) }));
    const move = (from: number, to: number) => page.evaluate(([from, to]) => gate.list('crew').move(from!, to!), [from, to]);
    const back = () => move(0, 1);
    const focusIn = (name: string) => byName(name).focus();
    const steps: Readonly<Record<string, readonly [act: () => Promise<unknown>, focused: string]>> = {
      'it is nowhere': [() => move(1, 0).then(back), 'nothing'],
      'its row moves up': [() => focusIn('crew.1.name').then(() => move(1, 0)), 'crew.0.name'],
      'another moves above it': [() => move(1, 0), 'crew.1.name'],
      'another moves below it': [back, 'crew.0.name'],
      'it is on a button': [() => button('Job').last().focus().then(back), 'Job'],
      'a row goes': [() => button('Remove').first().click(), 'crew.0.name'],
      'the last row goes': [() => button('Remove').first().click(), 'vessel'],
    };
    for (const [step, [act, expected]] of Object.entries(steps)) {
      await act();
      await drawn(page);
      const focused = await page.evaluate(() => document.querySelector(':focus')?.getAttribute('name') ?? document.querySelector(':focus')?.textContent ?? 'nothing');
      expect({ step, focused }).toEqual({ step, focused: expected });
    }
  });

  test('options and limits on the page follow other fields; what is no option any more stays, and is refused', async () => {
    await show((root) => Scene.mountMoving(root));
    // A program may focus a field as soon as it is there; nobody has left one by that.
    await page.waitForFunction(() => document.activeElement!.getAttribute('name') === 'day');
    expect(await page.evaluate("gate.field('berth').focus() && gate.field('harbour').focus() && gate.state.touched")).toBe(false);
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    expect(await page.evaluate('gate.state.touched')).toBe(true);
    /** Options with their values, what is chosen with a star; then the limit and its hint. */
    const facts = () =>
      page.evaluate(() => {
        const inputs = (name: string) => [...document.querySelectorAll<HTMLInputElement>(`[name=${name}]`)].map(({ value, checked }) => value + (checked ? '*' : '')).join();
        const berths = [...document.querySelector<HTMLSelectElement>('[name=berth]')!.options].map(({ value, selected }) => value + (selected ? '*' : '')).join();
        const labels = [...document.querySelectorAll('fieldset:first-of-type label')].map(({ textContent }) => textContent.trim()).join();
        return [berths, inputs('side'), labels, inputs('kit'), document.querySelector('[name=day]')!.getAttribute('max'), document.querySelector('i')!.textContent];
      });
    await byName('harbour').selectOption('Oster');
    await byName('berth').selectOption('A1');
    await page.getByLabel('starboard').check();
    await page.getByLabel('horn').check();
    expect(await facts()).toEqual([',A1*,A2', 'port,starboard*', 'port,starboard', 'horn*,lights', '2027-05-31', 'Until May 31, 2027']);
    await byName('harbour').selectOption('Wester');
    await drawn(page);
    expect(await facts()).toEqual(['*,A2,B1', 'port', 'Portside', 'lights,rope', '2027-06-30', 'Until Jun 30, 2027']);
    const held = await page.evaluate(() => ['berth', 'side', 'kit'].map((path) => gate.field(path).raw));
    await page.getByRole('button', { name: 'Go' }).click();
    const refused = await page.evaluate(() => [...document.querySelectorAll('[aria-invalid=true]')].map((element) => element.getAttribute('name')));
    expect({ held, refused }).toEqual({ held: ['A1', 'starboard', ['horn']], refused: ['berth', 'side', 'kit', 'kit'] });
    // Whoever passes by a select that cannot show the value leaves it as it is.
    await byName('harbour').focus();
    await byName('harbour').selectOption('Oster');
    // The place that was made for its messages is gone with them, as its boxes have changed.
    expect(await page.locator('[data-gate-messages=kit]').count()).toBe(0);
    expect((await facts()).slice(0, 4)).toEqual([',A1*,A2', 'port,starboard*', 'port,starboard', 'horn*,lights']);
    expect(complaints).toEqual([]);
  });

  whole('without a handler, a form that says where it goes is sent by the browser: once, with its button; else it is only accepted, with a warning', async () => {
    await show((root) => Scene.mountMoving(root));
    await byName('harbour').selectOption('Oster');
    await byName('berth').selectOption('A1');
    for (const label of ['starboard', 'horn']) await page.getByLabel(label).check();
    await page.getByRole('button', { name: 'Go' }).click();
    await page.waitForFunction("gate.state.status === 'accepted'");
    expect(complaints).toEqual([expect.stringContaining('nothing was sent')]);
    const posts: string[] = [];
    await page.route('http://harbour.test/**', (route) => (posts.push(`${route.request().url()} ${route.request().postData()}`), route.fulfill({ status: 204 })));
    await page.evaluate(() => {
      const form = document.querySelector('form')!;
      Object.assign(form, { method: 'post', action: 'http://harbour.test/moor' });
      [...form.querySelectorAll('button')].at(-1)!.setAttribute('name', 'way');
    });
    await page.getByRole('button', { name: 'Go' }).dblclick();
    expect(await page.evaluate('gate.state.status')).toBe('sending');
    // The page has stayed.
    await page.waitForFunction("gate.state.status === 'editing'");
    expect(posts).toEqual(['http://harbour.test/moor harbour=Oster&berth=A1&side=starboard&kit=horn&day=&way=']);
    await page.unrouteAll();
  });

  if (!['plain', 'elements'].includes(framework)) {
    test('a keystroke among many fields renders one component', async () => {
      await show((root) => Scene.mountMany(root));
      await rendered();
      await byName('f50').pressSequentially('a');
      expect(await rendered()).toEqual({ f50: 1 });
      expect(await page.evaluate(() => gate.field('f50').raw)).toBe('a');
    });

    test('a row renders for itself; the list for its rows; a field that reads another with it', async () => {
      await show((root) => Scene.mount(root, false));
      for (const row of [0, 1]) {
        await page.getByRole('button', { name: 'Add' }).click();
        await page.locator(`[name="crew.${row}"]:focus`).waitFor();
      }
      await rendered();
      await byName('crew.1').fill('Bo');
      expect(await rendered()).toEqual({ 'crew.1': 1 });
      await page.getByRole('button', { name: 'Remove' }).first().click();
      await page.locator('[name="crew.0"]:focus').waitFor();
      expect([await byName('crew.0').inputValue(), await page.locator('fieldset input').count()]).toEqual(['Bo', 1]);
      await byName('again').fill('x');
      await byName('again').blur();
      expect(await messages('again')).toBe('');
      await rendered();
      await byName('name').fill('y');
      expect(await messages('again')).toBe(worded('differs', 'Again', { otherLabel: 'Name' }));
      expect(Object.keys(await rendered()).sort()).toEqual(['again', 'name']);
    });
  }

  if (framework === 'Vue') {
    test('kept alive, a form goes on where it was left', async () => {
      await show((root) => Scene.mountKeptAlive(root));
      const turn = (to: boolean) => page.evaluate((shown) => void ((globalThis as unknown as { shown: { value: boolean } }).shown.value = shown), to);
      await byName('name').fill('Otter');
      await turn(false);
      await page.getByText('Elsewhere').waitFor();
      await page.evaluate(() => gate.set({ again: 'from elsewhere' }));
      await turn(true);
      await byName('name').waitFor();
      expect([await byName('name').inputValue(), await byName('again').inputValue()]).toEqual(['Otter', 'from elsewhere']);
      await page.getByRole('button', { name: 'Go' }).click();
      expect(await messages('again')).toBe(worded('differs', 'Again', { otherLabel: 'Name' }));
    });
  } else if (framework.startsWith('React')) {
    if (framework === 'React 18')
      test('an action before React 19 is an error that says so', async () => {
        await page.setContent('<div id="root"></div>');
        await page.addScriptTag({ content: script });
        const error = page.waitForEvent('pageerror');
        await page.evaluate(() => Scene.mountAction(document.querySelector('#root')!));
        expect(String(await error)).toMatch(/usePostedGate\(\{ action \}\) needs React 19/);
      });

    test('an edit in the middle of a transition: no two components ever show different values', async () => {
      await show((root) => Scene.mountTogether(root));
      await page.evaluate(async () => {
        const { more } = globalThis as unknown as { more: () => void };
        const wait = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));
        for (const name of ['a', 'b', 'c']) {
          more();
          // The transition is being drawn, a slice at a time.
          await wait(10);
          gate.field('name').set(name);
          await wait(100);
        }
      });
      // However long that takes on this machine.
      await page.waitForFunction(() => document.querySelectorAll('i').length === 32);
      expect(await page.evaluate(() => Scene.commits.filter((values) => values.includes('|')))).toEqual([]);
      expect(await page.evaluate(() => [...new Set([...document.querySelectorAll('i')].map(({ textContent }) => textContent))])).toEqual(['c']);
    });

    test('a gate made anew at each render is reported', async () => {
      await page.setContent('<div id="root"></div>');
      await page.addScriptTag({ content: script });
      await page.addScriptTag({ content: bundleLibrary() });
      await page.evaluate(`Scene.mountWrong(document.querySelector('#root'), () => UpperGate.createGate(UpperGate.group({ name: UpperGate.text('Name') })))`);
      await page.locator('input').pressSequentially('abcdef');
      const told = [/^Upper Gate: the form of "name" creates a new gate on every render.*useGate\(\)/, ...(framework.startsWith('React') ? [/other initial values/] : [])];
      expect(complaints.sort()).toEqual(told.map((text) => expect.stringMatching(text)));
    });
  }
});
