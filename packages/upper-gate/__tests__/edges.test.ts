// The edges of the live form: what is true now, callbacks that throw or never end, answers of servers, what counts as saved.
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { inspect } from 'node:util';
import * as library from 'upper-gate';
import type { AnyGate, DraftOptions, GateOptions, Node } from 'upper-gate';
import { setDisabled } from 'upper-gate/binding';
import { asyncStandardSchemaRule } from 'upper-gate/interop';
import { de } from 'upper-gate/messages/de';
import { storageOf } from './storageOf.ts';

const { validateAsync, fieldRules, appliesWhen, groupRules, asyncCheck, check, choices, createGate, date, email, group, interval, keepDraft } = library;
const { length, list, noDuplicates, number, range, required, requiredWhen, text, validate, variant } = library;
const codes = (of: { findings: readonly { code: string }[] }) => of.findings.map(({ code }) => code);
const tick = () => new Promise((resolve) => setTimeout(resolve));

describe('a submission is decided by what is true now', () => {
  /** Each: a schema, valid values, and a change of the world that makes them wrong, then right again. */
  let limit = 5;
  let now = new Date(2027, 4, 1);
  let open = true;
  const withinLimit = check((a: number) => a <= limit);
  const fewRows = check((rows: readonly unknown[]) => rows.length <= limit);
  test.each<[string, Node, object, () => void, () => void]>([
    ['a rule that closes over a limit', group({ a: number('A', withinLimit) }), { a: 4 }, () => (limit = 3), () => (limit = 5)],
    ["'today' past midnight", group({ a: date('A', range({ min: 'today' })) }), { a: '2027-05-01' }, () => (now = new Date(2027, 4, 2)), () => (now = new Date(2027, 4, 1))],
    [
      'a rule between fields',
      group({ a: number('A'), b: number('B') }).with(fieldRules({ b: check((b, all) => b !== all.a || open) })),
      { a: 2, b: 2 },
      () => (open = false),
      () => (open = true),
    ],
    ['a condition', group({ a: text('A', required()), b: text('B') }).with(appliesWhen({ a: () => open })), { b: 'x' }, () => (open = true), () => (open = false)],
    ['a need', group({ a: text('A') }).with(fieldRules({ a: requiredWhen(() => open) })), {}, () => (open = true), () => (open = false)],
    ['a rule on a list', group({ a: list('A', text('a'), fewRows) }), { a: ['1', '2', '3', '4'] }, () => (limit = 3), () => (limit = 5)],
  ])('%s', async (_, schema, initial, spoil, mend) => {
    mend();
    const clock = { now: () => now, setTimeout: (run: () => void, ms: number) => setTimeout(run, ms), clearTimeout: (timer: unknown) => clearTimeout(timer as number) };
    const gate = createGate(schema, { initial, clock });
    expect((await gate.submit()).status).toBe('accepted');
    spoil();
    const before = gate.root.findings;
    expect(await gate.validate()).toBe(false);
    mend();
    expect(await gate.validate()).toBe(true);
    spoil();
    expect((await gate.submit()).status).toBe('refused');
    mend();
    const heard = jest.fn();
    expect((await gate.submit()).status).toBe('accepted');
    // The same results again concern nobody.
    gate.subscribe(heard);
    await gate.validate();
    expect(heard).not.toHaveBeenCalled();
    expect(before).toEqual([]);
  });

  test('what the rules say by the time the answers have come counts; an answer is kept, unless the rule keeps none', async () => {
    limit = 5;
    const asked = { kept: 0, never: 0 };
    const keep = asyncCheck(async () => (asked.kept += 1) > 0);
    const forget = asyncCheck(async () => (asked.never += 1) > 0, { cache: 0 });
    const gate = createGate(group({ a: number('A', withinLimit), b: text('B', keep), c: text('C', forget) }), { initial: { a: 4, b: 'x', c: 'x' } });
    const outcome = gate.submit();
    limit = 3;
    expect((await outcome).status).toBe('refused');
    limit = 5;
    expect((await gate.submit()).status).toBe('accepted');
    expect(asked).toEqual({ kept: 1, never: 2 });
  });

  test('nothing is sent that a batch under way has not validated yet', async () => {
    const sent = jest.fn();
    const gate = createGate(group({ a: number('A'), b: number('B') }).with(fieldRules({ b: check((b, all) => b !== all.a) })), { initial: { a: 1, b: 2 }, submit: sent });
    const outcome = gate.batch(() => {
      gate.field('a').set(2);
      return gate.submit();
    });
    expect((await outcome).status).toBe('refused');
    expect(sent).not.toHaveBeenCalled();
  });
});

