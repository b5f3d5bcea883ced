// Schemas made from schemas.

import { expect, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { DataOf, Node } from 'upper-gate';
import { describeSchema, targetOf, type SchemaDescription } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema } from 'upper-gate/json-schema';
import { same } from './types/same.ts';

const { appliesWhen, fieldRules } = library;
const { after, asyncCheck, boolean, check, choice, choices, createGate, date, dictionary, extend, group, hasAsyncRules, keepDraft, length, list, mapped, number, omit } = library;
const { partial, pick, range, recursive, required, requiredWhen, text, validate, validateAsync, variant } = library;
const lines = (findings: readonly { path: string; code: string }[]): string[] => findings.map(({ path, code }) => `${path} ${code}`);
const boat = group({ name: text('Name', required()), beam: number('Beam'), tug: text('Tug', required()), crew: list('Crew', text('Member', required())) })
  .with(appliesWhen({ tug: (it) => (it.beam ?? 0) > 4 }))
  .with(fieldRules({ name: check((name) => name !== 'Titanic') }));

test('extend keeps conditions, rules and types; a replaced field has to fit', () => {
  const barge = extend(boat, { tonnes: number('Tonnes', required()), beam: number('Beam', range({ max: 9 })) }).with(fieldRules({ tug: requiredWhen((it) => it.tonnes > 9) }));
  same<DataOf<typeof barge>, { name: string; tug: string | undefined; crew: string[]; tonnes: number; beam: number | undefined }>(true);
  const values = { name: 'Titanic', beam: 5, tonnes: 3 };
  expect(lines(validate(barge, values).findings)).toEqual(['name customError', 'tug valueMissing']);
  expect(lines(createGate(barge, { initial: values }).findings)).toEqual(['name customError', 'tug valueMissing']);
  expect(validate(barge, { name: 'A', beam: 3, tonnes: 3 }).ok).toBe(true);
  // @ts-expect-error rules of the group read a number there
  expect(() => extend(boat, { beam: text('Beam') })).toThrow('extend() replaces "beam", whose values are of type number');
  expect(() => extend(boat, { 'a.b': text('x') })).toThrow('cannot be the name');
  expect(() => extend(text('A') as never, {})).toThrow('takes a group');
});

test('pick and omit leave out rules between fields only when told', () => {
  const plain = group({ a: text('A', required()), b: text('B'), c: text('C') });
  same<DataOf<ReturnType<typeof picked>>, { a: string; c: string | undefined }>(true);
  const picked = () => pick(plain, ['c', 'a']);
  expect([Object.keys(picked().fields), Object.keys(omit(plain, ['a']).fields)]).toEqual([
    ['a', 'c'],
    ['b', 'c'],
  ]);
  expect(() => pick(boat, ['name'])).toThrow("Write { clauses: 'drop' }");
  expect(lines(validate(pick(boat, ['name', 'tug'], { clauses: 'drop' }), { name: 'Titanic' }).findings)).toEqual(['tug valueMissing']);
  // @ts-expect-error no such field
  expect(() => omit(plain, ['d'])).toThrow('names the field "d"');
});

test('partial: what is not there is left out, and what is there obeys its own rules', () => {
  const update = partial(group({ boat, note: text('Note', required()), days: number('Days', range({ min: 1 })) }));
  same<DataOf<typeof update>['days'], number | undefined>(true);
  for (const [values, data, expected] of [
    [{}, {}, []],
    [{ days: '2' }, { days: 2 }, []],
    [{ days: '' }, { days: undefined }, []],
    [{ note: '' }, undefined, ['note valueMissing']],
    [{ note: null, days: 0 }, undefined, ['note valueMissing', 'days rangeUnderflow']],
    // A group that is there is there as a whole.
    [{ boat: { beam: 5 } }, undefined, ['boat.name valueMissing', 'boat.tug valueMissing']],
    [{ boat: { name: 'A', beam: 3, tug: 'x' } }, { boat: { name: 'A', beam: 3, tug: undefined, crew: [] } }, []],
  ] as const) {
    const result = validate(update, values);
    expect([lines(result.findings), result.ok ? result.data : undefined]).toEqual([expected, data]);
    if (result.ok) expect(Object.keys(result.data)).toEqual(Object.keys(values));
  }
  expect(validate(update, { days: '3' }, { source: 'json' }).ok).toBe(false);
  const document = toJsonSchema(partial(group({ note: text('Note', required()), days: number('Days') })));
  const read = fromJsonSchema(document);
  expect([toJsonSchema(read), validate(read, {}).ok, lines(validate(read, { note: '' }).findings)]).toEqual([document, true, ['note valueMissing']]);
  expect(describeSchema(read).fields?.['note']).toMatchObject({ optional: true });
  const edited = fromJsonSchema({ ...document, dependentRequired: { days: ['note'] } });
  const judged = [{}, { days: 3, note: 'x' }, { days: 3 }, { note: '' }].map((values) => lines(validate(edited, values, { source: 'json' }).findings));
  expect(judged).toEqual([[], [], ['note valueMissing'], ['note valueMissing']]);
});

