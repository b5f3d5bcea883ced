// Data that travel: what is posted, patched, kept and given back reads equal, whatever the kinds and the schema.
import fc from 'fast-check';
import jsonPatch from 'fast-json-patch';
import {
  anyJson,
  boolean,
  choice,
  choices,
  color,
  createGate,
  custom,
  date,
  dateTime,
  defineKind,
  dictionary,
  group,
  integer,
  interval,
  jsonOf,
  keepDraft,
  list,
  mapped,
  month,
  number,
  range,
  recursive,
  text,
  time,
  unreadable,
  validate,
  valuesOf,
  variant,
  week,
} from 'upper-gate';
import { toJsonPatch, toMergePatch } from 'upper-gate/saving';
import { applyMergePatch, validateRequest } from 'upper-gate/server';
import { isDeepStrictEqual } from 'node:util';

const money = defineKind({
  name: 'money',
  read: (raw) => (isNone(raw) ? undefined : /^\d+\.\d\d$/.test(raw) ? Math.round(Number(raw) * 100) : unreadable()),
  write: (value) => (typeof value === 'number' ? (value / 100).toFixed(2) : value),
  json: 'number',
  type: 'number',
  texts: { en: 'An amount' },
});
const KIT = ['horn', 'lights'];
const isNone = (raw) => raw === '' || raw === undefined || raw === null;
const pair = /^(\d+)-(\d+)$/;
const span = custom('Span', {
  read: (raw) => (isNone(raw) ? undefined : new Map(Object.entries({ from: Number(pair.exec(raw)[1]), to: Number(pair.exec(raw)[2]) }))),
  write: (value) => (value instanceof Map ? `${value.get('from')}-${value.get('to')}` : value),
  toJson: (all) => Object.fromEntries(all),
  fromJson: (json) => new Map(Object.entries(json)),
});
const position = custom('Position', {
  read: (raw) => (isNone(raw) ? undefined : /^km \d+$/.test(raw) ? Number(raw.slice(3)) : unreadable()),
  write: (value) => (typeof value === 'number' ? `km ${value}` : value),
});
const reversed = (of) => Array.from(of).reverse().join('');
const side = group({
  name: text('Name'),
  sides: list(
    'Sides',
    recursive(() => side),
  ),
});

/** Every kind, with what its control may hold. */
const KINDS = {
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
      fromJson: (json) => new Date(json),
    }),
    '',
    '2027-05-28',
  ],
  'several, as a set': [
    mapped(choices('F', KIT), {
      to: (list) => new Set(list),
      from: (set) => [...set],
      toJson: (set) => [...set],
      fromJson: (json) => new Set(json),
    }),
    [],
    ['lights'],
  ],
  'of no JSON': [mapped(span, { to: (all) => all.get('from'), from: (at) => new Map(Object.entries({ from: at, to: at })) }), '', '3-3'],
  large: [mapped(integer('F'), { to: BigInt, from: Number, toJson: String, fromJson: (json) => BigInt(json) }), '', '12'],
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
  variant: [
    variant('F', 'load', { goods: group({ tons: number('Tons') }), none: group({}) }),
    { load: 'goods', tons: '3' },
    { load: 'none' },
  ],
  'rows of cases': [
    list('F', variant('F', 'load', { goods: group({ tons: number('Tons') }) })),
    [{ load: '' }, { load: 'goods', tons: '3' }],
  ],
  recursive: [side, { name: 'a', sides: [{ name: '', sides: [{ name: 'b', sides: [] }] }] }],
};
const limits = { depth: 20 };

/** What the browser sends of what controls hold. */
function* entriesOf(raw, path = '') {
  if (raw === false) return;
  if (typeof raw !== 'object' || raw === null) yield [path, raw === true ? 'on' : String(raw)];
  else for (const [key, each] of Object.entries(raw)) yield* entriesOf(each, KIT.includes(each) ? path : path ? `${path}.${key}` : key);
}
const inJson = (value) => JSON.parse(JSON.stringify(value));
const post = (body, type) => new Request('http://x/', { method: 'POST', body, headers: { 'content-type': type } });
const dataOf = (result) => (result.ok ? result.data : result.findings);
/** Without keys that have no value: whether they are there, JSON cannot say. */
const bare = (value) =>
  Array.isArray(value)
    ? value.map(bare)
    : typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype
      ? Object.fromEntries(Object.entries(value).flatMap(([key, each]) => (each === undefined ? [] : [[key, bare(each)]])))
      : value;

