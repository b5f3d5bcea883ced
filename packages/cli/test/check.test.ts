import { execFile } from 'node:child_process';
import { readFileSync, truncateSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { expect, test } from '@jest/globals';
import type { Severity } from 'upper-gate';
import { TARGETS } from '../src/convert/targets.ts';
import { REPORTS } from '../src/report/collect.ts';
import { command, file, library, pipe, run, runIn, shell } from './cli.ts';
import { worded } from '../../upper-gate/__tests__/wording.ts';

const schema = 'data/schema.ts';

test('findings, under the place of their record; the totals; exit code 1', async () => {
  const { code, out } = await run('check', schema, 'data/bookings.json', '--source', 'json');
  expect(out).toContain(`\ndata/bookings.json#/1\n  error   /vessel: ${worded('tooShort', 'Vessel name', { min: 2 })} [tooShort]\n  error   /registration: `);
  expect(out).toMatch(
    /#\/2\n {2}notice {2}\/registration: .*\n {2}error {3}\/crew: A canoe takes at most 3 \[customError\]\n\n3 records checked, 1 without errors; 16 errors, 2 notices\.\n$/,
  );
  expect(code).toBe(1);
});

test('a summary: a row for each code on each field, the most frequent first', async () => {
  const records = ['{"name": "", "crew": [{"age": "x"}, {"age": "y"}]}', '{"name": ""}', '{"name": "Otter", "beam": 9, "crew": [{"age": "z"}]}'];
  const { code, out } = await pipe(records.join('\n'), 'check', boats(), '-', '--format', 'summary', '--stdin-name', 'a.ndjson');
  expect(out).toBe(
    [
      'Findings  Severity  Code           Field        First',
      '       3  error     badInput       /crew/*/age  a.ndjson:1',
      '       2  error     valueMissing   /name        a.ndjson:1',
      '       1  error     rangeOverflow  /beam        a.ndjson:3',
      '',
      '3 records checked, 0 without errors; 6 errors.\n',
    ].join('\n'),
  );
  expect(code).toBe(1);
});

test.each([
  [{}, false],
  [{ CI: '1' }, false],
  [{ FORCE_COLOR: '1' }, true],
  [{ FORCE_COLOR: '1', NO_COLOR: '1' }, false],
])('into a pipe, with %o: coloured? %s', async (world, coloured) => {
  const { out } = await runIn(world, 'check', schema, 'data/bookings.json', '--source', 'json', '--max', '1');
  expect(out.includes('\u001B[')).toBe(coloured);
});

test('every severity is counted, and named in the totals', async () => {
  const NAMED: Readonly<Record<Severity, string>> = { error: '2 errors', warning: '2 warnings', notice: '2 notices' };
  const rules = Object.keys(NAMED).map((severity) => `check(() => false, { message: '{label}', severity: '${severity}' })`);
  const module = file('weighed.mjs', `import { check, group, text } from ${library}; export default group({ name: text('Name', ${rules.join()}) });`);
  for (const format of ['text', 'summary']) {
    const { out } = await pipe('[{"name": "a"}, {"name": "b"}]', 'check', module, '-', '--stdin-name', 'a.json', '--format', format);
    expect(out).toContain(`2 records checked, 0 without errors; ${Object.values(NAMED).join(', ')}.`);
  }
});

test('a report for programs', async () => {
  const { code, out } = await run('check', schema, 'data/bookings.json', '--source', 'json', '--format', 'json');
  const report = JSON.parse(out) as { records: number; passed: number; findings: object[] };
  expect(report).toMatchObject({ records: 3, passed: 1 });
  expect(report.findings).toContainEqual(
    expect.objectContaining({ file: 'data/bookings.json', pointer: '/1/beam', path: 'beam', code: 'rangeOverflow', params: { min: 0.5, max: 5.2 } }),
  );
  expect(code).toBe(1);
});

test('nothing found: exit code 0; one record needs no list; a byte order mark is no data', async () => {
  const module = file('one.mjs', `import { group, text, required } from ${library}; export const a = group({ name: text('Name', required()) }); export default a;`);
  const data = file('one.json', '\uFEFF{"name": "Otter"}');
  expect(await run('check', module, data)).toEqual({ code: 0, out: '1 record checked, 1 without errors; 0 errors.\n', err: '' });
});

const two = () => file('two.mjs', `import { group, text } from ${library}; export const a = group({ n: text('N') }); export const b = group({ m: text('M') });`);

test.each<[string, () => string[], RegExp]>([
  ['no such data', () => ['check', schema, 'nope.json'], /^upper-gate: No data at nope\.json: check the path\.\n$/],
  ['no such schema', () => ['check', 'nope.ts', 'data/bookings.json'], /No schema at nope\.ts/],
  ['a folder for a file', () => ['check', schema, 'data'], /^upper-gate: data is not a file/],
  ['broken JSON', () => ['check', schema, file('broken.json', '{"a": 1,}')], /broken\.json is not JSON: .+\.\n$/],
  ['an empty file', () => ['check', schema, file('empty.json', ' \n')], /empty\.json is empty/],
  ['a module without a schema', () => ['check', 'src/client.ts', 'data/bookings.json'], /has no schema\. Export one made with group/],
  ['a module that throws', () => ['check', file('throws.mjs', 'throw new Error("oops\\nmore")'), 'data/bookings.json'], /throws\.mjs cannot be loaded: oops\n$/],
  ['no such operation', () => ['check', 'data/waterways.yaml#book', 'x'], /waterways\.yaml#\/paths: there is no operation "book"\. There is: .* and \d+ more\.\n$/],
  ['an operation of no OpenAPI', () => ['check', `${file('s.json', '{}')}#book`, 'x'], /s\.json#: this is no OpenAPI document.* write a JSON Pointer/],
  ['two names', () => ['check', `${two()}#a`, 'x', '--export', 'b'], /says which schema, and so does --export b\. Use one of them\.\n$/],
  ['broken YAML', () => ['check', file('s.yaml', 'a: ['), 'x'], /s\.yaml is not YAML: .+\.\n$/],
  ['several schemas', () => ['check', two(), 'data/bookings.json'], /several schemas\. Choose one with --export\. It exports a, b\.\n$/],
  ['no such export', () => ['check', two(), 'data/bookings.json', '--export', 'c'], /no schema named "c"\. It exports a, b\./],
  ['a format that is none', () => ['check', schema, 'data/bookings.json', '--format', 'xml'], /Allowed choices are text, json/],
  ['an unknown command', () => ['chek'], /unknown command 'chek'/],
])('told in plain words, exit code 2: %s', async (_, args, message) => {
  const { code, out, err } = await run(...args());
  expect(err).toMatch(message);
  expect({ code, out }).toEqual({ code: 2, out: '' });
});

const boats = () =>
  file(
    'boats.mjs',
    `import { group, text, number, list, choices, required, range } from ${library}; export default group({ name: text('Name', required()), beam: number('Beam', range({ max: 5 })), kit: choices('Kit', ['horn']), crew: list('Crew', group({ age: number('Age') })) });`,
  );
test('the same records as JSON, NDJSON and CSV, in files and from standard input: the same findings', async () => {
  const records = [
    { name: 'Otter', beam: 2, crew: [{ age: 41 }, { age: 12 }] },
    { name: '', beam: 7, crew: [{ age: 'x' }] },
  ];
  const ndjson = `${JSON.stringify(records[0])}\n\n${JSON.stringify(records[1])}\n`;
  const csv = '\uFEFFname,beam,kit,crew.0.age,crew.1.age,__proto__.x\r\nOtter,2,horn,41,12,1\r\n,,, ,,\r\n"",7,,x,,1\r\n';
  const findings = async (...args: string[]) => {
    const { code, out } = await run('check', boats(), ...args, '--format', 'ndjson');
    return [
      code,
      ...out
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as { pointer: string; code: string }),
    ].map((each) => (typeof each === 'number' ? each : `${each.pointer.replace(/^\/1(?=\/)/, '')} ${each.code}`));
  };
  const expected = [1, '/name valueMissing', '/beam rangeOverflow', '/crew/0/age badInput'];
  expect(await findings(file('r.json', JSON.stringify(records)))).toEqual(expected);
  expect(await findings(file('r.ndjson', ndjson))).toEqual(expected);
  expect(await findings(file('r.csv', csv))).toEqual(expected);
  const { out } = await pipe(ndjson, 'check', boats(), '-');
  expect(out).toBe(
    `-:3\n  error   /name: ${worded('valueMissing', 'Name')} [valueMissing]\n  error   /beam: ${worded('rangeOverflow', 'Beam', { max: 5 })} [rangeOverflow]\n  error   /crew/0/age: ${worded('badInput', 'Age', { kind: 'number' })} [badInput]\n\n2 records checked, 1 without errors; 3 errors.\n`,
  );
  expect(await pipe(ndjson, 'check', boats(), '-', '--max', '1')).toMatchObject({
    code: 1,
    out: expect.stringMatching(/^-:3\n.*Name is required.*\n… and 2 more findings\.\n\n2 records/),
  });
  expect(await pipe(ndjson, 'check', boats(), '-', '--quiet')).toEqual({ code: 1, out: '', err: '' });
  expect(JSON.parse((await pipe(ndjson, 'check', boats(), '-', '--format', 'json')).out)).toMatchObject({ records: 2, passed: 1, errors: 3, findings: [{ line: 3 }, {}, {}] });
});

test.each<[string, string, string | Buffer, RegExp]>([
  ['broken NDJSON', 'x.ndjson', '{"name": "a"}\n{"name": \n', /x\.ndjson, line 2, is not JSON/],
  ['a line without end', 'x.ndjson', Buffer.alloc(10_000_001, 120), /line 1, is longer than 10000000 bytes\. Check that it is NDJSON/],
  ['UTF-16', 'x.json', Buffer.from('\uFEFF[]', 'utf16le'), /UTF-16 text\. Save it as UTF-8/],
  ['broken UTF-8', 'x.csv', Buffer.from([0x6e, 0x0a, 0xff, 0x0a]), /not UTF-8 text/],
  ['an empty file', 'x.json', '', /x\.json is empty: it should hold JSON/],
  ['uneven rows', 'x.csv', 'name,beam\nOtter,2\nHeron\n', /x\.csv is not valid CSV after 1 records: Invalid Record Length.*line 3/],
  ['a row of a million columns', 'x.csv', 'crew.999999.age\n1\n', /A list can have at most 10000 entries/],
  ['an unknown format', 'x.txt', 'x', /the extension does not give the format\. Add --input json\|ndjson\|csv/],
])('%s is reported, exit code 2', async (_, name, content, message) => {
  const { code, err } = await run('check', boats(), file(name, content));
  expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(message) });
});