describe('async rules of groups', () => {
  /** Another library's schema, which reads its value only after an `await`. */
  const slow = {
    '~standard': {
      version: 1 as const,
      vendor: 'other',
      validate: async (value: unknown) => {
        await Promise.resolve();
        // A copy, not what a callback sees of a live form.
        expect(Object.getOwnPropertyDescriptor(value, 'from')).toHaveProperty('value');
        const { from, to } = value as { from: number; to: number };
        return from < to ? { value } : { issues: [{ message: 'From must be before to', path: ['to'] }] };
      },
    },
  };
  test.each([
    ['a foreign schema', asyncStandardSchemaRule(slow, { debounce: 0 })],
    [
      'an own rule',
      asyncCheck(async (it: { from: number; to: number }) => (await Promise.resolve(it.from)) < it.to || { path: 'to', message: 'From must be before to' }, { debounce: 0 }),
    ],
  ])('%s runs again when a value changes that it read after an await, from the first change on, and its findings are on the fields that they name', async (_, rule) => {
    const gate = createGate(group({ from: number('From', required()), to: number('To', required()) }).with(groupRules(rule)), { initial: { from: 5, to: 9 } });
    gate.field('to').set(3);
    await tick();
    expect({ to: gate.field('to').findings, root: gate.root.findings }).toEqual({ to: [expect.objectContaining({ path: 'to', message: 'From must be before to' })], root: [] });
    gate.field('from').set(1);
    await tick();
    expect(gate.findings).toEqual([]);
    gate.field('from').set(4);
    await tick();
    expect(codes(gate.field('to'))).toEqual(['customError']);
    expect((await gate.submit()).status).toBe('refused');
    gate.field('to').set(7);
    await tick();
    expect((await gate.submit()).status).toBe('accepted');
  });

  test('a finding follows its field as that comes and goes', () => {
    const gate = createGate(
      group({ on: choices('On', ['b']), a: text('A'), b: text('B') })
        .with(appliesWhen({ b: (all) => all.on.length > 0 }))
        .with(groupRules(check((all) => all.a !== 'x' || { path: 'b', message: 'Not b' }))),
      { initial: { a: 'x', on: ['b'] } },
    );
    const where = () => [gate.field('b').findings.length, gate.root.findings.length, gate.state.errorCount];
    expect(where()).toEqual([1, 0, 1]);
    gate.field('on').set([]);
    expect(where()).toEqual([0, 1, 1]);
    gate.field('on').set(['b']);
    expect(where()).toEqual([1, 0, 1]);
  });
});

test('after dispose nothing runs, asks, sends or waits', async () => {
  const ran: string[] = [];
  const rules = [check(() => ran.push('rule') > 0), asyncCheck(() => new Promise<never>(() => ran.push('asked')), { debounce: 0 })];
  const gate = createGate(group({ a: text('A', ...rules), rows: list('Rows', text('Row')) }), { initial: { a: 'x' }, submit: () => ran.push('sent') });
  const [valid, outcome] = [gate.validate(), gate.submit()];
  for (const event of ['pass', 'fail'] as const) gate.on(event, () => ran.push(event));
  gate.dispose();
  expect(await Promise.all([valid, outcome])).toEqual([false, { status: 'interrupted' }]);
  expect(ran).not.toContain('pass');
  ran.length = 0;
  gate.field('a').set('y');
  gate.field('a').leave();
  setDisabled(gate.field('a'), true);
  gate.list('rows').add('z');
  gate.reset({ a: 'z' });
  gate.rebase({ a: 'z' });
  gate.addFindings([{ path: 'a', message: 'late' }]);
  expect([await gate.validate(), (await gate.submit()).status, gate.root.raw, gate.findings, ran]).toEqual([false, 'interrupted', { a: 'x', rows: [] }, [], []]);
  gate.dispose();
});

const boom = (): never => {
  throw new Error('boom');
};

