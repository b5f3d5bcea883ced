// Values, answers, drafts and texts that fight back.
import fc from 'fast-check';
import {
  anyJson,
  check,
  createGate,
  group,
  groupRules,
  keepDraft,
  length,
  list,
  number,
  required,
  text,
  validate,
  validateAsync,
  variant,
} from 'upper-gate';
import { readForm } from 'upper-gate/server';

const passage = group({
  vessel: text('Vessel', required(), length({ max: 40, count: 'characters' })),
  beam: number('Beam'),
  any: anyJson('Anything'),
  crew: list('Crew', group({ name: text('Name', required()) }), length({ max: 12 })),
});

function hostileValues() {
  const revoked = (of) => {
    const { proxy, revoke } = Proxy.revocable(of, {});
    revoke();
    return proxy;
  };
  const throwing = new Proxy({}, { get: () => fail(), ownKeys: () => fail(), has: () => fail(), getOwnPropertyDescriptor: () => fail() });
  const fail = () => {
    throw new Error('touched');
  };
  const cyclic = {};
  cyclic.crew = [cyclic];
  cyclic.vessel = cyclic;
  let deep = {};
  for (let i = 0; i < 100_000; i += 1) deep = { crew: [deep] };
  const getter = Object.defineProperty({}, 'vessel', { enumerable: true, get: fail });
  const simple = [
    undefined,
    null,
    Number.NaN,
    10n,
    Symbol('x'),
    () => 1,
    new Date(Number.NaN),
    new Map(),
    JSON.parse('{"__proto__": {"vessel": "x"}}'),
  ];
  return [
    ...simple,
    revoked({}),
    revoked([]),
    throwing,
    cyclic,
    deep,
    getter,
    new Array(2 ** 32 - 1),
    { length: 2 ** 53 },
    '\0',
    '\ud800',
    'x'.repeat(1e7),
  ];
}