test('a file of JSON that is too long to be kept is reported, exit code 2', async () => {
  const path = file('long.json', '');
  truncateSync(path, 200_000_001); // a hole, which takes no room
  const { code, err } = await run('check', boats(), path);
  expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(/is longer than 200000000 characters\. Write one record per line.*--input ndjson/) });
});

test('an operation of an OpenAPI document in YAML, by its id or its method and path; records are its bodies', async () => {
  const api = 'data/waterways.yaml';
  const data = file('bodies.ndjson', '{"crew": 3, "remarks": null}\n{}\n{"crew": 0, "slot": {"direction": "sideways"}}\n');
  for (const which of ['changePassage', 'PATCH /passages/{passage}']) {
    const { code, out, err } = await run('check', `${api}#${which}`, data, '--format', 'ndjson');
    const found = out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { line: number; pointer: string; code: string });
    expect([code, err]).toEqual([1, '3 records checked, 1 without errors; 6 errors.\n']);
    expect(found.map((each) => `${each.line} ${each.pointer} ${each.code}`)).toEqual([
      '2  tooFew',
      '3 /slot/lock valueMissing',
      '3 /slot/window/from valueMissing',
      '3 /slot/window/until valueMissing',
      '3 /slot/direction notAllowed',
      '3 /crew rangeUnderflow',
    ]);
  }
  expect(await run('check', `${api}#/components/schemas/Slot`, data, '--quiet')).toMatchObject({ code: 1, out: '' });
  expect((await run('convert', `${api}#findPassages`, '--to', 'types')).out).toContain('export type FindPassages = {');
});

