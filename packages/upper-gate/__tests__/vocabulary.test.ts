// Every kind and every rule, by the one table that describes them: what they report, how they are written elsewhere, and
// that the docs have a row for each. A kind or rule without a sample here does not compile.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from '@jest/globals';
import * as library from 'upper-gate';
import { fieldFromAttributes, toAttributes } from 'upper-gate/html';
import { describeSchema, fromStandardSchema, KINDS, RULES, type KindName, type RuleName } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema } from 'upper-gate/json-schema';
import { fileOf } from './fileOf.ts';

const { boolean, check, choice, choices, choicesFrom, color, custom, date, dateTime, email, file, files, group, integer, length, list, month, number, text, time, validate, week } =
  library;
const { fieldRules, after, asyncCheck, asyncChoicesFrom, before, cardNumber, differsFrom, fileSize, fileType, ipAddress } = library;
const { noDuplicates, oneOf, pattern, range, required, requiredWhen, sameAs, step, url } = library;

interface Sample {
  /** A field with the rule, or a group with it between its fields, of which `a` is the one. */
  readonly field: library.Node;
  readonly good: unknown;
  readonly bad: unknown;
  readonly code: string;
}
const between = (rule: unknown, kind: (label: string) => library.Node = text): library.Node => group({ a: kind('A'), b: kind('B') }).with(fieldRules({ a: rule as never }));
const ofDocument = (format: string): library.Node => fromJsonSchema({ type: 'object', properties: { a: { type: 'string', format } } });
const letters = (): string[] => ['x', 'y'];
const isOdd = (value: unknown): boolean => Number(value) % 2 === 1;

const SAMPLES: Readonly<Record<RuleName, Sample>> = {
  required: { field: text('A', required()), good: 'x', bad: '', code: 'valueMissing' },
  requiredWhen: {
    field: between(
      requiredWhen(function isB(it: { b?: string }) {
        return it.b === 'x';
      }),
    ),
    good: { b: 'y' },
    bad: { b: 'x' },
    code: 'valueMissing',
  },
  length: { field: text('A', length({ min: 2 })), good: 'xx', bad: 'x', code: 'tooShort' },
  pattern: { field: text('A', pattern(/^x+$/)), good: 'xx', bad: 'y', code: 'patternMismatch' },
  email: { field: text('A', email({ dot: true })), good: 'a@b.c', bad: 'a@b', code: 'typeMismatch' },
  url: { field: text('A', url({ schemes: ['https'] })), good: 'https://a', bad: 'http://a', code: 'typeMismatch' },
  ipAddress: { field: text('A', ipAddress({ version: 4 })), good: '127.0.0.1', bad: '::1', code: 'typeMismatch' },
  cardNumber: { field: text('A', cardNumber()), good: '4111 1111 1111 1111', bad: '4111 1111 1111 1112', code: 'typeMismatch' },
  timestamp: { field: ofDocument('date-time'), good: { a: '2027-05-01T09:30:00Z' }, bad: { a: '2027-05-01' }, code: 'typeMismatch' },
  uuid: { field: ofDocument('uuid'), good: { a: '01890a5d-ac96-774b-bcce-b302099a8057' }, bad: { a: 'x' }, code: 'typeMismatch' },
  range: { field: number('A', range({ min: 1, below: 3 })), good: '2.5', bad: '3', code: 'rangeOverflow' },
  step: { field: number('A', step(0.5)), good: '2.5', bad: '2.6', code: 'stepMismatch' },
  oneOf: { field: text('A', oneOf(['x', 'y'])), good: 'x', bad: 'z', code: 'notAllowed' },
  choicesFrom: { field: text('A', choicesFrom(letters)), good: 'x', bad: 'z', code: 'notAllowed' },
  asyncChoicesFrom: {
    field: text(
      'A',
      asyncChoicesFrom(function letters() {
        return ['x', 'y'];
      }),
    ),
    good: 'x',
    bad: 'z',
    code: 'notAllowed',
  },
  noDuplicates: { field: list('A', text('Row'), noDuplicates()), good: ['x', 'y'], bad: ['x', 'x'], code: 'duplicate' },
  fileSize: { field: file('A', fileSize({ max: 3 })), good: fileOf('a', 3), bad: fileOf('a', 4), code: 'fileTooLarge' },
  fileType: { field: file('A', fileType('.pdf')), good: fileOf('a.pdf', 3), bad: fileOf('a', 3), code: 'fileType' },
  sameAs: { field: between(sameAs('b' as never)), good: { a: 'x', b: 'x' }, bad: { a: 'x', b: 'y' }, code: 'differs' },
  differsFrom: { field: between(differsFrom('b' as never)), good: { a: 'x', b: 'y' }, bad: { a: 'x', b: 'x' }, code: 'duplicate' },
  after: { field: between(after('b' as never), date), good: { a: '2027-05-02', b: '2027-05-01' }, bad: { a: '2027-05-01', b: '2027-05-01' }, code: 'rangeUnderflow' },
  before: { field: between(before('b' as never, { orSame: true }), number), good: { a: '1', b: '1' }, bad: { a: '2', b: '1' }, code: 'rangeOverflow' },
  check: { field: number('A', check(isOdd)), good: '1', bad: '2', code: 'customError' },
  asyncCheck: { field: number('A', asyncCheck(isOdd)), good: '1', bad: '2', code: 'customError' },
};