test('mapped: the data is of another type, its own rules run on what it was, those of the group on what it is', () => {
  const day = (label: string) =>
    mapped(date(label, required(), range({ min: '2027-05-01' })), { to: (iso) => new Date(`${iso}T00:00Z`), from: (when) => when.toISOString().slice(0, 10) });
  const cents = mapped(number('Toll', range({ max: 9.5 })), { to: (euros) => BigInt(Math.round(euros * 100)), from: (amount) => Number(amount) / 100 });
  const stay = group({ from: day('From'), to: day('To'), toll: cents }).with(fieldRules({ to: check((to, it) => to.getTime() > it.from.getTime(), { code: 'order' }) }));
  same<DataOf<typeof stay>, { from: Date; to: Date; toll: bigint | undefined }>(true);
  const values = { from: '2027-05-02', to: '2027-05-04', toll: '9.25' };
  expect(validate(stay, values)).toMatchObject({ ok: true, data: { from: new Date('2027-05-02'), toll: 925n } });
  const wrong = { from: '2027-04-30', to: '2027-02-30', toll: '10' };
  for (const findings of [validate(stay, wrong).findings, createGate(stay, { initial: wrong }).findings])
    expect(lines(findings)).toEqual(['from rangeUnderflow', 'to badInput', 'toll rangeOverflow']);
  expect(lines(validate(stay, { from: '2027-05-04', to: '2027-05-04' }).findings)).toEqual(['to order']);
  const gate = createGate(stay, { initial: { from: new Date('2027-05-02'), to: '2027-05-03', toll: 125n } });
  expect([gate.root.raw, gate.state.valid, gate.state.dirty]).toEqual([{ from: '2027-05-02', to: '2027-05-03', toll: '1.25' }, true, false]);
  gate.rebase({ from: new Date('2027-05-01') });
  expect(gate.field('from').raw).toBe('2027-05-01');
  const inCents = mapped(number('Toll'), { to: (euros) => Math.round(euros * 100), from: (amount) => amount / 100 });
  const till = createGate(group({ toll: inCents }), { initial: { toll: 925 } });
  expect([till.field('toll').raw, till.field('toll').data]).toEqual(['9.25', 925]);
  till.field('toll').set('1.5');
  expect(till.field('toll').data).toBe(150);
  // @ts-expect-error a date is compared with none of these
  stay.with(fieldRules({ to: after('toll') }));
  expect(() => mapped(group({}) as never, { to: String, from: String })).toThrow('takes a field');
});