test("a JSON Schema document as the schema: values are validated by JSON's types; CSV has none", async () => {
  const boat = { type: 'object', properties: { name: { type: 'string' }, beam: { type: 'number', maximum: 5 } }, required: ['name'] };
  const api = file('api.json', JSON.stringify({ openapi: '3.1.0', components: { schemas: { Boat: boat } } }));
  const judge = async (data: string) => (await run('check', api, data, '--export', '/components/schemas/Boat', '--format', 'ndjson')).out.match(/"code":"\w+"/g);
  expect(await judge(file('j.json', '[{"name": 3, "beam": "2"}, {"beam": 6}]'))).toEqual([
    '"code":"badInput"',
    '"code":"badInput"',
    '"code":"valueMissing"',
    '"code":"rangeOverflow"',
  ]);
  expect(await judge(file('j.csv', 'name,beam\n3,2\n'))).toBe(null);
});

test.each<[string, unknown, RegExp]>([
  ['a keyword that is misspelt', { type: 'object', maxPropertys: 3 }, /s\.json#: there is no keyword "maxPropertys"\. Did you mean "maxProperties"\?\n$/],
  ['a reference in a circle', { $ref: '#/$defs/a', $defs: { a: { $ref: '#/$defs/a' } } }, /s\.json#\/\$defs\/a: "\$ref" runs in a circle/],
  ['a function that is not given', { type: 'string', gate: { rules: [{ rule: 'check', check: 'fits' }] } }, /the function "fits" is missing/],
])('a JSON Schema document with %s is reported, exit code 2', async (_, document, message) => {
  const { code, err } = await run('check', file('s.json', JSON.stringify(document)), file('v.json', '1'));
  expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(message) });
});

