import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { GateOptions, Node } from 'upper-gate';
import { connect } from 'upper-gate/binding';
import { worded } from './wording.ts';

const { appliesWhen, fieldRules, groupRules } = library;
const { asyncCheck, boolean, check, createGate, email, group, length, number, range, required, requiredWhen, sameAs, text } = library;

const codes = (handle: { findings: readonly { code: string }[] }) => handle.findings.map(({ code }) => code);
const messages = (handle: { shown: readonly { message: string }[] }) => handle.shown.map(({ message }) => message);

describe('timing and reveal', () => {
  const lateRule = check((name: string) => name !== 'Titanic', { on: 'blur', message: 'Not that name' });
  const schema = group({
    vessel: text('Vessel', required(), length({ min: 2 }), lateRule),
    beam: number('Beam', range({ max: 5 }, { on: 'submit' })),
    note: text({ label: 'Note', reveal: 'change' }, length({ max: 3 }, { severity: 'warning' })),
  });

  test('nothing is shown before leaving a field; then a message goes, or changes, with the keystroke', () => {
    const gate = createGate(schema);
    const vessel = gate.field('vessel');
    expect(gate.state).toMatchObject({ valid: false, errorCount: 1, touched: false });
    vessel.set('T');
    expect({ 'codes of vessel': codes(vessel), 'messages of vessel': messages(vessel) }).toEqual({ 'codes of vessel': ['tooShort'], 'messages of vessel': [] });
    vessel.leave();
    expect(messages(vessel)).toEqual([expect.stringContaining('2')]);
    vessel.set('');
    expect(messages(vessel)).toEqual([worded('valueMissing', 'Vessel')]);
    vessel.set('Ti');
    expect(messages(vessel)).toEqual([]);
    vessel.set('Titanic');
    expect(messages(vessel)).toEqual(['Not that name']);
    gate.reset();
    expect({ raw: vessel.raw, touched: vessel.touched, 'messages of vessel': messages(vessel), 'codes of vessel': codes(vessel) }).toEqual({
      raw: '',
      touched: false,
      'messages of vessel': [],
      'codes of vessel': ['valueMissing'],
    });
  });

  test('a rule runs at its own event and at later ones', async () => {
    const gate = createGate(schema, { initial: { vessel: 'Titanic', beam: 9 } });
    const codesOf = () => [codes(gate.field('vessel')), codes(gate.field('beam'))];
    expect(codesOf()).toEqual([[], []]);
    gate.field('vessel').leave();
    gate.field('beam').leave();
    expect(codesOf()).toEqual([['customError'], []]);
    expect(await gate.validate('beam')).toBe(false);
    expect(codesOf()).toEqual([['customError'], ['rangeOverflow']]);
    expect(await gate.validate(['beam', 'vessel'])).toBe(false);
    gate.set({ beam: 4, vessel: 'Otter' });
    expect(await gate.validate()).toBe(true);
  });

  test('a field may be revealed earlier than the form; a warning does not block', () => {
    const gate = createGate(schema, { initial: { vessel: 'Otter' } });
    gate.field('note').set('long');
    expect(messages(gate.field('note'))).toHaveLength(1);
    expect(gate.state).toMatchObject({ valid: true, dirty: true });
    gate.field('note').set('');
    expect(gate.state.dirty).toBe(false);
  });

  test('of a field with several findings the first of the gravest may be shown alone', () => {
    const rules = [check(() => false, { severity: 'notice', message: 'n' }), check(() => false, 'one'), check(() => false, 'two')];
    const gate = createGate(group({ a: text('A', ...rules) }), { initial: { a: 'x' }, show: 'first' });
    expect(messages(gate.field('a'))).toEqual(['n']);
    gate.field('a').leave();
    expect({ shown: messages(gate.field('a')), errors: gate.state.errorCount }).toEqual({ shown: ['one'], errors: 2 });
  });

  test.each([
    ['change', [1, 1, 1]],
    ['blur', [0, 1, 1]],
    ['submit', [0, 0, 1]],
  ] as const)('reveal at %s', async (reveal, expected) => {
    const gate = createGate(schema, { reveal, initial: { vessel: 'Otter' } });
    const vessel = gate.field('vessel');
    const shown: number[] = [];
    vessel.set('O');
    shown.push(vessel.shown.length);
    vessel.leave();
    shown.push(vessel.shown.length);
    await gate.submit();
    shown.push(vessel.shown.length);
    expect(shown).toEqual(expected);
  });
});