const even = { '~standard': { version: 1, vendor: 'x', validate: (value: unknown) => (isOdd(value) ? { issues: [{ message: 'odd' }] } : { value }) } } as const;
const FIELDS: Readonly<Record<KindName, { readonly field: library.Node; readonly good: unknown; readonly bad: unknown } | undefined>> = {
  text: { field: text('A'), good: 'x', bad: {} },
  number: { field: number('A'), good: '1.5', bad: 'x' },
  integer: { field: integer('A'), good: '1', bad: '1.5' },
  boolean: { field: boolean('A'), good: true, bad: 'x' },
  date: { field: date('A'), good: '2027-05-01', bad: '2027-02-29' },
  time: { field: time('A'), good: '09:30', bad: '24:00' },
  dateTime: { field: dateTime('A'), good: '2027-05-01T09:30', bad: '2027-05-01' },
  month: { field: month('A'), good: '2027-05', bad: '2027-13' },
  week: { field: week('A'), good: '2027-W18', bad: '2027-W53' },
  color: { field: color('A'), good: '#14505c', bad: 'red' },
  anyJson: { field: library.anyJson('A'), good: '[1, {"b": null}]', bad: '{' },
  choice: { field: choice('A', ['x', 'y']), good: 'x', bad: 'z' },
  choices: { field: choices('A', ['x', 'y']), good: ['x'], bad: ['z'] },
  file: { field: file('A'), good: fileOf('a', 1), bad: 'x' },
  files: { field: files('A'), good: [fileOf('a', 1)], bad: ['x'] },
  custom: { field: custom('A', { read: (raw: unknown) => (raw === 'x' ? 1 : library.unreadable()) }), good: 'x', bad: 'y' },
  standardSchema: { field: fromStandardSchema(even, 'A'), good: 2, bad: 1 },
  // Only within itself; json-schema.test.ts has such.
  deferred: undefined,
};

const docs = readFileSync(join(__dirname, '../../../docs/declaring.md'), 'utf8');
const json = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const codesOf = async (field: library.Node, raw: unknown) => {
  const { findings } = await library.validateAsync(group({ field }), { field: raw });
  return findings.map(({ code }) => code);
};