test('a pipe that is closed early is no fault', async () => {
  const many = file('many.ndjson', '{"name": ""}\n'.repeat(50_000));
  const { stdout, stderr } = await new Promise<{ stdout: string; stderr: string }>((resolve) => {
    execFile('sh', ['-c', `"${process.execPath}" "${command}" check "${boats()}" "${many}" | head -n 1`], (_, stdout, stderr) => resolve({ stdout, stderr }));
  });
  expect({ 'count of split': stdout.split('\n').length, stderr }).toEqual({ 'count of split': 2, stderr: '' });
});

test.each<[string, string, number, RegExp]>([
  ['errors, and whoever reads has had enough', 'upper-gate check nowhere.mjs many.ndjson | head -1', 1, /^$/],
  ['no errors, and whoever reads has had enough', 'upper-gate check warns.mjs many.ndjson | head -1', 0, /^$/],
  ['a full disk', 'upper-gate check nowhere.mjs many.ndjson > /dev/full', 2, /^upper-gate: Cannot write the report: ENOSPC.*\n$/],
  ['a file that breaks while it is read', 'upper-gate check nowhere.mjs /proc/self/mem --input ndjson', 2, /^upper-gate: Cannot read \/proc\/self\/mem: EIO.*\n$/],
  ['a module that ends the process', 'upper-gate check exits.mjs many.ndjson', 2, /^upper-gate: The process ended while loading exits\.mjs.*\n$/],
  ['a module that never finishes', 'upper-gate check never.mjs many.ndjson', 2, /^upper-gate: The process ended while loading never\.mjs.*\n$/],
  ['a rule that ends the process', 'upper-gate check rule.mjs many.ndjson', 2, /^upper-gate: The process ended while validating.*\n$/],
  ['an interruption', 'timeout --preserve-status -s INT 1 upper-gate check nowhere.mjs - < <(yes "{}") > /dev/null', 130, /^$/],
  [
    'control characters in the path',
    'upper-gate check "no$(printf "\\033[31m\\nfile").ts" many.ndjson',
    2,
    /^upper-gate: No schema at no\\u001b\[31m\\u000afile\.ts: check the path\.\n$/,
  ],
])('%s: the exit code says so, and one line', async (_, line, expected, message) => {
  const module = (body: string) => `import { check, group, groupRules, text, required, length } from 'upper-gate';\n${body}`;
  // There is no library where it lies: the command's own is used.
  file('nowhere.mjs', module("export default group({ name: text('Name', required()) });"));
  file('warns.mjs', module("export default group({ name: text('Name', required({ severity: 'warning' })) });"));
  file('rule.mjs', module('export default group({}).with(groupRules(check(() => process.exit(0))));'));
  file('exits.mjs', 'process.exit(0);');
  file('never.mjs', 'await new Promise(() => undefined); export default 1;');
  file('many.ndjson', '{}\n'.repeat(20_000));
  const { code, err } = await shell(line);
  expect({ code, err }).toEqual({ code: expected, err: expect.stringMatching(message) });
});

test('a message cannot forge a line; what a module prints goes to standard error; paths of a tsconfig are followed', async () => {
  file('tsconfig.json', '{"compilerOptions": {"baseUrl": ".", "paths": {"@rules/*": ["./*"]}}}');
  file('shout.ts', "export const words = 'Bad\\u001b[31m\\nname.ndjson:9#: notice: all is well';");
  file(
    'prints.ts',
    `import { group, text, required } from 'upper-gate'; import { words } from '@rules/shout'; console.log('loaded'); export default group({ name: text('Name', required(words)) });`,
  );
  file('one.ndjson', '{}\n');
  const { code, out, err } = await shell('upper-gate check prints.ts one.ndjson');
  expect({ code, err, lines: out.split('\n').length }).toEqual({ code: 1, err: 'loaded\n', lines: 5 });
  expect(out).toContain('/name: Bad\\u001b[31m\\u000aname.ndjson:9#: notice: all is well [valueMissing]');
  expect((await run('--version')).out).toMatch(/^\d+\.\d+\.\d+\n$/);
});

test('a module in a folder without the library finds every entry of the one that comes with the command', async () => {
  const { exports } = JSON.parse(readFileSync(join(__dirname, '../../upper-gate/package.json'), 'utf8')) as { exports: Record<string, unknown> };
  // (Some bring frameworks, which a schema has no use for.)
  const entries = Object.keys(exports).filter((entry) => !/json$|schemas|react|vue|svelte|solid|angular/.test(entry));
  const imports = entries.map((entry) => `import ${JSON.stringify(`upper-gate${entry.slice(1).replace('*', 'fr')}`)};`);
  const module = file('alone.ts', `${imports.join('\n')}\nimport { group, text } from 'upper-gate'; export default group({ name: text('Name') });`);
  expect(imports.length).toBeGreaterThan(8);
  expect(await run('check', module, file('alone.json', '{}'))).toMatchObject({ code: 0, err: '' });
});

test.each<[string, string, number, RegExp, RegExp]>([
  [
    'columns that are no fields are told, with the one that is meant',
    'boats.mjs columns.csv',
    0,
    /^2 records checked, 2 without/,
    /^upper-gate: columns\.csv has no field for the columns "Vessel name" \(name\?\), "crew\.0\.aeg" \(crew\.\*\.age\?\), "zzzzzz"; not checked\. Map them.*\n$/,
  ],
  ['or refused', 'boats.mjs columns.csv --unknown refuse', 2, /^$/, /no field for the columns "Vessel name".*--columns\.\n$/],
  ['a delimiter that is another', 'boats.mjs semicolons.csv', 1, /1 error\.\n$/, /column "name;kit"; not checked\. If the file has another delimiter, add --delimiter ';'\.\n$/],
  ['one that is the right one', "boats.mjs semicolons.csv --delimiter ';'", 0, /^1 record checked, 1 without/, /^$/],
  ['keys of JSON that are unknown', 'boats.mjs extra.ndjson --unknown refuse', 1, /\/extra: .* \[unknown\]/, /^$/],
  [
    'a rule that throws: its cause, once',
    'boats.mjs many.csv --export broken',
    1,
    /3 errors\.\n$/,
    /^upper-gate: many\.csv:2: the rule check of \/crew\/\*\/age failed: TypeError: .*'x'\) \(.*boats\.mjs.*\)\n$/,
  ],
  [
    'async rules of a page',
    'boats.mjs extra.ndjson --export asks',
    1,
    /\[crashed\]/,
    /^upper-gate: extra\.ndjson:1: the rule asyncCheck of \/name failed: .*leave it out with --async skip.*--checks\.\)\n$/,
  ],
  ['left out', 'boats.mjs extra.ndjson --export asks --async skip', 0, /2 without errors/, /^$/],
  ['with functions in their place', 'boats.mjs extra.ndjson --export asks --checks asks.mjs', 1, /ndjson:2\n.*not on the register/, /^$/],
  ['a small file of nothing', 'boats.mjs blank.ndjson.gz', 2, /^$/, /more than 10000000 bytes of blanks and empty lines in a row/],
])('%s', async (_, args, code, out, err) => {
  file(
    'boats.mjs',
    `import { asyncCheck, check, choices, group, list, number, required, text } from ${library};
    const crew = (...rules) => list('Crew', group({ age: number('Age', ...rules) }));
    export default group({ name: text('Vessel name', required()), kit: choices('Kit', ['horn']), crew: crew() });
    export const broken = group({ crew: crew(check((age) => age.nope.x)) });
    export const asks = group({ name: text('Name', asyncCheck(async (name) => (await fetch('/register/' + name)).ok, { name: 'register' })) });`,
  );
  file('asks.mjs', "export const register = async (name) => name === 'Otter' || 'not on the register';");
  file('columns.csv', 'name,Vessel name,kit,kit,crew.0.aeg,zzzzzz\nOtter,2,horn,,1,\nHeron,3,,horn,1,\n');
  file('semicolons.csv', 'name;kit\nOtter;horn\n');
  file('many.csv', 'crew.0.age\n1\n2\n3\n');
  file('extra.ndjson', '{"name": "Otter", "extra": 1}\n{"name": "Heron"}\n');
  file('blank.ndjson.gz', gzipSync(Buffer.alloc(12_000_000, 10)));
  const checked = await shell(`upper-gate check ${args.includes('--export') ? args : `${args} --export default`}`);
  expect(checked).toEqual({ code, out: expect.stringMatching(out), err: expect.stringMatching(err) });
});