describe('callbacks that throw', () => {
  const schema = group({ a: text('A', required()), b: text('B', required()) });
  const make = (options: GateOptions<typeof schema> = {}) => {
    const faults: string[] = [];
    const gate = createGate(schema, { onFault: ({ rule }: { rule: string }) => void faults.push(rule), ...options });
    return { gate, faults };
  };
  test("on('failed') keeps the real error", async () => {
    const { gate, faults } = make({ initial: { a: 'x', b: 'y' }, submit: () => Promise.reject(new Error('real')) });
    gate.on('failed', boom);
    await expect(gate.submit()).rejects.toThrow('real');
    expect(faults).toEqual(["on('failed')"]);
  });

  test.each(['onFault', "on('fault')"])('%s: the finding stays, and the second field is written', (which) => {
    const log = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    const gate = createGate(group({ a: text('A', check(boom)), b: text('B') }), which === 'onFault' ? { onFault: boom } : {});
    if (which !== 'onFault') gate.on('fault', boom);
    gate.set({ a: 'x', b: 'y' });
    expect({ raw: gate.root.raw, codes: codes(gate.field('a')), logged: log.mock.calls.length > 0 }).toEqual({ raw: { a: 'x', b: 'y' }, codes: ['crashed'], logged: true });
    log.mockRestore();
  });
});

describe('endless edits', () => {
  const count = (gate: AnyGate) => gate.field('a').set(`${String(gate.field('a').raw)}x`);
  test.each<[string, (faults: string[]) => AnyGate]>([
    [
      'two listeners that edit each other',
      (faults) => {
        const gate = createGate(group({ a: text('A'), b: text('B') }), { onFault: ({ error }) => faults.push(String(error)) });
        gate.field('a').subscribe(() => gate.field('b').set(`${gate.field('a').raw}b`));
        gate.field('b').subscribe(() => gate.field('a').set(`${gate.field('b').raw}a`));
        return gate;
      },
    ],
    [
      'a rule that edits its field',
      (faults) => {
        const rule = check(() => count(gate) === undefined);
        const gate: AnyGate = createGate(group({ a: text('A', rule) }), { onFault: ({ error }) => faults.push(String(error)) });
        return gate;
      },
    ],
  ])('%s are dropped after a thousand, with a fault that names them', (_, run) => {
    const faults: string[] = [];
    const gate = run(faults);
    for (const value of ['go', 'again']) {
      gate.field('a').set(value);
      expect(String(gate.field('a').raw).length).toBeLessThan(1010);
    }
    expect(faults).toEqual(Array(2).fill(expect.stringMatching(/"a".*1000 times/)));
  });

  test.each([
    ['at once', async () => undefined],
    ['after an await', () => tick()],
  ])('an async rule that edits its own field %s is a fault after three runs; one that settles down is none', async (_, wait) => {
    const faults: string[] = [];
    let runs = 0;
    const open = (edit: (value: string) => string): AnyGate => {
      runs = 0;
      const run = async (value: string) => {
        runs += 1;
        await wait();
        gate.field('a').set(edit(value));
        return true;
      };
      const gate: AnyGate = createGate(group({ a: text('A', asyncCheck(run, { debounce: 0 })) }), { onFault: ({ error }) => faults.push(String(error)) });
      return gate;
    };
    const wild = open((value) => `${value}x`);
    wild.field('a').set('a');
    for (let i = 0; i < 12; i += 1) await tick();
    expect(faults).toEqual([expect.stringMatching(/edits what it reads/)]);
    expect({ few: runs < 7, codes: codes(wild.field('a')), pending: wild.state.pending }).toEqual({ few: true, codes: ['unanswered'], pending: false });
    const calm = open((value) => value.toUpperCase());
    calm.field('a').set('a');
    for (let i = 0; i < 12; i += 1) await tick();
    expect({ runs, faults: faults.length, raw: calm.field('a').raw, codes: codes(calm.field('a')) }).toEqual({ runs: 2, faults: 1, raw: 'A', codes: [] });
  });
});

