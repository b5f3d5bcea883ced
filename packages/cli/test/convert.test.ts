import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { loadLibrary, useBrowser } from '../../upper-gate/__tests__/browser/launch.ts';
import { file, library, root, run } from './cli.ts';
import { worded } from '../../upper-gate/__tests__/wording.ts';

const tsc = join(root, 'node_modules/typescript-native/bin/tsc');
/** A schema that uses every kind, as a program that gets the library. */
const declared = `group({ name: text({ label: 'Name */ of "boat"', hint: 'On the <bow>' }, required(), pattern(/^[A-Z]\\w*$/)), note: text('Note', length({ max: 400 })),
  beam: number('Beam', range({ max: 5 })), berths: integer('Berths'), ready: boolean('Ready'), day: date('Day', required()), hull: color('Hull'),
  kind: choice('Kind', ['barge', { value: 'canoe', label: 'Canoe <small>' }], required()), kit: choices('Kit', ['horn', 'lights']),
  papers: file('Papers'), photos: files('Photos'), tug: text('Tug', required()), 'e-mail': text('E-mail', email()),
  crew: list('Crew', group({ name: text('Name', required()), ports: list('Ports', text('Port')) }), length({ min: 1 })),
  cargo: variant('Cargo', 'load', { none: group({}), goods: group({ tonnes: number('Tonnes', required()) }) }),
}).with(appliesWhen({ tug: function wide(boat) { return Number(boat.beam) > 4; } }))`;
const names = 'appliesWhen, boolean, choice, choices, color, createGate, date, email, file, files, group, integer, length, list, number, pattern, range, required, text, variant';
const boat = () => file('boat.mts', `import { ${names}, type DataOf } from ${library};\nexport const boat = ${declared};\nexport type Declared = DataOf<typeof boat>;\n`);
const checks = () => file('checks.mjs', 'export const wide = (boat) => boat.beam > 4;');

const browser = useBrowser();

test('types are those of the data, as the library itself infers them; from a module and from JSON Schema', async () => {
  const { out } = await run('convert', boat(), '--to', 'types');
  const document = file('boat.json', (await run('convert', boat(), '--to', 'json-schema')).out);
  expect((await run('convert', document, '--to', 'types', '--checks', checks())).out).toBe(out);
  file('boat-data.mts', out);
  const same = file(
    'same.mts',
    `import type { Boat, BoatJson } from './boat-data.mts';\nimport type { Declared } from './boat.mts';\n({}) as Boat satisfies Declared;\n({}) as Declared satisfies Boat;\n({}) as Boat['beam'] satisfies number | undefined;\n({ beam: 3 }) satisfies Partial<BoatJson>;\n// @ts-expect-error\n({}) as Boat['tug'] satisfies string;\n`,
  );
  const options = '--ignoreConfig --strict --exactOptionalPropertyTypes --noEmit --allowImportingTsExtensions --module NodeNext --target ES2022 --types'.split(' ');
  expect(spawnSync(process.execPath, [tsc, ...options, '', same], { encoding: 'utf8' })).toMatchObject({ stdout: '', status: 0 });
}, 60_000);

