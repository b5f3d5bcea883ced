// Limits and options that depend on other fields and on facts from outside.

import { worded } from './wording.ts';
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import type { Handle } from 'upper-gate';
import { describeSchema } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema, type JsonSchema } from 'upper-gate/json-schema';
import { de } from 'upper-gate/messages/de';

const { fieldRules, appliesWhen, asyncChoicesFrom, boolean, choice, choices, choicesFrom, context, createGate, date, depending, group } = library;
const { integer, length, list, number, oneOf, range, required, step, text, validate, validateAsync, variant } = library;
const lines = (findings: readonly { path: string; code: string }[]): string[] => findings.map(({ path, code }) => `${path} ${code}`);

type Kind = 'barge' | 'canoe';
interface Boat {
  readonly kind: Kind;
  readonly lock: string | undefined;
}
const MOST: Record<Kind, { max: number; crew: number }> = { barge: { max: 300, crew: 12 }, canoe: { max: 0.5, crew: 3 } };
const BERTHS: Record<string, readonly string[]> = { Oster: ['A1', 'A2'], Wester: ['A2', 'B1'] };
const closing = context('closing', { fallback: '2027-10-31' });
const checks = {
  maxWeight: ({ kind }: Boat) => ({ min: 0, max: MOST[kind].max, step: 0.5 }),
  maxCrew: ({ kind }: Boat) => ({ max: MOST[kind].crew }),
  berthsOf: (boat: { harbour: string | undefined }) => (boat.harbour === undefined ? undefined : (BERTHS[boat.harbour] ?? [])),
  untilClosing: () => ({ max: closing.get() }),
  packs: ({ kind }: Boat) => (kind === 'barge' ? 10 : undefined),
  piers: ({ kind }: Boat) => (kind === 'barge' ? [1, 2] : [3]),
  locks: ({ kind }: Boat) => (kind === 'barge' ? ['Great'] : ['Small']),
  extras: ({ kind }: Boat) => [{ value: 'tug', label: 'Tug' }, ...(kind === 'canoe' ? [{ value: 'carry', label: 'Portage' }] : [])],
};
const passage = group({
  kind: choice('Kind', ['barge', 'canoe'], required()),
  weight: number({ label: 'Cargo (t)', hint: { en: 'At most {max} t', de: 'Höchstens {max} t' } }),
  crew: list('Crew', group({ name: text('Name') })),
  remarks: text('Remarks'),
  harbour: choice('Harbour', ['Oster', 'Wester', 'Norder']),
  berth: text('Berth'),
  day: date('Day', range(depending(checks.untilClosing))),
  packs: integer('Packs'),
  pier: integer('Pier'),
  extras: choices('Extras', ['tug', 'carry', 'lamp']),
  lock: text('Lock'),
}).with(
  fieldRules({
    weight: range(depending(checks.maxWeight)),
    crew: length(depending(checks.maxCrew)),
    remarks: length(depending(checks.maxCrew)),
    berth: choicesFrom(checks.berthsOf),
    packs: step(depending(checks.packs)),
    pier: choicesFrom(checks.piers),
    extras: choicesFrom(checks.extras),
    lock: oneOf(depending(checks.locks)),
  }),
);

test.each<[values: object, expected: string[]]>([
  [{}, ['kind valueMissing']],
  [{ kind: 'x', weight: '900' }, ['kind notAllowed']],
  [{ kind: 'canoe', weight: '0.5', crew: [{}, {}, {}], remarks: 'abc', pier: '3', extras: ['carry'], lock: 'Small' }, []],
  [
    { kind: 'canoe', weight: '0.7', crew: [{}, {}, {}, {}], remarks: 'abcd', packs: '7', pier: '1', extras: ['lamp'], lock: 'Great' },
    ['weight rangeOverflow', 'weight stepMismatch', 'crew tooMany', 'remarks tooLong', 'pier notAllowed', 'extras notAllowed', 'lock notAllowed'],
  ],
  [{ kind: 'barge', packs: '7', harbour: 'Oster', berth: 'B1' }, ['berth notAllowed', 'packs stepMismatch']],
  [{ kind: 'barge', harbour: 'Norder', berth: 'A1' }, ['berth notAllowed']],
  [{ kind: 'barge', berth: 'anything', day: '2027-11-01' }, ['day rangeOverflow']],
])('the same in a form, a validation and a document: %j', (values, expected) => {
  expect(lines(validate(passage, values).findings)).toEqual(expected);
  const { findings } = validate(passage, values);
  expect(createGate(passage, { initial: values as never }).findings).toEqual(findings);
  const document = toJsonSchema(passage);
  const read = fromJsonSchema(JSON.parse(JSON.stringify(document)) as JsonSchema, { checks: checks });
  expect(toJsonSchema(read)).toEqual(document);
  expect(lines(validate(read, values).findings)).toEqual(expected);
});

