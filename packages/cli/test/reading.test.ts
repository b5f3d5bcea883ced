// How files are read: in slices and threads, packed, CSV of all sorts; and what is refused.

import { gzipSync } from 'node:zlib';
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { THOROUGH } from '../../upper-gate/__tests__/runs.ts';
import { file, library, pipe, run, shell } from './cli.ts';

const schema = file(
  'boats.mjs',
  `import { check, group, text, number, list, choices, required, range } from ${library};
export default group({ name: text('Name', required()), beam: number('Beam', range({ max: 5 })), kit: choices('Kit', ['horn', 'bell']), crew: list('Crew', group({ age: number('Age') })) });`,
);
const BAD = '{"name": "", "beam": 7}';

test('the reports of slices, one after the other, are the report of the whole', async () => {
  const line = fc.oneof(
    { weight: 3, arbitrary: fc.constantFrom('', ' ', BAD, '{"name": "Otter"}', '{"name": "Ölkahn – 水"}') },
    fc.integer({ min: 0, max: 400 }).map((length) => `{"name": "", "beam": "${'x'.repeat(length)}"}`),
  );
  const texts = fc.sample(
    fc
      .tuple(fc.array(line, { minLength: 1, maxLength: 30 }), fc.constantFrom('\n', '\r\n'), fc.constantFrom('', '\uFEFF'), fc.boolean())
      .map(([lines, end, mark, isEnded]) => mark + lines.join(end) + (isEnded ? end : '')),
    THOROUGH ? 5 : 2,
  );
  for (const [i, text] of texts.entries()) {
    const data = file(`sliced${i}.ndjson`, text);
    const report = async (...args: string[]) => run('check', schema, data, '--format', 'ndjson', ...args);
    const whole = await report();
    for (const count of THOROUGH ? [2, 5] : [3]) {
      const slices = await Promise.all(Array.from({ length: count }, (_, part) => report('--slice', `${part + 1}/${count}`)));
      const counted = slices.map(({ err }) => Number(/^(\d+) records? checked/.exec(err)![1])).reduce((a, b) => a + b);
      expect({ text, count, out: slices.map(({ out }) => out).join(''), records: counted }).toEqual({ text, count, out: whole.out, records: Number(/^\d+/.exec(whole.err)![0]) });
    }
  }
}, 120_000);

/** Enough to read that another thread starts, and enough to do that it gets its share: the rule on the beam takes its time. */
const many = (last: string) => file('many.ndjson', `${`{"name": "Otter"}${' '.repeat(200)}\n${BAD}\n{"name": ""}\n`.repeat(15_000)}${last}\n`);
const slow = file(
  'slow.mjs',
  `import { check, group, text, number, required } from ${library};
const idle = () => { for (const end = performance.now() + 0.05; performance.now() < end; ); return false; };
export default group({ name: text('Name', required()), beam: number('Beam', check(idle, 'No')) });`,
);

test('two threads report what one does, in the same order; also up to a line that is broken', async () => {
  for (const [last, code, err] of [
    [BAD, 1, ''],
    ['{', 2, /many\.ndjson, line 45001, is not JSON/],
  ] as const) {
    const data = many(last);
    const [one, two] = await Promise.all(['1', '2'].map((workers) => run('check', slow, data, '--workers', workers)));
    expect(two!.out === one!.out).toBe(true);
    expect(one!.out.match(/error/g)!.length).toBeGreaterThanOrEqual(45_000);
    expect([two!.code, two!.err]).toEqual([code, expect.stringMatching(err)]);
  }
});

test.each([
  ['ends the thread', 'process.exit(0)', /^upper-gate: The process ended while validating/],
  ['throws later', "queueMicrotask(() => { throw new Error('late') }) || true", /^upper-gate: A module threw while validating: late\.\n$/],
])('a rule that %s in another thread: exit code 2, and one line', async (_, body, message) => {
  const module = file(
    'elsewhere.mjs',
    `import { isMainThread } from 'node:worker_threads'; import { group, groupRules, check } from ${library}; export default group({}).with(groupRules(check(() => { for (const end = performance.now() + 0.02; performance.now() < end; ); return isMainThread || ${body}; }, 'No')));`,
  );
  const { code, err } = await run('check', module, many(BAD), '--quiet');
  expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(message) });
});

