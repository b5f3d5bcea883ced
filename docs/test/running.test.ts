// The examples of the pages that need a browser or a server run there, and do what the pages say. (Those that only print are run by
// docs.test.ts, those of the recipes by recipes.test.ts, those about kits in the examples.)

import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import type { Page, Request } from 'playwright-core';
import ts from 'typescript';
import { useBrowser } from '../../packages/upper-gate/__tests__/browser/launch.ts';
import { moduleFrom } from '../live/blocks.ts';
import { blocksOf, pages, root } from './examples.ts';
import { bundle, componentOf, openPage, shownBy } from './inPage.ts';

const browser = useBrowser();
const CODE = /^```tsx?(?: page)?/;
const NEEDS = /^```tsx? page/;

interface Run {
  /** Which of the page's blocks of code, by their order, and what comes before and after them. */
  readonly blocks: readonly number[];
  readonly before?: string;
  readonly code?: string;
  readonly html: string;
  readonly use: (page: Page, requests: readonly Request[]) => Promise<unknown>;
  readonly shows: unknown;
}
const press = (page: Page, name: string) => page.getByRole('button', { name }).first().click();
const fields = (...names: string[]) => names.map((name) => `<label>${name} <input name="${name}"></label>`).join('');
const form = (...names: string[]) => `<form action="/sent" method="post">${fields(...names)}<button>Book</button></form>`;
const said = (page: Page) => page.locator('[data-gate-messages]').filter({ hasText: /./ }).allTextContents();
const refused = async (page: Page) => (await press(page, 'Book'), page.locator('[data-gate-messages]').filter({ hasText: /./ }).first().waitFor(), said(page));
const [ROOT, REACT] = ['<div id="root"></div>', "import { createRoot } from 'react-dom/client';"];
const shown = (element: string) => `createRoot(document.querySelector('#root')!).render(${element});`;
const OWN =
  "import { createGate, group, required, text } from 'upper-gate'; const gate = createGate(group({ vessel: text('Vessel', required()), email: text('E-mail', required()) }));";
