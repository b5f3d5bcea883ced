// An author's functions may throw or return anything, whatever the types say. Afterwards the form must equal a fresh one with the same
// values.
import fc from 'fast-check';
import {
  appliesWhen,
  asyncCheck,
  asyncChoicesFrom,
  check,
  choicesFrom,
  createGate,
  custom,
  depending,
  fieldRules,
  group,
  groupRules,
  keepDraft,
  list,
  mapped,
  noDuplicates,
  number,
  range,
  required,
  requiredWhen,
  text,
} from 'upper-gate';
import { connect } from 'upper-gate/binding';
import { keepSaved } from 'upper-gate/saving';

const thrower = (what) => () => {
  throw what;
};
const boom = thrower(new Error('boom'));
const hostile = new Proxy({}, { get: boom, has: boom, ownKeys: boom, getPrototypeOf: boom });
const around = [];
around.push(around);
const unreadable = { ok: false, status: 422, json: boom, headers: {} };
const throwing = Object.defineProperty({}, 'errors', { get: boom, enumerable: true });

/** What functions do. */
const DEEDS = {
  'throws an error': boom,
  'throws nothing': thrower(undefined),
  'throws what cannot be read': thrower(hostile),
  'throws an error whose message throws': thrower(Object.defineProperty(new TypeError(), 'message', { get: boom })),
  'throws an answer that cannot be read': thrower(unreadable),
  'throws an answer whose parts throw': thrower(throwing),
  'returns nothing': () => undefined,
  'returns null': () => null,
  'returns a number': () => 5,
  'returns no number': () => NaN,
  'returns a symbol': () => Symbol('s'),
  'returns a large number': () => 5n,
  'returns a function': () => boom,
  'returns a promise': () => Promise.resolve('x'),
  'returns a promise that rejects': () => Promise.reject(new Error('later')),
  'returns a promise that rejects with what cannot be read': () => Promise.reject(hostile),
  'returns what looks like a promise': () => ({ then: boom }),
  'returns what cannot be read': () => hostile,
  'returns a list in itself': () => around,
  'returns an object without a prototype': () => Object.create(null),
  'returns params without a prototype': () => ({ message: 'x', params: { a: Object.create(null) } }),
  'returns params that throw': () => ({ message: '{a}', code: 'own', params: { a: { toString: boom } } }),
  'returns a path that is none': () => ({ message: 'x', path: 5 }),
  'returns a message that is none': () => ({ message: { en: 5 } }),
  'returns a severity that is none': () => ({ message: 'x', severity: 'fatal' }),
  'returns an answer that cannot be read': () => unreadable,
  'returns an answer whose headers throw': () => ({ ...unreadable, headers: { get: boom } }),
  'returns an answer whose parts throw': () => throwing,
  'returns no time': () => new Date(NaN),
  'returns limits that are none': () => ({ min: {}, max: Symbol('max') }),
  'returns options that are none': () => [{ value: hostile, label: 5 }],
};

/** Which function misbehaves, and how. */
let trouble;
const NAMES = [];
const at = (name, usual) => {
  NAMES.push(name);
  return (...args) => (trouble?.name === name ? trouble.deed() : usual(...args));
};