describe('rules between fields', () => {
  let runs: string[] = [];
  beforeEach(() => void (runs = []));
  const counted =
    <A extends unknown[], R>(name: string, fn: (...args: A) => R) =>
    (...args: A): R => {
      runs.push(name);
      return fn(...args);
    };
  const schema = group({
    beam: number('Beam', required(), check(counted('own', (beam: number) => beam < 100))),
    lengthM: number('Length'),
    email: text('E-mail', email()),
    again: text('Repeat'),
    callBack: boolean('Call back'),
    phone: text('Phone'),
    tug: text('Tug', required()),
    home: group({ city: text('City'), street: text('Street', required()) }),
  })
    .with(appliesWhen({ tug: counted('only', (all: { beam: number }) => all.beam > 4), home: (all) => all.callBack }))
    .with(
      fieldRules({
        again: sameAs('email'),
        phone: requiredWhen(counted('phone', (all: { callBack: boolean; again: string | undefined }) => all.callBack && all.again !== 'no')),
        lengthM: check((lengthM, all) => {
          runs.push('length');
          return all.callBack || lengthM > all.beam;
        }, 'Short'),
      }),
    )
    .with(
      groupRules(
        check((all) => {
          runs.push('whole');
          return all.home?.city !== 'Atlantis' || 'No such place';
        }),
      ),
    );

  test('run again when, and only when, something that they read has changed', () => {
    const gate = createGate(schema, { initial: { beam: 3, lengthM: 10 } });
    const after = (edit: () => void): string[] => {
      runs = [];
      edit();
      return runs.sort();
    };
    expect(after(() => gate.field('email').set('a@b'))).toEqual([]);
    expect(after(() => gate.field('beam').set(3.5))).toEqual(['length', 'only', 'own']);
    expect(after(() => gate.field('beam').set('3.50'))).toEqual(['own']); // the same number: nobody else need know
    expect(after(() => gate.field('callBack').set(true))).toEqual(['length', 'phone', 'whole']);
    expect(after(() => gate.field('beam').set(4))).toEqual(['only', 'own']); // the length takes the other branch now
    expect(after(() => gate.field('again').set('no'))).toEqual(['phone']);
    expect(after(() => gate.field('home.city').set('Atlantis'))).toEqual(['whole']);
    expect(gate.root.findings).toMatchObject([{ path: '', message: 'No such place' }]);
    expect(after(() => gate.batch(() => [1, 2, 3].forEach((beam) => gate.field('beam').set(beam))))).toEqual(['only', 'own', 'own', 'own']);
  });
});

