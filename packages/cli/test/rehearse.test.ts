// The subcommand `rehearse`: the demo's rehearsals, timelines in three formats, and what is wrong with a file.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { file, library, root, run, runIn } from './cli.ts';

const demo = join(root, 'examples/lock-passage/rehearsals');
const all = readdirSync(demo).map((name) => `rehearsals/${name}`);
const wrongOrder = 'rehearsals/wrong-order.rehearsal.yaml';
const rehearse = (...args: string[]) => run('rehearse', 'data/schema.ts', ...args);

test('the rehearsals of the demo are as expected; their timelines can be kept, and compared', async () => {
  const stored = file('timelines.json', '');
  expect(await rehearse(...all, '--quiet')).toEqual({ code: 0, out: '', err: '' });
  expect(await rehearse(...all, '--expect', stored, '--update', '--quiet')).toEqual({ code: 0, out: '', err: '' });
  const kept = readFileSync(stored, 'utf8');
  expect(await rehearse(...all, '--expect', stored, '--quiet')).toEqual({ code: 0, out: '', err: '' });
  const other = file('other.json', kept.replace('the user enters \\"OT-1205\\"', 'the user enters \\"OT-9\\"').replace('"length": 2160', '"length": 1'));
  const { code, err } = await rehearse(...all, '--expect', other, '--quiet');
  expect([code, err]).toEqual([
    1,
    `upper-gate: ${wrongOrder}: expected was, at 1160 ms, registration: the user enters "OT-9"; there is, at 1160 ms, registration: the user enters "OT-1205"\n`,
  ]);
  expect((await rehearse(wrongOrder, '--expect', file('none.json', '{}'))).err).toContain('there is no such timeline in the expected ones. Add it with --update.');
});

test('text with colours for a terminal, JSON, and a picture that says the same to those who do not see it', async () => {
  const [text, coloured, json, svg] = await Promise.all([
    rehearse(wrongOrder),
    runIn({ FORCE_COLOR: '1' }, 'rehearse', 'data/schema.ts', wrongOrder),
    rehearse(wrongOrder, '--format', 'json'),
    rehearse(wrongOrder, '--format', 'svg'),
  ]);
  expect(text.out).toMatch(/^Answers in the wrong order\n\nms .*\nregistration\n {2}user +▪/);
  expect(text.out).not.toContain('\u001b');
  expect(coloured.out.replace(/\u001b\[\d+m/g, '')).toBe(text.out);
  expect(coloured.out).not.toBe(text.out);
  const timeline = JSON.parse(json.out) as { name: string; moments: { text: string }[] };
  expect(timeline.moments.map((moment) => moment.text)).toContain('an answer to isOnRegister comes too late, and has no effect');
  const [desc] = /<desc id="desc">([\s\S]*?)<\/desc>/.exec(svg.out)!.slice(1);
  expect(desc!.replaceAll('&#x22;', '"').trim()).toBe(text.out.trim());
  expect(svg.out).toMatch(/^<svg [^>]*role="img"[^>]*aria-labelledby="title desc"/);
  expect(readFileSync(join(root, 'docs/charts/wrong-order.svg'), 'utf8')).toBe(svg.out);
  expect(svg.out).not.toMatch(/href|<script|url\(|https?:(?!\/\/www\.w3\.org\/2000\/svg)/);
});

test('what a name, a text or a value brings along does nothing', async () => {
  const schema = file(
    'evil.mjs',
    `import { check, context, group, text } from ${library}; export const tide = context('tide');
    export default group({ a: text('A', check((a) => a === '' || '<script>\\u001b[2J' + tide.get())) });`,
  );
  const script = file(
    'evil.rehearsal.yaml',
    'name: "</title><script>x()</script>\\u001b[31m"\ncontext: { tide: "<b>" }\nsteps:\n  - { enters: a, value: "<img>\\u001b]0;x" }\n  - { leaves: a }\n',
  );
  const [text, svg] = await Promise.all([run('rehearse', schema, script), run('rehearse', schema, script, '--format', 'svg')]);
  expect([text.code, svg.code, text.err]).toEqual([0, 0, '']);
  expect(text.out + svg.out).not.toContain('\u001b');
  expect(svg.out).not.toMatch(/<(?:script|img|b)\b/);
});

const small = () =>
  file('small.mjs', `import { asyncCheck, group, text } from ${library}; export default group({ a: text('A', asyncCheck(async function isKnown() { return true; })) });`);
const bomb = Array.from(
  { length: 9 },
  (_, i) =>
    `b${i}: &b${i} [${Array(9)
      .fill(i === 0 ? '*a' : `*b${i - 1}`)
      .join()}]`,
).join('\n');
const SCRIPTS: readonly (readonly [script: string, code: number, message: RegExp])[] = [
  ['steps:\n  - { enters: a, value: x }\n  - { waits: 500 }', 1, /Nobody answers the async rule isKnown of "a"\. Add answers\.rule/],
  ['steps:\n  - { sees: a, text: Hm }', 1, /bad-\d+\.yaml: Expected to see "Hm" at "a"\. There is nothing\.\n$/],
  ['steps: 3', 2, /"steps" should be a list/],
  ['- 1', 2, /should hold a rehearsal/],
  ['a: [1', 2, /is not YAML: .* at line 1/],
  ['steps: []\nanwsers: {}', 2, /has an unknown key "anwsers"\. Did you mean "answers"\?/],
  ['answers: {}', 2, /has no "steps"/],
  ['steps:\n  - { tpyes: a }', 2, /step 1, has no verb\. Did you mean "types"\?/],
  ['steps:\n  - { types: a }', 2, /step 1, has no "text"/],
  ['steps:\n  - { waits: 5, untill: quiet }', 2, /step 1, has an unknown key "untill"\. It takes waits\./],
  ['steps: []\nanswers: { isNone: [] }', 2, /The schema has no async rule "isNone"/],
  ['steps: []\ncontext: { tide: 1 }', 2, /a value for the context "tide", which was not given/],
  [`a: &a [x]\n${bomb}`, 2, /is not YAML: .*alias/],
];
const CALLS: readonly (readonly [args: readonly string[], message: RegExp])[] = [
  [['nowhere.yaml'], /No rehearsal at nowhere\.yaml/],
  [[wrongOrder, '--update'], /--update writes the file of --expect: name one\./],
  [[wrongOrder, wrongOrder, '--format', 'svg'], /--format svg writes one picture: name one rehearsal\./],
  [[wrongOrder, '--expect', 'data/bookings.json'], /should hold timelines by the names of rehearsals/],
  [[wrongOrder, '--expect', 'nowhere/x.json', '--update'], /Cannot write nowhere\/x\.json/],
];

test('what is wrong with a file, or a call, is said in one line, with what to do', async () => {
  const schema = small();
  await Promise.all([
    ...SCRIPTS.map(async ([script, code, message], i) => {
      const ran = await run('rehearse', schema, file(`bad-${i}.yaml`, script), '--quiet');
      expect([script, ran.code, ran.err]).toEqual([script, code, expect.stringMatching(message)]);
    }),
    ...CALLS.map(async ([args, message]) => {
      const { code, err } = await rehearse(...args);
      expect([args, code, err]).toEqual([args, 2, expect.stringMatching(message)]);
    }),
  ]);
});
