// A rule, a kind, a catalogue, a keyword and an attribute of an author, which work like built-in ones.

import { expect, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { Catalogue, DataOf } from 'upper-gate';
import { fieldFromAttributes, toAttributes } from 'upper-gate/html';
import { describeSchema } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema, type JsonSchema } from 'upper-gate/json-schema';
import { ar } from 'upper-gate/messages/ar';
import { de } from 'upper-gate/messages/de';
import { same } from './types/same.ts';

const { fieldRules } = library;
const { context, createGate, defineKind, defineRule, group, length, list, number, range, required, text, unreadable, validate } = library;

const season = context('season', { fallback: 'summer' });
const startsWith = defineRule({
  name: 'startsWith',
  params: { prefix: 'text' },
  fits: ['text'],
  test: (value: string, { prefix }) => value.startsWith(prefix),
  texts: { en: '{label} must start with {prefix}', de: '{label} muss mit {prefix} beginnen' },
  keyword: 'x-startsWith',
  attribute: 'data-starts-with',
});
const notTooMany = defineRule({
  name: 'notTooMany',
  params: { most: 'number', per: ['lock', 'day'] },
  test: (value: number, { most }, siblings: { boats?: number | undefined }) => value <= most * (siblings.boats ?? 1),
  live: true,
  texts: { en: ({ label, most, per }) => `${label}: ${String(most)} ${most === 1 ? 'boat' : 'boats'} a ${String(per)}`, de: '{label}: {most} je {per}' },
  severity: 'warning',
  code: 'crowded',
});
const inSeason = defineRule({ name: 'inSeason', params: {}, test: (value: string) => value === season.get(), texts: { en: 'Not now' } });
/** Two params in one keyword, and none. */
const berthed = defineRule({
  name: 'berthed',
  params: { from: 'number', to: 'number' },
  test: (value: string, { from, to }) => Number(value) >= from && Number(value) <= to,
  texts: { en: 'Berths {from} to {to}' },
  keyword: 'x-berth',
  attribute: 'data-berth',
});
const painted = defineRule({ name: 'painted', params: {}, test: (value: string) => value !== 'bare', texts: { en: 'Paint it' }, keyword: 'x-painted', attribute: 'data-painted' });
const registered = library.defineAsyncRule({
  name: 'registered',
  params: { land: 'text' },
  test: async (value: string, { land }, { path }) => (await Promise.resolve(), value === 'gone' ? `${path} is gone` : value.startsWith(land)),
  texts: { en: '{label} is not on the register of {land}', de: '{label} fehlt im Register von {land}' },
  keyword: 'x-register',
  debounce: 0,
});
const money = defineKind<number, string>({
  name: 'money',
  read: (raw, locale) => {
    if (raw === '' || raw === undefined || raw === null) return undefined;
    if (typeof raw === 'number') return Number.isInteger(raw) ? raw : unreadable();
    const [, euros, cents] = (locale === 'de' ? /^(\d+),(\d\d)$/ : /^(\d+)\.(\d\d)$/).exec(typeof raw === 'string' ? raw : '') ?? [];
    return euros === undefined ? unreadable() : Number(euros) * 100 + Number(cents);
  },
  write: (value, locale) => (typeof value === 'number' ? (value / 100).toFixed(2).replace('.', locale === 'de' ? ',' : '.') : value),
  json: 'number',
  type: 'number',
  format: 'money',
  texts: { en: 'Enter an amount for {label}, such as 3.50', de: 'Geben Sie für {label} einen Betrag ein, etwa 3,50' },
  writeLimit: (cents, locale) => (cents / 100).toFixed(2).replace('.', locale === 'de' ? ',' : '.'),
});

const schema = group({
  registration: text('Registration', required(), startsWith({ prefix: 'OT-' }), length({ max: 8 })),
  toll: money({ label: 'Toll', hint: 'From {min} on' }, required(), range({ min: 500 })),
  boats: number('Boats'),
  passages: number('Passages'),
  when: text('When', inSeason()),
  crates: list('Crates', group({ seal: text('Seal', startsWith({ prefix: 'S' }, { message: 'Seals start with {prefix}', severity: 'notice' })) })),
}).with(fieldRules({ passages: notTooMany({ most: 2, per: 'lock' }) }));
same<DataOf<typeof schema>['toll'], number>(true);
const lines = (findings: readonly { path: string; code: string; severity: string; message: string }[]): string[] =>
  findings.map(({ path, code, severity, message }) => `${path} ${code} ${severity}: ${message}`);

