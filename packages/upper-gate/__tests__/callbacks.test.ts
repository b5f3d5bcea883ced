// Whatever an author's function gives back or throws, the form goes on: afterwards it says what a fresh one would say.
import { afterAll, beforeAll, expect, jest, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import type { Node } from 'upper-gate';
import { connect } from 'upper-gate/binding';
import { fieldFromAttributes } from 'upper-gate/html';
import { standardSchemaRule } from 'upper-gate/interop';
import { fromJsonSchema } from 'upper-gate/json-schema';
import { keepSaved } from 'upper-gate/saving';
import { runs } from './runs.ts';

const { appliesWhen, asyncCheck, asyncChoicesFrom, check, choicesFrom, createGate, custom, depending, fieldRules, group, groupRules, keepDraft, list } = library;
const { mapped, noDuplicates, number, range, required, requiredWhen, text, validate, validateAsync } = library;

const boom = () => {
  throw new Error('boom');
};
const hostile = new Proxy({}, { get: boom, has: boom, ownKeys: boom, getPrototypeOf: boom });
const around: unknown[] = [];
around.push(around);
/** What functions give back, whatever the types say. */
const GIVEN: Readonly<Record<string, () => unknown>> = {
  throws: boom,
  'throws nothing': () => {
    throw undefined;
  },
  'throws what cannot be read': () => {
    throw hostile;
  },
  'throws an error whose message throws': () => {
    throw Object.defineProperty(new TypeError(), 'message', { get: boom });
  },
  nothing: () => undefined,
  null: () => null,
  'a number': () => 5,
  'no number': () => NaN,
  'a symbol': () => Symbol('s'),
  'a large number': () => 5n,
  'a function': () => boom,
  'a promise': () => Promise.resolve('x'),
  'a promise that rejects': () => Promise.reject(new Error('later')),
  'a promise that rejects with what cannot be read': () => Promise.reject(hostile),
  'what looks like a promise': () => ({ then: boom }),
  'what cannot be read': () => hostile,
  'a list in itself': () => around,
  'no prototype': () => Object.create(null),
  'params without a prototype': () => ({ message: 'x', params: { a: Object.create(null) } }),
  'params that throw': () => ({ message: '{a}', code: 'own', params: { a: { toString: boom } } }),
  'a path that is none': () => ({ message: 'x', path: 5 }),
  'a message that is none': () => ({ message: { en: 5 } }),
  'a severity that is none': () => ({ message: 'x', severity: 'fatal' }),
  'an answer that cannot be read': () => ({ ok: false, status: 422, json: boom, headers: {} }),
  'an answer that throws': () => ({ ok: false, status: 422, json: boom, headers: { get: boom } }),
  'an answer whose parts throw': () => Object.defineProperty({}, 'errors', { get: boom, enumerable: true }),
  'throws an answer that cannot be read': () => {
    throw { ok: false, status: 422, json: boom, headers: {} };
  },
  'throws an answer whose parts throw': () => {
    throw Object.defineProperty({}, 'errors', { get: boom, enumerable: true });
  },
  'no time': () => new Date(NaN),
  'a limit that is none': () => ({ min: {}, max: Symbol('max') }),
  options: () => [{ value: hostile, label: 5 }],
};

/** Which function misbehaves, and how. */
let trouble: { readonly at: string; readonly give: () => unknown } | undefined;
const at =
  <A extends unknown[], T>(name: string, usual: (...args: A) => T) =>
  (...args: A): T =>
    trouble?.at === name ? (trouble.give() as T) : usual(...args);
/** The functions that a schema has. */
const NAMES =
  'check fieldCheck groupCheck requiredWhen condition limit choices load ask read write same default message to from row submit refusal storage listener event watch focus save'.split(
    ' ',
  );

const schema = group({
  a: text('A', required(), check(at('check', (value: string) => value !== 'bad' || 'Bad'))),
  b: text(
    { label: 'B', default: at('default', () => 'b') },
    check(() => true, { message: at('message', () => 'No') }),
  ),
  n: number('N'),
  kind: text('Kind'),
  asked: text(
    'Asked',
    asyncCheck(
      at('ask', async (value: string) => (await Promise.resolve(value)) !== 'bad' || 'Bad'),
      { debounce: 0, timeout: 20, cache: 0 },
    ),
  ),
  own: custom('Own', {
    read: at('read', (raw: unknown) => (raw === '' ? undefined : String(raw))),
    write: at('write', (value: unknown) => value as string),
    same: at('same', (one: unknown, other: unknown) => one === other),
  }),
  cents: mapped(number('Cents'), { to: at('to', (value: number) => value * 100), from: at('from', (value: number) => value / 100) }),
  rows: list('Rows', group({ r: text('R', check(at('row', (value: string) => value !== 'bad' || 'Bad'))) }), noDuplicates({ by: 'r' })),
}).with(
  appliesWhen({ n: at('condition', ({ kind }: { kind?: string | undefined }) => kind !== 'none') }),
  fieldRules({
    b: [check(at('fieldCheck', (value: string, { a }: { a: string }) => value !== a || 'Like A')), requiredWhen(at('requiredWhen', ({ kind }) => kind === 'b'))],
    n: range(depending(at('limit', ({ kind }: { kind?: string | undefined }) => ({ max: kind === 'small' ? 3 : 9 })))),
    kind: [choicesFrom(at('choices', () => ['none', 'b', 'small', ''])), asyncChoicesFrom(at('load', () => ['none', 'b', 'small']))],
  }),
  groupRules(check(at('groupCheck', ({ a }: { a: string }) => a !== 'all' || 'Not all'))),
);
const VALUES: Readonly<Record<string, readonly unknown[]>> = {
  a: ['', 'bad', 'ok', 'all'],
  b: ['', 'ok', 'b'],
  n: ['', '2', '5', '12', 'x'],
  kind: ['', 'none', 'b', 'small', 'other'],
  asked: ['', 'bad', 'ok'],
  own: ['', 'x'],
  cents: ['', '2.5', 'x'],
  'rows.0.r': ['', 'bad', 'same'],
  'rows.1.r': ['', 'same'],
};
const initial = { a: 'ok', b: 'ok', n: '2', kind: '', asked: '', own: 'x', cents: '', rows: [{ r: 'x' }, { r: 'same' }] };
const kept = new Map<string, string>();
const storage = at('storage', () => ({
  getItem: (name: string) => kept.get(name) ?? null,
  setItem: (name: string, value: string) => void kept.set(name, value),
  removeItem: (name: string) => void kept.delete(name),
}));

function begin(values: object) {
  const gate = createGate(schema, {
    initial: values as never,
    submit: at('submit', () => ({ status: 200 })),
    refusal: at('refusal', () => undefined),
    onFault: () => undefined,
  });
  gate.field('b').subscribe(at('listener', () => undefined));
  gate.on(
    'refused',
    at('event', () => undefined),
  );
  connect(gate.field('a'), { focus: at('focus', () => true) });
  return gate;
}
const quiet = () => new Promise((resolve) => setTimeout(resolve, 30));
/** A value that can be compared and printed. */
const plain = (value: unknown): unknown =>
  value === hostile || value === around
    ? 'hostile'
    : Array.isArray(value)
      ? value.map(plain)
      : typeof value === 'object' && value !== null
        ? Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, plain(inner)]))
        : String(value);
