// Rules and conditions on fields further in: in groups, rows, lists of lists and cases of a variant.

import { setTimeout as pause } from 'node:timers/promises';
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import { describeSchema } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema, type JsonSchema } from 'upper-gate/json-schema';
import { runs } from './runs.ts';

const { appliesWhen, fieldRules, asyncCheck, boolean, check, choice, createGate, group, list, number, required, requiredWhen, sameAs, text, validate, validateAsync, variant } =
  library;
const lines = (findings: readonly { path: string; code: string }[]): string[] => findings.map(({ path, code }) => `${path} ${code}`);

const one = (name: string, role: 'skipper' | 'deckhand', permit?: string) => ({ name, role, permit });
const member = group({ name: text('Name', required()), role: choice('Role', ['skipper', 'deckhand']), permit: text('Permit', required()) });
/** Functions by name, as a document has them. */
const checks = {
  isSkipper: (boat: { dangerous: boolean }, one: { role?: string | undefined }) => boat.dangerous && one.role === 'skipper',
  isHome: (boat: { country: string | undefined }, home: { country: string | undefined }) => boat.country === home.country,
  needsStreet: (boat: { dangerous: boolean }, home: { zip: string | undefined }) => boat.dangerous && home.zip !== undefined,
  isOther: (name: string, boat: { country: string | undefined }, one: { permit: string | undefined }) => name !== boat.country && name !== one.permit,
  isFree: (name: string, boat: { crew: readonly { name: string }[] }) => boat.crew.every((one) => one.name !== name),
  needsKind: (boat: { dangerous: boolean }, goods: { tonnes: number | undefined }) => boat.dangerous && (goods.tonnes ?? 0) > 3,
};
const passage = group({
  dangerous: boolean('Dangerous'),
  country: text('Country'),
  home: group({ street: text('Street'), country: text('Country'), zip: text('Postcode') }),
  crew: list('Crew', member),
  grid: list('Rows', list('Berths', group({ name: text('Name') }))),
  cargo: variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('Tonnes'), kind: text('Kind') }) }),
})
  .with(appliesWhen({ crew: { permit: checks.isSkipper }, home: { zip: checks.isHome } }))
  .with(
    fieldRules({
      home: { street: [requiredWhen(checks.needsStreet), sameAs('country', { code: 'other' })] },
      crew: { name: check(checks.isOther, { code: 'name' }) },
      grid: { name: check(checks.isFree, { code: 'taken' }) },
      cargo: { goods: { kind: requiredWhen(checks.needsKind) } },
    }),
  );

test.each<[values: object, expected: string[]]>([
  [{}, []],
  [{ dangerous: true, crew: [{ name: 'A', role: 'skipper' }, { name: 'B' }, { name: 'C', role: 'skipper', permit: 'C' }] }, ['crew.0.permit valueMissing', 'crew.2.name name']],
  [{ country: 'NL', home: { country: 'NL', zip: '1', street: 'S' } }, ['home.street other']],
  [{ dangerous: true, country: 'NL', home: { country: 'NL', zip: '1' } }, ['home.street valueMissing']],
  [{ dangerous: true, country: 'NL', home: { country: 'BE', zip: '1' } }, []],
  [{ country: 'Tom', crew: [{ name: 'Tom' }], grid: [[{ name: 'x' }], [{ name: 'Tom' }, { name: 'x' }]] }, ['crew.0.name name', 'grid.1.0.name taken']],
  [{ dangerous: true, cargo: { cargo: 'goods', tonnes: '4' } }, ['cargo.kind valueMissing']],
  [{ dangerous: true, cargo: { cargo: 'none', tonnes: '4' } }, []],
  [{ dangerous: true, cargo: { cargo: 'goods', tonnes: 'x' } }, ['cargo.tonnes badInput']],
])('the same in a form, a validation and a document: %j', (values, expected) => {
  expect(lines(validate(passage, values).findings)).toEqual(expected);
  expect(lines(createGate(passage, { initial: values as never }).findings)).toEqual(expected);
  const document = toJsonSchema(passage);
  const read = fromJsonSchema(JSON.parse(JSON.stringify(document)) as JsonSchema, { checks: checks });
  expect(toJsonSchema(read)).toEqual(document);
  expect(lines(validate(read, values).findings)).toEqual(expected);
});