test('what does something to a terminal is written as an escape, in every report and document', async () => {
  const hostile = '\u202e\u0085\u001b[31m\u2066';
  const module = file(
    'hostile.mjs',
    `import { check, group, text } from ${library}; export default group({ a: text(${JSON.stringify(`A${hostile}`)}, check(() => ${JSON.stringify(hostile)})) });`,
  );
  const data = file('hostile.ndjson', '{"a": "x"}\n');
  const all = [...REPORTS.map((format) => ['check', module, data, '--format', format]), ...TARGETS.map((target) => ['convert', module, '--to', target])];
  for (const { out } of await Promise.all(all.map((args) => run(...args)))) expect(out).not.toMatch(/(?!\n)[\p{Cc}\p{Bidi_Control}]/u);
});

test('facts from outside come from a file, by the names of their tokens; in every thread', async () => {
  const code = `import { check, context, group, list, number, text, required } from ${library};
    const tide = group({ lock: text('Lock', required()), depth: number('Depth', required()) });
    export const tides = context('tides', { schema: list('Tides', tide) });
    export const boat = group({ draught: number('Draught', check((d) => tides.get().every((tide) => tide.depth > d), 'Too deep')) });`;
  const module = file('facts.mjs', code);
  const data = file('facts.ndjson', '{"draught": 1}\n{"draught": 2}\n');
  const checkWith = (context: string, schema = module) => run('check', schema, data, '--context', file('context.json', context));
  expect(await run('check', module, data)).toMatchObject({
    code: 2,
    err: 'upper-gate: The schema reads the context "tides", which was not given. Give a file with its value: --context context.json.\n',
  });
  expect(await checkWith('{"tides": [{"lock": "Upper", "depth": 1.5}]}')).toMatchObject({ code: 1, out: expect.stringContaining('facts.ndjson:2') });
  expect((await checkWith('{"tides": [{"lock": "Upper", "depth": 9}]}')).code).toBe(0);
  expect((await checkWith('{"tides": [{"lock": "Upper", "depth": "9"}]}')).err).toMatch(/context\.json, \/tides\/0\/depth: /);
  expect((await checkWith('{"tide": []}')).err).toContain('a value for the context "tide", which does not exist. Those exported are tides.');
  expect((await checkWith('[]')).err).toContain('should hold an object');
  const twice = file('twice.mjs', `${code} export const others = context('tides');`);
  expect((await checkWith('{}', twice)).err).toContain('Two contexts are named "tides"');
  const many = file('many.ndjson', `{"draught": 2}${' '.repeat(85)}\n`.repeat(60_000));
  const { out } = await run('check', module, many, '--context', file('context.json', '{"tides": [{"lock": "a", "depth": 1}]}'), '--format', 'summary');
  expect(out).toContain('60,000 records checked, 0 without errors; 60,000 errors');
});