test('a field counts as validated only when all its rules have run', async () => {
  const gate = createGate(group({ a: text('A', length({ max: 3 }, { on: 'submit' })), b: text('B', email()) }));
  gate.set({ a: 'x', b: 'a@b' });
  const now = () => (['a', 'b'] as const).map((path) => `${gate.field(path).validated} ${gate.field(path).revealed}`);
  expect(now()).toEqual(['false false', 'true false']);
  gate.field('a').leave();
  gate.field('b').leave();
  expect(now()).toEqual(['false true', 'true true']);
  await gate.validate(undefined, { reveal: false });
  expect(now()).toEqual(['true true', 'true true']);
});

describe('what counts as saved', () => {
  const schema = group({ beam: number('Beam'), name: text('Name'), kinds: choices('Kinds', ['a', 'b']), crew: list('Crew', group({ name: text('Name') })) });
  test.each<[string, object, (gate: AnyGate) => void, boolean]>([
    ['the same number, written otherwise', { beam: '8.50' }, (gate) => gate.rebase({ beam: 8.5 }), false],
    ['blanks around a text', { name: ' Otter ' }, (gate) => gate.rebase({ name: 'Otter' }), false],
    ['rows that were added, and come from outside too', { crew: [{ name: 'Ann' }] }, (gate) => gate.rebase({ crew: [{ name: 'Ann' }] }), false],
    ['rows of other values', { crew: [{ name: 'Ann' }] }, (gate) => gate.rebase({ crew: [{ name: 'Bo' }] }), true],
    ['a row that was added and removed', {}, (gate) => (gate.list('crew').add(), gate.list('crew').remove(0)), false],
    ['another number', { beam: '8.5' }, (gate) => gate.rebase({ beam: 8 }), true],
  ])('%s', (_, values, change, dirty) => {
    const gate = createGate(schema);
    gate.set(values);
    change(gate);
    expect(gate.state.dirty).toBe(dirty);
  });

  test('acceptance counts what was sent; fields and rows edited meanwhile stay dirty; a reset leads to the initial values', async () => {
    let accept: (reply: unknown) => void = () => undefined;
    const gate = createGate(schema, { initial: { name: 'Otter', crew: [{ name: 'Ann' }] }, submit: () => new Promise((resolve) => (accept = resolve)) });
    gate.set({ name: 'Heron', beam: 3 });
    gate.list('crew').add({ name: 'Bo' });
    const outcome = gate.submit();
    await tick();
    gate.field('beam').set(4);
    gate.list('crew').remove(0);
    accept('ok');
    await outcome;
    const dirty = () => ['name', 'beam', 'crew'].filter((path) => gate.field(path as 'name').dirty);
    expect(dirty()).toEqual(['beam', 'crew']);
    gate.field('beam').set('3.0');
    gate.list('crew').add({ name: 'Ann' }, 0);
    expect(dirty()).toEqual([]);
    gate.reset();
    expect({ raw: gate.root.raw, dirty: dirty() }).toEqual({ raw: { beam: '', name: 'Otter', kinds: [], crew: [{ name: 'Ann' }] }, dirty: [] });
  });
});

test('a rule may have its own moment to show, earlier or later than its field', async () => {
  const taken = asyncCheck(async (value: string) => value !== 'taken' || 'Taken', { reveal: 'change', debounce: 0 });
  const loud = check((value: string) => value !== 'loud', { message: 'Too loud', reveal: 'change' });
  const late = check((value: string) => value !== 'late', { message: 'Too late', reveal: 'submit' });
  const gate = createGate(group({ a: text('A', length({ min: 4 }), loud, late, taken) }));
  const a = gate.field('a');
  const shown = (value: string) => (a.set(value), a.shown.map(({ message }) => message));
  expect([shown('abc'), shown('loud'), shown('late')]).toEqual([[], ['Too loud'], []]);
  a.set('taken');
  await tick();
  expect(a.shown.map(({ message }) => message)).toEqual(['Taken']);
  a.leave();
  expect([shown('abc'), shown('late')]).toEqual([['A must have at least 4 characters'], []]);
  await gate.validate('a', { reveal: false });
  expect(a.shown).toEqual([]);
  await gate.submit();
  expect(a.shown.map(({ message }) => message)).toEqual(['Too late']);
  gate.reset();
  expect([shown('late'), shown('loud')]).toEqual([[], ['Too loud']]);
});