test('params, options, counters, hints, attributes and messages follow', () => {
  const gate = createGate(passage, { initial: { kind: 'barge', remarks: 'abcd', harbour: 'Oster', berth: 'A1' } });
  const [weight, crew, remarks, berth, extras] = (['weight', 'crew', 'remarks', 'berth', 'extras'] as const).map((name) => gate.field(name) as Handle);
  const shown = (handle: Handle | undefined): unknown => handle!.options?.map(({ label }) => label).join();
  const facts = () => [weight!.params['range'], weight!.hint, weight!.attributes, crew!.counter, remarks!.counter, remarks!.findings[0]?.message, shown(berth), shown(extras)];
  expect(facts()).toEqual([{ min: 0, max: 300, step: 0.5 }, 'At most 300 t', { min: '0', max: '300', step: '0.5' }, '0 of 12', '4 of 12', undefined, 'A1,A2', 'Tug']);
  const heard = jest.fn();
  weight!.subscribe(heard);
  gate.field('kind').set('canoe');
  const tooLong = 'Remarks must have at most 3 characters';
  expect(facts()).toEqual([{ min: 0, max: 0.5, step: 0.5 }, 'At most 0.5 t', { min: '0', max: '0.5', step: '0.5' }, '0 of 3', '4 of 3', tooLong, 'A1,A2', 'Tug,Portage']);
  expect(heard).toHaveBeenCalledTimes(1);
  const options = berth!.options;
  gate.field('kind').set('barge');
  expect(berth!.options).toBe(options);
  // While it waits, there are none, and the hint is undefined.
  gate.field('kind').set('');
  expect(facts()).toEqual([undefined, '', {}, undefined, undefined, undefined, 'A1,A2', 'tug,carry,lamp']);
  gate.field('kind').set('barge');
  gate.setLocale(de);
  expect(weight!.hint).toBe('Höchstens 300 t');
});

test('what is no option any more stays, and is refused; what is one again is right', async () => {
  const gate = createGate(passage, { initial: { kind: 'barge', harbour: 'Oster', berth: 'A1' } });
  const berth = gate.field('berth');
  gate.field('harbour').set('Wester');
  expect([berth.raw, lines(berth.findings)]).toEqual(['A1', ['berth notAllowed']]);
  expect(await gate.submit()).toMatchObject({ status: 'refused', findings: [{ path: 'berth', params: { options: ['A2', 'B1'] } }] });
  gate.field('harbour').set('Oster');
  expect(await gate.submit()).toMatchObject({ status: 'accepted', data: { berth: 'A1' } });
});

test('facts from outside move limits of a field by themselves', () => {
  const gate = createGate(passage, { initial: { kind: 'barge', day: '2027-10-30' }, context: [closing.of('2027-10-31')] });
  const day = gate.field('day');
  expect([day.valid, day.attributes]).toEqual([true, { max: '2027-10-31' }]);
  gate.setContext(closing, '2027-10-01');
  expect([lines(day.findings), day.attributes, day.shown]).toEqual([['day rangeOverflow'], { max: '2027-10-01' }, []]);
});

test('limits that cannot be are a crash, here and there', () => {
  const schema = group({ a: number('A'), b: number('B') }).with(fieldRules({ b: range(depending(({ a = 0 }) => ({ min: a, max: 1 }))) }));
  const onFault = jest.fn();
  expect(lines(validate(schema, { a: 2, b: 1 }, { onFault }).findings)).toEqual(['b crashed']);
  expect(lines(createGate(schema, { initial: { a: 2, b: 1 }, onFault }).findings)).toEqual(['b crashed']);
  expect(String((onFault.mock.calls[0] as [{ error: unknown }])[0].error)).toContain('range() takes min not above max');
});

