// How data travel: what is let in, what is refused, what documents say. (That all comes back equal, the drill tries with random data.)

import { expect, test } from '@jest/globals';
import * as library from 'upper-gate';
import { describeSchema } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema } from 'upper-gate/json-schema';
import { toJsonPatch } from 'upper-gate/saving';

const { anyJson, createGate, custom, date, defineKind, dictionary, group, jsonOf, list, mapped, number, required, text, unreadable, validate } = library;

const money = defineKind<number, string>({
  name: 'money',
  read: (raw) => (isNone(raw) ? undefined : /^\d+\.\d\d$/.test(raw as string) ? Math.round(Number(raw) * 100) : unreadable()),
  write: (value) => (typeof value === 'number' ? (value / 100).toFixed(2) : value),
  json: 'number',
  type: 'number',
  texts: { en: 'An amount' },
});
const isNone = (raw: unknown): raw is '' | undefined | null => raw === '' || raw === undefined || raw === null;
const position = custom('Position', {
  read: (raw: unknown) => (isNone(raw) ? undefined : /^km \d+$/.test(raw as string) ? Number((raw as string).slice(3)) : unreadable()),
  write: (value) => (typeof value === 'number' ? `km ${value}` : value),
});
const reversed = (of: string): string => Array.from(of).reverse().join('');

test('what is no data of a kind is let in by none; what JSON cannot hold is named', () => {
  const cents = mapped(number('F'), { to: (euros) => Math.round(euros * 100), from: (amount) => amount / 100 });
  const turned = mapped(text('F'), { to: reversed, from: reversed });
  for (const [field, json, code] of [
    [cents, 2.5, 'badInput'],
    [cents, '2.50', 'badInput'],
    [money('F'), '3.50', 'badInput'],
    [money('F'), 3.5, 'badInput'],
    [position, 'km 12', 'badInput'],
    [turned, 5, 'badInput'],
    [anyJson('F'), '5', undefined],
    [list('F', text('Row')), [null], undefined],
    [list('F', text('Row', required())), [null], 'badInput'],
    [mapped(date('F'), { to: (day) => new Date(day), from: (when) => when.toISOString().slice(0, 10) }), '2027-05-28T00:00:00.000Z', 'crashed'],
  ] as const)
    expect([json, validate(field, json, { source: 'json', onFault: () => undefined }).findings[0]?.code]).toEqual([json, code]);
  const loose = group({ rows: list('Rows', group({ at: custom('At', { read: (raw: unknown) => raw }) })) });
  for (const at of [new Date(), new Map(), 5n, NaN, new File([], 'a.pdf')])
    expect(() => jsonOf(loose, { rows: [{ at }] })).toThrow(/^"rows\.0\.at" holds .+, which JSON cannot hold/);
  const gate = createGate(group({ tolls: dictionary('Tolls', money('Toll')) }));
  gate.set({ tolls: { toString: '3.00' } });
  expect(toJsonPatch(gate)).toEqual([{ op: 'add', path: '/tolls/toString', value: 300 }]);
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