test('an async rule gets the path and label of its field, in a form and in validateAsync', async () => {
  const asked: string[] = [];
  const ask = asyncCheck(async (_: string, { path, label }) => void asked.push(`${path} ${label}`), { debounce: 0 });
  const schema = group({ a: text({ label: { en: 'A', de: 'Ä' } }, ask), rows: list('Rows', text('Row', ask)) });
  await validateAsync(schema, { a: 'x', rows: ['y'] }, { messages: { locale: 'de' } });
  await createGate(schema, { initial: { a: 'x', rows: ['y', 'z'] } }).submit();
  expect(asked).toEqual(['a Ä', 'rows.0 Row', 'a A', 'rows.0 Row', 'rows.1 Row']);
});

test('values from outside are no edit: what became of a submission stays, and what is checked is what is there by then', async () => {
  let answer = (_: unknown): void => undefined;
  const asked: unknown[] = [];
  const check = asyncCheck((value) => (asked.push(value), new Promise<undefined>((resolve) => (answer = resolve as never))), { debounce: 0 });
  const sent: unknown[] = [];
  const gate = createGate(group({ a: text('A', check), b: text('B') }), { initial: { a: 'x' }, submit: (data) => (sent.push(data), data.b === 'no' ? { status: 409 } : 'M-1') });
  gate.on('accepted', ({ reply }) => gate.rebase({ b: reply as string }));
  const outcome = gate.submit();
  await tick();
  gate.rebase({ a: 'y' });
  answer(undefined);
  await tick();
  answer(undefined);
  await outcome;
  expect([gate.state.status, sent, gate.field('b').raw]).toEqual(['accepted', [{ a: 'y', b: undefined }], 'M-1']);
  gate.field('b').set('no');
  const refused = gate.submit();
  await tick();
  answer(undefined);
  await refused;
  gate.rebase({ a: 'z' });
  expect([gate.state.status, gate.root.shown.length]).toEqual(['refused', 1]);
  gate.field('b').set('yes');
  expect([gate.state.status, gate.root.shown.length]).toEqual(['editing', 0]);
  gate.dispose();
});

