// How data travel: what is posted, patched, kept and given back reads equal, whatever the kinds.

import { expect, jest, test } from '@jest/globals';
import fc from 'fast-check';
import jsonPatch from 'fast-json-patch';
import * as library from 'upper-gate';
import type { Node } from 'upper-gate';
import { describeSchema } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema } from 'upper-gate/json-schema';
import { toMergePatch, toJsonPatch } from 'upper-gate/saving';
import { applyMergePatch, validateRequest } from 'upper-gate/server';
import { runs } from './runs.ts';
import { storageOf } from './storageOf.ts';

const { anyJson, boolean, choice, choices, color, createGate, custom, date, dateTime, defineKind, dictionary, group, integer, interval, jsonOf, keepDraft, list, mapped } = library;
const { month, number, range, recursive, text, time, unreadable, validate, valuesOf, variant, week } = library;

const money = defineKind<number, string>({
  name: 'money',
  read: (raw) => (isNone(raw) ? undefined : /^\d+\.\d\d$/.test(raw as string) ? Math.round(Number(raw) * 100) : unreadable()),
  write: (value) => (typeof value === 'number' ? (value / 100).toFixed(2) : value),
  json: 'number',
  type: 'number',
  texts: { en: 'An amount' },
});
const KIT: readonly string[] = ['horn', 'lights'];
const isNone = (raw: unknown): raw is '' | undefined | null => raw === '' || raw === undefined || raw === null;
const pair = /^(\d+)-(\d+)$/;
const span = custom<ReadonlyMap<string, number>, string>('Span', {
  read: (raw) => (isNone(raw) ? undefined : new Map(Object.entries({ from: Number(pair.exec(raw as string)![1]), to: Number(pair.exec(raw as string)![2]) }))),
  write: (value) => (value instanceof Map ? `${value.get('from')}-${value.get('to')}` : (value as string)),
  toJson: (all) => Object.fromEntries(all),
  fromJson: (json) => new Map(Object.entries(json as Record<string, number>)),
});
const position = custom('Position', {
  read: (raw: unknown) => (isNone(raw) ? undefined : /^km \d+$/.test(raw as string) ? Number((raw as string).slice(3)) : unreadable()),
  write: (value) => (typeof value === 'number' ? `km ${value}` : value),
});
const reversed = (of: string): string => Array.from(of).reverse().join('');
const side: ReturnType<typeof group> = group({
  name: text('Name'),
  sides: list(
    'Sides',
    recursive(() => side),
  ),
});