describe.each(Object.entries(SAMPLES) as [RuleName, Sample][])('the rule %s', (name, { field, good, bad, code }) => {
  const { codes, params } = RULES[name] as { codes: readonly string[]; params: object };

  test('reports what its description says, and is in the docs', async () => {
    expect(await codesOf(field, good)).toEqual([]);
    expect(await codesOf(field, bad)).toEqual([code]);
    expect(codes).toContain(code);
    if (name === 'timestamp' || name === 'uuid') return;
    const row = docs
      .split('\n')
      .filter((line) => line.startsWith(`| \`${name}(`))
      .join('\n');
    for (const word of [...codes, ...Object.keys(params)]) expect(row).toContain(`\`${word}\``);
  });

  test('means the same as JSON Schema, and HTML refuses nothing that it accepts', async () => {
    const checks = { isOdd, isB: (it: { b?: string }) => it.b === 'x', letters };
    const again = fromJsonSchema(json(toJsonSchema(group({ field }))), { checks: checks });
    const codesAgain = async (raw: unknown) => (await library.validateAsync(again, { field: raw })).findings.map((finding) => finding.code);
    expect({ good: await codesAgain(good), bad: await codesAgain(bad) }).toEqual({ good: [], bad: [code] });
    if (typeof good !== 'string') return;
    expect(validate(group({ a: fieldFromAttributes(toAttributes(field)) }), { a: good }).findings).toEqual([]);
  });
});

describe.each(Object.entries(FIELDS).flatMap(([name, sample]) => (sample ? [[name as KindName, sample] as const] : [])))('the kind %s', (name, { field, good, bad }) => {
  test('reads what is of it, and nothing else', async () => {
    expect(await codesOf(field, good)).toEqual([]);
    expect(await codesOf(field, bad)).toHaveLength(1);
    expect(validate(field, undefined, { async: 'skip' }).findings.length).toBeLessThan(2);
  });

  test('has the JSON type of its description, and a row in the docs', () => {
    const { json: type } = KINDS[name];
    const others = { string: 'x', number: 1, boolean: true, array: [], object: {} };
    for (const [other, value] of Object.entries(others))
      if (type !== 'any' && other !== type)
        expect(validate(field, value, { source: 'json' }).findings.map(({ code }) => code)).toEqual([expect.stringMatching(/badInput|notAllowed/)]);
    if (name !== 'standardSchema') expect(docs).toMatch(new RegExp(`^\\| .*\`${name}[(\`]`, 'm'));
  });
});

// What compiles also runs, words its messages, and comes back from every notation: each kind, built-in or of an author, with each rule
// that its values take.
const own = <T>(name: string, json: 'string' | 'number' | 'boolean' | 'array', more: object = {}) =>
  library.defineKind<T, unknown>({ name, json, type: 'unknown', read: (raw) => (raw === '' ? undefined : (raw as T)), texts: { en: 'Enter {label}' }, ...more });
const [tons, code, ready] = [own<number>('tons', 'number'), own<string>('code', 'string'), own<boolean>('ready', 'boolean', { holds: 'flag' })];
const tagged = own<readonly string[]>('tagged', 'array', { empty: [] });
const when = own<library.Moment>('when', 'string', { measures: 'moment', control: 'date' });
const kinds = [tons, code, tagged, ready, when];