test('default: what a form, a reset and a new row begin with, below what is given; nothing to validating', () => {
  let made = 0;
  const member = group({ name: text({ label: 'Name', default: 'Ada' }, required()), berth: number({ label: 'Berth', default: () => (made += 1) }) });
  const stay = group({
    from: text({ label: 'From', default: '2027-05-01' }),
    days: number({ label: 'Days', default: 3.5, locale: 'de' }),
    ok: boolean({ label: 'Fine', default: true }),
    kind: choice({ label: 'Kind', default: 2 }, [1, 2]),
    kit: choices({ label: 'Kit', default: ['horn'] }, ['horn', 'lights']),
    paid: mapped(date({ label: 'Paid', default: '2027-05-01' }), { to: (day) => new Date(day), from: (when) => when.toISOString().slice(0, 10) }),
    cargo: variant({ label: 'Cargo', default: 'goods' }, 'load', { goods: group({ tonnes: number({ label: 'Tonnes', default: 2 }) }), none: group({}) }),
    crew: list({ label: 'Crew', default: [{ name: 'Bo' }, {}] }, member),
    note: text('Note'),
  });
  const data = {
    ...{ from: '2027-05-01', days: 3.5, ok: true, kind: 2, kit: ['horn'], paid: new Date('2027-05-01'), cargo: { load: 'goods', tonnes: 2 } },
    crew: [
      { name: 'Bo', berth: 1 },
      { name: 'Ada', berth: 2 },
    ],
    note: undefined,
  };
  const gate = createGate(stay);
  expect([gate.root.data, gate.state.dirty, gate.field('days').raw]).toEqual([data, false, '3,5']);
  gate.list('crew').add({ berth: null });
  gate.list('crew').add();
  expect(gate.root.data?.crew?.slice(2)).toEqual([
    { name: 'Ada', berth: undefined },
    { name: 'Ada', berth: 3 },
  ]);
  gate.set({ from: 'x' });
  gate.reset();
  expect([gate.field('from').raw, gate.root.data?.crew?.map(({ berth }) => berth)]).toEqual(['2027-05-01', [4, 5]]);
  gate.reset({ from: null, crew: [] });
  expect([gate.field('from').raw, gate.field('days').raw, gate.root.data?.crew]).toEqual(['', '3,5', []]);
  expect(validate(stay, {})).toMatchObject({ ok: true, data: { from: undefined, ok: false, crew: [] } });
  const faults: string[] = [];
  const broken = group({ a: text({ label: 'A', default: () => unknownName() }) });
  const unknownName = (): string => {
    throw new Error('none');
  };
  expect([createGate(broken, { onFault: ({ rule }) => faults.push(rule) }).field('a').raw, faults]).toEqual(['', ['default']]);
  const document = toJsonSchema(omit(stay, ['paid', 'crew']));
  expect(document['properties']).toMatchObject({ from: { default: '2027-05-01' }, kind: { default: 2 }, kit: { default: ['horn'] }, cargo: { default: { load: 'goods' } } });
  const read = fromJsonSchema(document);
  expect([toJsonSchema(read), createGate(read as typeof stay).field('cargo').data]).toEqual([document, { load: 'goods', tonnes: 2 }]);
  expect(describeSchema(stay).fields?.['kit']?.default).toEqual(['horn']);
  // @ts-expect-error of another type
  text({ label: 'A', default: 3 });
  // @ts-expect-error no option of the field
  choice({ label: 'A', default: 'x' }, ['a', 'b']);
});

interface Lock {
  name: string;
  tug: string | undefined;
  sides: Lock[];
}