/** A function of a page's code that drives a page of a browser. */
const drives = (page: string, name: string) => {
  const code = blocksOf(page, /^```ts/).find((block) => block.includes(`function ${name}(`))!;
  const { outputText } = ts.transpileModule(code.replace('export ', ''), { compilerOptions: { target: ts.ScriptTarget.ES2022 } });
  // eslint-disable-next-line @typescript-eslint/no-implied-eval -- it is the code of the page that is tried
  const make = new Function(`${outputText.replace('export {};', '')}; return ${name};`) as () => (page: Page) => Promise<unknown>;
  return make();
};
const sent = (requests: readonly Request[]) => requests.map((each) => each.postDataJSON() as unknown);

const RUNS: Readonly<Record<string, readonly Run[]>> = {
  'README.md': [
    {
      blocks: [0, 1, 2],
      html: form('vessel', 'beam', 'email', 'emailAgain', 'callBack', 'phone', 'tug'),
      use: refused,
      shows: expect.arrayContaining([expect.stringContaining('is required')]),
    },
  ],
  'packages/upper-gate/README.md': [{ blocks: [0], html: form('vessel', 'beam'), use: refused, shows: ['Vessel name is required', 'Beam (m) is required'] }],
  'docs/quick-start.md': [
    {
      blocks: [0, 1],
      html: blocksOf('docs/quick-start.md', /^```html/)[0]!,
      async use(page, requests) {
        const before = await refused(page);
        for (const [name, value] of Object.entries({ vessel: 'Otter', beam: '2.1', email: 'a@example.org' })) await page.fill(`[name=${name}]`, value);
        const told = page.waitForEvent('dialog').then(async (dialog) => (await dialog.dismiss(), dialog.message()));
        await press(page, 'Book');
        return [before.length, await page.locator('[data-gate-hint=vessel]').textContent(), await told, sent(requests)];
      },
      shows: [3, 'As painted on the bow', 'Booked: Otter', [{ vessel: 'Otter', beam: 2.1, email: 'a@example.org', callBack: false }]],
    },
    {
      blocks: [0, 3],
      html: `<upper-gate-form gate="booking">${blocksOf('docs/quick-start.md', /^```html/)[0]!}</upper-gate-form>`,
      use: async (page) => (await refused(page)).length,
      shows: 3,
    },
    {
      blocks: [0, 2],
      html: ROOT,
      async use(page, requests) {
        const before = await refused(page);
        for (const [name, value] of Object.entries({ vessel: 'Otter', beam: '2.1', email: 'a@example.org' })) await page.fill(`[name=${name}]`, value);
        await press(page, 'Book');
        await page.getByText('Booked').waitFor();
        return [before.length, requests.length];
      },
      shows: [3, 1],
    },
  ],
  'docs/seeing.md': [
    {
      blocks: [1],
      before: OWN,
      code: "const { bindForm } = await import('upper-gate/dom'); bindForm(document.querySelector('form')!, gate);",
      html: form('vessel', 'email').replace(' action="/sent" method="post"', ''),
      async use(page) {
        await page.fill('[name=vessel]', 'O');
        await press(page, 'Book');
        // (What the page is told, and who did what.)
        const kinds = await page.evaluate(() =>
          (globalThis as unknown as { trace: { entries: { kind: string; by?: string }[] } }).trace.entries.map(({ kind, by }) => [kind, by].join(' ').trim()),
        );
        return [
          await page.evaluate(() => (globalThis as unknown as { why(path: string): string }).why('email')),
          ['edited page', 'submitted program', 'focused', 'announced'].filter((kind) => !kinds.includes(kind)),
        ];
      },
      shows: [expect.stringMatching(/^"E-mail" has the error valueMissing .* It has been shown for \d+ ms\.$/), []],
    },
    {
      blocks: [2],
      before: OWN,
      code: "const { bindForm } = await import('upper-gate/dom'); bindForm(document.querySelector('form')!, gate);",
      html: form('vessel', 'email'),
      // (Its shadow root is closed.)
      use: (page) => page.locator('body > upper-gate-inspector:last-child').count(),
      shows: 1,
    },
  ],
  'docs/testing.md': [
    {
      blocks: [],
      code: `${OWN} import { bindForm } from 'upper-gate/dom'; bindForm(document.querySelector('form')!, gate);`,
      html: '<form><label>Vessel <input name="vessel"></label><p data-gate-messages="vessel"></p><label>E-mail <input name="email"></label><button>Book</button></form>',
      use: (page) => drives('docs/testing.md', 'refusesWithoutVessel')(page),
      shows: true,
    },
  ],
  'docs/accessibility.md': [
    {
      blocks: [0],
      code: "const page = document.querySelector('form')!; const { bindForm } = await import('upper-gate/dom'); bindForm(page, gate);",
      html: `<button id="cargo-tab" onclick="cargo.hidden = false">Cargo</button><form><div id="cargo" hidden>${fields('permit')}</div><button>Book</button></form>`,
      use: async (page) => (
        await press(page, 'Book'),
        page.waitForFunction(() => (document.activeElement as HTMLInputElement).name === 'permit'),
        page.locator('#cargo').isVisible()
      ),
      shows: true,
    },
  ],
  'docs/bindings.md': [
    {
      blocks: [0, 1],
      html: '',
      use: async (page) => (
        await page.fill('input', ''),
        await page.locator('input').blur(),
        [await page.locator('label').textContent(), ...(await said(page)), await page.getAttribute('input', 'aria-invalid')]
      ),
      shows: ['Vessel name', 'Vessel name is required', 'true'],
    },
  ],
  'docs/from-html.md': [
    {
      blocks: [0],
      html: '<form><label>Beam <input name="beam" type="number" required max="5.2" step="0.1"></label><button>Book</button></form>',
      use: async (page) => (await page.fill('[name=beam]', '7'), refused(page)),
      shows: ['Beam must be at most 5.2'],
    },
  ],
  'docs/elements.md': [
    {
      blocks: [0],
      html: blocksOf('docs/elements.md', /^```html/)[0]!.replace('<form', '<form data-vessel="Otter"'),
      use: (page) => page.locator('#vessel, small').evaluateAll((all) => all.map((each) => (each as Partial<HTMLInputElement>).value ?? each.textContent)),
      shows: ['Otter', 'As painted on the bow'],
    },
    {
      blocks: [0, 1],
      html: '<template id="harbour-field"><label>Vessel <input></label><i data-gate-hint></i><p data-gate-messages></p></template><upper-gate-form gate="booking"><form><harbour-field name="vessel"></harbour-field><button>Book</button></form></upper-gate-form>',
      use: async (page) => (await press(page, 'Book'), page.locator('harbour-field p').textContent()),
      shows: 'Vessel name is required',
    },
  ],
  'docs/solid.md': [{ blocks: [0], html: '', use: (page) => page.evaluate(() => Object.keys(globalThis).includes('gate')), shows: false }],
  'docs/plain-pages.md': [
    {
      blocks: [0],
      html: `<form><section data-gate-summary hidden></section><p data-gate-hint="vessel"></p>${fields('vessel', 'email')}${blocksOf('docs/plain-pages.md', /^```html/)[0]!}<button>Book</button></form>`,
      async use(page) {
        await press(page, 'Add a crew member');
        await page.waitForFunction(() => (document.activeElement as HTMLInputElement).name === 'crew.0.name');
        await press(page, 'Book');
        return page.locator('[data-gate-summary] :is(h2, a)').allTextContents();
      },
      shows: ['Check 3 entries', 'Vessel name is required', 'E-mail is required', 'Crew 1: Name is required'],
    },
    {
      blocks: [1],
      before: `import { createGate, group, text, fieldRules, choicesFrom } from 'upper-gate'; import { bindForm } from 'upper-gate/dom';
        const gate = createGate(group({ berth: text('Berth'), side: text('Side') }).with(fieldRules({ berth: choicesFrom(() => ['A1']), side: choicesFrom(() => ['port']) })));`,
      html: `<form>${blocksOf('docs/plain-pages.md', /^```html/)[2]!}</form>`,
      use: (page) => page.locator('option, label').allTextContents(),
      shows: ['Berth', 'Choose', 'A1', expect.stringContaining('port')],
    },
    {
      blocks: [2],
      before: `${OWN} import { bindForm, errorSummary } from 'upper-gate/dom';`,
      html: `<form><section data-gate-summary hidden></section>${fields('vessel', 'email')}<button>Book</button></form>`,
      use: async (page) => (await press(page, 'Book'), await press(page, 'E-mail is required'), page.evaluate(() => (document.activeElement as HTMLInputElement).name)),
      shows: 'email',
    },
    {
      blocks: [3],
      before: OWN,
      code: "const { bindForm } = await import('upper-gate/dom'); bindForm(document.querySelector('form')!, gate);",
      html: `<form><p contenteditable role="textbox" aria-label="Vessel"></p>${fields('email')}<button>Book</button></form>`,
      use: async (page) => (await press(page, 'Book'), page.evaluate(() => (document.activeElement as HTMLElement).isContentEditable)),
      shows: true,
    },
  ],
  'docs/questions.md': [
    {
      blocks: [0],
      code: "const { bindForm } = await import('upper-gate/dom'); bindForm(form, gate);",
      html: '<form><label>Vessel <input name="vessel" value="Otter"></label><button name="way" value="up">Book</button></form>',
      use: async (page, requests) => (await Promise.all([page.waitForRequest('**/passages'), press(page, 'Book')]), requests[0]!.postData()!.match(/name="\w+"\r\n\r\n\w+/g)),
      shows: ['name="vessel"\r\n\r\nOtter', 'name="way"\r\n\r\nup'],
    },
    {
      blocks: [2],
      code: `${REACT} import { group, required, text } from 'upper-gate'; const passage = group({ vessel: text('Vessel name', required()) }); ${shown('<PassageForm><Vessel /><button>Book</button></PassageForm>')}`,
      html: ROOT,
      use: refused,
      shows: ['Vessel name is required'],
    },
  ],
  'docs/react.md': [
    {
      blocks: [0],
      code: REACT + shown('<Booking />'),
      html: ROOT,
      async use(page) {
        await press(page, 'Add');
        await press(page, 'Book');
        return page.locator('section a').allTextContents();
      },
      shows: ['Vessel name is required', 'Choose an option for Side', 'Crew 1: Name is required'],
    },
    {
      blocks: [0, 1],
      code: REACT + shown('<Contact />'),
      html: ROOT,
      use: async (page) => (await page.getByLabel('E-mail').focus(), await page.locator('input').blur(), said(page)),
      shows: ['E-mail is required'],
    },
    {
      blocks: [0, 2],
      code: `${REACT} import { fieldRules, choicesFrom } from 'upper-gate';
        const quay = group({ berth: text('Berth') }).with(fieldRules({ berth: choicesFrom(() => ['A1', 'A2']) })); function Quay() { const { gate, form } = useGate(quay); return <form {...form}><Berth gate={gate} /></form>; } ${shown('<Quay />')}`,
      html: ROOT,
      use: (page) => page.getByLabel('Berth').locator('option').allTextContents(),
      shows: ['Choose', 'A1', 'A2'],
    },
    {
      blocks: [0, 3],
      code: `${REACT} (globalThis as { db?: object }).db = { book: async () => document.body.append('Taken') }; ${shown('<ActionBooking />')}`,
      html: ROOT,
      use: async (page) => [await refused(page), await page.getByText('Taken').count()],
      shows: [expect.arrayContaining(['Vessel name is required']), 0],
    },
  ],
  'docs/saving.md': [
    {
      blocks: [0, 1],
      code: 'Object.assign(globalThis, { gate });',
      html: '',
      async use(page) {
        await page.evaluate(() => (globalThis as unknown as { gate: { set(value: object): void } }).gate.set({ vessel: 'Otter' }));
        await page.waitForFunction(() => localStorage.getItem('passage')?.includes('Otter'));
        const code = await page.locator('script').last().textContent();
        await page.reload();
        await page.addScriptTag({ type: 'module', content: code! });
        return page.locator('body').textContent();
      },
      shows: expect.stringContaining('Your earlier entries are back.'),
    },
  ],
  'docs/submitting.md': [
    {
      blocks: [1],
      before: "import { createGate, group, required, text } from 'upper-gate'; const passage = group({ vessel: text('Vessel name', required()) });",
      html: blocksOf('docs/submitting.md', /^```html/)[0]!,
      use: async (page) => [
        await refused(page),
        await page.fill('[name=vessel]', 'Otter'),
        (await Promise.all([page.waitForRequest((each) => each.method() === 'POST'), press(page, 'Book')]))[0].postData(),
      ],
      shows: [['Vessel name is required'], undefined, 'vessel=Otter&way=up'],
    },
  ],
};

const SERVERS = { 'docs/quick-start.md': [4], 'docs/server.md': [0, 1, 2, 3] };

test.each(Object.entries(RUNS).flatMap(([name, runs]) => runs.map((each) => [`${name}, ${each.blocks.join(' and ')}`, name, each] as const)))(
  '%s runs on a page',
  async (_, name, { blocks, before, code, html, use, shows }) => {
    const all = blocksOf(name, CODE);
    const opened = await openPage(browser(), { code: moduleFrom([before ?? '', ...blocks.map((at) => all[at]!), code ?? '']), html });
    expect(await use(opened.page, opened.requests)).toEqual(shows);
    expect(opened.faults).toEqual([]);
    await opened.page.close();
  },
);

test('the components of Vue run', async () => {
  const [passage] = blocksOf('docs/quick-start.md', /^```ts/);
  const [member] = blocksOf('docs/vue.md', /^```vue part/);
  const components = ['docs/quick-start.md', 'docs/vue.md'].flatMap((name) => blocksOf(name, /^```vue/));
  expect(components).toHaveLength(4);
  for (const component of components) {
    const schema = component.includes('vessel.hint') || component.includes('field.hint') ? passage! : passage!.replace("hint: 'As painted on the bow'", '');
    const files = [
      [/^ *import \{ passage \} from '\.\/passage\.ts';$/m, schema.replace('export ', '')],
      [/^ *import Member from '\.\/Member\.vue';$/m, componentOf(member!, 'Member').replace(/\bimport \{ (.*?) \} from 'upper-gate\/vue'/, '')],
    ] as const;
    const shown = shownBy.vue(component);
    const code = files.reduce((text, [pattern, file]) => (pattern.test(text) ? `${file}\n${text.replace(pattern, '')}` : text), shown);
    const { page, faults } = await openPage(browser(), { code, html: ROOT });
    const add = page.getByRole('button', { name: 'Add' });
    if (await add.count()) await add.click();
    expect(await refused(page)).toContain('Vessel name is required');
    if (await add.count())
      expect(await page.locator('section a').allTextContents()).toEqual(['Vessel name is required', 'Choose an option for Side', 'Crew member 1: Name is required']);
    expect(faults).toEqual([]);
    await page.close();
  }
});