describe('network rules', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  /** A register under the test's control: every question waits until it is answered. */
  function register() {
    const asked: { value: string; signal: AbortSignal; answer: (said?: unknown) => void; fail: () => void }[] = [];
    const ask = (value: string, { signal }: { signal: AbortSignal }) =>
      new Promise<never>((resolve, reject) => asked.push({ value, signal, answer: resolve as () => void, fail: () => reject(new Error('net')) }));
    return { asked, ask };
  }
  const make = (options: GateOptions<Node> = {}, rule: object = {}) => {
    const { asked, ask } = register();
    const schema = group({ number: text('Number', required(), length({ min: 2 }), asyncCheck(ask, { debounce: 100, timeout: 1000, ...rule })), other: text('Other') });
    const gate = createGate(schema, { onFault: () => undefined, ...options } as never);
    return { asked, gate, number: gate.field('number') };
  };
  const pass = (ms: number) => jest.advanceTimersByTimeAsync(ms);

  test('one question for a burst of typing, none while the quick rules object, none for an empty field', async () => {
    const { asked, gate, number } = make();
    for (const value of ['O', 'OT', 'OT-', 'OT-1']) number.set(value);
    expect({ pending: number.pending, 'gate.state.pending': gate.state.pending }).toEqual({ pending: true, 'gate.state.pending': true });
    await pass(99);
    expect(asked).toHaveLength(0);
    await pass(1);
    expect(asked.map(({ value }) => value)).toEqual(['OT-1']);
    number.set('O');
    expect({ aborted: asked[0]!.signal.aborted, pending: number.pending }).toEqual({ aborted: true, pending: false });
    number.set('');
    await pass(500);
    expect(asked).toHaveLength(1);
  });

  test('a late answer to an old value changes nothing; an answer already had is not asked for again', async () => {
    const { asked, gate, number } = make();
    number.set('old');
    await pass(100);
    number.set('new');
    await pass(100);
    asked[1]!.answer('taken');
    await pass(0);
    expect(codes(number)).toEqual(['customError']);
    asked[0]!.answer();
    await pass(0);
    expect({ 'codes of number': codes(number), pending: number.pending }).toEqual({ 'codes of number': ['customError'], pending: false });
    number.set('newer');
    expect(codes(number)).toEqual([]);
    number.set('new');
    expect({ 'codes of number': codes(number), pending: number.pending, requests: asked.length }).toEqual({ 'codes of number': ['customError'], pending: false, requests: 2 });
    expect(gate.state.valid).toBe(false);
  });

  test('a notice is shown at once; leaving the field ends the wait', async () => {
    const { asked, number } = make();
    number.set('OT-1');
    number.leave();
    expect(asked).toHaveLength(1);
    asked[0]!.answer({ severity: 'notice', message: 'Free' });
    await pass(0);
    expect({ 'messages of number': messages(number), valid: number.valid }).toEqual({ 'messages of number': ['Free'], valid: true });
  });

  test.each([
    ['warn', 'warning', true],
    ['block', 'error', false],
  ])('no answer: %s', async (unanswered, severity, valid) => {
    const { asked, gate, number } = make({}, { unanswered, message: 'Own words for a wrong value' });
    number.set('OT-1');
    await pass(100);
    asked[0]!.fail();
    await pass(0);
    expect(number.findings).toMatchObject([{ code: 'unanswered', severity }]);
    expect(gate.state.valid).toBe(valid);
    void gate.submit();
    expect(asked).toHaveLength(2); // the submit asks again
    await pass(1000);
    expect({ aborted: asked[1]!.signal.aborted, 'codes of number': codes(number), params: number.findings[0]!.params }).toEqual({
      aborted: true,
      'codes of number': ['unanswered'],
      params: { reason: 'timeout' },
    });
  });

  test('an answer is kept for what was seen: groups read as such, fields that do not apply as nothing', async () => {
    const asked: string[] = [];
    const schema = group({ far: boolean('Far'), home: group({ city: text('City') }), tug: text('Tug'), number: text('Number') })
      .with(appliesWhen({ tug: (all) => all.far }))
      .with(fieldRules({ number: asyncCheck(async (value, { siblings }) => void asked.push(`${value} ${String(siblings.home.city)} ${String(siblings.tug)}`), { debounce: 0 }) }));
    const gate = createGate(schema);
    for (const values of [{ number: '7', tug: 'Tom', far: true }, { home: { city: 'Upper' } }, { home: { city: '' } }, { far: false }, { far: true }]) {
      gate.set(values);
      await pass(0);
    }
    expect(asked).toEqual(['7 undefined Tom', '7 Upper Tom', '7 undefined undefined']); // the third and the last were known
  });

  test('a submit skips the wait, joins what is under way, and is interrupted by an edit', async () => {
    const sent: unknown[] = [];
    const { asked, gate, number } = make({ submit: (data) => void sent.push(data) });
    number.set('OT-1');
    const first = gate.submit();
    expect(gate.submit()).toBe(first);
    expect({ requests: asked.length, status: gate.state.status }).toEqual({ requests: 1, status: 'checking' });
    gate.field('other' as never).set('edited' as never);
    expect(await first).toEqual({ status: 'interrupted' });
    expect({ status: gate.state.status, requests: asked.length }).toEqual({ status: 'editing', requests: 1 });
    const second = gate.submit();
    asked[0]!.answer();
    expect(await second).toMatchObject({ status: 'accepted' });
    expect({ requests: asked.length, sent }).toEqual({ requests: 1, sent: [{ number: 'OT-1', other: 'edited' }] });
  });

  test('reset and dispose end what is under way', async () => {
    const { asked, gate, number } = make();
    number.set('OT-1');
    await pass(100);
    gate.reset({ number: 'OT-2' });
    expect({ aborted: asked[0]!.signal.aborted, raw: number.raw, state: gate.state }).toEqual({
      aborted: true,
      raw: 'OT-2',
      state: expect.objectContaining({ pending: false, dirty: false, valid: true }),
    });
    const submission = gate.submit();
    gate.dispose();
    expect(await submission).toEqual({ status: 'interrupted' });
  });
});

