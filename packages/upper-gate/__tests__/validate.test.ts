import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import type { Node } from 'upper-gate';
import { runs } from './runs.ts';

const { appliesWhen, fieldRules, groupRules } = library;
const { asyncCheck, boolean, check, choice, choices, files, list, noDuplicates, variant, createGate, date, email, group, integer, length, number } = library;
const { pattern, toJsonPointer, range, required, requiredWhen, sameAs, text, validate, validateAsync } = library;

const boat = group({
  vessel: text('Vessel', required(), length({ min: 2, max: 5 })),
  beam: number('Beam', required(), range({ min: 0.5, max: 5.2 })),
  crew: integer('Crew'),
  kind: choice('Kind', ['barge', 'canoe']),
  arrival: date('Arrival', range({ min: '2027-03-01', max: '2027-10-31' })),
  email: text('E-mail', email()),
  again: text('Repeat'),
  code: text({ label: 'Code', case: 'upper' }, pattern(/^[A-Z]\d$/g, 'A letter and a digit')),
  secret: text({ label: 'Secret', trim: false }, length({ min: 3 })),
  callBack: boolean('Call back'),
  terms: boolean('Terms', required()),
  phone: text('Phone'),
  tug: text('Tug', required()),
  berth: group({ name: text('Berth', required()), side: choice('Side', ['port', 'starboard']) }, 'Berth'),
})
  .with(appliesWhen({ tug: (all) => all.beam > 4, berth: (all) => all.kind === 'barge' }))
  .with(fieldRules({ again: sameAs('email'), phone: requiredWhen((all) => all.callBack), crew: check((crew, all) => crew < all.beam * 4, 'Too many') }))
  .with(groupRules(check((all) => all.vessel !== all.email || { message: 'Odd', path: 'email', code: 'odd' })));

const good = { vessel: 'Otter', beam: 3, terms: true };
const found = (schema: Node, raw: unknown): string[] => validate(schema, raw, { async: 'skip' }).findings.map(({ path, code }) => `${path}:${code}`);

test.each<[string, object, string[]]>([
  ['a valid value', {}, []],
  ['white space around', { vessel: '  Otter ' }, []],
  ['only white space', { vessel: '  ' }, ['vessel:valueMissing']],
  ['too short', { vessel: 'O' }, ['vessel:tooShort']],
  ['too long', { vessel: 'Otters' }, ['vessel:tooLong']],
  ['not a choice', { kind: 'raft' }, ['kind:notAllowed']],
  ['different repeats', { email: 'a@b', again: 'a@c' }, ['again:differs']],
  ['an empty repeat is not validated', { email: 'a@b' }, []],
  ['case before rules', { code: 'a1' }, []],
  ['a pattern', { code: '11' }, ['code:patternMismatch']],
  ['white space that counts', { secret: '   ' }, []],
  ['must be ticked', { terms: false }, ['terms:valueMissing']],
  ['required by a sibling', { callBack: 'on' }, ['phone:valueMissing']],
  ['a field that applies', { beam: 4.5 }, ['tug:valueMissing']],
  ['a field that does not', { tug: 12 }, []],
  ['a group that applies', { kind: 'barge', berth: { side: 'aft' } }, ['berth.name:valueMissing', 'berth.side:notAllowed']],
  ['a group that is none', { kind: 'barge', berth: 'x' }, ['berth:badInput']],
  ['a rule that waits for an unreadable sibling', { beam: 'x', crew: 100 }, ['beam:badInput']],
  ['a rule that reads a broken but readable sibling', { beam: 0.1, crew: 1 }, ['beam:rangeUnderflow', 'crew:customError']],
  ['a rule of the whole, on a field', { vessel: 'a@b', email: 'a@b', again: 'a@b' }, ['email:odd']],
])('validate: %s', (_, change, expected) => {
  expect(found(boat, { ...good, ...change })).toEqual(expected);
  // The order of the keys makes no difference.
  expect(found(boat, Object.fromEntries(Object.entries({ ...good, ...change }).reverse()))).toEqual(expected);
});

test('data is typed, complete, in schema order, and without what does not apply', () => {
  const judged = validate(boat, { beam: '3', terms: 'on', vessel: ' Otter ', tug: 'x', foreign: 1 });
  expect(judged).toMatchObject({ ok: true, data: { vessel: 'Otter', beam: 3, callBack: false, tug: undefined } });
  expect(Object.keys(judged.ok ? judged.data : {})).toEqual(Object.keys(boat.fields));
  expect(found(boat, { ...good, foreign: 1 })).toEqual([]);
  expect(validate(boat, { ...good, foreign: 1 }, { unknown: 'refuse' }).findings).toMatchObject([{ path: 'foreign', code: 'unknown' }]);
});