const facts = (gate: ReturnType<typeof begin>, status: string) =>
  plain({
    status,
    said: gate.findings.map(({ path, code, message, severity }) => [path, code, message, severity]),
    data: gate.root.data,
    raw: gate.root.raw,
    state: { ...gate.state, dirty: false, submitCount: 0 },
    touched: Object.keys(VALUES).map((path) => gate.field(path as 'a').touched),
  });

const unhandled = jest.fn();
beforeAll(() => {
  // (The console says what was put up with.)
  for (const how of ['error', 'warn'] as const) jest.spyOn(console, how).mockImplementation(() => undefined);
  process.on('unhandledRejection', unhandled);
});
afterAll(() => {
  jest.restoreAllMocks();
  process.off('unhandledRejection', unhandled);
});

const step = fc.oneof(
  fc.constantFrom(...Object.keys(VALUES)).chain((path) => fc.constantFrom(...VALUES[path]!).map((value) => ['set', path, value] as const)),
  fc.constantFrom(...Object.keys(VALUES)).map((path) => ['leave', path, undefined] as const),
  fc.constant(['submit', '', undefined] as const),
);
test('any function may throw or return anything, at any time: no call throws or hangs, and what is left is what a fresh form says', async () => {
  await fc.assert(
    fc.asyncProperty(fc.constantFrom(...NAMES), fc.constantFrom(...Object.keys(GIVEN)), fc.array(step, { minLength: 1, maxLength: 8 }), async (name, given, steps) => {
      trouble = undefined;
      kept.clear();
      const gate = begin(initial);
      const draft = keepDraft(gate, { key: 'k', storage, wait: 1 });
      const saving = keepSaved(gate, { save: at('save', () => ({ status: 200 })), pause: 1e12 });
      const left = new Set<string>();
      trouble = { at: name, give: GIVEN[given]! };
      let watched: (() => void) | undefined;
      try {
        watched = gate.watch(
          at('watch', () => gate.state.errorCount),
          () => undefined,
        );
      } catch {
        // (What a selector throws at once is for whoever calls.)
      }
      for (const [what, path, value] of steps) {
        if (what === 'set') gate.field(path as 'a').set(value as string);
        else if (what === 'leave') {
          gate.field(path as 'a').leave();
          left.add(path);
        } else {
          // It ends, one way or another.
          await Promise.race([gate.submit().catch(() => undefined), new Promise((_, reject) => setTimeout(() => reject(new Error('never ends')), 500))]);
        }
      }
      await saving.saveNow();
      await quiet();
      trouble = undefined;
      watched?.();
      saving.stop();
      draft.stop();
      gate.setLocale(undefined);
      const fresh = begin(gate.root.raw as object);
      for (const path of left) fresh.field(path as 'a').leave();
      const ends = [];
      for (const each of [gate, fresh]) ends.push(facts(each, (await each.submit()).status));
      expect(ends[0]).toEqual(ends[1]);
      [gate, fresh].forEach((each) => each.dispose());
    }),
    { ...runs(400), endOnFailure: true },
  );
  expect(unhandled).not.toHaveBeenCalled();
}, 60_000);