describe('submission', () => {
  const schema = group({ vessel: text('Vessel', required()), slot: text('Slot'), home: group({ city: text('City') }) });
  const problem = (errors: object[]) => ({ title: 'Somebody was quicker', status: 409, errors });

  test('refused by the rules: everything is shown, focus goes to the first field with an error that can take it', async () => {
    const handler = jest.fn();
    const gate = createGate(group({ a: text('A', required()), b: text('B', required()), c: text('C', required()) }), { submit: handler });
    const focused: string[] = [];
    const position = (at: number) => ({ at, compareDocumentPosition: (other: { at: number }) => (other.at > at ? 4 : 2) });
    connect(gate.field('a'), { focus: () => focused.push('a'), element: position(3) });
    connect(gate.field('b'), { focus: () => focused.push('b') < 0, element: position(1) });
    connect(gate.field('c'), { focus: () => focused.push('c'), element: position(2) });
    const event = { preventDefault: jest.fn() };
    expect(await gate.submit(event)).toMatchObject({ status: 'refused', by: 'rules', findings: [{ path: 'a' }, { path: 'b' }, { path: 'c' }] });
    expect(focused).toEqual(['b', 'c']);
    expect(event.preventDefault).toHaveBeenCalledTimes(1);
    expect(handler).not.toHaveBeenCalled();
    expect(gate.field('c').shown).toHaveLength(1);
    expect(gate.state).toMatchObject({ status: 'refused', submitCount: 1 });
    gate.field('c').set('x');
    expect(gate.state.status).toBe('editing');
  });

  test('findings that name no field go to the nearest group; those of a field edited meanwhile are dropped', async () => {
    let answer: (reply: unknown) => void = () => undefined;
    const gate = createGate(schema, { initial: { vessel: 'Otter' }, submit: () => new Promise((resolve) => (answer = resolve)) });
    const outcome = gate.submit();
    gate.field('slot').set('edited');
    answer(problem([{ pointer: '/slot', detail: 'old' }, { pointer: '/home/street', detail: 'Which?' }, { detail: 'Late' }, { pointer: '/zzz' }]));
    expect(await outcome).toMatchObject({
      findings: [
        { path: 'home', message: 'Which?' },
        { path: '', message: 'Late' },
        { path: '', message: 'Somebody was quicker' },
      ],
    });
    expect(gate.field('slot').raw).toBe('edited');
    gate.addFindings([{ path: 'slot', message: 'told later', severity: 'notice' }]);
    expect(messages(gate.field('slot'))).toEqual(['told later']);
  });

  test('what the handler throws reaches the caller, is shown until the next edit, and loses nothing', async () => {
    const gate = createGate(schema, { initial: { vessel: 'Otter' }, submit: () => Promise.reject(new Error('boom')) });
    const failed: unknown[] = [];
    gate.on('failed', (error) => failed.push(error));
    await expect(gate.submit()).rejects.toThrow('boom');
    expect(gate.state).toMatchObject({ status: 'failed', valid: true, errorCount: 0 });
    expect({ shown: codes({ findings: gate.root.shown }), errors: gate.root.errors, raw: gate.field('vessel').raw, failed: failed.length }).toEqual({
      shown: ['failed'],
      errors: [],
      raw: 'Otter',
      failed: 1,
    });
    gate.field('slot').set('07:00');
    expect({ findings: gate.findings, status: gate.state.status }).toEqual({ findings: [], status: 'editing' });
  });

  test('without a handler a valid submit is accepted; events tell the course', async () => {
    const gate = createGate(schema, { initial: { vessel: 'Otter' } });
    const told: string[] = [];
    for (const event of ['submit', 'accepted', 'refused'] as const) gate.on(event, () => told.push(event));
    expect(await gate.submit()).toEqual({ status: 'accepted', data: { vessel: 'Otter', slot: undefined, home: { city: undefined } }, reply: undefined });
    gate.field('vessel').set('');
    await gate.submit();
    expect(told).toEqual(['submit', 'accepted', 'submit', 'refused']);
  });

  test('every event that there is has its occasion, and is in the docs', async () => {
    const told: Record<keyof library.GateEvents<unknown>, number> = { submit: 0, accepted: 0, refused: 0, failed: 0, pass: 0, fail: 0, fault: 0 };
    let isDown = true;
    const broken = check(() => JSON.parse('{') as boolean);
    const gate = createGate(group({ vessel: text('Vessel', required()), bad: text('Bad', broken) }), { submit: () => isDown && Promise.reject(new Error('down')) });
    for (const event of Object.keys(told) as (keyof typeof told)[]) gate.on(event, () => (told[event] += 1));
    await gate.submit(); // refused, and the field fails
    gate.field('bad').set('x'); // its rule throws
    gate.set({ vessel: 'Otter', bad: '' });
    await gate.submit().catch(() => undefined);
    isDown = false;
    await gate.submit();
    expect(told).toMatchObject({ submit: 3, refused: 1, failed: 1, accepted: 1 });
    expect(Object.entries(told).filter(([, times]) => times === 0)).toEqual([]);
    const docs = readFileSync(join(__dirname, '../../../docs/running.md'), 'utf8');
    expect(Object.keys(told).filter((event) => !new RegExp(`['\`]${event}['\`]`).test(docs))).toEqual([]);
  });
});