const wrong = { registration: 'HE-1', toll: '3.5', passages: '9', boats: '2', when: 'winter', crates: [{ seal: 'X' }] };
const EXPECTED = [
  'registration startsWith error: Registration must start with OT-',
  'toll badInput error: Enter an amount for Toll, such as 3.50',
  'passages crowded warning: Passages: 2 boats a lock',
  'when inSeason error: Not now',
  'crates.0.seal startsWith notice: Seals start with S',
];

test('findings, params, hints and messages in every language, as of built-in ones; an application rewords them by code', () => {
  expect(lines(validate(schema, wrong).findings)).toEqual(EXPECTED);
  expect(validate(schema, { ...wrong, toll: '4.99' }).findings[1]?.message).toBe('Toll must be at least 5.00');
  expect(validate(schema, { ...wrong, toll: '4,99' }, { messages: de }).findings.map(({ message }) => message)).toEqual([
    'Registration muss mit OT- beginnen',
    expect.stringContaining('5,00'),
    'Passages: 2 je lock',
    'Not now',
    'Seals start with S',
  ]);
  const ours: Catalogue = { own: { startsWith: 'Begin {label} with {prefix}', money: 'Money, please' } };
  expect(
    validate(schema, wrong, { messages: ours })
      .findings.slice(0, 2)
      .map(({ message }) => message),
  ).toEqual(['Begin Registration with OT-', 'Money, please']);
  const gate = createGate(schema, { initial: { ...wrong, toll: 350 } as never });
  expect([gate.field('toll').raw, gate.field('toll').hint, gate.field('toll').kind]).toEqual(['3.50', 'From 5.00 on', 'money']);
  expect(gate.field('registration').params).toEqual({ required: {}, startsWith: { prefix: 'OT-' }, length: { max: 8 } });
  gate.field('boats').set(5);
  expect(gate.field('passages').findings).toEqual([]);
  gate.setContext(season, 'winter');
  expect(gate.field('when').valid).toBe(true);
});

test('limits of an own rule are written as the kind writes them, its texts quoted where another script runs the other way', () => {
  const below = defineRule({
    name: 'below',
    params: { most: 'limit', of: 'text' },
    test: (value: number, { most }) => value <= Number(most),
    texts: { en: ({ label, most, of }) => `${label}: ${String(most)} of ${String(of)}` },
  });
  const toll = money('Toll', below({ most: 500, of: 'OT' }));
  expect(validate(toll, '9.00').findings.map(({ message }) => message)).toEqual(['Toll: 5.00 of OT']);
  expect(validate(toll, '9.00', { messages: ar }).findings.map(({ message }) => message)).toEqual(['\u2068Toll\u2069: 5.00 of \u2068OT\u2069']);
  // How many there are is no limit of the value.
  const fees = defineKind<readonly number[], unknown>({
    name: 'fees',
    json: 'array',
    type: 'number[]',
    read: (raw) => raw as readonly number[],
    texts: { en: 'x' },
    writeLimit: (fee) => `${String(fee)}.00`,
  });
  expect(validate(fees('Fees', length({ min: 2 })), [1]).findings.map(({ message }) => message)).toEqual(['Fees must have at least 2 entries']);
});

