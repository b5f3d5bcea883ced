// Lacking facts, drafts and saving, languages, limits; and tests of what mutations of the code once survived.
import { expect, jest, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { Node } from 'upper-gate';
import { fromJsonSchema } from 'upper-gate/json-schema';
import { de } from 'upper-gate/messages/de';
import { changesOf, keepSaved, markSaved } from 'upper-gate/saving';
import { readForm } from 'upper-gate/server';
import { isComplete, reviewOf } from 'upper-gate/wizard';
import { storageOf } from './storageOf.ts';

const { appliesWhen, askTogether, asyncCheck, asyncChoicesFrom, check, choicesFrom, context, createGate, date, defineKind, depending, dictionary, fieldRules, group } = library;
const { groupRules, keepDraft, length, list, number, range, required, requiredWhen, text, unreadable, validate, validateAsync } = library;
const pass = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

const limit = context<number>('limit');
const below = check((nights: number) => nights < limit.get());
const asks = asyncCheck((nights: number, { read }) => nights < read(limit), { debounce: 0 });
const stay = group({ nights: number('Nights'), other: text('Other') });
test.each<[string, Node]>([
  ['a rule', group({ nights: number('Nights', below), other: text('Other') })],
  ['a rule of the group', stay.with(fieldRules({ nights: below }))],
  ['a limit', stay.with(fieldRules({ nights: range(depending(() => ({ max: limit.get() }))) }))],
  ['whether it is required', stay.with(fieldRules({ nights: requiredWhen(() => limit.get() > 3) }))],
  ['whether it applies', stay.with(appliesWhen({ nights: () => limit.get() > 3 }))],
  ['options', stay.with(fieldRules({ nights: choicesFrom(() => [limit.get()]) }))],
  ['an async rule', group({ nights: number('Nights', asks), other: text('Other') })],
  ['options that are fetched', stay.with(fieldRules({ nights: asyncChoicesFrom(({ read }) => Promise.resolve([read(limit)])) }))],
])('what lacks a fact is neither valid nor validated, complete nor saved: %s', async (_, schema) => {
  const gate = createGate(schema as typeof stay, { initial: { nights: 2 }, onFault: () => undefined });
  const sent: unknown[] = [];
  const saving = keepSaved(gate, { save: ({ changes }) => void sent.push(changes), pause: 1 });
  gate.set({ nights: 9, other: 'x' });
  await pass(20);
  const { valid, validated } = gate.field('nights');
  const facts = async () => [gate.state.valid, await gate.validate('nights'), isComplete(gate, ['nights'])];
  expect([valid, validated, ...(await facts()), isComplete(gate, ['other'])]).toEqual([false, false, false, false, false, true]);
  expect([gate.findings.map(({ path, code }) => `${path}:${code}`), sent, saving.state]).toEqual([[':unanswered'], [{ other: 'x' }], { status: 'unsaved', why: 'invalid' }]);
  gate.setContext(limit, 9.5);
  gate.field('nights').set(9.5);
  gate.setContext(limit, 10);
  await pass(20);
  gate.field('nights').set(10);
  gate.field('nights').set(_.includes('options') ? 10 : 9);
  await pass(20);
  expect(await facts()).toEqual([true, true, true]);
  saving.stop();
});

test('the pause of an async rule on a group or list begins anew with each keystroke further in', async () => {
  jest.useFakeTimers();
  const asked: unknown[] = [];
  const rule = asyncCheck((value: unknown) => (asked.push(JSON.stringify(value)), true), { debounce: 100 });
  const gate = createGate(group({ a: text('A'), rows: list('Rows', group({ r: text('R') }), rule) }).with(groupRules(rule)), { initial: { rows: [{ r: '' }] } });
  for (const path of ['a', 'rows.0.r'] as const) {
    for (const typed of ['x', 'xy', 'xyz']) {
      gate.field(path).set(typed);
      await jest.advanceTimersByTimeAsync(60);
    }
    await jest.advanceTimersByTimeAsync(100);
  }
  jest.useRealTimers();
  expect(asked).toEqual(['{"a":"xyz","rows":[{}]}', '[{"r":"xyz"}]', '{"a":"xyz","rows":[{"r":"xyz"}]}']);
});

test('one request for the values of many fields, of one form or validation; a wrong number of answers is an error', async () => {
  const asked: (readonly string[])[] = [];
  const onRegister = askTogether(async (marks: readonly string[]) => {
    asked.push(marks);
    await pass(1);
    return marks.includes('few') ? [] : marks.map((mark) => mark !== 'bad' || 'Not on the register');
  });
  const mark = asyncCheck(onRegister, { debounce: 5 });
  const schema = group({ vessel: text('Vessel', mark), seals: list('Seals', text('Seal', mark)) });
  const seals = Array.from({ length: 30 }, (_, i) => (i === 7 ? 'bad' : `s${i}`));
  const results = await Promise.all([validateAsync(schema, { vessel: 'bad', seals }), validateAsync(schema, { seals: ['a'] })]);
  const found = results.map(({ findings }) => findings.map(({ path }) => path).join());
  expect([asked.map(({ length: many }) => many).join(), ...found]).toEqual(['30,1', 'vessel,seals.7', '']);
  const gate = createGate(schema, { initial: { vessel: 'v', seals: ['a', 'bad'] }, onFault: () => undefined });
  expect([(await gate.submit()).status, asked.at(-1)]).toEqual(['refused', ['v', 'a', 'bad']]);
  // What was typed over meanwhile is not asked about.
  gate.field('vessel').set('x');
  gate.field('vessel').leave();
  gate.field('vessel').set('few');
  gate.field('vessel').leave();
  await pass(30);
  expect([asked.length, asked.at(-1), gate.field('vessel').findings.map(({ code }) => code)]).toEqual([4, ['few'], ['crashed']]);
});

test('a draft is over once its edits are saved, reset, or what is saved anyway', async () => {
  const kept = new Map<string, string>();
  const storage = storageOf(kept);
  type G = library.Gate<typeof stay>;
  for (const end of [
    (gate: G) => markSaved(gate, { nights: 1, other: 'x' }),
    (gate: G) => keepSaved(gate, { save: () => undefined, pause: 1 }),
    (gate: G) => gate.field('other').reset(),
    (gate: G) => gate.rebase({ other: 'x' }),
  ]) {
    const gate = createGate(stay, { initial: { nights: 1, other: 'o' } });
    keepDraft(gate, { key: 'k', storage, wait: 1 });
    gate.field('other').set('x');
    await pass(5);
    expect(kept.get('k')).toContain('"other":"x"');
    end(gate);
    await pass(15);
    expect(kept.get('k')).toBeUndefined();
    gate.dispose();
  }
});

test('saved is not said while an edit that was saved has made another field wrong; what was wrong before does not count', async () => {
  const unlike = (value: string, { a }: { a: string | undefined }) => value !== a || 'Like A';
  const schema = group({ a: text('A'), b: text('B', required()), c: text('C') }).with(fieldRules({ b: check(unlike), c: check(unlike) }));
  const gate = createGate(schema, { initial: { a: '1', c: '2' } });
  const saving = keepSaved(gate, { save: () => undefined, pause: 1 });
  const states = [];
  for (const values of [{ a: 'x' }, { a: '2' }, { c: '3' }, { b: 'y' }, { a: 'y' }]) {
    gate.set(values);
    await pass(15);
    states.push(saving.state.status);
  }
  expect(states).toEqual(['saved', 'unsaved', 'saved', 'saved', 'unsaved']);
  saving.stop();
});

test('own kinds are written anew in another language; hints, and texts with slots, write limits as people read them', () => {
  const sign = (locale: string) => (locale === 'de' ? ',' : '.');
  const money = defineKind<number, string>({
    name: 'money',
    read: (raw, locale) => (raw === '' ? undefined : String(raw).includes(sign(locale)) ? Number(String(raw).replace(sign(locale), '.')) * 100 : unreadable()),
    write: (value, locale) => (typeof value === 'number' ? (value / 100).toFixed(2).replace('.', sign(locale)) : value),
    ...({ json: 'number', type: 'number', texts: { en: 'No' } } as const),
  });
  const schema = group({
    toll: money('Toll'),
    weight: number({ label: 'Weight', hint: 'From {min} to {max}' }, range({ min: 1, max: 1500.5 }, 'Not {max}')),
    day: date({ label: 'Day', hint: 'From {min}' }, range({ min: '2027-05-01' })),
  });
  const gate = createGate(schema, { initial: { toll: 250, weight: 9999 } });
  const [toll, weight, day] = [gate.field('toll'), gate.field('weight'), gate.field('day')];
  const said = () => [toll.raw, toll.valid, toll.dirty, weight.hint, day.hint, weight.findings[0]!.message];
  expect(said()).toEqual(['2.50', true, false, 'From 1 to 1,500.5', 'From May 1, 2027', 'Not 1,500.5']);
  gate.setLocale(de);
  expect(said()).toEqual(['2,50', true, false, 'From 1 to 1.500,5', 'From 01.05.2027', 'Not 1.500,5']);
});

test('of a fixed and a moving limit the tightest is told, in hints, counters, params and attributes', () => {
  const schema = group({ kind: text('Kind'), n: number({ label: 'N', hint: 'At most {max}' }, range({ min: 1, max: 9 })), note: text('Note', length({ max: 10 })) }).with(
    fieldRules({
      n: range(depending(({ kind }) => ({ ...(kind !== 'none' && { max: kind === 'small' ? 3 : 20 }) }))),
      note: length(depending(({ kind }) => ({ max: kind === 'small' ? 5 : 20 }))),
    }),
  );
  const gate = createGate(schema, { initial: { note: 'abc' } });
  const told = ['', 'small', 'none'].map((kind) => {
    gate.field('kind').set(kind);
    const { hint, params, attributes } = gate.field('n');
    return [hint, params['range'], attributes['max'], gate.field('note').counter];
  });
  const wide = ['At most 9', { min: 1, max: 9 }, '9', '3 of 10'];
  expect(told).toEqual([wide, ['At most 3', { min: 1, max: 3 }, '3', '3 of 5'], wide]);
});

test('a clause on a dictionary means each entry, in a form and in validate', () => {
  const schema = group({ stock: dictionary('Stock', group({ grams: number('Grams'), note: text('Note', required()) })) })
    .with(appliesWhen({ stock: { note: (_, { grams }) => grams !== 1 } }))
    .with(fieldRules({ stock: { grams: check((grams) => grams < 5 || 'Too much') } }));
  const stock = { rye: { grams: '9', note: 'x' }, oat: { grams: '1' }, bran: { grams: '2' } };
  const findings = validate(schema, { stock }).findings.map(({ path, code }) => `${path}:${code}`);
  expect(findings).toEqual(['stock.rye.grams:customError', 'stock.bran.note:valueMissing']);
  expect(createGate(schema, { initial: { stock } }).findings.map(({ path, code }) => `${path}:${code}`)).toEqual(findings);
  const whole = group({ stock: dictionary('Stock', number('Grams')) }).with(fieldRules({ stock: check(() => 'Not this') }));
  for (const { findings: all } of [createGate(whole, { initial: { stock: { rye: 1 } } }), validate(whole, { stock: { rye: 1 } })])
    expect(all.map(({ path }) => path)).toEqual(['stock']);
  // @ts-expect-error: a key names no entry
  expect(() => schema.with(fieldRules({ stock: { rye: { grams: check(() => true) } } }))).toThrow('names the field "stock.rye"');
});

test('a review lists what applies; a reset goes to the initial value, of one field or all, and that counts as saved', async () => {
  const schema = group({ a: text('A'), b: text('B') }).with(appliesWhen({ b: ({ a }) => a === 'x' }));
  const gate = createGate(schema, { initial: { a: '1', b: 'q' } });
  expect(reviewOf(gate, ['a', 'b']).map(({ path }) => path)).toEqual(['a']);
  for (const reset of [() => gate.field('a').reset(), () => gate.reset()]) {
    gate.field('a').set('x');
    expect([(await gate.submit()).status, gate.field('b').dirty]).toEqual(['accepted', false]);
    reset();
    expect([gate.field('a').raw, gate.state.dirty, changesOf(gate)]).toEqual(['1', false, {}]);
  }
});

// What mutations of the code once survived.

test('events and rows: the highest of several events counts; a group is left with its field; a row that goes takes with it that it was left', async () => {
  const asked: unknown[] = [];
  const onBlur = asyncCheck((value: string) => (asked.push(value), true), { on: 'blur' });
  const schema = group({ a: text('A', onBlur), within: group({ b: text('B') }).with(groupRules(check(() => 'No', { on: 'blur' }))), rows: list('Rows', text('R')) });
  const gate = createGate(schema, { initial: { rows: ['x', 'y'] } });
  gate.batch(() => {
    gate.field('a').leave();
    gate.field('a').set('x');
  });
  await pass(1);
  expect(asked).toEqual(['x']);
  gate.field('within.b').leave();
  expect(gate.field('within').findings).toHaveLength(1);
  const left = createGate(schema, { initial: { rows: ['x', 'y'] } });
  left.field('rows.0').leave();
  left.list('rows').remove(0);
  expect([left.state.touched, left.field('rows').touched]).toEqual([false, false]);
});

test('async rules: of kept answers the one that was used longest ago goes first; runs that edit what they read are counted in a row', async () => {
  const asked: string[] = [];
  const remembers = asyncCheck((value: string) => (asked.push(value), true), { debounce: 0, cache: 2 });
  const fields = group({ a: text('A', remembers), b: text('B'), c: text('C') });
  const edits = async (value: string, { siblings }: { siblings: { b: string | undefined } }) => {
    await Promise.resolve();
    if (siblings.b !== value && value.startsWith('e')) gate.field('b').set(value);
    return true;
  };
  const schema = fields.with(fieldRules({ c: asyncCheck(edits, { debounce: 0 }) }));
  const faults: unknown[] = [];
  const gate = createGate(schema, { onFault: ({ error }) => void faults.push(error) });
  for (const typed of ['a', 'b', 'a', 'c', 'a', 'b']) {
    gate.field('a').set(typed);
    await pass(1);
  }
  expect(asked.join('')).toBe('abcb');
  for (const typed of ['e1', 'n1', 'e2', 'n2', 'e3', 'n3', 'e4', 'e5', 'e6']) {
    gate.field('c').set(typed);
    await pass(2);
  }
  expect([faults, gate.field('b').data]).toEqual([[], 'e6']);
});

test('saving waits while a submission is checked; saveNow waits for what is under way', async () => {
  let answer = (_: boolean): void => undefined;
  const slow = asyncCheck(() => new Promise<boolean>((resolve) => (answer = resolve)), { debounce: 0, on: 'submit' });
  const gate = createGate(group({ a: text('A', slow), b: text('B') }), { initial: { a: 'x' } });
  const saved: unknown[] = [];
  let release = (): void => undefined;
  const saving = keepSaved(gate, { save: ({ changes }) => (saved.push(changes), new Promise<void>((resolve) => (release = resolve))), pause: 1 });
  gate.field('b').set('0');
  const submission = gate.submit();
  await pass(10);
  void saving.saveNow();
  await pass(1);
  expect([gate.state.status, saved]).toEqual(['checking', []]);
  answer(true);
  await submission;
  gate.field('b').set('1');
  await pass(10);
  let isOver = false;
  const now = saving.saveNow().then(() => (isOver = true));
  await pass(5);
  expect([saved, isOver]).toEqual([[{ b: '1' }], false]);
  release();
  await now;
  saving.stop();
});

test('what is read twice: a name counts as bytes, a stray % is one, and what is nullable in one place is not in another', async () => {
  const urlencoded = { method: 'POST', headers: { 'content-type': 'application/x-www-form-urlencoded' } };
  const read = (body: string) => readForm(new Request('http://harbour.test', { ...urlencoded, body }), { bytes: 50 });
  expect(await read('a=100%&b=%41%zz')).toMatchObject({ ok: true, raw: { a: '100%', b: 'A%zz' } });
  expect([(await read(`${'n'.repeat(60)}=1`)).ok, (await read(`${'n'.repeat(40)}=1`)).ok]).toEqual([false, true]);
  const data = new FormData();
  data.set('n'.repeat(60), '1');
  expect((await readForm(data, { bytes: 50 })).ok).toBe(false);
  const $ref = '#/$defs/a';
  const orNull = { anyOf: [{ $ref }, { type: 'null' }] };
  for (const allOf of [[orNull, { $ref }], [orNull, { $ref }].reverse()]) {
    const schema = fromJsonSchema({ type: 'object', properties: { a: { allOf } }, required: ['a'], $defs: { a: { type: 'string', minLength: 2 } } });
    expect([validate(schema, { a: null }, { source: 'json' }).ok, validate(schema, { a: 'xy' }, { source: 'json' }).ok]).toEqual([false, true]);
  }
});

test('an async rule of a group asks whatever others said of its fields, and not while these have errors of their own', async () => {
  jest.useFakeTimers();
  const answer = (severity: 'warning' | 'error') => asyncCheck(async () => ({ path: 'a', message: 'No', severity }), { debounce: 0 });
  for (const [severity, leaves, asks] of [
    ['error', false, 1],
    ['warning', true, 0],
  ] as const) {
    let asked = 0;
    const later = asyncCheck(async () => (asked += 1) > 0, { debounce: 20 });
    const fields = { a: text('A'), b: text('B', length({ max: 3 }, { on: 'blur' })) };
    const gate = createGate(group(fields).with(groupRules(answer(severity), later)));
    gate.set({ a: 'x', b: 'too long' });
    await jest.advanceTimersByTimeAsync(5);
    if (leaves) gate.field('b').leave();
    await jest.advanceTimersByTimeAsync(30);
    expect({ severity, asked }).toEqual({ severity, asked: asks });
  }
  jest.useRealTimers();
});

test('what an outdated run of an async rule reads does not make the rule run again', async () => {
  jest.useFakeTimers();
  let runs = 0;
  const slow = asyncCheck(
    async (value: string, { siblings }: { siblings: { other: string | undefined } }) => {
      runs += 1;
      if (value === 'slow') await pass(10);
      return value !== 'slow' || siblings.other !== 'x';
    },
    { debounce: 0, cache: 0 },
  );
  const gate = createGate(group({ a: text('A'), other: text('Other') }).with(fieldRules({ a: slow })));
  for (const a of ['slow', 'fast']) {
    gate.set({ a });
    await jest.advanceTimersByTimeAsync(2);
  }
  await jest.advanceTimersByTimeAsync(20);
  gate.set({ other: 'y' });
  await jest.advanceTimersByTimeAsync(5);
  expect(runs).toBe(2);
  jest.useRealTimers();
});