test('what is required, and what applies, follows as for siblings; only rows that read what changed run again', () => {
  const ran: string[] = [];
  const gate = createGate(passage.with(fieldRules({ crew: { role: check((role, boat, one) => ran.push(one.name) > 0 && !(boat.dangerous && role === 'deckhand')) } })), {
    initial: { crew: [one('A', 'skipper', '1'), one('B', 'deckhand')] },
  });
  const permit = gate.field('crew.0.permit');
  const facts = () => [permit.applies, permit.required, gate.field('crew.1.permit').applies, gate.field('crew.1.role').valid, gate.root.data?.crew?.[0]?.permit];
  expect(facts()).toEqual([false, true, false, true, undefined]);
  expect(ran.splice(0)).toEqual(['A', 'B']);
  gate.field('dangerous').set(true);
  expect(facts()).toEqual([true, true, false, false, '1']);
  expect(ran.splice(0)).toEqual(['A', 'B']);
  gate.field('crew.1.name').set('C');
  expect(ran.splice(0)).toEqual(['C']);
  gate.field('country').set('NL');
  expect(ran).toEqual([]);
  // Rows that come, and that move.
  gate.list('crew').add({ name: 'D', role: 'skipper' }, 0);
  expect(lines(gate.findings)).toEqual(['crew.0.permit valueMissing', 'crew.2.role customError']);
  gate.list('crew').move(2, 0);
  expect(lines(gate.findings)).toEqual(['crew.0.role customError', 'crew.1.permit valueMissing']);
  gate.list('crew').remove(0);
  expect(lines(gate.findings)).toEqual(['crew.0.permit valueMissing']);
  expect(ran.splice(0)).toEqual(['D']);
  gate.set({ cargo: { cargo: 'goods', tonnes: 5 } });
  const kind = gate.field('cargo.kind');
  expect(kind.required).toBe(true);
  gate.field('cargo.tonnes').set(2);
  expect(kind.required).toBe(false);
});

test('an async rule on a row reads the group that declares it, and the fields beside', async () => {
  const schema = group({ lock: text('Lock'), crew: list('Crew', group({ name: text('Name'), permit: text('Permit') })) }).with(
    fieldRules({
      crew: {
        permit: asyncCheck(
          async (permit, { siblings, beside }) => {
            await pause(1);
            return permit !== `${siblings.lock} ${beside.name}`;
          },
          { debounce: 0 },
        ),
      },
    }),
  );
  const values = { lock: 'Upper', crew: ['A', 'B'].map((name) => ({ name, permit: 'Upper A' })) };
  expect(lines((await validateAsync(schema, values)).findings)).toEqual(['crew.0.permit customError']);
  const gate = createGate(schema, { initial: values });
  expect(await gate.validate()).toBe(false);
  gate.field('crew.1.name').set('A');
  expect(await gate.validate()).toBe(false);
  expect(lines(gate.findings)).toEqual(['crew.0.permit customError', 'crew.1.permit customError']);
});

test('what was taken away from further out has rules further in wait; the group that took it reads nothing', () => {
  const seen: unknown[] = [];
  const inner = group({ zip: text('Zip'), street: text('Street') }).with(fieldRules({ street: check((_, home) => home.zip !== undefined && seen.push('ran') > 0) }));
  const schema = group({ on: boolean('On'), home: inner, note: text('Note', required()) })
    .with(appliesWhen({ home: { zip: (it) => it.on } }))
    .with(fieldRules({ note: check((_, it) => seen.push(it.home.zip) > 0) }));
  const values = { home: { zip: '1', street: 'S' }, note: 'x' };
  const gate = createGate(schema, { initial: values });
  expect(seen.splice(0)).toEqual([undefined]);
  gate.field('on').set(true);
  expect(seen.splice(0)).toEqual(expect.arrayContaining(['ran', '1']));
  gate.field('on').set(false);
  expect(seen.splice(0)).toEqual([undefined]);
  expect(validate(schema, values)).toMatchObject({ ok: true, data: { home: { zip: undefined, street: 'S' } } });
  expect(seen).toEqual([undefined]);
});

test('a description names conditions and rules by their paths', () => {
  const description = describeSchema(passage);
  expect(description.appliesWhen).toEqual({ 'crew.permit': ['isSkipper'], 'home.zip': ['isHome'] });
  expect(Object.keys(description.fieldRules ?? {})).toEqual(['home.street', 'crew.name', 'grid.name', 'cargo.goods.kind']);
  expect(description.fields?.['crew']?.item?.fields?.['permit']).toMatchObject({ conditional: true, always: false });
  expect(describeSchema(member).fields?.['permit']).toMatchObject({ always: true });
});

test.each<[string, object, string]>([
  ['no such field', { home: { zipp: check(() => true) } }, 'fieldRules() names the field "home.zipp"'],
  ['no such case', { cargo: { god: {} } }, 'There are: none, goods'],
  ['a field with nothing in it', { country: { x: check(() => true) } }, 'got for "country" is not a rule'],
  ['no rule', { crew: { name: [() => true] } }, 'got for "crew.name" is not a rule'],
  ['a case without fields', { cargo: { none: { x: check(() => true) } } }, 'There are: none.'],
  ['a rule on a case', { cargo: { goods: check(() => true) } }, 'got a rule for the case "cargo.goods"'],
])('a mistake is named with its place: %s', (_, rules, message) => {
  expect(() => passage.with(fieldRules(rules as never))).toThrow(message);
});