test('recursive: rows within rows, as deep as the data is', async () => {
  const itself = recursive((): Node<Lock> => lock);
  const lock = group({ name: text('Name', required()), tug: text('Tug', required()), sides: list('Side locks', itself, length({ max: 2 })) }).with(
    appliesWhen({
      tug: (it) => it.sides.length > 0,
    }),
  );
  same<DataOf<typeof lock>['sides'], Lock[]>(true);
  for (const schema of [lock, group({ quay: group({ lock: itself }), other: itself })]) {
    const described = JSON.parse(JSON.stringify(describeSchema(schema))) as SchemaDescription;
    const { quay, other, sides } = described.fields!;
    const item = sides?.item ?? other!;
    expect(targetOf(described, item)).toBe(sides ? described : quay!.fields!['lock']!.target);
  }
  const raw = {
    name: 'A',
    tug: 'T',
    sides: [
      { name: 'B', sides: [{ name: '' }] },
      { name: 'C', tug: 'U', sides: [{}, {}, {}] },
    ],
  };
  const expected = ['sides.0.tug valueMissing', 'sides.0.sides.0.name valueMissing', ...[0, 1, 2].map((i) => `sides.1.sides.${i}.name valueMissing`), 'sides.1.sides tooMany'];
  expect(lines(validate(lock, raw).findings)).toEqual(expected);
  const gate = createGate(lock, { initial: raw });
  expect(lines(gate.findings)).toEqual(expected);
  gate.list('sides.1.sides').remove(2);
  gate.field('sides.0.sides.0.name').set('D');
  gate.list('sides.0.sides').add({ name: 'E' });
  gate.set({ sides: [{ sides: [] }] });
  // @ts-expect-error no such field
  expect(() => gate.field('sides.0.nome')).toThrow('no field');
  expect(gate.root.data).toMatchObject({ sides: [{ sides: [] }] });
  const read = fromJsonSchema(toJsonSchema(lock, {}), { checks: { tug: (it: { sides: unknown[] }) => it.sides.length > 0 } });
  expect(lines(validate(read, raw).findings)).toEqual(expected);
  // Deeper data than anybody means is refused, and ends.
  let deep: object = { name: 'x' };
  for (let i = 0; i < 5000; i += 1) deep = { name: 'x', tug: 'y', sides: [deep] };
  const refused = lines(validate(lock, deep).findings);
  expect(refused).toEqual([expect.stringMatching(/^(sides\.0\.?){101} badInput$/)]);
  // A form says the same, whoever puts it there: at the start, by an edit, from a draft; also of entries.
  const stored = `{"at": 0, "edits": {"sides": ${'[{"name": "x", "sides": '.repeat(5000)}[]${'}]'.repeat(5000)}}}`;
  const draft = createGate(lock);
  keepDraft(draft, { key: 'k', storage: { getItem: () => stored, setItem: () => undefined, removeItem: () => undefined } });
  const edited = createGate(lock);
  edited.set(deep);
  for (const form of [createGate(lock, { initial: deep as never }), edited]) expect(lines(form.findings)).toEqual(refused);
  expect(draft.list('sides').length).toBe(1);
  const entry = group({
    tolls: dictionary(
      'Tolls',
      recursive((): Node => entry),
    ),
  });
  let entries: object = {};
  for (let i = 0; i < 5000; i += 1) entries = { tolls: { a: entries } };
  expect(lines(createGate(entry, { initial: entries as never }).findings)).toEqual(lines(validate(entry, entries).findings));
  // Through another part, whose async rules count.
  const never = asyncCheck(() => Promise.resolve(false));
  const [basins, quays] = [recursive((): Node => basin), recursive((): Node => quay)];
  const quay: Node<{ locks: unknown[] }> = group({ locks: list('Locks', basins) });
  const basin = group({ name: text('Name', never), quays: list('Quays', quays) });
  expect([hasAsyncRules(quay), hasAsyncRules(basin), hasAsyncRules(lock)]).toEqual([true, true, false]);
  expect(lines((await validateAsync(quay, { locks: [{ quays: [{ locks: [{ name: 'x' }] }] }] })).findings)).toEqual(['locks.0.quays.0.locks.0.name customError']);
  // An either-or ends by itself; conditions see what is further in.
  type Tree = { kind: 'leaf' } | { kind: 'branch'; left: Tree; note: string | undefined } | undefined;
  const branch = group({ left: recursive((): Node<Tree> => tree), note: text('Note', required()) }).with(appliesWhen({ note: (it) => it.left?.kind === 'branch' }));
  const tree = variant('Tree', 'kind', { leaf: group({}), branch });
  expect(lines(validate(tree, { kind: 'branch', left: { kind: 'branch', left: { kind: 'leaf' } } }).findings)).toEqual(['note valueMissing']);
  const chain = group({ next: recursive((): Node => chain) });
  expect(() => createGate(chain)).toThrow('recursive() stands in a group here');
  // @ts-expect-error the data of another part
  const stands = (): Node<Lock> => wrong;
  const wrong = group({ name: number('Name'), tug: text('Tug'), sides: list('Side locks', recursive(stands)) });
});

const tolls = group({
  tolls: dictionary(
    { label: 'Tolls', hint: 'By class' },
    group({ euros: number('Euros', required(), range({ min: 1 })), note: text('Note') }),
    check((all) => Object.keys(all).length < 4, 'Three at most'),
  ),
  top: number('Top'),
}).with(fieldRules({ top: check((top, it) => Object.values(it.tolls).every(({ euros }) => euros <= top), 'Above the top') }));