const CSV = 'name,beam\nOtter,2\n"",7\n';
test.each<[string, string, string | Buffer, string[], string]>([
  ['packed NDJSON', 'a.ndjson.gz', gzipSync(`{"name": "Otter"}\n${BAD}\n`), [], ':2 /name, :2 /beam'],
  ['packed, whatever it is called', 'b.csv', gzipSync(CSV), [], ':3 /1/name, :3 /1/beam'],
  ['semicolons', 'c.csv', CSV.replace(/,/g, ';'), ['--delimiter', ';'], ':3 /1/name, :3 /1/beam'],
  ['tabs', 'd.csv', CSV.replace(/,/g, '\t'), ['--delimiter', 'tab'], ':3 /1/name, :3 /1/beam'],
  ['other headers', 'e.csv', 'Boat,Remarks,beam\n,x,9\n', ['--columns', 'columns.json'], ':2 /0/name, :2 /0/beam'],
  ['a header that repeats is a list', 'f.csv', 'name,kit,kit\nOtter,horn,drum\n', [], ':2 /0/kit'],
  ['a row of several lines', 'g.csv', 'name,beam\n"Otter\nof the Weir",9\n', [], ':3 /0/beam'],
])('%s', async (_, name, content, args, expected) => {
  file('columns.json', '{"Boat": "name", "Remarks": null}');
  const found = (out: string) => Array.from(out.matchAll(/"line":(\d+),"pointer":"([^"]*)"/g), ([, line, pointer]) => `:${line} ${pointer}`).join(', ');
  const options = ['--format', 'ndjson', ...args.map((arg) => (arg === 'columns.json' ? file(arg, '{"Boat": "name", "Remarks": null}') : arg))];
  expect(found((await run('check', schema, file(name, content), ...options)).out)).toBe(expected);
  // The same by way of standard input, which is called by a name.
  const piped = await pipe(content, 'check', schema, '-', '--stdin-name', name, ...options);
  expect(found(piped.out)).toBe(expected);
  expect(piped.out).toContain(`"file":"${name}"`);
});

test.each<[string, string, string | Buffer, string[], RegExp]>([
  ['broken gzip', 'x.ndjson.gz', gzipSync('{"name": "a"}\n'.repeat(9)).subarray(0, 30), [], /x\.ndjson\.gz is broken gzip: unexpected end of file\. Pack it again/],
  ['a slice of what is packed', 'y.ndjson', gzipSync('{}'), ['--slice', '1/2'], /y\.ndjson is packed: --slice takes a plain file/],
  ['a slice of CSV', 'x.csv', 'name\n', ['--slice', '1/2'], /--slice takes a file of NDJSON/],
  ['a slice that is none', 'x.ndjson', '', ['--slice', '3/2'], /It takes a part and their number, as in 3\/8/],
  ['several files and a slice', 'x.ndjson', '', ['data/bookings.json', '--slice', '1/2'], /--slice takes one file/],
  ['a delimiter that is none', 'x.csv', '', ['--delimiter', ';;'], /It takes one character, or the word tab/],
  ['a delimiter for NDJSON', 'x.ndjson', '{}', ['--delimiter', ';'], /--delimiter and --columns are for CSV/],
  ['a mapping that is none', 'x.csv', CSV, ['--columns', 'data/bookings.json'], /data\/bookings\.json is no mapping of columns: write \{ "header": "path"/],
  ['a mapping of another file', 'x.csv', CSV, ['--columns', 'package.json'], /package\.json is no mapping of columns/],
  ['a header that is not there', 'x.csv', CSV, ['--columns', file('m.json', '{"Boat": "name"}')], /x\.csv has no column "Boat", which --columns names\. Its columns: name, beam/],
  ['no threads', 'x.ndjson', '', ['--workers', '0'], /It takes a number from 1 to 64/],
  ['a million columns', 'x.csv', 'a,'.repeat(1_000_000), [], /x\.csv has 1000001 columns; at most 10000 are taken\. Check the delimiter, now ","/],
  ['broken UTF-8', 'z.ndjson', Buffer.concat([Buffer.from('{"name": "a"}\n\n{"name": "'), Buffer.from([0xff])]), [], /z\.ndjson, line 3, is not UTF-8 text/],
])('%s is refused, exit code 2', async (_, name, content, args, message) => {
  const { code, err } = await run('check', schema, file(name, content), ...args);
  expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(message) });
});

test('a line of JSON as deep as a line may be long is no more than a wrong value; records with endless findings are counted up to a limit', async () => {
  const deep = `{"name": "Otter", "beam": ${'['.repeat(4_000_000)}${']'.repeat(4_000_000)}}`;
  const full = `{"name": "Otter", "crew": [${'{"age":"x"},'.repeat(100_001)}{}]}`;
  const { code, out } = await run('check', schema, file('deep.ndjson', `${deep}\n${full}\n`), '--max', '1');
  expect(out).toMatch(
    /deep\.ndjson:1\n {2}error {3}\/beam: .*\n… and 100,000 more findings\.\n\n2 records checked, 0 without errors; 100,001 errors\. 1 record has more findings than are counted\.\n/,
  );
  expect(code).toBe(1);
});

test.each([
  ['a file: records, their rate, the time left', 'upper-gate check slow.mjs many.ndjson --max 1', /[\d,]+ records, [\d,]+ a second, \d+ %, \d+ s left\r\x1b\[K/],
  ['a pipe, whose end is not known', 'cat many.ndjson | upper-gate check slow.mjs - --max 1', /[\d,]+ records, [\d,]+ a second\r\x1b\[K/],
])('progress on a terminal, of %s', async (_, line, expected) => {
  many(BAD);
  const on = async (world: string) => (await shell(`${world} script -qec '${line}' /dev/null < /dev/null`)).out;
  expect(await on('env -u CI')).toMatch(expected);
  expect(await on('CI=1')).not.toMatch(/a second/);
});