test('messages take their numbers from the rule; the message of the author overrides the catalogue, and so does that of the field', () => {
  const one = text(
    { label: 'A', messages: { tooLong: 'field: {max}' } },
    length({ max: 2 }),
    length({ max: 1 }, 'rule: {max} of {label}'),
    length({ max: 3 }, { severity: 'warning', code: 'own' }),
  );
  const messages = (catalogue?: object) => validate(group({ one }), { one: 'four' }, { messages: catalogue as never }).findings.map(({ message }) => message);
  expect(messages()).toEqual(['field: 2', 'rule: 1 of A', expect.any(String)]);
  expect(messages({ own: { own: 'eigen: {max}' } })).toEqual(['field: 2', 'rule: 1 of A', 'eigen: 3']);
  expect(validate(group({ one }), { one: 'four' }).findings[2]).toMatchObject({ severity: 'warning', code: 'own', params: { max: 3 } });
});

test('required as a warning does not block, and leaves the data without a value', () => {
  const schema = group({ a: text('A', required({ severity: 'warning' })), b: text('B') }).with(fieldRules({ b: check((_, all) => all.a === undefined) }));
  const judged = validate(schema, { b: 'x' });
  expect(judged).toMatchObject({ ok: true, data: { a: undefined, b: 'x' }, findings: [{ path: 'a', code: 'valueMissing', severity: 'warning' }] });
  const gate = createGate(schema, { initial: { b: 'x' } });
  expect({ findings: gate.findings, required: gate.field('a').required, data: gate.root.data }).toEqual({
    findings: judged.findings,
    required: false,
    data: { a: undefined, b: 'x' },
  });
});

test('a rule that throws, or answers nonsense, fails closed and is reported', () => {
  const faults: unknown[] = [];
  const oops = check(() => {
    throw new Error('oops');
  });
  const nonsense = check(() => 3 as never);
  const schema = group({
    a: text('A', oops),
    b: text('B', nonsense),
    inner: group({ c: text('C') }).with(
      appliesWhen({
        c: () => {
          throw new Error('condition');
        },
      }),
    ),
  });
  const judged = validate(schema, { a: '1', b: '1', inner: { c: '1' } }, { onFault: ({ path, error }) => faults.push(`${path} ${String(error)}`) });
  expect(judged.findings.map(({ path, code }) => `${path}:${code}`)).toEqual(['a:crashed', 'b:crashed', 'inner.c:crashed']);
  expect(faults).toEqual(['a Error: oops', expect.stringContaining('b TypeError: A rule returns true'), 'inner.c Error: condition']);
});

test('conditions may read fields that have conditions; in a circle they are a fault, and the fields apply', () => {
  const chain = group({ a: text('A', required()), b: text('B', required()), c: text('C') }).with(appliesWhen({ a: (all) => all.b === 'x', b: (all) => all.c === 'x' }));
  expect(found(chain, {})).toEqual([]);
  expect(found(chain, { c: 'x' })).toEqual(['b:valueMissing']);
  expect(found(chain, { c: 'x', b: 'x' })).toEqual(['a:valueMissing']);
  const faults: unknown[] = [];
  const circle = group({ a: text('A', required()), b: text('B', required()) }).with(appliesWhen({ a: (all) => all.b === 'x', b: (all) => all.a === 'x' }));
  expect(validate(circle, {}, { onFault: ({ error }) => faults.push(error) }).findings).toHaveLength(2);
  expect(faults).toEqual([expect.objectContaining({ message: expect.stringContaining('a, b in appliesWhen() read each other') })]);
});

test('async rules: not in validate; in validateAsync all at once, after the quick rules, and only where those are content', async () => {
  const asked: string[] = [];
  const ask = (answer: unknown) =>
    asyncCheck((value: string) => {
      asked.push(value);
      return Promise.resolve(answer as never);
    });
  const schema = group({ a: text('A', ask('taken'), length({ max: 3 })), b: text('B', ask({ severity: 'notice', message: 'free' })), c: text('C', ask(new Date())) }).with(
    fieldRules({
      b: check((b, all) => b !== all.a),
      c: asyncCheck((_, { siblings }) => Promise.reject(new Error(String(siblings.b))), { unanswered: 'block' }),
    }),
  );
  expect(() => validate(schema, {})).toThrow(/validateAsync/);
  expect(validate(schema, { a: '1' }, { async: 'skip' }).ok).toBe(true);
  const faults: unknown[] = [];
  const { findings } = await validateAsync(schema, { a: '1', b: '2', c: '3' }, { onFault: ({ error }) => faults.push(String(error)) });
  expect(findings).toMatchObject([
    { path: 'a', code: 'customError', message: 'taken', severity: 'error' },
    { path: 'b', code: 'customError', message: 'free', severity: 'notice' },
    { path: 'c', code: 'crashed', severity: 'error' },
    { path: 'c', code: 'unanswered', severity: 'error' },
  ]);
  expect(faults).toEqual([expect.stringContaining('A rule returns'), 'Error: 2']);
  asked.length = 0;
  await validateAsync(schema, { a: 'long', b: 'long' });
  expect(asked).toEqual([]);
  const aborted = await validateAsync(schema, { a: '1' }, { signal: AbortSignal.abort() });
  expect(aborted.findings).toMatchObject([{ code: 'unanswered', severity: 'error' }]);
});