test('options are numbers and booleans, too: controls hold them as text, JSON as they are', () => {
  const schema = group({ chamber: choice('Chamber', [1, 2, { value: 3, label: 'Great' }], required()), open: choice('Open', [true, false]), days: choices('Days', [1, 7]) });
  const read = fromJsonSchema(JSON.parse(JSON.stringify(toJsonSchema(schema))) as JsonSchema);
  for (const each of [schema, read]) {
    const form = { chamber: '3', open: 'false', days: ['7', '1'] };
    expect(validate(each, form)).toMatchObject({ ok: true, data: { chamber: 3, open: false, days: [7, 1] } });
    expect(validate(each, { chamber: 3, open: false, days: [7] }, { source: 'json' })).toMatchObject({ ok: true });
    expect(lines(validate(each, { chamber: '3', open: 'false', days: ['7'] }, { source: 'json' }).findings)).toHaveLength(3);
    expect(lines(validate(each, { chamber: '4', open: 'x', days: [8] }).findings)).toEqual(['chamber notAllowed', 'open notAllowed', 'days notAllowed']);
  }
  const gate = createGate(schema, { initial: { chamber: 2, open: true, days: [7] } });
  expect(gate.root.raw).toEqual({ chamber: '2', open: 'true', days: ['7'] });
  (gate.field('days') as Handle).set(1);
  expect(gate.field('days').raw).toEqual(['1']);
});

describe('options that are fetched', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  const flush = () => jest.advanceTimersByTimeAsync(0);

  interface Load {
    readonly harbour: string;
    readonly signal: AbortSignal;
    readonly resolve: (berths: readonly string[]) => void;
    readonly reject: (error: Error) => void;
  }
  const make = () => {
    const loads: Load[] = [];
    const schema = group({ harbour: text('Harbour', required()), berth: text('Berth', required()), closed: boolean('Closed') })
      .with(appliesWhen({ berth: (it) => !it.closed }))
      .with(
        fieldRules({
          berth: asyncChoicesFrom(
            ({ siblings, signal }) => new Promise<readonly string[]>((resolve, reject) => void loads.push({ harbour: siblings.harbour, signal, resolve, reject })),
            { timeout: 5000 },
          ),
        }),
      );
    return { loads, schema };
  };

  test('come, and come again when what was read changes; late ones count no more', async () => {
    const { loads, schema } = make();
    const gate = createGate(schema, { initial: { harbour: 'Oster', berth: 'A1' } });
    const berth = gate.field('berth');
    const facts = () => [berth.pending, berth.options?.map(({ value }) => value), lines(berth.findings)];
    expect([...facts(), loads.length]).toEqual([true, undefined, [], 1]);
    loads[0]!.resolve(['A1']);
    await flush();
    expect(facts()).toEqual([false, ['A1'], []]);
    berth.set('B1');
    expect([...facts(), loads.length]).toEqual([false, ['A1'], ['berth notAllowed'], 1]);
    gate.field('harbour').set('Wester');
    gate.field('harbour').set('Norder');
    expect([...facts(), loads.length]).toEqual([true, undefined, [], 3]);
    expect(loads.map(({ signal }) => signal.aborted)).toEqual([false, true, false]);
    loads[1]!.resolve(['A1']);
    loads[2]!.resolve(['B1']);
    await flush();
    expect(facts()).toEqual([false, ['B1'], []]);
    // Nothing can be read while there is no harbour; and nothing is fetched for a field that does not apply.
    gate.field('harbour').set('');
    await flush();
    expect([...facts(), loads.length]).toEqual([false, undefined, [], 3]);
    berth.set('');
    expect(berth.errors.map(({ code, message }) => [code, message])).toEqual([['valueMissing', worded('firstOther', 'Berth', { otherLabel: 'Harbour' })]]);
    gate.field('harbour').set('Oster');
    expect(lines(berth.errors)).toEqual(['berth valueMissing']);
    gate.field('closed').set(true);
    expect([berth.pending, loads.at(-1)!.signal.aborted]).toEqual([false, true]);
    gate.field('closed').set(false);
    gate.dispose();
    expect(loads.at(-1)!.signal.aborted).toBe(true);
  });

  test('a submit waits for them; a failure is reported, and tried again', async () => {
    const { loads, schema } = make();
    const faults: unknown[] = [];
    const gate = createGate(schema, { initial: { harbour: 'Oster', berth: 'A1' }, onFault: ({ error }) => faults.push(error) });
    const berth = gate.field('berth');
    const outcome = gate.submit();
    await flush();
    expect(gate.state.status).toBe('checking');
    loads[0]!.reject(new Error('net'));
    await flush();
    // As an async rule without an answer: a warning, since the server has the last word.
    expect(await outcome).toMatchObject({ status: 'accepted' });
    // Without a value, that is what is wrong: it is not asked for what nobody can choose.
    berth.set('');
    expect(berth.errors.map(({ code, message }) => [code, message])).toEqual([['unanswered', worded('notLoaded', 'Berth')]]);
    berth.set('A1');
    expect([berth.findings.map(({ code, severity }) => `${code} ${severity}`), berth.pending, faults]).toEqual([['unanswered warning'], false, [new Error('net')]]);
    await jest.advanceTimersByTimeAsync(1000);
    const next = gate.submit();
    expect(loads).toHaveLength(2);
    loads[1]!.resolve(['B1']);
    expect(await next).toMatchObject({ status: 'refused', findings: [{ code: 'notAllowed' }] });
    gate.field('harbour').set('Wester');
    await jest.advanceTimersByTimeAsync(5000);
    expect(berth.findings).toMatchObject([{ code: 'unanswered', params: { reason: 'timeout' } }]);
  });
});

