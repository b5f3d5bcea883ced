import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  after,
  asyncCheck,
  boolean,
  cardNumber,
  check,
  choice,
  choices,
  color,
  createGate,
  custom,
  date,
  dateTime,
  differsFrom,
  email,
  file,
  files,
  fileSize,
  fileType,
  group,
  integer,
  interval,
  ipAddress,
  length,
  list,
  month,
  mustBeTrue,
  noDuplicates,
  number,
  oneOf,
  pattern,
  range,
  required,
  requiredWhen,
  sameAs,
  step,
  text,
  time,
  url,
  validate,
  validateAsync,
  variant,
  week,
  type Node,
} from 'upper-gate';
import { defaultsOf, fromJsonSchema, toJsonSchema, type JsonSchema } from 'upper-gate/json-schema';

const json = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const told = (schema: Node, value: unknown, options: object = { json: true }): string[] => {
  const judged = validate(schema, value, { async: 'skip', ...options });
  return judged.findings.map(({ path, code }) => `${path} ${code}`);
};

// Functions are written by their names.
const short = (value: unknown) => String(value).length < 3;
const wide = (boat: { readonly n?: unknown }) => Number(boat.n) > 4;
const askRegister = (value: unknown) => Promise.resolve(value !== 'Ghost');
const CHECKS = { short, wide, askRegister };

/** Every kind, each with some of the rules that fit it. */
const any = fc.constantFrom;
const some = <T>(...rules: T[]): fc.Arbitrary<T[]> => fc.subarray(rules).chain((chosen) => fc.shuffledSubarray(chosen, { minLength: chosen.length }));
const texts = some(
  required(),
  length({ min: 2 }),
  length({ max: 3, count: 'characters' }),
  length({ min: 1, max: 4 }, { message: '{label}: {min}!' }),
  pattern(/^[a-c]+$/),
  pattern(/B/i, 'Has a B'),
  email({ dot: true }),
  url({ schemes: ['https'] }),
  ipAddress(),
  ipAddress({ version: 4 }),
  cardNumber(),
  oneOf(['a', 'abc']),
  check(short, { severity: 'warning' }),
  length({ max: 2 }, { severity: 'notice', code: 'wordy' }),
);
const numbers = some(
  required(),
  range({ min: 1, max: 3 }),
  range({ above: 0, step: 0.5 }),
  step(2),
  step(2, 1),
  oneOf([1, 2]),
  check(short, 'Too long'),
  range({ max: 4 }, { on: 'blur', severity: 'warning' }),
);
const moments = (min: string) => some(required(), range({ min }), pattern(/1/));
const lists = some(required(), length({ min: 1, max: 2 }), noDuplicates());
const made = <R>(rules: fc.Arbitrary<R[]>, make: (...rules: never[]) => Node): fc.Arbitrary<Node> => rules.map((chosen) => make(...(chosen as never[])));
const leaf: fc.Arbitrary<Node> = fc.oneof(
  made(texts, (...rules) => text({ label: 'T', hint: 'Hint' }, ...rules)),
  made(texts, (...rules) => text({ label: { en: 'T', de: 'Te' } as never, trim: false, case: 'lower', messages: { tooShort: 'Short!' } }, ...rules)),
  made(numbers, (...rules) => number('N', ...rules)),
  made(numbers, (...rules) => integer({ label: 'I', decimal: ',' }, ...rules)),
  made(some(required()), (...rules) => boolean('B', ...rules)),
  made(moments('2027-05-01'), (...rules) => date('D', ...rules)),
  made(moments('09:00'), (...rules) => time('D', ...rules)),
  made(moments('2027-05-01T09:00'), (...rules) => dateTime('D', ...rules)),
  made(moments('2027-05'), (...rules) => month('D', ...rules)),
  made(moments('2027-W18'), (...rules) => week('D', ...rules)),
  made(some(required()), (...rules) => color('C', ...rules)),
  made(some(required(), oneOf(['a'])), (...rules) => choice('K', ['a', { value: 'b', label: 'Bee' }], ...rules)),
  made(lists, (...rules) => choices({ label: 'S', json: { nullable: true } }, ['a', 'b'], ...rules)),
  made(some(required(), fileSize({ max: 5 }), fileType('.pdf')), (...rules) => file('F', ...rules)),
  made(some(length({ max: 1 }), fileSize({ max: 5 })), (...rules) => files('F', ...rules)),
);
const node: fc.Arbitrary<Node> = fc.letrec<{ node: Node }>((tie) => ({
  node: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    leaf,
    fc.tuple(tie('node'), lists).map(([item, rules]) => list('L', item, ...(rules as never[]))),
    fc.tuple(tie('node'), leaf, leaf, any(undefined, 'refuse' as const)).map(([a, n, b, unknown]) =>
      group({ a, n, b, again: text('Again', required()), ['stay']: interval('Stay', date('From'), date('To')) }, { label: 'G', unknown })
        .only({ a: wide })
        .rules({ again: [sameAs('b') as never, requiredWhen(wide)], b: differsFrom('n') as never, n: after('b', { orSame: true }) as never })
        .whole(check(wide, { message: 'Not wide', code: 'narrow' }) as never),
    ),
    fc.tuple(leaf, any([], [required()])).map(([a, rules]) => variant('k', { none: group({}), some: group({ a }) }, 'V', ...(rules as never[]))),
  ),
})).node;

const scalar = any<unknown>(
  '',
  'a',
  'abc',
  ' B ',
  'a@b.c',
  'https://x',
  '10.0.0.1',
  '1',
  '2,5',
  'on',
  '2027-05-01',
  '09:30',
  '2027-05-01T09:30',
  '2027-05',
  '2027-W18',
  '#14505c',
  0,
  1,
  2.5,
  5,
  true,
  false,
  null,
  undefined,
);
const value: fc.Arbitrary<unknown> = fc.letrec<{ value: unknown }>((tie) => ({
  value: fc.oneof(
    scalar,
    any<unknown>({ name: 'a.pdf', size: 3, type: '' }, [{ name: 'a', size: 9, type: '' }], ['a'], ['a', 'a']),
    fc.array(tie('value'), { maxLength: 3 }),
    fc.record(
      { a: tie('value'), n: tie('value'), b: tie('value'), again: scalar, k: any('none', 'some', 'x'), stay: any({}, { from: '2027-05-02', to: '2027-05-01' }) },
      { requiredKeys: [] },
    ),
  ),
})).value;

test('written and read again: the same findings and data, as forms and as JSON hold values; and the same document', () => {
  const seen = new Set<string>();
  fc.assert(
    fc.property(
      node.map((inner) => ({ inner, [fc.toStringMethod]: () => JSON.stringify(toJsonSchema(inner)) })),
      fc.array(value, { minLength: 10, maxLength: 10 }),
      ({ inner }, values) => {
        // Kinds clash with rules in ways that no type would allow; what they throw is a finding too.
        const schema = group({ inner });
        const document = json(toJsonSchema(schema));
        const again = fromJsonSchema(document, { checks: CHECKS });
        expect(toJsonSchema(again)).toEqual(document);
        for (const each of values)
          for (const options of [{}, { json: true }, { unknown: 'refuse' } as const]) {
            const before = validate(schema, { inner: each }, options);
            before.findings.forEach(({ code }) => seen.add(code));
            expect(validate(again, { inner: each }, options)).toEqual(before);
          }
      },
    ),
    { numRuns: 300 },
  );
  expect(seen.size).toBeGreaterThan(15);
});