test('what a callback or a server has put into words is shown as it is; who wants slots returns a code', async () => {
  const said = '{label} {min}';
  const answers: [string, Node, object?][] = [
    [
      'check',
      text(
        'A',
        check(() => said),
      ),
    ],
    [
      'a finding',
      text(
        'A',
        check(() => ({ message: { en: said, de: 'x' }, params: { min: 3 } })),
      ),
    ],
    [
      'asyncCheck',
      text(
        'A',
        asyncCheck(() => Promise.resolve(said)),
      ),
    ],
    ['defineRule', text('A', library.defineRule({ name: 'r', params: {}, test: () => said, texts: { en: 'no' } })())],
    ['unreadable', custom('A', { read: () => library.unreadable(said) })],
    ['a foreign schema', text('A', standardSchemaRule({ '~standard': { version: 1, vendor: 'v', validate: () => ({ issues: [{ message: said }] }) } }))],
  ];
  const templates: [string, Node, object?][] = [
    [
      'an option',
      text(
        'A',
        check(() => false, '{label}!'),
      ),
    ],
    [
      'a code',
      text(
        'A',
        check(() => ({ code: 'own', params: { min: 3 } })),
      ),
      { messages: { own: { own: '{label} {min}' } } },
    ],
    [
      'a code with the message of the rule',
      text(
        'A',
        check(() => ({ code: 'own', params: { min: 3 } }), '{label} {min}'),
      ),
    ],
  ];
  const messages = ([, field, options]: [string, Node, object?]) => validateAsync(group({ a: field }), { a: 'x' }, options).then(({ findings }) => findings[0]!.message);
  expect(await Promise.all(answers.map(messages))).toEqual(answers.map(() => said));
  expect(await Promise.all(templates.map(messages))).toEqual(['A!', 'A 3', 'A 3']);
  const gate = createGate(group({ a: text('A') }));
  gate.addFindings([{ path: 'a', message: said, params: { min: 3 } }]);
  gate.field('a').addFinding({ code: 'tooShort', message: said, params: { min: 3 } });
  expect(gate.findings.map(({ message }) => message)).toEqual([said, said]);
});