/** Every kind, with what its control may hold. */
const KINDS: Readonly<Record<string, readonly [Node, ...unknown[]]>> = {
  text: [text('F'), '', 'Otter', ' Ibis '],
  upper: [text({ label: 'F', case: 'upper' }), '', 'ot-1'],
  number: [number('F'), '', '2.5', '1e3'],
  'number, German': [number({ label: 'F', locale: 'de' }), '', '1.234,5'],
  'number, by language': [number({ label: 'F', locale: 'auto' }), '', '1,234.5'],
  integer: [integer('F', range({ min: 1 })), '', '3'],
  boolean: [boolean('F'), true, false],
  date: [date('F'), '', '2027-05-28'],
  'date, by language': [date({ label: 'F', locale: 'auto' }), '', '05/28/2027'],
  time: [time('F'), '', '09:30'],
  dateTime: [dateTime('F'), '', '2027-05-28 09:30'],
  month: [month('F'), '', '2027-05'],
  week: [week('F'), '', '2027-W18'],
  color: [color('F'), '#a0b0c0'],
  choice: [choice('F', [1, 2, true]), '', '1', 'true'],
  choices: [choices('F', KIT), [], ['lights']],
  interval: [interval('F', date('From'), date('To')), { from: '', to: '2027-05-28' }],
  anyJson: [anyJson('F'), '', '"hello"', '"5"', '5', '[1, null]', '{"toString": {"__proto__": 1, "a": "b"}}'],
  'an own kind': [money('F'), '', '2.50', '300.00'],
  'no JSON': [span, '', '3-4'],
  custom: [position, '', 'km 12'],
  cents: [mapped(number('F'), { to: (euros) => Math.round(euros * 100), from: (amount) => amount / 100 }), '', '2.5', '0.29'],
  parts: [mapped(number('F'), { to: (metres) => metres * 0.1, from: (tens) => tens * 10 }), '', '3', '0.7'],
  day: [
    mapped(date('F'), {
      to: (day) => new Date(`${day}T00:00Z`),
      from: (when) => when.toISOString().slice(0, 10),
      toJson: (when) => when.toISOString(),
      fromJson: (json) => new Date(json as string),
    }),
    '',
    '2027-05-28',
  ],
  large: [mapped(integer('F'), { to: BigInt, from: Number, toJson: String, fromJson: (json) => BigInt(json as string) }), '', '12'],
  'text to text': [mapped(text('F'), { to: reversed, from: reversed }), '', 'abc'],
  'own kind to text': [mapped(money('F'), { to: (amount) => `${amount} c`, from: (words) => Number(words.slice(0, -2)) }), '', '2.50'],
  dictionary: [dictionary('F', money('Toll')), {}, { a: '2.50', toString: '3.00' }],
  list: [list('F', text('Row')), [], ['a', '', 'b']],
  rows: [
    list('F', group({ toll: money('Toll'), kit: choices('Kit', KIT) })),
    [
      { toll: '2.50', kit: ['horn'] },
      { toll: '', kit: [] },
    ],
  ],
  variant: [variant('F', 'load', { goods: group({ tons: number('Tons') }), none: group({}) }), { load: 'goods', tons: '3' }, { load: 'none' }],
  recursive: [side, { name: 'a', sides: [{ name: '', sides: [{ name: 'b', sides: [] }] }] }],
};
const limits = { depth: 20 };
const seen: Record<string, Set<string>> = {};

/** What the browser sends of what controls hold. */
function* entriesOf(raw: unknown, path = ''): Generator<[string, string]> {
  if (raw === false) return;
  else if (typeof raw !== 'object' || raw === null) yield [path, raw === true ? 'on' : (raw as string)];
  else for (const [key, each] of Object.entries(raw)) yield* entriesOf(each, KIT.includes(each as string) ? path : path ? `${path}.${key}` : key);
}
const inJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value));
const post = (body: BodyInit, type: string) => new Request('http://x/', { method: 'POST', body, headers: { 'content-type': type } });

test('random schemas and data: posted as JSON and as a form, patched, kept as a draft, given to a form: the same again', async () => {
  jest.useFakeTimers();
  const one = fc.constantFrom(...Object.keys(KINDS)).chain((name) => fc.tuple(fc.constant(name), fc.nat(9), fc.nat(9)));
  await fc.assert(
    fc.asyncProperty(fc.array(one, { minLength: 1, maxLength: 4 }), fc.boolean(), async (picked, isNested) => {
      const fields = Object.fromEntries(picked.map(([name], i) => [`f${i}`, KINDS[name]![0]]));
      const schema = isNested ? group({ inner: group(fields), rows: list('Rows', group({ ...fields, name: text('Name') })) }) : group(fields);
      const rawOf = (which: 1 | 2) => {
        const values = Object.fromEntries(picked.map(([name, ...at], i) => [`f${i}`, KINDS[name]![1 + (at[which - 1]! % (KINDS[name]!.length - 1))]]));
        return isNested ? { inner: values, rows: [{ ...values, name: 'x' }] } : values;
      };
      const dataOf = (result: { ok: boolean; data?: unknown; findings: unknown }) => (result.ok ? result.data : result.findings);
      const [before, now] = ([1, 2] as const).map((which) => dataOf(validate(schema, rawOf(which))));
      const [old, json] = [before, now].map((data) => inJson(jsonOf(schema, data as never)));
      const way = (name: string, result: unknown) => {
        picked.forEach(([kind]) => (seen[kind] ??= new Set()).add(name));
        expect({ name, result }).toEqual({ name, result: now });
      };
      way('file', dataOf(validate(schema, json, { source: 'json' })));
      way('request', dataOf(await validateRequest(schema, post(JSON.stringify(json), 'application/json'), { limits })));
      const sent = new URLSearchParams([...entriesOf(rawOf(2))]);
      way('form', dataOf(await validateRequest(schema, post(sent, 'application/x-www-form-urlencoded'), { limits })));
      const gate = createGate(schema, { initial: valuesOf(schema, old) as never });
      expect(gate.root.data).toEqual(before);
      const storage = storageOf(new Map());
      keepDraft(gate, { storage, key: 'k', wait: 1 });
      gate.set(rawOf(2));
      await jest.advanceTimersByTimeAsync(1);
      way('form state', gate.root.data);
      way('merge patch', dataOf(validate(schema, applyMergePatch(old, inJson(toMergePatch(gate)), limits), { source: 'json' })));
      const patched = jsonPatch.applyPatch(structuredClone(old), inJson(toJsonPatch(gate)) as never, true, true, false).newDocument;
      way('JSON patch', dataOf(validate(schema, patched, { source: 'json' })));
      const again = createGate(schema, { initial: valuesOf(schema, old) as never });
      keepDraft(again, { storage, key: 'k' });
      way('draft', again.root.data);
      const loaded = createGate(schema);
      loaded.rebase(valuesOf(schema, json));
      way('rebase', loaded.root.data);
    }),
    runs(600),
  );
  jest.useRealTimers();
  expect(Object.keys(seen).sort()).toEqual(Object.keys(KINDS).sort());
});