test('every target that there is has its own writer, and its place in the docs', async () => {
  const BEGINS: Readonly<Record<string, RegExp>> = { 'json-schema': /^\{\n {2}"\$schema"/, types: /^export type /, html: /^<form /, markdown: /^## / };
  const [, choices = ''] = /--to <.*\(choices: (.*?)\)/s.exec((await run('convert', '--help')).out) ?? [];
  const targets = choices.split(/,\s+/).map((choice) => JSON.parse(choice) as string);
  expect(targets.sort()).toEqual(Object.keys(BEGINS).sort());
  const written = await Promise.all(targets.map((target) => run('convert', boat(), '--to', target)));
  for (const [i, { out }] of written.entries()) expect(out).toMatch(BEGINS[targets[i]!]!);
  const docs = readFileSync(join(root, 'docs/command-line.md'), 'utf8');
  expect(targets.filter((target) => !docs.includes(`--to ${target}`))).toEqual([]);
});

test('JSON Schema comes back as itself; what lies within itself has a type by name', async () => {
  const first = (await run('convert', boat(), '--to', 'json-schema')).out;
  expect((await run('convert', file('again.json', first), '--to', 'json-schema', '--checks', checks())).out).toBe(first);
  const lock = { type: 'object', properties: { name: { type: 'string' }, side: { type: 'array', items: { $ref: '#' } } }, required: ['name'] };
  const { out } = await run('convert', file('side-lock.json', JSON.stringify(lock)), '--to', 'types');
  expect(out).toMatch(
    /^export type SideLock = \{[^]*side: \(SideLockPart1 \| undefined\)\[\];\n\};\n\nexport type SideLockPart1 = \{[^]*side: \(SideLockPart1 \| undefined\)\[\];\n\};\n\nexport type SideLockJson = /,
  );
});

test('a table in Markdown: each field once, its kind, options and rules, in which nothing breaks the table', async () => {
  const { out } = await run('convert', boat(), '--to', 'markdown');
  expect(out.replace(/ {2,}/g, ' ')).toMatch(/^## boat\n\n\| Field \| Label \| Kind \| Rules \| Hint \|\n\| -+ \| -+ \| -+ \| -+ \| -+ \|\n/);
  const rows = out.split('\n').slice(4, -1).map((line) => line.split(/(?<!\\)\|/).map((cell) => cell.trim()).slice(1, -1)); // prettier-ignore
  expect(rows.filter((cells) => cells.length !== 5)).toEqual([]);
  expect(rows).toEqual(
    expect.arrayContaining([
      ['`name`', 'Name \\*/ of "boat"', 'text', 'required; pattern (pattern `^[A-Z]\\w*$`)', 'On the \\<bow>'],
      ['`kind`', 'Kind', 'choice: `barge`, `canoe`', 'required', ''],
      ['`tug`', 'Tug', 'text', 'applies if `wide`; required', ''],
      ['`crew`', 'Crew', 'list', 'length (min `1`)', ''],
      ['`crew.*.ports.*`', 'Port', 'text', '', ''],
      ['`cargo.tonnes`', 'Tonnes', 'number', 'if `load` is `goods`; required', ''],
    ]),
  );
  const locks = { type: 'object', properties: { 'a|b': { type: 'string' }, side: { type: 'array', items: { $ref: '#' } } } };
  const again = (await run('convert', file('locks.json', JSON.stringify(locks)), '--to', 'markdown')).out;
  expect(again).toMatch(/\| `a\\\|b` [^]*\| `side\.\*\.side\.\*` \| Entry \| as `side\.\*`/);
});

test('the HTML of a form is one that binds without a mistake, and validates without script', async () => {
  const { out } = await run('convert', boat(), '--to', 'html');
  const page = await browser().newPage();
  const told: string[] = [];
  page.on('console', (message) => told.push(message.text()));
  await page.setContent(out);
  const refused = () => page.$$eval('[name]:invalid', (controls) => controls.map((control) => control.getAttribute('name')));
  expect(await refused()).toEqual(['name', 'day', 'kind']);
  await loadLibrary(page);
  await page.evaluate(`{ const { bindForm, ${names} } = UpperGate;
    bindForm(document.querySelector('form'), createGate(${declared}, { initial: { crew: [{}] } }), { rows: UpperGate.templateRows, summary: UpperGate.errorSummary }); }`);
  await page.click('[data-gate-add=crew]');
  await page.click('button[type=submit]');
  expect(await page.$$eval('[data-gate-messages]', (places) => places.flatMap((place) => place.textContent || []))).toEqual([
    worded('valueMissing', 'Name */ of "boat"'),
    worded('valueMissing', 'Day'),
    worded('valueMissing', 'Kind', { holds: 'option' }),
    worded('valueMissing', 'Name'),
    worded('valueMissing', 'Name'),
  ]);
  expect({
    'getAttribute form enctype': await page.getAttribute('form', 'enctype'),
    '$$eval small, bow': await page.$$eval('small, bow', (strays) => strays.length),
    told,
  }).toEqual({ 'getAttribute form enctype': 'multipart/form-data', '$$eval small, bow': 0, told: [] });
});

test('rows within rows are written once, as the page draws them', async () => {
  const schema = `import { group, list, recursive, text } from ${library};
    const lock = group({ name: text('Name'), sides: list('Sides', recursive(() => lock)), quays: list('Quays', recursive(() => quay)) });
    const quay = group({ locks: list('Locks', recursive(() => lock)) });
    export default lock;`;
  const { out } = await run('convert', file('locks.mjs', schema), '--to', 'html');
  expect(out.match(/<template data-gate-rows="\w+">(<\/template>)?|<!--/g)).toEqual([
    '<template data-gate-rows="sides">',
    '<template data-gate-rows="sides"></template>',
    '<template data-gate-rows="quays">',
    '<!--',
    '<template data-gate-rows="quays">',
    '<template data-gate-rows="locks">',
    '<template data-gate-rows="sides"></template>',
    '<!--',
  ]);
});

test('types of own kinds: a union in a list, a name that is taken, and beside the data what travels', async () => {
  const schema = `import { date, defineKind, group, list, mapped, required, text } from ${library};
    const odd = defineKind({ name: 'odd', read: (raw) => raw || undefined, json: 'object', type: '{ a: 1 } | { b: 2 }', texts: { en: 'x' } });
    const day = mapped(date('Day'), { to: (day) => new Date(day), from: (when) => when.toISOString().slice(0, 10), json: 'string', type: 'Date' });
    export const record = group({ odds: list('Odds', odd('Odd', required())), day, tags: list('Tags', text('Tag')) });`;
  const { out } = await run('convert', file('record.mjs', schema), '--to', 'types');
  const lines = out.split('\n').filter((line) => !line.includes('/**'));
  const json = ['export type RecordDataJson = {', '  odds: ({ readonly [key: string]: unknown })[];', '  day?: string;', '  tags: (string | null)[];', '};', ''];
  expect(lines).toEqual(['export type RecordData = {', '  odds: ({ a: 1 } | { b: 2 })[];', '  day: Date | undefined;', '  tags: (string | undefined)[];', '};', '', ...json]);
});

test('the HTML of a form begins with the defaults', async () => {
  const schema = `import { boolean, choice, choices, group, length, number, text } from ${library}; export default group({
    name: text({ label: 'Name', default: 'Ada <3' }), beam: number({ label: 'Beam', default: 3.5 }), ok: boolean({ label: 'Fine', default: true }),
    kind: choice({ label: 'Kind', default: 2 }, [1, 2]), kit: choices({ label: 'Kit', default: ['horn'] }, ['horn', 'lights']),
    note: text({ label: 'Note', default: 'Long' }, length({ max: 500 })) });`;
  const page = await browser().newPage();
  await page.setContent((await run('convert', file('defaults.mjs', schema), '--to', 'html')).out);
  expect(await page.$eval('form', (form) => [...new FormData(form)])).toEqual([
    ['name', 'Ada <3'],
    ['beam', '3.5'],
    ['ok', 'on'],
    ['kind', '2'],
    ['kit', 'horn'],
    ['note', 'Long'],
  ]);
});

test.each([
  [['convert', 'data/schema.ts'], /required option '--to <what>' not specified/],
  [['convert', 'data/schema.ts', '--to', 'xml'], /Allowed choices are json-schema, types, html/],
  [['convert', file('n.mjs', `import { text } from ${library}; export default text('N');`), '--to', 'html'], /A form is written of a group\. This schema is a text/],
  [['convert', file('f.mjs', `import { text, check } from ${library}; export default text('N', check(() => true));`), '--to', 'json-schema'], /#: a function has no name/],
])('told in plain words, exit code 2: %j', async (args, message) => {
  const { code, err } = await run(...args);
  expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(message) });
});