test.each<[string, string, string, string[]]>([
  [
    'docs/quick-start.md',
    '',
    `console.log(...(await post('/', { vessel: 'Otter', beam: 2, email: 'a@example.org', callBack: false })), ...(await post('/', { vessel: 'O' })).slice(0, 1));`,
    ['201 {"booked":"Otter"} 422'],
  ],
  [
    'docs/server.md',
    `const db = { isRegistered: async (number) => number !== 'ZZ', book: async (data) => 'FF-' + data.registration };
     const kept = { data: { registration: 'OT-1' }, version: 3 };
     const bookings = { find: async (id) => (id === '1' ? kept : undefined), replace: async () => true };
     const page = '<form><input name="registration"></form>'; globalThis.fetch = async () => new Response('', { status: 404 });`,
    `console.log(...(await post('/', { registration: 'OT-1' })), (await post('/', { registration: 'ZZ' }))[0]);
     for (const registration of ['OT-2', '']) console.log((await app.inject({ method: 'POST', url: '/passages', payload: { registration } })).statusCode);
     const asked = (id, match) => new Request('http://a.test/', { method: 'PATCH', headers: { 'content-type': 'application/merge-patch+json', 'if-match': match }, body: '{"registration": ""}' });
     console.log((await change('2', asked('2', '"3"'))).status, (await change('1', asked('1', '"2"'))).status, (await change('1', asked('1', '"3"'))).status);
     const html = { accept: 'text/html', 'content-type': 'application/x-www-form-urlencoded' };
     for (const body of ['registration=OT-3', 'registration=']) { const { status, headers, text } = await send(bookOrRedraw, { method: 'POST', headers: html, body }); console.log(status, headers.get('location'), text.includes('Registration is required')); }`,
    ['201 {"reference":"FF-OT-1"} 422', '200', '422', '404 412 422', '303 /booked false', '422 null true'],
  ],
])('%s runs on a server', (name, before, after, printed) => {
  const folder = join(root, 'node_modules/.docs-running');
  mkdirSync(folder, { recursive: true });
  const all = blocksOf(name, CODE);
  const blocks = name === 'docs/server.md' ? all : [all[0]!, all[4]!];
  // A port that is free; what the page declares, and asks of the outside, is given.
  const code = bundle(
    `${moduleFrom(blocks).replace('.listen(8080)', '.listen(0, async function () { try { const { port } = this.address(); await run(port); } finally { process.exit(); } })')}
    const ask = globalThis['real'] ?? fetch;
    const post = async (path, data) => { const reply = await ask(port + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(data) }); return [reply.status, await reply.text()]; };
    const send = async (handle, init) => { const server = (await import('node:http')).createServer(nodeHandler(handle)); await new Promise((done) => server.listen(0, done)); const reply = await ask('http://127.0.0.1:' + server.address().port, { ...init, redirect: 'manual' }); const text = await reply.text(); server.close(); return { status: reply.status, headers: reply.headers, text }; };
    let port; async function run(at) { port = 'http://127.0.0.1:' + at; ${after} }`,
    'node',
  );
  const file = join(folder, `${name.replace(/\W/g, '-')}.mjs`);
  writeFileSync(file, `globalThis.real = fetch; ${before.replaceAll('const ', 'globalThis.')}\n${code}`);
  expect(execFileSync(process.execPath, [file], { encoding: 'utf8', timeout: 20_000 }).trim().split('\n')).toEqual(printed);
});

test('every example that needs a page or a server is among them', () => {
  const others = pages.filter((name) => !name.startsWith('docs/recipes/') && name !== 'docs/kits.md');
  const needed = others.flatMap((name) => {
    const needs = blocksOf(name, NEEDS);
    return blocksOf(name, CODE).flatMap((block, at) => (needs.includes(block) ? `${name} ${at}` : []));
  });
  const run = [...Object.entries(RUNS).map(([name, runs]) => [name, runs.flatMap(({ blocks }) => blocks)] as const), ...Object.entries(SERVERS)].flatMap(([name, blocks]) =>
    blocks.map((at) => `${name} ${at}`),
  );
  expect(needed.filter((each) => !run.includes(each))).toEqual([]);
});