test('labels of options: by language; those of the field, of a case, where a rule or an either-or gives bare values', () => {
  const labels = { en: 'Port', de: 'Backbord' };
  const side = choice('Side', [{ value: 'p', label: labels }, 's']);
  const cargo = variant('Cargo', 'cargo', { none: group({}), goods: group({}, { label: { en: 'Goods', de: 'Fracht' } }) });
  const broken = choicesFrom((() => [{ value: 'x', label: 5 }]) as never);
  const schema = group({ side, again: side, cargo, x: text('X') }).with(fieldRules({ again: choicesFrom(() => ['s', 'p']), x: broken }));
  const gate = createGate(schema);
  const shown = () =>
    ['side', 'again', 'cargo.cargo', 'x'].map(
      (path) =>
        gate.has(path) &&
        gate
          .field(path)
          .options?.map(({ label }) => label)
          .join(),
    );
  const { options } = gate.field('side');
  expect(shown()).toEqual(['Port,s', 's,Port', 'none,Goods', 'x']);
  gate.set({ side: 's' });
  expect(gate.field('side').options).toBe(options);
  gate.setLocale(de);
  expect(shown()).toEqual(['Backbord,s', 's,Backbord', 'none,Fracht', 'x']);
  expect(describeSchema(side, { messages: de }).options).toEqual([
    { value: 'p', label: 'Backbord' },
    { value: 's', label: 's' },
  ]);
  const document = toJsonSchema(side);
  expect(document).toMatchObject({
    oneOf: [
      { const: 'p', title: 'Port', gate: { label: labels } },
      { const: 's', title: 's' },
    ],
  });
  expect(toJsonSchema(fromJsonSchema(document))).toEqual(document);
});

test('a message may name the values to choose from, fetched or not, in a form and in a validation', async () => {
  const message = 'One of {options}';
  for (const rule of [choicesFrom(() => ['A1', 'A2'], message), asyncChoicesFrom(() => ['A1', 'A2'], message)]) {
    const schema = group({ berth: text('Berth') }).with(fieldRules({ berth: rule }));
    const refused = { findings: [{ message: 'One of A1,A2', params: { options: ['A1', 'A2'] } }] };
    expect(await validateAsync(schema, { berth: 'B1' })).toMatchObject(refused);
    expect(await createGate(schema, { initial: { berth: 'B1' } }).submit()).toMatchObject(refused);
  }
});

test('random limits: a form and a validation agree, whatever is edited', () => {
  const schema = group({ a: number('A'), b: number('B'), c: text('C'), rows: list('Rows', group({ n: number('N') })) }).with(
    fieldRules({
      b: range(depending(({ a }) => (a === undefined ? undefined : { min: a, max: a + 2 }))),
      c: [length(depending(({ a = 0 }) => ({ max: Math.max(0, Math.trunc(a)) }))), oneOf(depending(({ rows }) => rows.map(({ n }) => `${n}`)))],
      rows: { n: range(depending(({ b }, row) => ({ max: (b ?? 0) + (row.n ?? 0) - 1 }))) },
    }),
  );
  const amount = fc.constantFrom('', '1', '2', '3', 'x');
  const values = fc.record({ a: amount, b: amount, c: amount, rows: fc.array(fc.record({ n: amount }), { maxLength: 2 }) });
  fc.assert(
    fc.property(fc.array(values, { minLength: 1, maxLength: 4 }), (edits) => {
      const gate = createGate(schema, { onFault: () => undefined });
      for (const edit of edits) {
        gate.set(edit);
        expect(gate.findings).toEqual(validate(schema, gate.root.raw).findings);
      }
    }),
  );
});