test('rules and kinds of another package, outside this workspace: in documents, types and findings', async () => {
  const own = file(
    'own.mjs',
    `import { defineKind, defineRule, unreadable } from ${library};
    export const startsWith = defineRule({ name: 'startsWith', params: { prefix: 'text' }, fits: ['text'], keyword: 'x-startsWith',
      test: (value, { prefix }) => value.startsWith(prefix), texts: { en: '{label} must start with {prefix}' } });
    export const money = defineKind({ name: 'money', json: 'number', type: 'number', format: 'money',
      read: (raw) => (raw === undefined || raw === '' ? undefined : Number.isInteger(raw) ? raw : unreadable()),
      texts: { en: 'Enter an amount for {label}' }, writeLimit: (cents) => (cents / 100).toFixed(2) });`,
  );
  const properties = { mark: { type: 'string', 'x-startsWith': 'OT-' }, toll: { type: 'number', format: 'money', minimum: 500 } };
  const document = file('own.json', JSON.stringify({ type: 'object', title: 'Boat', properties, required: ['toll'] }));
  const data = file('own.ndjson', '{"mark": "OT-1", "toll": 500}\n{"mark": "HE-1", "toll": 499}\n{"toll": 5.5}\n');
  const { out } = await run('check', document, data, '--checks', own);
  expect([...out.matchAll(/^ {2}error.*$/gm)].map(([line]) => line.replace(/ +/g, ' ').trim())).toEqual([
    'error /mark: mark must start with OT- [startsWith]',
    'error /toll: toll must be at least 5.00 [rangeUnderflow]',
    'error /toll: Enter an amount for toll [badInput]',
  ]);
  expect((await run('convert', document, '--to', 'types', '--checks', own)).out).toContain('toll: number;');
  // Without its author, a format is one that nobody knows: it is said.
  expect(await run('check', document, data)).toMatchObject({ code: 1, err: expect.stringContaining('own.json#/properties/toll/format: "format: money" is not known') });
});