export const attacks = [
  {
    name: 'values that fight back',
    async run({ holds }) {
      for (const value of hostileValues())
        for (const raw of [value, { vessel: value }, { beam: value }, { crew: value }, { crew: [value] }, { crew: [{ name: value }] }])
          for (const source of ['form', 'json']) {
            const whole = validate(passage, raw, { source });
            holds(!whole.ok && whole.findings.length < 100, `${typeof value} was let in`);
            holds(!(await validateAsync(passage, raw, { source })).ok, `${typeof value} was let in`);
          }
      holds({}.vessel === undefined, 'the prototype of objects was changed');
    },
  },
  {
    name: 'names that reach for more than values',
    async run({ holds, isLong }) {
      const key = fc.oneof(
        fc.constantFrom('__proto__', 'constructor', 'prototype', 'toString', 'a', 'b', '0', '1', '', 'length'),
        fc.string({ maxLength: 3 }),
      );
      const name = fc.array(key, { minLength: 1, maxLength: 4 }).map((keys) => keys.join('.'));
      const headers = new Headers({ 'content-type': 'application/x-www-form-urlencoded' });
      for (const pairs of fc.sample(fc.array(fc.tuple(name, fc.string({ maxLength: 3 })), { maxLength: 8 }), isLong ? 1000 : 200)) {
        const read = await readForm(new Request('http://harbour.test', { method: 'POST', body: new URLSearchParams(pairs), headers }));
        holds(Object.keys(Object.prototype).length === 0, `${JSON.stringify(pairs)} changed the prototype of objects`);
        const isPlain = (value) => [Object.prototype, Array.prototype].includes(Object.getPrototypeOf(value));
        const isSent = (value) =>
          value === undefined ||
          (typeof value === 'object' ? isPlain(value) && Object.values(value).every(isSent) : pairs.some(([, sent]) => sent === value));
        holds(!read.ok || isSent(read.raw), `${JSON.stringify(pairs)} became more than was sent`);
      }
    },
  },
  {
    name: 'parts in parts, deeper than the engine goes',
    async run({ holds, note }) {
      const ways = {
        groups: [(g) => group({ g }), (g) => ({ g })],
        lists: [(g) => group({ g: list('G', g) }), (g) => ({ g: [g] })],
        'either-ors': [(g) => group({ g: variant('G', 'k', { x: group({ g }) }) }), (g) => ({ g: { k: 'x', g } })],
      };
      const started = performance.now();
      for (const [name, [schemaOf, valueOf]] of Object.entries(ways)) {
        let schema = group({ a: text('A', required()) });
        let value = { a: 'x' };
        for (let depth = 0; depth < 20_000; depth += 1) [schema, value] = [schemaOf(schema), valueOf(value)];
        const faults = [];
        const { ok, findings } = validate(schema, value, { onFault: ({ error }) => faults.push(error) });
        holds(!ok && findings.length === 1 && findings[0].code === 'crashed', `${name} were let in`);
        holds(faults[0] instanceof RangeError, `${name}: nobody was told`);
      }
      // (Each level was walked twice once.)
      holds(performance.now() - started < 20_000, 'it took longer than 20 s');
      note(`${(performance.now() - started).toFixed(0)} ms`);
    },
  },
  {
    name: 'findings by the hundred thousand',
    async run({ holds }) {
      const all = check(({ rows }) => rows.map((_, i) => ({ path: `rows.${i}.a`, message: 'No' })));
      const gate = createGate(group({ rows: list('Rows', group({ a: text('A') })) }).with(groupRules(all)), {
        initial: { rows: Array.from({ length: 100_000 }, () => ({ a: 'x' })) },
      });
      holds(gate.state.errorCount === 100_000, `there were ${gate.state.errorCount} errors`);
      gate.addFindings(Array.from({ length: 20_000 }, (_, i) => ({ path: `rows.${i % 10}.b`, code: `c${i}`, message: 'No' })));
      holds(gate.findings.length === 120_000, `there were ${gate.findings.length} findings`);
    },
  },
  {
    name: 'texts of many characters',
    async run({ holds, note }) {
      let longest = 0;
      for (const unit of ['a', 'e\u0301', '👩‍👩‍👧', '🇩', 'क्षि', `a${'\u0301'.repeat(20_000)}`]) {
        const started = performance.now();
        const { ok } = validate(passage, { vessel: unit.repeat(1_000_000 / unit.length), crew: [] });
        holds(!ok, `a million of ${unit} was let in`);
        longest = Math.max(longest, performance.now() - started);
      }
      holds(longest < 3000, `one took ${longest} ms`);
      note(`longest ${longest.toFixed(0)} ms`);
    },
  },
  {
    name: 'answers of servers that make no sense',
    async run({ holds }) {
      const ANSWERS = [
        { errors: [null, 5, 'x', { pointer: '/vessel', detail: 'Taken' }] },
        {
          errors: [
            { pointer: 5 },
            { pointer: `/${'x'.repeat(40_000)}` },
            { pointer: '/vessel', detail: { a: 1 }, code: 'constructor', severity: 'fatal' },
          ],
        },
        {
          findings: [
            { path: '__proto__.x', message: 'x' },
            { path: 'vessel', message: { en: 'Taken' } },
          ],
        },
        { status: '422' },
        { status: 500 },
        { errors: [null] },
        { errors: Array.from({ length: 20_000 }, (_, i) => ({ pointer: `/crew/${i}/name`, detail: 'x' })) },
        {
          ok: false,
          status: 400,
          headers: new Headers({ 'content-type': 'application/json' }),
          json: () => Promise.reject(new Error('broken')),
        },
        new Response('<html>', { status: 502, headers: { 'content-type': 'text/html' } }),
        new Response('{"errors": 5', { status: 422, headers: { 'content-type': 'application/problem+json' } }),
      ];
      for (const answer of ANSWERS) {
        const gate = createGate(passage, {
          initial: { vessel: 'Otter' },
          submit: () => answer,
          onFault: (fault) => holds(false, String(fault.error)),
        });
        const { status } = await gate.submit();
        holds(status === 'refused' && gate.findings.length > 0, `${JSON.stringify(answer)?.slice(0, 80)} was ${status}`);
        holds(
          gate.findings.every(({ message }) => typeof message === 'string' && message !== ''),
          'a message is no text',
        );
      }
    },
  },
  {
    name: 'drafts that somebody has changed',
    async run({ holds }) {
      const at = Date.now();
      const TEXTS = [
        '',
        '{',
        'null',
        '5',
        '[]',
        '{"at": "x", "edits": {}}',
        `{"at": ${at}, "edits": null}`,
        `{"at": ${at}, "edits": {"__proto__.x": 1, "crew": "x"}}`,
      ];
      TEXTS.push(
        `{"at": ${at}, "edits": {"vessel": {"a": 1}, "crew": [[1], null, {"name": ["x"]}], "beam": {}, "nope": "x"}}`,
        '['.repeat(100_000),
        `{"at": ${at}, "edits": {"any": ${'['.repeat(50_000)}${']'.repeat(50_000)}, "crew": ${'[{"crew":'.repeat(5000)}1${'}]'.repeat(5000)}}}`,
      );
      for (const kept of TEXTS) {
        const gate = createGate(passage, { initial: { vessel: 'Otter' } });
        const storage = { getItem: () => kept, setItem: () => undefined, removeItem: () => undefined };
        keepDraft(gate, { key: 'draft', storage }).stop();
        holds(gate.field('vessel').raw === 'Otter', `${kept.slice(0, 80)} was restored`);
        holds({}.x === undefined, 'the prototype of objects was changed');
      }
    },
  },
];