test('a keyword, a format and an attribute say them; reading those takes the rows of the author', () => {
  const document = JSON.parse(JSON.stringify(toJsonSchema(schema))) as JsonSchema & { properties: Record<string, object> };
  expect(document.properties['registration']).toMatchObject({ 'x-startsWith': 'OT-', gate: { rules: ['required', 'startsWith', 'length'] } });
  expect(document.properties['toll']).toMatchObject({ type: 'number', format: 'money', minimum: 500, gate: { kind: 'money' } });
  const rows = { rules: [startsWith, notTooMany, inSeason, berthed, painted], kinds: [money] };
  const read = fromJsonSchema(document, rows);
  expect(toJsonSchema(read)).toEqual(document);
  expect(lines(validate(read, wrong).findings)).toEqual(EXPECTED);
  expect(validate(read, { ...wrong, toll: 350 }, { source: 'json' }).findings.map(({ path }) => path)).toContain('toll');
  // A document of somebody else has the keyword alone.
  const foreign = fromJsonSchema({ type: 'object', properties: { a: { type: 'string', 'x-startsWith': 'OT-' }, b: { type: 'number', format: 'money' } } }, rows);
  expect(validate(foreign, { a: 'x', b: 'y' }).findings.map(({ code }) => code)).toEqual(['startsWith', 'badInput']);
  expect(() => fromJsonSchema(document)).toThrow('there is no');
  // As of built-in ones, a wrong keyword is named.
  for (const [keyword, value] of Object.entries({ 'x-startsWith': 3, minLength: '3', enum: 'OT-', 'x-berth': [], pattern: null }))
    expect(() => fromJsonSchema({ type: 'object', properties: { a: { type: 'string', [keyword]: value } } }, rows)).toThrow(`#/properties/a: "${keyword}" takes`);
  expect(toAttributes(schema.fields.registration)).toEqual({ required: true, 'data-starts-with': 'OT-' });
  const berth = text('Berth', berthed({ from: 2, to: 4 }), painted());
  expect(toJsonSchema(berth)).toMatchObject({ 'x-berth': { from: 2, to: 4 }, 'x-painted': {}, gate: { rules: ['berthed', 'painted'] } });
  for (const written of [toJsonSchema(berth), { ...toJsonSchema(berth), gate: {} }])
    expect(validate(fromJsonSchema(written, rows), '5').findings.map(({ message }) => message)).toEqual(['Berths 2 to 4']);
  // An attribute holds one text: that of several params is not written.
  expect(toAttributes(berth)).toEqual({ 'data-painted': true });
  const field = fieldFromAttributes({ 'data-starts-with': 'OT-' }, 'input', { rules: [startsWith] });
  expect(validate(field, 'x').findings.map(({ code }) => code)).toEqual(['startsWith']);
  const { fields } = describeSchema(schema);
  expect([fields?.['registration']?.rules[1], fields?.['toll']?.kind, fields?.['toll']?.type]).toEqual([
    { name: 'startsWith', params: { prefix: 'OT-' }, severity: 'error' },
    'money',
    'number',
  ]);
});

test('the types know what fits', () => {
  text('Name', startsWith({ prefix: 'x' }, 'No'), inSeason('No'));
  // @ts-expect-error the prefix is a text
  startsWith({ prefix: 3 });
  // @ts-expect-error one of two
  notTooMany({ most: 1, per: 'week' });
  // @ts-expect-error it does not fit a number
  number('N', startsWith({ prefix: 'x' }));
  // @ts-expect-error money is a number
  money('Toll', length({ max: 3 }));
  expect(money.definition.name).toBe('money');
});

test('an async rule of an author has texts, params and a notation; its function can be replaced by its name', async () => {
  const schema = group({ number: text('Number', registered({ land: 'NL' }, { severity: 'warning' })) });
  const told = async (value: string, options: object = {}) =>
    (await library.validateAsync(schema, { number: value }, options)).findings.map(({ code, message }) => `${code}: ${message}`);
  const checks = { registered: () => true };
  expect([await told('BE-1'), await told('NL-1'), await told('gone'), await told('BE-1', { messages: de }), await told('BE-1', { checks })]).toEqual([
    ['registered: Number is not on the register of NL'],
    [],
    ['customError: number is gone'],
    ['registered: Number fehlt im Register von NL'],
    [],
  ]);
  const again = fromJsonSchema(toJsonSchema(schema), { rules: [registered] });
  expect((await library.validateAsync(again, { number: 'BE-1' })).findings).toMatchObject([{ code: 'registered', severity: 'warning', params: { land: 'NL' } }]);
  const gate = createGate(schema, { initial: { number: 'BE-1' } });
  await gate.submit();
  expect(gate.field('number').shown).toMatchObject([{ code: 'registered', severity: 'warning' }]);
});