/** All the ways there and back. @returns those that changed something */
async function changed(picked, isNested) {
  const fields = Object.fromEntries(picked.map(([name], i) => [`f${i}`, KINDS[name][0]]));
  const schema = isNested ? group({ inner: group(fields), rows: list('Rows', group({ ...fields, name: text('Name') })) }) : group(fields);
  const rawOf = (which) => {
    const values = Object.fromEntries(picked.map(([name, ...at], i) => [`f${i}`, KINDS[name][1 + (at[which] % (KINDS[name].length - 1))]]));
    return isNested ? { inner: values, rows: [{ ...values, name: 'x' }] } : values;
  };
  const [before, now] = [0, 1].map((which) => dataOf(validate(schema, rawOf(which))));
  const [old, json] = [before, now].map((data) => inJson(jsonOf(schema, data)));
  const wrong = [];
  const way = (name, data, expected = now) => {
    if (!isDeepStrictEqual(bare(data), bare(expected))) wrong.push(name);
  };
  way('a file', dataOf(validate(schema, json, { source: 'json' })));
  way('a request', dataOf(await validateRequest(schema, post(JSON.stringify(json), 'application/json'), { limits })));
  const sent = new URLSearchParams([...entriesOf(rawOf(1))]);
  way('a form', dataOf(await validateRequest(schema, post(sent, 'application/x-www-form-urlencoded'), { limits })));
  const kept = new Map();
  const storage = {
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, value) => void kept.set(key, value),
    removeItem: (key) => void kept.delete(key),
  };
  const timers = [];
  const clock = { now: () => new Date(0), setTimeout: (run) => timers.push(run), clearTimeout: () => undefined };
  const gate = createGate(schema, { initial: valuesOf(schema, old), clock });
  way('initial values', gate.root.data, before);
  keepDraft(gate, { storage, key: 'k' });
  gate.set(rawOf(1));
  way('an edit', gate.root.data);
  timers.forEach((run) => run());
  way('a merge patch', dataOf(validate(schema, applyMergePatch(old, inJson(toMergePatch(gate)), limits), { source: 'json' })));
  // (Its own look at keys refuses some that are data.)
  const patched = jsonPatch.applyPatch(structuredClone(old), inJson(toJsonPatch(gate)), false, true, false).newDocument;
  way('a JSON Patch', dataOf(validate(schema, patched, { source: 'json' })));
  // In another language.
  const messages = { locale: 'de' };
  const again = createGate(schema, { initial: valuesOf(schema, old), clock, messages });
  keepDraft(again, { storage, key: 'k' });
  way('a draft', again.root.data);
  const loaded = createGate(schema, { messages });
  loaded.rebase(valuesOf(schema, json));
  way('a rebase', loaded.root.data);
  return wrong;
}

const field = fc.tuple(fc.constantFrom(...Object.keys(KINDS)), fc.nat(9), fc.nat(9));

export const attacks = [
  {
    name: 'data that travel, by ten ways',
    async run({ holds, note, isLong }) {
      const seen = new Set();
      const property = fc.asyncProperty(fc.array(field, { minLength: 1, maxLength: 4 }), fc.boolean(), async (picked, isNested) => {
        picked.forEach(([name]) => seen.add(name));
        const wrong = await changed(picked, isNested);
        if (wrong.length > 0) throw new Error(wrong.join(', '));
      });
      const { numRuns, failed, counterexample, error, seed } = await fc.check(property, {
        numRuns: isLong ? 2000 : 300,
        endOnFailure: true,
      });
      for (let run = 1; run < numRuns; run += 1) holds(true);
      holds(!failed, `${error}: seed ${seed}: ${JSON.stringify(counterexample)}`);
      holds(seen.size === Object.keys(KINDS).length, 'not every kind has travelled');
      note(`${seen.size} kinds, own and mapped ones too`);
    },
  },
];