test('pointers escape as RFC 6901 says', () => {
  expect(['', 'crew.0.age', 'a/b~c'].map((path) => toJsonPointer({ path }))).toEqual(['', '/crew/0/age', '/a~1b~0c']);
});

const revoked = (of: object): object => {
  const { proxy, revoke } = Proxy.revocable(of, {});
  revoke();
  return proxy;
};

const hostile = fc.oneof(
  fc.anything({ withBigInt: true, withDate: true, withMap: true, withNullPrototype: true, withSparseArray: true, withObjectString: true }),
  fc.constantFrom<unknown>(
    Symbol('x'),
    () => 1,
    new Proxy(
      {},
      {
        get() {
          throw new Error('get');
        },
        ownKeys() {
          throw new Error('keys');
        },
      },
    ),
  ),
);

test('validate never throws, and changes nothing, whatever the value', () => {
  const cyclic: Record<string, unknown> = { ...good };
  cyclic['berth'] = cyclic;
  const check = (raw: unknown) => {
    for (const source of ['form', 'json'] as const) {
      const judged = validate(boat, raw, { source });
      expect(judged.ok || judged.findings.some(({ severity }) => severity === 'error')).toBe(true);
      if (judged.ok) expect(Object.getPrototypeOf(judged.data)).toBe(Object.prototype);
    }
  };
  fc.assert(fc.property(hostile, check));
  fc.assert(fc.property(fc.dictionary(fc.constantFrom('__proto__', 'constructor', ...Object.keys(boat.fields)), hostile), check), runs(300));
  const lists = group({
    rows: list('Rows', group({ name: text('Name', required()), kit: choices('Kit', ['a']) }), noDuplicates({ by: 'name' }), length({ max: 9 })),
    cargo: variant('Cargo', 'cargo', { a: group({ papers: files('Papers') }) }),
  });
  const listed = (raw: unknown) => (['form', 'json'] as const).forEach((source) => validate(lists, raw, { unknown: 'refuse', source }));
  fc.assert(fc.property(fc.dictionary(fc.constantFrom('rows', 'cargo'), hostile), listed), runs(300));
  const proxy = revoked([]);
  const throws = new Proxy([], {
    get: () => {
      throw new Error('get');
    },
  });
  const getter = Object.defineProperty([1], 0, {
    get: () => {
      throw new Error('item');
    },
  });
  for (const strange of [revoked({}), new Array(2 ** 32 - 1)]) ['', ...Object.keys(boat.fields)].forEach((key) => check(key === '' ? strange : { [key]: strange }));
  for (const strange of [proxy, throws, getter, [proxy], { cargo: proxy }, new Array(2 ** 32 - 1)])
    [strange, { rows: strange }, { cargo: strange }, { cargo: { cargo: 'a', papers: strange } }].forEach(listed);
  check(cyclic);
  check({
    ...good,
    get beam() {
      throw new Error('getter');
    },
  });
  check(JSON.parse('{"__proto__": {"vessel": "Otter", "beam": 1, "terms": true}}'));
  expect(found(boat, Object.create({ ...good, phone: 'inherited' }) as object)).toContain('vessel:valueMissing');
  expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
});

test('a limit on findings keeps errors first, never changes the verdict, and says that there were more', async () => {
  const warn = { severity: 'warning' } as const;
  const row = group({ w: text('W', length({ max: 1 }, warn)), e: text('E', required()), both: text('Both', length({ min: 2 }, warn), pattern(/^x/)) });
  const rows = group({ rows: list('Rows', row, length({ max: 5 })), last: text('Last', required()) }).with(groupRules(check(() => false, { ...warn, message: 'Hm' })));
  const field = fc.constantFrom('', 'a', 'x', 'xyz');
  const value = fc.record({ rows: fc.array(fc.record({ w: field, e: field, both: field }), { maxLength: 8 }), last: field });
  await fc.assert(
    fc.asyncProperty(value, fc.integer({ min: 1, max: 12 }), async (raw, maxFindings) => {
      const all = validate(rows, raw);
      for (const some of [validate(rows, raw, { maxFindings }), await validateAsync(rows, raw, { maxFindings })]) {
        const errors = (findings: readonly { severity: string }[]) => findings.filter(({ severity }) => severity === 'error');
        expect([some.ok, some.findings.length, some.more]).toEqual([all.ok, Math.min(maxFindings, all.findings.length), all.findings.length > maxFindings || undefined]);
        const kept = errors(some.findings);
        expect(kept).toEqual(errors(all.findings).slice(0, kept.length));
        if (kept.length < some.findings.length && some.more && !all.ok) expect(kept.length).toBeGreaterThan(0);
      }
    }),
  );
  expect(() => validate(rows, {}, { maxFindings: 0 })).toThrow('maxFindings takes a number from 1');
});