test('an answer that takes for ever to read breaks the submission down; a timer is never longer than timers can be', async () => {
  const waits: number[] = [];
  const clock = {
    now: () => new Date(NaN),
    setTimeout: (callback: () => void, ms: number) => (waits.push(ms), ms === 30_000 && setTimeout(callback)),
    clearTimeout: () => undefined,
  };
  const endless = { ok: false, status: 422, headers: { get: () => 'application/json' }, json: () => new Promise(() => undefined) };
  for (const submit of [() => Promise.resolve(endless), () => Promise.reject(endless as unknown as Error)]) {
    const gate = createGate(
      group({
        a: text(
          'A',
          asyncCheck(() => true, { debounce: Infinity }),
        ),
      }),
      { submit, clock, onFault: () => undefined },
    );
    keepDraft(gate, { key: 'k', storage, wait: Infinity });
    keepSaved(gate, { save: () => undefined, pause: 1e99 });
    gate.field('a').set('x');
    await expect(gate.submit()).rejects.toBeDefined();
    expect([gate.state.status, gate.findings.map(({ code }) => code)]).toEqual(['failed', ['failed']]);
  }
  expect(Math.max(...waits)).toBe(2 ** 31 - 1);
});

test('no time, a promise in place of a value, or one keyword for two: an error, not a pass', () => {
  const faults: string[] = [];
  const options = { now: () => new Date(NaN), onFault: ({ error }: { error: unknown }) => void faults.push(String(error)) };
  const codes = (field: Node, raw: unknown) => validate(group({ f: field }), { f: raw }, options).findings.map(({ code }) => code);
  expect(codes(library.date('F', range({ min: 'today' })), '2027-05-01')).toEqual(['crashed']);
  expect(codes(custom('F', { read: async (raw) => Promise.resolve(raw) }), 'x')).toEqual(['crashed']);
  expect(codes(mapped(text('F'), { to: async () => Promise.reject(new Error('no')), from: () => '' }), 'x')).toEqual(['crashed']);
  expect(faults.join()).toMatch(/clock has no time.*returned a promise/s);
  const [one, two] = ['one', 'two'].map((name) => library.defineRule({ name, params: {}, keyword: 'x-own', attribute: 'data-own', test: () => true, texts: { en: '' } }));
  const kinds = ['one', 'two'].map((name) => library.defineKind<string, string>({ name, json: 'string', type: 'string', format: 'own', read: String, texts: { en: '' } }));
  expect(() => fromJsonSchema({ type: 'string' }, { rules: [one!, two!] })).toThrow('"one" and "two" have the same keyword, "x-own"');
  expect(() => fromJsonSchema({ type: 'string' }, { kinds: kinds as never })).toThrow('the same format, "own"');
  expect(() => fieldFromAttributes({ 'data-own': '' }, 'input', { rules: [one!, two!] })).toThrow('the same attribute');
  fromJsonSchema({ type: 'string' }, { rules: [one!, one!] });
});

test('a draft keeps what can be written beside what cannot, which is reported once', async () => {
  const told: string[] = [];
  const gate = createGate(group({ a: text('A'), own: custom('Own', { read: (raw: unknown) => raw }) }), { onFault: ({ path, rule }) => void told.push(`${path}: ${rule}`) });
  const draft = keepDraft(gate, { key: 'beside', storage, wait: 1 });
  for (const raw of [5n, { toJSON: boom }]) {
    gate.set({ a: `${typeof raw}`, own: raw });
    await quiet();
  }
  expect([JSON.parse(kept.get('beside')!).edits, told]).toEqual([{ a: 'object' }, ['own: draft']]);
  draft.stop();
});