type Rules = readonly library.Rule<never>[];
const OF_TEXTS: Rules = [length({ min: 3, max: 40 }), length({ max: 2, count: 'characters' }), pattern(/^z+$/), email(), url(), ipAddress(), cardNumber(), oneOf(['z'])];
const OF_NUMBERS: Rules = [range({ min: 3, max: 4 }), range({ above: 2 }), step(7), oneOf([9])];
const OF_MOMENTS = (...limits: readonly string[]): Rules => [...limits.map((min) => range({ min, step: 2 })), step(2)];
const OF_LISTS: Rules = [length({ min: 2, max: 3 }), noDuplicates()];
const OF_FILES: Rules = [fileSize({ max: 1 }), fileType('.pdf')];
type Make = (settings: string, ...rules: never[]) => library.Node;
interface Case {
  readonly make: Make;
  readonly good: unknown;
  readonly rules: Rules;
}
/** (The others have no notation.) */
const CASES: Readonly<Record<Exclude<KindName, 'custom' | 'standardSchema' | 'deferred'> | 'list', Case>> = {
  text: { make: text, good: 'x', rules: OF_TEXTS },
  number: { make: number, good: '1.5', rules: OF_NUMBERS },
  integer: { make: integer, good: '1', rules: OF_NUMBERS },
  boolean: { make: boolean, good: false, rules: [oneOf([true])] },
  date: { make: date, good: '2027-05-02', rules: [...OF_TEXTS, ...OF_MOMENTS('2027-06-01', 'today')] },
  time: { make: time, good: '09:31:01', rules: [...OF_TEXTS, ...OF_MOMENTS('10:00')] },
  dateTime: { make: dateTime, good: '2027-05-01T09:30:01', rules: [...OF_TEXTS, ...OF_MOMENTS('2027-06-01T10:00')] },
  month: { make: month, good: '2027-06', rules: [...OF_TEXTS, ...OF_MOMENTS('2028-01')] },
  week: { make: week, good: '2027-W18', rules: [...OF_TEXTS, ...OF_MOMENTS('2027-W20')] },
  color: { make: color, good: '#14505c', rules: OF_TEXTS },
  anyJson: { make: library.anyJson, good: '1', rules: [] },
  choice: { make: (label, ...rules) => choice(label, ['x', 'y'], ...rules), good: 'x', rules: [oneOf(['y'])] },
  choices: { make: (label, ...rules) => choices(label, ['x', 'y'], ...rules), good: ['x'], rules: OF_LISTS },
  file: { make: file, good: fileOf('a', 2), rules: OF_FILES },
  files: { make: files, good: [fileOf('a', 2)], rules: [...OF_FILES, length({ min: 2 })] },
  list: { make: (label, ...rules) => list(label, text('Row'), ...rules), good: ['x'], rules: OF_LISTS },
};
const OWN: Readonly<Record<string, Case>> = {
  'an own one of numbers': { make: tons, good: 1, rules: OF_NUMBERS },
  'an own one of texts': { make: code, good: 'x', rules: OF_TEXTS },
  'an own one of lists': { make: tagged, good: ['x'], rules: [length({ min: 2 })] },
  'an own one of yes or no': { make: ready, good: true, rules: [oneOf([false])] },
  'an own one of moments': { make: when, good: '2027-05-02', rules: [...OF_TEXTS, ...OF_MOMENTS('2027-06-01')] },
};

test.each(Object.entries({ ...CASES, ...OWN }))('%s, with each rule that fits its values', async (_, { make, good, rules }) => {
  for (const rule of [required(), check(isOdd), ...rules]) {
    const field = make('A', rule as never);
    const schema = group({ a: field });
    const { name } = describeSchema(field).rules[0]!;
    const findings = async (of: library.Node) => (await library.validateAsync(of, { a: good })).findings;
    const found = await findings(schema);
    // (Where nothing is found, the value passes.)
    expect(found.map(({ message }) => message).filter((message) => !/^[^{}]*A\b[^{}]*$/.test(message) || /undefined|NaN/.test(message))).toEqual([]);
    const document = json(toJsonSchema(schema));
    const read = fromJsonSchema(document, { kinds, checks: { isOdd } });
    expect({ name, again: toJsonSchema(read), found: await findings(read) }).toEqual({ name, again: document, found });
    if (found.length === 0 && typeof good === 'string') expect(validate(group({ a: fieldFromAttributes(toAttributes(field)) }), { a: good }).findings).toEqual([]);
  }
});

test('a name of the author stays his, also where the library has one like it: kinds and rules', () => {
  const group = own<number>('group', 'number');
  const short = library.defineRule({
    name: 'length',
    params: { max: 'number' },
    test: (value: string, { max }) => value.length <= max,
    texts: { en: 'Too long: {max}' },
    keyword: 'x-short',
    attribute: 'data-short',
  });
  const schema = library.group({ tons: group('Tons', range({ max: 2 })), mark: text('Mark', short({ max: 1 }), pattern(/^y/)) });
  const document = json(toJsonSchema(schema));
  const read = fromJsonSchema(document, { kinds: [group], rules: [short] });
  for (const each of [schema, read])
    expect(validate(each, { tons: 3, mark: 'xx' }, { source: 'json' }).findings.map(({ code: found }) => found)).toEqual(['rangeOverflow', 'length', 'patternMismatch']);
  expect(toJsonSchema(read)).toEqual(document);
  expect(toAttributes(schema.fields.mark)).toEqual({ 'data-short': '1' });
});