describe("a server's answer", () => {
  const schema = group({ slot: text('Slot', length({ min: 2 })), home: group({ city: text('City') }) });
  const answer = async (reply: unknown, options: object = {}) => {
    const gate = createGate(schema, { initial: { slot: '07:00' }, submit: typeof reply === 'function' ? reply : () => reply, ...options } as never);
    const outcome = await gate.submit();
    return { status: outcome.status, findings: gate.findings.map(({ path, code, message, severity }) => `${path}|${code}|${message}|${severity}`) };
  };
  const refused = 'The server rejected this without giving a reason';
  test.each<[string, unknown, string, string[]]>([
    ['a status alone', { status: 422 }, 'refused', [`|refused|${refused}|error`]],
    ['a status as digits', { status: '409', detail: 'Taken' }, 'refused', ['|refused|Taken|error']],
    ['a breakdown', { status: 503 }, 'refused', ['|failed|This could not be sent. Try again|error']],
    ['a response that is not ok', new Response('x', { status: 500 }), 'refused', ['|failed|This could not be sent. Try again|error']],
    ['a problem, thrown', () => Promise.reject({ errors: [{ pointer: '#/slot', detail: 'Taken', code: 'taken' }] }), 'refused', ['slot|taken|Taken|error']],
    ['a response, thrown', () => Promise.reject(new Response('x', { status: 404 })), 'refused', [`|refused|${refused}|error`]],
    ['a response with findings', Response.json({ findings: [{ path: 'slot', message: 'Taken' }] }, { status: 409 }), 'refused', ['slot|customError|Taken|error']],
    ['malformed entries beside a good one', { errors: [null, 7, { pointer: '/slot', detail: 'Taken' }, 'x'] }, 'refused', ['slot|customError|Taken|error']],
    ['nothing but malformed entries', { errors: [null], title: 'No' }, 'refused', ['|refused|No|error']],
    ['a pointer that is none', { errors: [{ pointer: 5, detail: 'Taken' }] }, 'refused', ['|customError|Taken|error']],
    ['a pointer of 40 kB', { errors: [{ pointer: '/a'.repeat(20_000), detail: 'Taken' }] }, 'refused', ['|customError|Taken|error']],
    ['a severity that does not exist', { findings: [{ path: 'slot', message: 'Taken', severity: 'fatal' }] }, 'refused', ['slot|customError|Taken|error']],
    ['a code that every object has', { findings: [{ path: 'slot', message: { a: 1 }, code: 'constructor' }] }, 'refused', [`slot|constructor|${refused}|error`]],
    ['a message by language', { findings: [{ path: 'slot', message: { en: 'Taken', de: 'Vergeben' } }] }, 'refused', ['slot|customError|Taken|error']],
    ['no errors', { errors: [], findings: [] }, 'accepted', []],
    ['no errors, with a status', { errors: {}, status: 400 }, 'refused', [`|refused|${refused}|error`]],
    [
      'a map of names to texts',
      { errors: { slot: ['taken', 'late'], 'home.city': 'unknown' } },
      'refused',
      ['slot|customError|taken|error', 'slot|customError|late|error', 'home.city|customError|unknown|error'],
    ],
    ['a map of maps', Response.json({ errors: { home: { city: { message: 'unknown', code: 'city' } } } }, { status: 422 }), 'refused', ['home.city|city|unknown|error']],
    ['a list with fields', { errors: [{ field: 'slot', message: 'taken' }] }, 'refused', ['slot|customError|taken|error']],
    [
      'names in brackets, and in a list',
      {
        errors: [
          { name: 'home[city]', title: 'unknown' },
          { path: ['home', 'city'], message: 'really' },
        ],
      },
      'refused',
      ['home.city|customError|unknown|error', 'home.city|customError|really|error'],
    ],
    ['a pointer with a message', Response.json([{ pointer: '/slot', message: 'taken' }], { status: 400 }), 'refused', ['slot|customError|taken|error']],
    ['a name that the form lacks', { errors: { card: 'declined' } }, 'refused', ['|customError|declined|error']],
    ['a message', Response.json({ message: 'Wrong password' }, { status: 401 }), 'refused', ['|refused|Wrong password|error']],
    ['an error', { status: 400, error: { message: 'Too late' } }, 'refused', ['|refused|Too late|error']],
    ['a map that holds itself', { errors: ((own: Record<string, unknown>) => (own['own'] = own))({ slot: 'taken' }) }, 'refused', ['slot|customError|taken|error']],
    ['a map, thrown', () => Promise.reject({ errors: { slot: 'taken' } }), 'refused', ['slot|customError|taken|error']],
    ['a map without an end', { errors: JSON.parse(`${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`) as unknown }, 'refused', [`|refused|${refused}|error`]],
    ['a status that accepts', { status: 201, errors: undefined }, 'accepted', []],
    ['an error with a status, returned', Object.assign(new Error('x'), { status: 404 }), 'accepted', []],
  ])('%s', async (_, reply, status, findings) => {
    expect(await answer(reply)).toEqual({ status, findings });
  });

  test('the option refusal reads other formats; an accepted answer that looks like an error causes a warning', async () => {
    const warned: unknown[] = [];
    const [warn, error] = [console.warn, console.error];
    console.warn = console.error = (...texts: unknown[]) => warned.push(texts.join(' '));
    const refusal = (reply: { error?: unknown; status?: number }) => {
      if (reply.error === 'throw') throw new Error('no');
      return reply.error === 'x' ? [{ path: 'slot', message: `said ${reply.status}` }] : reply.error;
    };
    const throws = (error: unknown) => () => Promise.reject({ error });
    const response = Response.json({ error: 'x' }, { status: 409 });
    const replies = [{ error: 'x' }, throws('x'), response, { error: [] }, { error: 7 }, { ok: false }, throws('throw'), { error: 'throw' }];
    const said: unknown[] = [];
    for (const reply of replies) said.push(await answer(reply, { refusal }).catch(() => 'failed'));
    [console.warn, console.error] = [warn, error];
    const accepted = { status: 'accepted', findings: [] };
    const withSlot = (text: string) => ({ status: 'refused', findings: [`slot|customError|${text}|error`] });
    expect(said).toEqual([withSlot('said undefined'), withSlot('said undefined'), withSlot('said 409'), accepted, accepted, accepted, 'failed', 'failed']);
    expect(warned.filter((text) => String(text).includes('taken for success'))).toHaveLength(3);
    expect(warned.filter((text) => String(text).includes('(refusal)'))).toHaveLength(1);
  });

  test('codes with params, and messages by language, are worded in the language of the form', async () => {
    const findings = [
      { path: 'slot', code: 'tooShort', message: 'At least 9', params: { min: 9 } },
      { path: 'home', message: { en: 'Where?', de: 'Wo?' } },
    ];
    expect((await answer({ findings }, { messages: de })).findings).toEqual([expect.stringMatching(/^slot\|tooShort\|.*9/), 'home|customError|Wo?|error']);
    expect((await answer({ findings }, { messages: de })).findings[0]).not.toMatch(/At least/);
    expect((await answer({ findings })).findings[0]).toBe('slot|tooShort|At least 9|error');
  });

  test('what rules found already is not said twice; what was added can be removed', () => {
    const gate = createGate(schema, { initial: { slot: '0' } });
    gate.addFindings([
      { path: 'slot', code: 'tooShort', message: 'Too short' },
      { path: 'slot', code: 'taken', message: 'Taken' },
      { path: 'home.street', message: 'Which?' },
    ]);
    gate.field('home.city').addFinding({ message: 'Unknown' });
    expect(gate.findings.map(({ path, code }) => `${path}:${code}`)).toEqual(['slot:tooShort', 'slot:taken', 'home.city:customError', 'home:customError']);
    gate.field('home').clearFindings();
    expect(codes(gate)).toEqual(['tooShort', 'taken']);
    gate.clearFindings('slot');
    expect(codes(gate)).toEqual(['tooShort']);
  });
});