test('dictionary: entries of one kind under any keys, in forms, documents and types', () => {
  same<DataOf<typeof tolls>['tolls'], { [key: string]: { euros: number; note: string | undefined } }>(true);
  for (const [raw, expected] of [
    [{}, []],
    [{ tolls: { barge: { euros: 3 } }, top: 2 }, ['top customError']],
    [{ tolls: { barge: { euros: 'x' }, canoe: {} } }, ['tolls.barge.euros badInput', 'tolls.canoe.euros valueMissing']],
    [{ tolls: { 'a.b': {}, '': {}, constructor: {} } }, ['tolls.a\\.b.euros valueMissing', 'tolls.\\e.euros valueMissing', 'tolls.constructor.euros valueMissing']],
    [JSON.parse('{"tolls": {"__proto__": {"euros": 0}}}'), ['tolls.__proto__.euros rangeUnderflow']],
    [{ tolls: { 'a\0': { euros: 1 }, '\ud83d': { euros: 1 } } }, ['tolls badInput', 'tolls badInput']],
    [{ tolls: Object.fromEntries('abcd'.split('').map((key) => [key, { euros: 1 }])) }, ['tolls customError']],
    [{ tolls: [1] }, ['tolls badInput']],
  ] as const) {
    expect(lines(validate(tolls, raw).findings)).toEqual(expected);
    if (!Array.isArray((raw as { tolls?: unknown }).tolls)) expect(lines(createGate(tolls, { initial: raw as never }).findings)).toEqual(expected);
  }
  const gate = createGate(tolls, { initial: { tolls: { barge: { euros: 3 } }, top: 4 } });
  gate.field('tolls.barge.euros').set('5');
  expect(gate.field('top').findings).toHaveLength(1);
  gate.set({ tolls: { barge: { note: 'x' }, canoe: { euros: 1 } } });
  expect([gate.root.data, gate.state.dirty, gate.has('tolls.yacht')]).toEqual([
    { tolls: { barge: { euros: 5, note: 'x' }, canoe: { euros: 1, note: undefined } }, top: 4 },
    true,
    false,
  ]);
  gate.set({ tolls: {} });
  expect([gate.state.valid, gate.root.raw]).toEqual([true, { tolls: {}, top: '4' }]);
  gate.reset();
  expect([gate.root.data, gate.state.dirty]).toEqual([{ tolls: { barge: { euros: 3, note: undefined } }, top: 4 }, false]);
  // Brought in from outside: what was removed or came here stays so.
  gate.set({ tolls: { canoe: { euros: 1 } } });
  gate.rebase({ tolls: { barge: { euros: 9 }, yacht: { euros: 2 } } });
  expect([Object.keys(gate.root.data?.tolls ?? {}).sort(), gate.state.dirty]).toEqual([['canoe', 'yacht'], true]);
  gate.set({ tolls: { barge: { euros: 9 }, yacht: { euros: 2 } } });
  expect(gate.state.dirty).toBe(false);
  gate.set({ tolls: { barge: { euros: 8 }, yacht: { euros: 2 }, raft: { euros: 1 } } });
  gate.rebase({ tolls: { yacht: { euros: 3 }, 'a\0': {} } as never });
  expect([gate.root.data?.tolls, lines(gate.findings)]).toEqual([
    { yacht: { euros: 3, note: undefined }, barge: { euros: 8, note: undefined }, raft: { euros: 1, note: undefined } },
    ['tolls badInput', 'top customError'],
  ]);
  const many = Object.fromEntries(Array.from({ length: 5000 }, (_, i) => [`k${i}`, { euros: 1 }]));
  gate.set({ tolls: many });
  gate.rebase({ tolls: many });
  expect([gate.state.dirty, gate.field('tolls.k4999.euros').raw]).toEqual([false, '1']);
  const document = toJsonSchema(tolls.fields.tolls.item);
  const plain = dictionary({ label: 'Tolls', default: { barge: 3 } }, number('Toll', required()), required());
  expect(toJsonSchema(plain)).toMatchObject({ type: 'object', additionalProperties: { type: 'number' }, default: { barge: 3 } });
  expect(toJsonSchema(fromJsonSchema(toJsonSchema(plain)))).toEqual(toJsonSchema(plain));
  expect(validate(fromJsonSchema({ type: 'object', additionalProperties: document }), { a: {} }).findings.map(({ path }) => path)).toEqual(['a.euros']);
  expect([createGate(group({ plain })).root.data, lines(validate(plain, {}).findings)]).toEqual([{ plain: { barge: 3 } }, [' valueMissing']]);
});
