// The subcommand `lint`: the gallery of faulty schemas, its formats, what is accepted, and what is wrong with a file.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { file, library, root, run, runIn } from './cli.ts';

const gallery = join(root, 'docs/lint/gallery.ts');
interface Linted {
  readonly file: string;
  readonly schema: string;
  readonly findings: readonly { readonly id: string; readonly place?: { readonly file: string; readonly line: number } }[];
}

test('the demo and its interface have no faults; the gallery has, at the lines of its declarations', async () => {
  const [demo, faulty, data] = await Promise.all([
    run('lint', 'data/schema.ts', 'src/berth.ts', 'data/waterways.yaml#askForCall', '--fail-on', 'warning'),
    run('lint', gallery),
    run('lint', gallery, '--format', 'json'),
  ]);
  expect([demo.code, demo.out]).toEqual([0, 'Nothing found in 3 schemas.\n']);
  expect([faulty.code, faulty.err]).toEqual([1, '']);
  expect(faulty.out).toMatch(/\n\d+ errors, \d+ warnings in \d+ schemas\.\n$/);
  const lines = readFileSync(gallery, 'utf8').split('\n');
  const all = JSON.parse(data.out) as Linted[];
  const places = all.flatMap(({ schema, findings }) => findings.map(({ place }) => ({ schema, place: place! })));
  expect(places.length).toBeGreaterThan(20);
  for (const { schema, place } of places) {
    const before = lines.slice(0, place.line).findLast((line) => line.startsWith('export const '))!;
    expect([place.file, before]).toEqual([gallery, expect.stringContaining(`export const ${schema} =`)]);
  }
});

test('text with colours for a terminal; a log of SARIF 2.1.0, by its published schema', async () => {
  const [text, coloured, sarif] = await Promise.all([
    run('lint', `${gallery}#neverApplies`),
    runIn({ FORCE_COLOR: '1' }, 'lint', `${gallery}#neverApplies`),
    run('lint', gallery, '--format', 'sarif', '--exported-to', 'json-schema', 'html'),
  ]);
  expect(text).toMatchObject({ code: 0, err: '' });
  expect(text.out).toContain('held for no sample. (not proven: ');
  expect(coloured.out.replace(/\u001b\[\d+m/g, '')).toBe(text.out);
  const log = JSON.parse(sarif.out) as { runs: { results: { ruleId: string; locations: object[] }[] }[] };
  // (The schema as it is published, but for a bracket too many in one of its patterns.)
  const published = readFileSync(join(__dirname, 'data/sarif-2.1.0.schema.json'), 'utf8').replaceAll(']?$"', '$"');
  const schema = file('sarif-2.1.0.schema.json', published);
  const byTheStandard = (name: string, text: string) => run('check', schema, file(name, text), '--trust-patterns');
  expect(await byTheStandard('log.json', sarif.out)).toMatchObject({ code: 0 });
  expect(await byTheStandard('wrong.json', JSON.stringify({ ...log, version: '2.0' }))).toMatchObject({ code: 1 });
  const [{ results }] = log.runs as [(typeof log.runs)[0]];
  expect(results.map(({ ruleId }) => ruleId)).toEqual(expect.arrayContaining(['no-value', 'not-in-json', 'not-in-html']));
  expect(results[0]!.locations).toMatchObject([{ physicalLocation: { artifactLocation: { uri: '../../docs/lint/gallery.ts' }, region: { startLine: expect.any(Number) } } }]);
});

test('what is accepted stands in a file beside the schema, with reasons', async () => {
  const source = `import { check, group, text } from ${library};
    export const berth = group({ a: text('Berth'), b: text('Berth') });
    export const twice = berth;
    export default group({ hull: text('Hull', check((hull) => [...hull].join('') === 'deep', 'No')), hullTwo: text({ label: { en: 'Hull 2' } }) });`;
  const schema = file('berth.mjs', source);
  const before = await run('lint', schema, '--fail-on', 'warning');
  expect([before.code, before.out]).toEqual([1, expect.stringContaining('same-label')]);
  file('berth.lint.json', '{ "berth": { "b same-label": "as on the paper form" } }');
  expect(await run('lint', schema, '--fail-on', 'warning')).toMatchObject({ code: 0, out: 'Nothing found in 2 schemas.\n' });
  const catalogues = file('catalogues.mjs', "export const de = { locale: 'de', own: {} };");
  const other = file('other.json', '{}');
  const { code, out } = await run('lint', schema, '--accept', other, '--catalogues', catalogues, '--fail-on', 'warning');
  expect([code, out.match(/same-label|no-translation|no-text/g)]).toEqual([1, ['same-label', 'no-translation']]);
});

test.each([
  ['a file that is not there', ['none.ts'], 'No schema at none.ts'],
  ['a name that is not there', [`${gallery}#none`], 'has no schema named "none"'],
  ['acceptances of another shape', [gallery, '--accept', file('list.json', '[1]')], 'should hold reasons by path and id'],
  ['no reason', [`${gallery}#noValue`, '--accept', file('blank.json', '{"noValue": {"berth no-value": ""}}')], 'for no reason'],
  ['no catalogue', [gallery, '--catalogues', file('none.mjs', 'export const x = 1;')], 'exports no catalogue'],
  ['no values', [gallery, '--values', file('object.json', '{}')], 'should hold an array of values'],
  ['a format that is not there', [gallery, '--format', 'xml'], 'Allowed choices are text, json, sarif'],
])('%s is told', async (_, args, what) => {
  const { code, err } = await run('lint', ...args);
  expect([code, err]).toEqual([2, expect.stringContaining(what)]);
});