describe('drafts', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  const schema = group({
    a: text('A'),
    b: text('B'),
    crew: list('Crew', group({ name: text('Name'), age: number('Age'), pin: text({ label: 'Pin', private: true }) })),
    cargo: variant('Cargo', 'cargo', { x: group({ note: text('Note') }), y: group({ note: text({ label: 'Note', private: true }) }) }),
  });
  const kept = new Map<string, string>();
  beforeEach(() => kept.clear());
  const storage = storageOf(kept);
  const open = (options: Partial<DraftOptions> = {}, submit?: () => unknown) => {
    const gate = createGate(schema, { onFault: () => undefined, ...(submit && { submit }) });
    return { gate, draft: keepDraft(gate, { storage: () => storage, key: 'k', wait: 10, ...options }) };
  };
  const edits = (): unknown => (JSON.parse(kept.get('k') ?? '{"edits": null}') as { edits: unknown }).edits;

  test('of what is stored only what fits comes back, and nothing private goes in', () => {
    const crew = [{ name: 'Ann', age: { x: 1 }, pin: 'p', other: 1 }, null];
    kept.set('k', JSON.stringify({ at: Date.now(), edits: { a: 7, b: 'B', crew, cargo: null, 'cargo.cargo': 'y', 'cargo.note': 'secret' } }));
    const { gate } = open();
    expect(gate.root.raw).toMatchObject({ a: '', b: 'B', cargo: { cargo: 'y', note: '' } });
    expect(gate.field('crew').raw).toEqual(['Ann', ''].map((name) => ({ name, age: '', pin: '' })));
    gate.field('crew.0.pin').set('secret');
    gate.field('cargo.note').set('secret');
    jest.advanceTimersByTime(10);
    expect(kept.get('k')).not.toMatch(/secret/);
  });

  test.each(['{"at": 1', 'null', '{"at": 1, "edits": null}', '{"at": 1}', '[]', '"x"'])('what is stored is no draft: %s', (stored) => {
    kept.set('k', stored);
    expect(open().draft.restored).toBe(false);
  });

  test('storage that throws when it is looked up; a gate behind a proxy; a gate that is disposed of', () => {
    const forbidden = open({ storage: boom });
    const full = open({ storage: { ...storage, setItem: boom } });
    full.gate.field('a').set('x');
    forbidden.gate.field('a').set('x');
    jest.advanceTimersByTime(10);
    expect(forbidden.gate.field('a').raw).toBe('x');
    const gate = new Proxy(createGate(schema), {});
    keepDraft(gate, { storage, key: 'k', wait: 10 });
    gate.field('a').set('proxied');
    gate.dispose();
    expect(edits()).toEqual({ a: 'proxied' });
  });

  test('a clock that throws as it is to keep a draft is a fault; the form, and whoever listens, go on', () => {
    const faults: unknown[] = [];
    let isBroken = true;
    const wait = (run: () => void, ms: number) => (isBroken ? boom() : setTimeout(run, ms));
    const clock = { now: () => new Date(), setTimeout: wait, clearTimeout: (timer: unknown) => clearTimeout(timer as number) };
    const gate = createGate(schema, { clock, onFault: ({ error }) => faults.push(error) });
    keepDraft(gate, { storage: () => storage, key: 'k', wait: 10 });
    let told = 0;
    gate.subscribe(() => (told += 1));
    gate.field('a').set('x');
    isBroken = false;
    gate.field('a').set('y');
    jest.advanceTimersByTime(20);
    expect({ told, faults: faults.length, kept: edits() }).toEqual({ told: 2, faults: 1, kept: { a: 'y' } });
  });

  test('what is edited in the batch in which keeping begins is kept, too', () => {
    const gate = createGate(schema);
    gate.batch(() => {
      gate.field('a').set('x');
      keepDraft(gate, { storage: () => storage, key: 'k', wait: 10 });
    });
    jest.advanceTimersByTime(20);
    expect(edits()).toEqual({ a: 'x' });
  });

  test("two tabs keep each other's edits, and learn where they collide", async () => {
    const conflicts: (readonly string[])[] = [];
    const [one, two] = [open(), open({ onConflict: (paths) => conflicts.push(paths) })];
    one.gate.set({ a: 'one', b: 'one' });
    jest.advanceTimersByTime(10);
    two.gate.set({ b: 'two' });
    jest.advanceTimersByTime(10);
    expect({ edits: edits(), conflicts }).toEqual({ edits: { a: 'one', b: 'two' }, conflicts: [['b']] });
    await two.gate.submit();
    expect(edits()).toEqual({ a: 'one' });
  });

  test('what is edited while it is sent is kept after acceptance', async () => {
    let accept: (reply?: unknown) => void = () => undefined;
    const { gate } = open({}, () => new Promise((resolve) => (accept = resolve)));
    gate.field('a').set('x');
    const outcome = gate.submit();
    await jest.advanceTimersByTimeAsync(0);
    gate.field('b').set('y');
    accept();
    await outcome;
    expect(edits()).toEqual({ b: 'y' });
  });
});