/** A random schema of three levels, whose conditions and rules read random fields. */
const AT: Record<string, readonly string[]> = { form: ['a', 'b', 'home', 'rows', 'pick'], home: ['a', 'b'], rows: ['a', 'b'] };
interface Declared {
  readonly by: string;
  readonly on: string;
  readonly reads: readonly (readonly [side: 0 | 1, key: string])[];
  readonly wants: string;
}
const WAYS: Record<string, readonly string[]> = {
  form: ['a', 'b', 'home', 'home.a', 'home.b', 'rows', 'rows.a', 'rows.b', 'grid.a', 'pick.one.a', 'pick.two.b'],
  home: ['a', 'b'],
  rows: ['a', 'b'],
};
const clauses = (level: string): fc.Arbitrary<Declared> =>
  fc.record({
    by: fc.constant(level),
    on: fc.constantFrom(...WAYS[level]!),
    reads: fc.array(fc.tuple(fc.constantFrom(0 as const, 1 as const), fc.constantFrom(...AT[level]!)), { minLength: 1, maxLength: 2 }),
    wants: fc.constantFrom('x', 'y', 'undefined'),
  });
const clause = fc.oneof({ weight: 3, arbitrary: clauses('form') }, clauses('home'), clauses('rows'));
const word = fc.constantFrom('', 'x', 'y');
const pair = fc.record({ a: word, b: word }, { requiredKeys: [] });
const values = fc.record({
  a: word,
  b: word,
  home: pair,
  rows: fc.array(pair, { maxLength: 3 }),
  grid: fc.array(fc.array(pair, { maxLength: 2 }), { maxLength: 2 }),
  pick: fc.record({ pick: fc.constantFrom('', 'one', 'two'), a: word, b: word }),
});

function build(conditions: readonly Declared[], rules: readonly Declared[]): library.Node {
  /** What a callback reads, as a text; of groups and lists, what is in them. */
  const read = ({ reads }: Declared, sides: readonly unknown[]): string[] =>
    reads.map(([side, key]) => {
      const value = (sides[side] as Record<string, unknown>)[key];
      if (typeof value !== 'object') return `${value as string | undefined}`;
      const inner = (Array.isArray(value) ? (value as readonly unknown[])[0] : value) as { a?: unknown } | undefined;
      return `${inner?.a as string | undefined}`;
    });
  const nested = (way: string, value: unknown): object =>
    way
      .split('.')
      .reverse()
      .reduce((inner, key) => ({ [key]: inner }), value) as object;
  const declare = (schema: unknown, level: string): library.Node => {
    let made = schema as { with(clause: library.Clause<never, never, never>): typeof made };
    for (const each of conditions)
      if (each.by === level) made = made.with(appliesWhen(nested(each.on, (...sides: unknown[]) => read(each, sides).every((value) => value === each.wants)) as never) as never);
    for (const each of rules)
      if (each.by === level)
        made = made.with(
          fieldRules(
            nested(
              each.on,
              each.wants === 'y'
                ? requiredWhen((...sides: unknown[]) => read(each, sides).includes(each.wants))
                : check((_, ...sides: unknown[]) => !read(each, sides).includes(each.wants), { code: each.reads.join() }),
            ) as never,
          ) as never,
        );
    return made as unknown as library.Node;
  };
  const two = (): unknown => group({ a: text('A', required()), b: text('B') });
  return declare(
    group({
      a: text('A'),
      b: text('B', required()),
      home: declare(two(), 'home') as never,
      rows: list('Rows', declare(two(), 'rows')),
      grid: list('Grid', list('Line', two() as library.Node)),
      pick: variant('Pick', 'pick', { one: group({ a: text('A') }), two: group({ a: text('A'), b: text('B', required()) }) }),
    } as never),
    'form',
  );
}

test('random clauses on three levels, circles too: a form and a validation agree, from the start and after every edit', () => {
  fc.assert(
    fc.property(fc.array(clause, { maxLength: 5 }), fc.array(clause, { maxLength: 4 }), values, values, (conditions, rules, before, after) => {
      const schema = build(conditions, rules);
      const onFault = (): void => undefined;
      const gate = createGate(schema as never, { initial: before as never, onFault });
      const first = validate(schema, before, { onFault });
      expect(lines(gate.findings)).toEqual(lines(first.findings));
      if (first.ok) expect(gate.root.data).toEqual(first.data);
      gate.set(after as never);
      expect(lines(gate.findings)).toEqual(lines(validate(schema, gate.root.raw, { onFault }).findings));
    }),
    runs(500),
  );
});

test('a rule from further out does not run on a field that a condition further in takes away', () => {
  const home = group({ on: boolean('On'), zip: text('Zip') }).with(appliesWhen({ zip: (it) => it.on }));
  const needed = requiredWhen(() => true);
  const form = group({ home, homes: list('Homes', home) }).with(fieldRules({ home: { zip: needed }, homes: { zip: needed } }));
  const raw = { home: { on: false }, homes: [{ on: true }, { on: false }] };
  const paths = (findings: readonly { readonly path: string }[]) => findings.map(({ path }) => path);
  const gate = createGate(form, { initial: raw });
  expect({ whole: paths(validate(form, raw).findings), live: paths(gate.findings) }).toEqual({ whole: ['homes.0.zip'], live: ['homes.0.zip'] });
});