describe('listening', () => {
  const schema = group({ a: text('A', required()), b: text('B') });

  test('each listener hears once per operation, and only of its slice; snapshots are stable', () => {
    const gate = createGate(schema);
    const heard: string[] = [];
    gate.subscribe(() => heard.push('form'));
    gate.field('a').subscribe(() => heard.push('a'));
    gate.field('b').subscribe(() => heard.push('b'));
    const stop = gate.watch(
      ({ state }) => state.valid,
      (now) => heard.push(`valid ${now}`),
    );
    const before = [gate.state, gate.field('b').state];
    gate.field('a').set('x');
    expect(heard.splice(0)).toEqual(['a', 'form', 'valid true']);
    expect({ 'gate.state === before[0]': gate.state === before[0], "gate.field('b').state === before[1]": gate.field('b').state === before[1] }).toEqual({
      'gate.state === before[0]': false,
      "gate.field('b').state === before[1]": true,
    });
    gate.set({ a: '', b: '1' });
    expect(heard.splice(0).sort()).toEqual(['a', 'b', 'form', 'valid false']);
    stop();
    gate.field('a').set('y');
    gate.field('a').set('y');
    expect(heard).toEqual(['a', 'form']);
  });

  test('the language changes at run time; wrong calls are errors', () => {
    const gate = createGate(schema);
    gate.field('a').leave();
    gate.setLocale({ valueMissing: '{label} fehlt' });
    expect(messages(gate.field('a'))).toEqual(['A fehlt']);
    expect(() => gate.field('z' as never)).toThrow('The form has no field "z". Its fields: a, b.');
    expect(() => createGate(text('A'))).toThrow(/takes a group/);
    expect({ 'has a': gate.has('a'), 'has z': gate.has('z') }).toEqual({ 'has a': true, 'has z': false });
  });
});

test('a listener that another one removes is not called any more', () => {
  const gate = createGate(group({ a: text('A', required()) }));
  const ways: Readonly<Record<string, (listener: () => void) => () => void>> = {
    field: (listener) => gate.field('a').subscribe(listener),
    form: (listener) => gate.subscribe(listener),
    watch: (listener) => gate.watch(() => gate.field('a').touched, listener),
    event: (listener) => gate.on('fail', listener),
  };
  const called: string[] = [];
  for (const [way, listen] of Object.entries(ways)) {
    const first = listen(() => {
      called.push(way);
      first();
      second();
    });
    const second = listen(() => called.push(`${way}, removed`));
  }
  gate.field('a').leave();
  expect(called.sort()).toEqual(['event', 'field', 'form', 'watch']);
});