test('what is no data of a kind is let in by none; what JSON cannot hold is named', () => {
  const [cents, parts] = [KINDS['cents']![0], KINDS['text to text']![0]];
  for (const [field, json, code] of [
    [cents, 2.5, 'badInput'],
    [cents, '2.50', 'badInput'],
    [money('F'), '3.50', 'badInput'],
    [money('F'), 3.5, 'badInput'],
    [position, 'km 12', 'badInput'],
    [parts, 5, 'badInput'],
    [anyJson('F'), '5', undefined],
    [list('F', text('Row')), [null], undefined],
    [list('F', text('Row', library.required())), [null], 'badInput'],
    [mapped(date('F'), { to: (day) => new Date(day), from: (when) => when.toISOString().slice(0, 10) }), '2027-05-28T00:00:00.000Z', 'crashed'],
  ] as const)
    expect([json, validate(field, json, { source: 'json', onFault: () => undefined }).findings[0]?.code]).toEqual([json, code]);
  const loose = group({ rows: list('Rows', group({ at: custom('At', { read: (raw: unknown) => raw }) })) });
  for (const at of [new Date(), new Map(), 5n, NaN, new File([], 'a.pdf')])
    expect(() => jsonOf(loose, { rows: [{ at }] })).toThrow(/^"rows\.0\.at" holds .+, which JSON cannot hold/);
});

test('defaults are data; documents tell what travels', () => {
  const stamp = defineKind<Date, string>({
    name: 'stamp',
    read: (raw) => (isNone(raw) ? undefined : new Date(`${raw as string}T00:00Z`)),
    write: (value) => (value instanceof Date ? value.toISOString().slice(0, 10) : value),
    toJson: (when) => when.getTime(),
    fromJson: (json) => new Date(json as number),
    json: 'number',
    type: 'Date',
    texts: { en: 'A day' },
  });
  const day = new Date('2027-05-01');
  const turned = mapped(text({ label: 'F', default: 'abc' }), { to: reversed, from: reversed, json: 'string', type: 'Reversed' });
  const schema = group({ any: anyJson({ label: 'F', default: '5' }), turned, at: stamp({ label: 'At', default: day }), all: list({ label: 'All', default: [day] }, stamp('One')) });
  const begins = { any: '5', turned: 'cba', at: day, all: [day] };
  expect(createGate(schema).root.data).toEqual(begins);
  const document = toJsonSchema(schema);
  expect(document.properties).toMatchObject({ turned: { type: 'string', default: 'cba' }, at: { type: 'number', default: day.getTime() }, all: { default: [day.getTime()] } });
  const again = fromJsonSchema(document, { kinds: [stamp] });
  expect([createGate(again).root.data, toJsonSchema(again)]).toEqual([begins, document]);
  expect(describeSchema(turned)).toMatchObject({ type: 'Reversed', traits: { json: 'string' } });
});