const schema = group({
  a: text('A', required(), check(at('check', (value) => value !== 'bad' || 'Bad'))),
  b: text(
    { label: 'B', default: at('default', () => 'b') },
    check(() => true, { message: at('message', () => 'No') }),
  ),
  n: number('N'),
  kind: text('Kind'),
  // (What it has answered is no trouble, but an answer: it is not kept.)
  asked: text(
    'Asked',
    asyncCheck(
      at('asyncCheck', async (value) => (await Promise.resolve(value)) !== 'bad' || 'Bad'),
      { debounce: 0, timeout: 20, cache: 0 },
    ),
  ),
  own: custom('Own', {
    read: at('read', (raw) => (raw === '' ? undefined : String(raw))),
    write: at('write', (value) => value),
    same: at('same', (one, other) => one === other),
  }),
  cents: mapped(number('Cents'), { to: at('to', (value) => value * 100), from: at('from', (value) => value / 100) }),
  rows: list('Rows', group({ r: text('R', check(at('check of a row', (value) => value !== 'bad' || 'Bad'))) }), noDuplicates({ by: 'r' })),
}).with(
  appliesWhen({ n: at('condition', ({ kind }) => kind !== 'none') }),
  fieldRules({
    b: [check(at('check beside', (value, { a }) => value !== a || 'Like A')), requiredWhen(at('requiredWhen', ({ kind }) => kind === 'b'))],
    n: range(depending(at('depending', ({ kind }) => ({ max: kind === 'small' ? 3 : 9 })))),
    kind: [
      choicesFrom(at('choicesFrom', () => ['none', 'b', 'small', ''])),
      asyncChoicesFrom(at('asyncChoicesFrom', () => ['none', 'b', 'small'])),
    ],
  }),
  groupRules(check(at('check of the group', ({ a }) => a !== 'all' || 'Not all'))),
);
const initial = { a: 'ok', b: 'ok', n: '2', kind: '', asked: '', own: 'x', cents: '', rows: [{ r: 'x' }, { r: 'same' }] };
const VALUES = {
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
const PATHS = Object.keys(VALUES);

const kept = new Map();
const storage = at('storage', () => ({
  getItem: (key) => kept.get(key) ?? null,
  setItem: (key, value) => void kept.set(key, value),
  removeItem: (key) => void kept.delete(key),
}));
const submit = at('submit', () => ({ status: 200 }));
const refusal = at('refusal', () => undefined);
const listener = at('listener', () => undefined);
const refused = at('event', () => undefined);
const focus = at('focus', () => true);
const watch = at('watch', (gate) => gate.state.errorCount);
const save = at('save', () => ({ status: 200 }));

function begin(values) {
  const gate = createGate(schema, { initial: values, submit, refusal, onFault: () => undefined });
  gate.field('b').subscribe(listener);
  gate.on('refused', refused);
  connect(gate.field('a'), { focus });
  return gate;
}

/** A value as it can be compared and printed. */
function plain(value) {
  if (value === hostile || value === around || value === throwing) return 'hostile';
  if (Array.isArray(value)) return value.map(plain);
  if (typeof value !== 'object' || value === null) return String(value);
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, plain(inner)]));
}
const factsOf = (gate, status) =>
  JSON.stringify(
    plain({
      status,
      found: gate.findings.map(({ path, code, message, severity }) => [path, code, message, severity]),
      data: gate.root.data,
      raw: gate.root.raw,
      state: { ...gate.state, dirty: false, submitCount: 0 },
      touched: PATHS.map((path) => gate.field(path).touched),
    }),
  );
const pass = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));

/** What a user does while one function misbehaves; then the form is compared with a fresh one that holds the same. */
async function isUnharmed(name, deed, steps) {
  trouble = undefined;
  kept.clear();
  const gate = begin(initial);
  const draft = keepDraft(gate, { key: 'k', storage, wait: 1 });
  const saving = keepSaved(gate, { save, pause: 1e12 });
  const left = new Set();
  trouble = { name, deed: DEEDS[deed] };
  try {
    gate.watch(watch, () => undefined);
  } catch {
    // (What a selector throws at once is for whoever calls.)
  }
  for (const [what, path, value] of steps) {
    if (what === 'set') gate.field(path).set(value);
    else if (what === 'leave') {
      gate.field(path).leave();
      left.add(path);
    } else if ((await Promise.race([gate.submit().catch(() => undefined), pass(500).then(() => 'hangs')])) === 'hangs') return false;
  }
  await saving.saveNow();
  await pass(30);
  trouble = undefined;
  saving.stop();
  draft.stop();
  const fresh = begin(gate.root.raw);
  for (const path of left) fresh.field(path).leave();
  const ends = [];
  for (const each of [gate, fresh]) {
    ends.push(factsOf(each, (await each.submit()).status));
    each.dispose();
  }
  return ends[0] === ends[1];
}

const step = fc.oneof(
  fc.constantFrom(...PATHS).chain((path) => fc.constantFrom(...VALUES[path]).map((value) => ['set', path, value])),
  fc.constantFrom(...PATHS).map((path) => ['leave', path]),
  fc.constant(['submit']),
);
const misbehaviour = fc.asyncProperty(
  fc.constantFrom(...NAMES),
  fc.constantFrom(...Object.keys(DEEDS)),
  fc.array(step, { minLength: 1, maxLength: 8 }),
  isUnharmed,
);

export const attacks = [
  {
    name: 'functions that throw or return anything',
    async run({ holds, note, isLong }) {
      const rejections = [];
      const hear = (reason) => rejections.push(reason);
      const { error, warn } = console;
      // (Every fault is reported there.)
      console.error = console.warn = () => undefined;
      process.on('unhandledRejection', hear);
      const { numRuns, failed, counterexample, seed } = await fc.check(misbehaviour, { numRuns: isLong ? 600 : 100, endOnFailure: true });
      await pass(50);
      process.off('unhandledRejection', hear);
      Object.assign(console, { error, warn });
      for (let run = 1; run < numRuns; run += 1) holds(true);
      holds(!failed, `seed ${seed}: ${JSON.stringify(counterexample)}`);
      holds(rejections.length === 0, `${rejections.length} rejections that nobody handles`);
      note(`${NAMES.length} functions, ${Object.keys(DEEDS).length} deeds`);
    },
  },
];