test('one field by program: reset, initial value, JSON', () => {
  const gate = createGate(group({ a: text('A', required()), pin: text({ label: 'Pin', private: true }) }), { initial: { a: 'x', pin: '1234' } });
  const a = gate.field('a');
  a.set('');
  a.leave();
  expect(a.initial).toBe('x');
  const facts = { touched: true, dirty: true, pending: false, valid: false, applies: true, required: true };
  expect(JSON.parse(JSON.stringify(a))).toEqual({ path: 'a', raw: '', findings: [expect.objectContaining({ code: 'valueMissing' })], ...facts });
  a.reset();
  expect(a.state).toMatchObject({ raw: 'x', touched: false, dirty: false, findings: [] });
  expect(JSON.parse(JSON.stringify(gate))).toMatchObject({ path: '', raw: { a: 'x' }, data: { a: 'x' }, state: { status: 'editing' } });
  for (const written of [JSON.stringify(gate), inspect(gate), inspect(gate.field('pin')), inspect(gate.root)]) expect(written).not.toMatch(/1234|kit|store/);
});

test('gate and validate agree on where findings are, whatever reads what', () => {
  const schema = group({ rows: list('Rows', group({ a: text('A') }), noDuplicates({ by: 'a' }), length({ max: 2 })) }).with(fieldRules({ rows: length({ min: 4 }) }));
  const values = { rows: [{ a: 'x' }, { a: 'x' }, { a: 'y' }] };
  expect(createGate(schema, { initial: values }).findings).toEqual(validate(schema, values).findings);
});

test('an interval validates its end whenever its beginning changes', () => {
  const gate = createGate(group({ stay: interval('Stay', date('From'), date('To')) }), { initial: { stay: { from: '2027-05-01', to: '2027-05-03' } } });
  gate.field('stay.from').set('2027-05-04');
  expect(codes(gate.field('stay.to'))).toEqual(['rangeUnderflow']);
  gate.field('stay.from').set('2027-05-02');
  expect(gate.findings).toEqual([]);
});
