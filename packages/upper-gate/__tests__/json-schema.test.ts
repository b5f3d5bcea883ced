import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import type { Field, Group, Handle, List, Node, Rule } from 'upper-gate';
import { fieldFromAttributes } from 'upper-gate/html';
import { RULES } from 'upper-gate/interop';
import { defaultsOf, fromJsonSchema, JsonSchemaError, toJsonSchema, type JsonSchema } from 'upper-gate/json-schema';
import { explain } from 'upper-gate/trace';
import { fileOf } from './fileOf.ts';
import { runs, THOROUGH } from './runs.ts';

const { appliesWhen, fieldRules, groupRules } = library;
const { after, asyncCheck, boolean, cardNumber, check, choice, choices, color, createGate, custom, date, dateTime, differsFrom, email, file, files } = library;
const { fileSize, fileType, group, integer, interval, ipAddress, length, list, month, noDuplicates, number, oneOf, pattern, range, recursive, required } = library;
const { requiredWhen, sameAs, step, text, time, url, validate, validateAsync, variant, week } = library;

const json = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const told = (schema: Node, value: unknown, options: object = { source: 'json' }): string[] => {
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
const some = (...rules: object[]): fc.Arbitrary<object[]> => fc.subarray(rules).chain((chosen) => fc.shuffledSubarray(chosen, { minLength: chosen.length }));
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
const made = (rules: fc.Arbitrary<object[]>, make: (...rules: never[]) => Node): fc.Arbitrary<Node> => rules.map((chosen) => make(...(chosen as never[])));
const leaf: fc.Arbitrary<Node> = fc.oneof(
  made(texts, (...rules) => text({ label: 'T', hint: 'Hint' }, ...rules)),
  made(texts, (...rules) => text({ label: { en: 'T', de: 'Te' } as never, trim: false, case: 'lower', messages: { tooShort: 'Short!' } }, ...rules)),
  made(numbers, (...rules) => number('N', ...rules)),
  made(numbers, (...rules) => integer({ label: 'I', decimal: ',' }, ...rules)),
  made(some(required()), (...rules) => boolean('B', ...rules)),
  made(moments('2027-05-01'), (...rules) => date('D', ...rules)),
  made(moments('2027-05-01'), (...rules) => date({ label: 'D', locale: 'de' }, ...rules)),
  made(moments('09:00'), (...rules) => time('D', ...rules)),
  made(moments('2027-05-01T09:00'), (...rules) => dateTime('D', ...rules)),
  made(moments('2027-05'), (...rules) => month('D', ...rules)),
  made(moments('2027-W18'), (...rules) => week('D', ...rules)),
  made(some(required()), (...rules) => color('C', ...rules)),
  made(some(required()), (...rules) => library.anyJson('J', ...rules)),
  made(some(required(), oneOf(['a'])), (...rules) => choice('K', ['a', { value: 'b', label: 'Bee' }], ...rules)),
  made(lists, (...rules) => choices({ label: 'S', inJson: { nullable: true } }, ['a', 'b'], ...rules)),
  made(some(required(), fileSize({ max: 5 }), fileType('.pdf')), (...rules) => file('F', ...rules)),
  made(some(length({ max: 1 }), fileSize({ max: 5 })), (...rules) => files('F', ...rules)),
);
const node: fc.Arbitrary<Node> = fc.letrec<{ node: Node }>((tie) => ({
  node: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    leaf,
    fc.tuple(tie('node'), some(required())).map(([item, rules]) => library.dictionary('D', item, ...(rules as unknown as never[]))),
    fc.tuple(tie('node'), lists).map(([item, rules]) => list('L', item, ...(rules as unknown as never[]))),
    fc.tuple(tie('node'), leaf, leaf, any(undefined, 'refuse' as const)).map(([a, n, b, unknown]) =>
      group({ a, n, b, again: text('Again', required()), ['stay']: interval('Stay', date('From'), date('To')) }, { label: 'G', unknown })
        .with(appliesWhen({ a: wide }))
        .with(
          fieldRules({
            again: [sameAs('b' as never) as never, requiredWhen(wide)],
            b: differsFrom('n' as never) as never,
            ...(RULES.after.fits.includes(n.kind as never) && { n: after('b' as never, { orSame: true }) as never }),
          }),
        )
        .with(groupRules(check(wide, { message: 'Not wide', code: 'narrow' }) as never)),
    ),
    fc.tuple(leaf, any([], [required()])).map(([a, rules]) => variant('V', 'k', { none: group({}), some: group({ a }) }, ...(rules as unknown as never[]))),
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
    any<unknown>(fileOf('a.pdf', 3), [fileOf('a', 9)], ['a'], ['a', 'a']),
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
        // So it is in the words of OpenAPI 3.0.
        const It = json(toJsonSchema(schema, { for: 'openapi-3.0', pointer: '/components/schemas/It' }));
        const api = { openapi: '3.0.3', components: { schemas: { It } } };
        expect(toJsonSchema(fromJsonSchema(api, { pointer: '/components/schemas/It', checks: CHECKS }))).toEqual(document);
        for (const each of values)
          for (const options of [{}, { source: 'json' } as const, { unknown: 'refuse' } as const]) {
            const before = validate(schema, { inner: each }, options);
            before.findings.forEach(({ code }) => seen.add(code));
            expect(validate(again, { inner: each }, options)).toEqual(before);
          }
      },
    ),
    runs(300),
  );
  expect(seen.size).toBeGreaterThan(THOROUGH ? 15 : 10);
});

const object = (properties: object, ...required: string[]): JsonSchema => ({ type: 'object', properties, required });
const lock = {
  $ref: '#/$defs/lock',
  $defs: { lock: { ...(object({ name: { type: 'string' }, next: { $ref: '#/$defs/lock' }, side: { type: 'array', items: { $ref: '#/$defs/lock' } } }, 'name') as object) } },
};
const boats = {
  ...(object(
    { kind: { enum: ['barge', 'canoe'] }, beam: { type: 'number' }, insured: { type: 'boolean' }, phone: { type: 'string' }, mail: { type: 'string' } },
    'kind',
    'insured',
  ) as object),
  dependentRequired: { mail: ['phone'] },
  if: { properties: { kind: { const: 'barge' } }, required: ['kind'] },
  then: { properties: { tug: { type: 'string' }, beam: { maximum: 5 } }, required: ['tug'] },
  else: { properties: { beam: { exclusiveMaximum: 2 }, phone: false } },
};
const cargo = (also: object) => ({
  ...also,
  oneOf: [object({ load: { const: 'none' } }, 'load'), object({ load: { const: 'goods' }, tonnes: { type: 'number' } }, 'load', 'tonnes')],
});
const nullable = object({ a: { type: ['string', 'null'] }, b: { type: ['number', 'null'] }, k: { enum: ['x', null] } }, 'b');

/** The types of values, as documents have them. */
const [TEXT, NUMBER, WHOLE, FLAG] = [{ type: 'string' }, { type: 'number' }, { type: 'integer' }, { type: 'boolean' }];
const TEXTS = { type: 'array', items: TEXT };

test.each<[string, JsonSchema, unknown, string[]]>([
  ['types', object({ s: TEXT, n: NUMBER, i: WHOLE, b: FLAG }), { s: 1, n: '1', i: 1.5, b: 'true' }, ['s badInput', 'n badInput', 'i badInput', 'b badInput']],
  ['types that fit', object({ s: TEXT, n: NUMBER, i: WHOLE, b: FLAG }), { s: '1', n: 1, i: 1e3, b: false }, []],
  ['null is no value of these types', object({ s: TEXT, o: object({}), l: TEXTS }), { s: null, o: null, l: null }, ['s badInput', 'o badInput', 'l badInput']],
  ['null where it is taken', nullable, { a: null, b: null, k: null }, []],
  ['a member that has to be there, and may be null', nullable, { k: 'y' }, ['b valueMissing', 'k notAllowed']],
  ['required', object({ s: TEXT, b: FLAG, l: TEXTS, o: object({}) }, 's', 'b', 'l', 'o'), {}, ['s valueMissing', 'b valueMissing', 'l valueMissing', 'o valueMissing']],
  ['required, there, and empty', object({ b: FLAG, l: TEXTS }, 'b', 'l'), { b: false, l: [] }, []],
  ['an object that may be left out', object({ o: object({ s: TEXT }, 's'), l: { type: 'array', items: TEXT, minItems: 1 } }), {}, []],
  [
    'and is validated where it is there',
    object({ o: object({ s: TEXT }, 's'), l: { type: 'array', items: TEXT, minItems: 1 } }),
    { o: {}, l: [] },
    ['o.s valueMissing', 'l tooFew'],
  ],
  ['lengths in code points', object({ s: { type: 'string', maxLength: 2 } }), { s: '🚤🚤' }, []],
  ['lengths, pattern', object({ s: { type: 'string', minLength: 3, pattern: '^\\p{L}+$' } }), { s: 'a1' }, ['s tooShort', 's patternMismatch']],
  ['white space counts', object({ s: { type: 'string', maxLength: 1 } }), { s: ' a' }, ['s tooLong']],
  ['bounds', object({ n: { type: 'number', exclusiveMinimum: 0, maximum: 1, multipleOf: 0.1 } }), { n: 0 }, ['n rangeUnderflow']],
  ['bounds of both sorts', object({ n: { type: 'number', minimum: 0, exclusiveMinimum: 0, maximum: 9, exclusiveMaximum: 10 } }), { n: 0 }, ['n rangeUnderflow']],
  ['steps', object({ n: { type: 'number', exclusiveMinimum: 0, maximum: 1, multipleOf: 0.1 } }), { n: 1.25 }, ['n rangeOverflow', 'n stepMismatch']],
  [
    'const, enum',
    object({ a: { const: 'x' }, b: { const: true }, c: { const: 3 }, d: { type: 'boolean', const: false }, e: { enum: [1, 2] } }),
    { a: 'y', c: 4, d: true, e: 3 },
    ['a notAllowed', 'c notAllowed', 'd notAllowed', 'e notAllowed'],
  ],
  ['const true', object({ b: { const: true } }), { b: false }, ['b valueMissing']],
  ['options with titles', object({ a: { type: 'string', oneOf: [{ const: 'p', title: 'Port' }, { const: 's' }] } }), { a: 'Port' }, ['a notAllowed']],
  ['some of several', object({ a: { type: 'array', items: { enum: ['x', 'y'] }, uniqueItems: true, maxItems: 2 } }), { a: ['x', 'x', 'y'] }, ['a.1 duplicate', 'a tooMany']],
  ['rows without repetition', object({ a: { type: 'array', items: object({ n: NUMBER }), uniqueItems: true } }), { a: [{ n: 1 }, { n: 1 }] }, ['a.1 duplicate']],
  ...['email', 'uri', 'ipv4', 'ipv6', 'date', 'date-time', 'time', 'uuid'].map((format): [string, JsonSchema, unknown, string[]] => [
    format,
    object({ a: { type: 'string', format } }),
    { a: 'x' },
    [`a ${format === 'date' ? 'badInput' : 'typeMismatch'}`],
  ]),
  [
    'date-time',
    { type: 'array', items: { type: 'string', format: 'date-time' } },
    ['2027-05-01T09:30:00Z', '2027-02-30T09:30:00Z', '2027-05-01T09:30:00', '1998-12-31T23:59:60Z', '1998-12-31T22:59:60Z', '1998-12-31T15:59:60.1-08:00'],
    ['1 typeMismatch', '2 typeMismatch', '4 typeMismatch'],
  ],
  ['places of a list', { type: 'array', prefixItems: [NUMBER, NUMBER], items: false }, [1, 'x', 3], ['1 badInput', ' tooMany']],
  [
    'allOf',
    { allOf: [object({ a: { type: 'string', minLength: 3 } }), { properties: { a: { pattern: '^x' } }, required: ['a'] }], properties: { b: NUMBER } },
    { a: 'ab', b: 'c' },
    ['b badInput', 'a tooShort', 'a patternMismatch'],
  ],
  ['keys that are not known', { ...(object({ a: TEXT }) as object), additionalProperties: false }, { a: 'x', b: 1 }, ['b unknown']],
  [
    'anything or null',
    {
      ...(object({ a: { anyOf: [{ type: 'string', maxLength: 1 }, { type: 'null' }] }, b: { oneOf: [{ type: 'null' }, { $ref: '#/$defs/k' }] } }, 'a') as object),
      $defs: { k: { enum: ['x'] } },
    },
    { a: null, b: null },
    [],
  ],
  ['anything or null: neither', object({ a: { anyOf: [{ type: 'string', maxLength: 1 }, { type: 'null' }] } }, 'a'), { a: 'xy' }, ['a tooLong']],
  [
    'a recursion, or null',
    { type: 'object', properties: { n: NUMBER, next: { anyOf: [{ $ref: '#' }, { type: 'null' }] } } },
    { next: { n: 'x', next: null } },
    ['next.n badInput'],
  ],
  [
    'formats of OpenAPI',
    object({ a: { type: 'integer', format: 'int32' }, b: { type: 'integer', format: 'int64' }, c: { type: 'string', format: 'password' } }),
    { a: 2 ** 31, b: 2 ** 31, c: 'x' },
    ['a rangeOverflow'],
  ],
  ['either-or', object({ c: cargo({}) }, 'c'), { c: { load: 'goods' } }, ['c.tonnes valueMissing']],
  ['either-or, nothing chosen', object({ c: cargo({}) }), { c: {} }, ['c.load valueMissing']],
  [
    'null for what has parts that have to be there',
    object(
      {
        o: { ...(object({ s: TEXT }, 's') as object), type: ['object', 'null'] },
        l: { type: ['array', 'null'], items: TEXT, minItems: 1 },
        c: { anyOf: [cargo({}), { type: 'null' }] },
      },
      'o',
      'l',
      'c',
    ),
    { o: null, l: null, c: null },
    [],
  ],
  ['either-or at the top', cargo({}), {}, ['load valueMissing']],
  ['either-or, not there', object({ c: cargo({}) }, 'c'), {}, ['c.load valueMissing']],
  ['either-or beside properties', cargo(object({ name: TEXT }) as object), { load: 'goods', tonnes: 'x' }, ['tonnes badInput']],
  ['either-or beside properties, the other', cargo(object({ name: TEXT }) as object), { load: 'none', tonnes: 'x' }, []],
  ['if: then', boats, { kind: 'barge', insured: true, beam: 6 }, ['beam rangeOverflow', 'tug valueMissing']],
  ['if: else', boats, { kind: 'canoe', insured: true, beam: 2, phone: 3 }, ['beam rangeOverflow']],
  ['if: then, with what depends on it', boats, { kind: 'barge', insured: true, tug: 'Bee', mail: 'x' }, ['phone valueMissing']],
  [
    'recursion, to the depth of the data',
    lock,
    { name: 'a', next: { name: 'b', side: [{}, { name: 3 }], next: {} } },
    ['next.next.name valueMissing', 'next.side.0.name valueMissing', 'next.side.1.name badInput'],
  ],
])('documents of others: %s', (_, document, value, expected) => {
  const schema = fromJsonSchema(document);
  expect(told(schema, value)).toEqual(expected);
  // What is written of it again says the same.
  expect(told(fromJsonSchema(json(toJsonSchema(schema))), value)).toEqual(expected);
});

test.each<[JsonSchema, RegExp]>([
  [object({ a: { type: 'string', minlength: 3 } }), /^#\/properties\/a: there is no keyword "minlength"\. Did you mean "minLength"\?/],
  [{ $ref: '#/$defs/a', $defs: { a: { $ref: '#/$defs/b' }, b: { $ref: '#/$defs/a' } } }, /runs in a circle: # → #\/\$defs\/a → #\/\$defs\/b → #\/\$defs\/a/],
  [{ allOf: [{ $ref: '#' }] }, /runs in a circle/],
  [object({ a: { $ref: '#/$defs/none' } }), /^#\/properties\/a: there is nothing at #\/\$defs\/none/],
  [object({ a: { $ref: 'https://example.com/a.json' } }), /a document that was not given\. Pass it under "documents"/],
  [object({ a: { type: 'string', pattern: '(' } }), /^#\/properties\/a: Invalid regular expression/],
  [object({ a: { type: 'string', minLength: 'x' } }), /^#\/properties\/a: "minLength" takes a whole number from 0. It is "x"/],
  [object({ a: { type: 'array', items: TEXT, minItems: 3, maxItems: 2, gate: { rules: ['length'] } } }), /min not above max/],
  [object({ a: { type: 'string', gate: { kind: 'anyJson' } } }), /"type": "string" cannot be expressed here \(anyJson\)/],
  [object({ a: { type: 'string', gate: { rule: [] } } }), /^#\/properties\/a\/gate: "gate" has no "rule"/],
  [object({ a: { type: 'string', gate: { label: { en: 3 } } } }), /"label" of "gate" takes a string, or an object of strings by language/],
  [object({ a: { type: 'string', gate: { rules: [{ rule: 'length', mim: 3 }] } } }), /the rule length has no "mim". It takes min, max, count/],
  [object({ a: { type: 'string', gate: { rules: [{ rule: 'required', severity: 'bad' }] } } }), /"severity" of the rule required takes "error" or "warning"/],
  [object({ a: { type: 'number', gate: { trim: true } } }), /^#\/properties\/a\/gate: "trim" has no meaning for a field of kind number/],
  [object({ a: { type: 'string', gate: { rules: ['nope'] } } }), /there is no rule "nope"/],
  [object({ a: { type: 'string', gate: { rules: [{ rule: 'check', check: 'constructor' }] } } }), /the function "constructor" is missing/],
  [object({ a: { type: 'boolean', gate: { rules: [{ rule: 'step', step: 2 }] } } }), /^#\/properties\/a\/gate\/rules: the rule step does not fit a value of kind boolean/],
  [object({ a: { type: 'string', gate: { rules: [{ rule: 'fileType', accept: '.pdf' }] } } }), /fileType does not fit a value of kind text\. It fits file, files/],
  [object({ a: { type: 'number', gate: { rules: [{ rule: 'sameAs', other: 'b' }] } } }), /the rule sameAs reads other fields\. Move it to "gate"/],
  [{ ...(object({ a: FLAG }) as object), gate: { fieldRules: { a: [{ rule: 'after', other: 'b' }] } } }, /the rule after does not fit a value of kind boolean/],
  [{ ...(object({ a: FLAG }) as object), gate: { rules: { a: ['required'] } } }, /Move rules on its fields to "fieldRules"/],
  [object({ a: { type: 'string', gate: { fieldRules: {} } } }), /"fieldRules" has no meaning for a field of kind text/],
  [{ ...(object({ a: NUMBER }) as object), gate: { groupRules: [{ rule: 'cardNumber' }] } }, /the rule cardNumber does not fit a value of kind group/],
  [{ $schema: 'http://json-schema.org/draft-04/schema#', type: 'object' }, /Only JSON Schema 2020-12, 2019-09 and draft-07 can be read/],
])('what cannot be expressed is reported, with its place: %j', (document, message) => {
  expect(() => fromJsonSchema(document)).toThrow(message);
});

const nameless = check((value: string) => value === 'x');
const same = () => check(function same() {});
test.each<[string, Node, RegExp]>([
  ['a function without a name', group({ a: text('A', nameless) }), /^#\/properties\/a: a function has no name/],
  ['two of one name', group({ a: text('A', same()), b: text('B', same()) }), /two different functions are named "same"/],
  ['a message that is a function', text('A', required({ message: () => 'x' })), /the message of the rule required is a function/],
  ['a custom kind', custom('A', { read: (raw) => raw }), /a field of kind custom/],
])('what cannot be written is reported: %s', (_, schema, message) => {
  expect(() => toJsonSchema(schema)).toThrow(message);
});

test('edits of a written document count: its keywords say what holds', () => {
  const document = json(toJsonSchema(group({ name: text('Name', required(), length({ min: 2, max: 9 })), beam: number('Beam', range({ max: 5 })) }))) as unknown as {
    required: string[];
    properties: { name: Record<string, unknown>; beam: Record<string, unknown> };
  };
  document.required = [];
  document.properties.name['maxLength'] = 3;
  document.properties.name['pattern'] = '^O';
  delete document.properties.beam['maximum'];
  const schema = fromJsonSchema(document as never);
  expect(told(schema, { name: 'Heron', beam: 9 })).toEqual(['name tooLong']);
  expect(told(schema, {})).toEqual([]);
});

test.each<[string, Rule<string | undefined>, unknown]>([
  ['email({ dot })', email({ dot: true }), undefined],
  ['ipAddress of one version', ipAddress({ version: 4 }), undefined],
  ['ipAddress, of the other version now', ipAddress({ version: 4 }), 'ipv6'],
  ['url of some schemes', url({ schemes: ['https'] }), undefined],
])('a rule disappears with its keyword: %s', (_, rule, format) => {
  const document = json(toJsonSchema(group({ a: text('A', rule) }))) as unknown as { properties: { a: Record<string, unknown> } };
  if (format === undefined) delete document.properties.a['format'];
  else document.properties.a['format'] = format;
  expect(told(fromJsonSchema(document as never), { a: '::1' })).toEqual([]);
});

test('network rules by name; defaults; a schema out of an OpenAPI document', async () => {
  const schema = group({ registration: text('Registration', asyncCheck(askRegister, { debounce: 5, unanswered: 'block', message: 'Not there' })), beam: number('Beam') });
  const passage = json(toJsonSchema(schema, { initial: { beam: 2 } }));
  const api = { openapi: '3.1.0', components: { schemas: { Passage: passage, Booking: object({ passage: { $ref: '#/components/schemas/Passage' } }) } } };
  const pointer = '/components/schemas/Booking';
  const booking = fromJsonSchema(api, { pointer, checks: CHECKS });
  expect(defaultsOf(api, pointer)).toEqual({ passage: { beam: 2 } });
  expect(await validateAsync(booking, { passage: { registration: 'Ghost' } })).toMatchObject({ findings: [{ path: 'passage.registration', message: 'Not there' }] });
  expect(await validateAsync(booking, { passage: { registration: 'Ghost' } }, { checks: { askRegister: () => true } })).toMatchObject({ ok: true });
});

test('in a live form: rows of what lies within itself are rows, another is one field; conditions follow the siblings', () => {
  type Side = Group<{ name: Field<string, string> }>;
  const gate = createGate(fromJsonSchema<Group<{ name: Field<string, string>; side: List<Side>; next: Field }>>(lock), { initial: { name: 'Top', side: [{ name: '' }] } });
  expect(gate.field('side.0.name').findings.map(({ code }) => code)).toEqual(['valueMissing']);
  gate.list('side').add({ name: 'West' });
  gate.field('next').set({ name: '', side: [] });
  expect(gate.field('next').findings.map(({ code, message }) => `${code} ${message}`)).toEqual(['valueMissing name is required']);
  expect(gate.field('side.1.name').data).toBe('West');
  let deep: object = { name: 'x' };
  for (let i = 0; i < 20_000; i += 1) deep = { name: 'x', next: deep };
  expect(told(fromJsonSchema(lock), deep)).toEqual([expect.stringMatching(/^(next\.){100}next badInput$/)]);

  const boat = createGate(fromJsonSchema(boats));
  expect(boat.field('tug').applies).toBe(false);
  boat.field('kind').set('barge');
  expect({ applies: boat.field('tug').applies, 'boat.field(phone).applies': boat.field('phone').applies, required: boat.field('phone').required }).toEqual({
    applies: true,
    'boat.field(phone).applies': true,
    required: false,
  });
  boat.field('mail').set('x');
  expect(boat.field('phone').required).toBe(true);
});

test('in a live form, conditions of a document find at every edit what validating the whole finds', () => {
  const schema = fromJsonSchema(boats);
  const word = fc.constantFrom('', 'a', 'Bee');
  const edits = fc.array(
    fc.record(
      { kind: fc.constantFrom('', 'barge', 'canoe', 'x'), beam: fc.constantFrom('', '1', '3', '6', 'x'), phone: word, mail: word, tug: word, insured: fc.boolean() },
      { requiredKeys: [] },
    ),
    { maxLength: 8 },
  );
  fc.assert(
    fc.property(edits, (all) => {
      const gate = createGate(schema);
      for (const edit of all) {
        gate.set(edit);
        expect(gate.findings).toEqual(validate(schema, gate.root.raw).findings);
      }
    }),
    runs(300),
  );
});

/** References to references: each level twice, or one in the other. */
const levels = (count: number, make: (next: object) => object): JsonSchema => ({
  $ref: '#/$defs/d0',
  $defs: Object.fromEntries([...Array(count).keys()].map((i) => [`d${i}`, i === count - 1 ? TEXT : make({ $ref: `#/$defs/d${i + 1}` })])),
});
const deep = (make: (inner: unknown) => object): JsonSchema => [...Array(10_000).keys()].reduce<unknown>((inner) => make(inner), TEXT) as JsonSchema;
const both = (next: object) => ({ type: 'object', properties: { x: next, y: next } });

test.each<[string, JsonSchema, RegExp]>([
  ['properties that share what they refer to', levels(40, both), /more than 100000 parts/],
  ['references in a long row', levels(5000, (next) => ({ ...next, title: 'A' })), /more than 200 levels/],
  ['properties in properties', deep((inner) => ({ type: 'object', properties: { a: inner } })), /more than 200 levels/],
  ['items in items', deep((inner) => ({ type: 'array', items: inner })), /more than 200 levels/],
  ['allOf in allOf', deep((inner) => ({ allOf: [inner] })), /more than 200 levels/],
  ['what is compared', { type: 'array', prefixItems: [deep((inner) => ({ items: inner })), deep((inner) => ({ items: inner }))] }, /too deep/],
])('documents that would take for ever: %s', (_, document, error) => {
  expect(() => fromJsonSchema(document)).toThrow(error);
  expect(() => fromJsonSchema(document)).toThrow(JsonSchemaError);
});

test('what is referred to often is read once, and has its own label in each place', () => {
  const document = levels(16, both) as { $defs: object };
  const schema = fromJsonSchema<Group<never>>({ ...document, $ref: '#/$defs/d5' });
  expect(schema.fields).toHaveProperty('x.fields.x.fields.y');
  const label = (part: unknown) => (part as { label: string }).label;
  const { fields } = fromJsonSchema<Group<{ a: Node; b: Node }>>({ type: 'object', properties: { a: { $ref: '#/$defs/t' }, b: { $ref: '#/$defs/t' } }, $defs: { t: TEXT } });
  expect([label(fields.a), label(fields.b)]).toEqual(['a', 'b']);
  expect(defaultsOf(levels(60, both))).toBeUndefined();
  expect(fromJsonSchema<Node>(levels(60, (next) => ({ allOf: [next, next] })))).toMatchObject({ kind: 'text' });
});

test.each([
  ...[
    '^(a+)+$',
    '(a|a)*',
    '(a|ab)*c',
    '(.*)*',
    '(a*a)*b',
    '\\d*\\d*$',
    '(\\w+\\s?)*$',
    '(([a-z])+.)+',
    '(a?){30}a{30}',
    '(a{1,50}){1,50}',
    '(?<n>a+)+b',
    '(?:[^,]+,?)*',
    '(\\w|\\d)*',
    '([A-Z]+[a-z]*)+@',
  ].map((pattern): [string, boolean] => [pattern, true]),
  ...[
    '^\\d{4}-\\d{2}$',
    '^[a-z0-9]+(?:-[a-z0-9]+)*$',
    '^\\d+(,\\d+)*$',
    '^[^@]+@[^@]+\\.[^@]+$',
    '(foo|far)*',
    '^\\+?[\\d ]{6,20}$',
    '^(?=.*\\d)(?=.*[a-z]).{8,}$',
    '^\\s*\\S+\\s*$',
    '^[\\p{L} -]{1,50}[a-z]{1,30}$',
  ].map((pattern): [string, boolean] => [pattern, false]),
])('the pattern %s: a danger %s', (pattern, isDanger) => {
  const document = object({ a: { type: 'string', pattern } });
  const ways = [() => fromJsonSchema(document), () => fieldFromAttributes({ pattern }, 'input', { invalidPatterns: 'ignore' })];
  for (const read of ways) {
    if (isDanger) expect(read).toThrow(/can take very long on a short text.*trustPatterns/);
    else expect(read).not.toThrow();
  }
  expect(() => fromJsonSchema(document, { trustPatterns: true })).not.toThrow();
});

test('an object that was left out is not there for conditions', () => {
  const document = {
    type: 'object',
    properties: { o: { type: 'object', properties: { s: TEXT }, required: ['s'] }, n: NUMBER },
    if: { required: ['o'] },
    then: { properties: { m: NUMBER }, required: ['m'] },
  };
  const schema = fromJsonSchema(document as JsonSchema);
  const found = [{}, { o: { s: 'x' } }, { o: { s: 'x' }, m: 1 }].map((value) => validate(schema, value, { source: 'json' }).findings.map(({ path, code }) => `${path} ${code}`));
  expect(found).toEqual([[], ['m valueMissing'], []]);
});

test('documents keep their keys when options are renamed', () => {
  const isFine = () => true;
  const own = { label: { en: 'Code', de: 'Kennung' }, hint: { en: 'As written' }, reveal: 'submit', private: true, messages: { valueMissing: 'Which?' } };
  const check = { rule: 'check', check: 'isFine', message: 'No', code: 'odd', severity: 'warning', on: 'blur' };
  const ask = { rule: 'asyncCheck', check: 'isFine', debounce: 5, timeout: 100, cache: 3, unanswered: 'block' };
  const code = { ...own, absent: 'refused', trim: true, case: 'upper', wellFormed: true, rules: [check, ask] };
  const beam = { decimal: ',', locale: 'de' };
  const across = { fieldRules: { again: [{ rule: 'sameAs', other: 'code' }] }, groupRules: [{ rule: 'check', check: 'isFine' }] };
  const gate = { appliesWhen: { again: 'isFine' }, ...across, partial: true };
  const properties = { code: { type: 'string', gate: code }, beam: { type: 'number', gate: beam }, again: { type: 'string' } };
  const read = fromJsonSchema({ type: 'object', properties, required: ['code'], gate }, { checks: { isFine } });
  const again = toJsonSchema(read) as { properties: Record<string, { gate: object }>; gate: object };
  expect([again.properties['code']!.gate, again.properties['beam']!.gate, again.gate]).toEqual([code, beam, gate]);
});

test('in a form, what may be left out is left out as long as nothing in it is filled in', () => {
  const address = {
    type: 'object',
    required: ['street'],
    properties: { street: { type: 'string', minLength: 2 }, no: { type: 'integer' }, country: { type: 'string', default: 'NL' } },
  };
  const schema = fromJsonSchema({
    type: 'object',
    required: ['name'],
    properties: {
      name: { type: 'string' },
      address,
      marks: { type: 'array', minItems: 2, items: { type: 'string' } },
      contact: {
        oneOf: [
          { type: 'object', properties: { by: { const: 'a' }, x: { type: 'string' } }, required: ['by', 'x'] },
          { type: 'object', properties: { by: { const: 'b' } }, required: ['by'] },
        ],
      },
    },
  });
  const LEFT = { name: 'a', address: undefined, marks: undefined, contact: undefined };
  const told = (raw: unknown, source: 'form' | 'json' = 'form') => {
    const r = validate(schema, raw, { source });
    return r.ok ? r.data : r.findings.map((f) => `${f.path} ${f.code}`);
  };
  expect(told({ name: 'a' })).toEqual(LEFT);
  expect(told({ name: 'a', address: { street: '', no: '', country: 'NL' }, marks: [], contact: { by: '' } })).toEqual(LEFT);
  expect(told({ name: 'a', address: { street: '', no: 'x' } })).toEqual(['address.street valueMissing', 'address.no badInput']);
  expect(told({ name: 'a', address: { no: '1' }, marks: ['x'], contact: { by: 'a' } })).toEqual(['address.street valueMissing', 'marks tooFew', 'contact.x valueMissing']);
  expect(told({ name: 'a', address: {}, marks: [], contact: {} }, 'json')).toEqual(['address.street valueMissing', 'marks tooFew', 'contact.by valueMissing']);
  const gate = createGate(schema, { initial: { name: 'a' } as never, on: 'change' });
  const state = () => [gate.findings.map((f) => `${f.path} ${f.code}`), gate.root.data];
  expect(state()).toEqual([[], LEFT]);
  const at = (path: string) => gate.field(path as never) as Handle;
  const facts = () => [at('address').applies, at('address.street').applies, at('address.street').required];
  expect(facts()).toEqual([true, true, false]);
  expect(explain(gate, 'address.street')).toEqual(['"street" is not validated: nothing in "address" is filled in, and it may be left out.']);
  at('address.no').set('x');
  expect(state()[0]).toEqual(['address.street valueMissing', 'address.no badInput']);
  expect(facts()).toEqual([true, true, true]);
  at('address.no').set('1');
  expect(state()[0]).toEqual(['address.street valueMissing']);
  at('address.no').set('');
  expect(state()).toEqual([[], LEFT]);
  gate.list('marks' as never).add('x' as never);
  expect(state()[0]).toEqual(['marks tooFew']);
  gate.list('marks' as never).remove(0);
  expect(state()[0]).toEqual([]);
  at('contact.by').set('a');
  expect(state()[0]).toEqual(['contact.x valueMissing']);
  at('contact.by').set('');
  expect(state()).toEqual([[], LEFT]);
  gate.set({ address: { street: 'Quay' } });
  expect(gate.root.data).toEqual({ name: 'a', address: { street: 'Quay', no: undefined, country: 'NL' }, marks: undefined, contact: undefined });
  gate.reset();
  expect(state()).toEqual([[], LEFT]);
});

test('an optional dictionary is left out in a form as long as it has no entries', () => {
  const schema = fromJsonSchema({ type: 'object', properties: { tolls: { type: 'object', minProperties: 2, additionalProperties: { type: 'number' } } } });
  const gate = createGate(schema, { on: 'change' });
  const state = () => [gate.root.data?.['tolls'], gate.findings.map((f) => `${f.path} ${f.code}`)];
  for (const [tolls, expected] of [
    [{}, [undefined, []]],
    [{ a: 1 }, [{ a: 1 }, ['tolls tooFew']]],
    [{}, [undefined, []]],
    [{ a: 1, b: 2 }, [{ a: 1, b: 2 }, []]],
  ] as const) {
    gate.set({ tolls });
    expect(state()).toEqual(expected);
  }
});

test('what others are told: required texts are not empty; in the words of OpenAPI 3.0 what these can say, the rest in extensions', () => {
  const beam = number({ label: 'Beam (m)', inJson: { nullable: true } }, range({ above: 0, below: 9 }));
  const cargo = variant('Cargo', 'load', { none: group({}), sand: group({ tonnes: number('Tonnes') }) });
  const lock = group({ name: text('Name', required()), code: text('Code', required(), length({ max: 3 })), beam, cargo });
  expect(toJsonSchema(lock)).toMatchObject({ properties: { name: { minLength: 1 }, code: { maxLength: 3, allOf: [{ minLength: 1 }] } } });
  expect(toJsonSchema(lock, { for: 'openapi-3.0' })).toEqual({
    type: 'object',
    title: 'Form',
    required: ['name', 'code'],
    properties: {
      name: { type: 'string', title: 'Name', minLength: 1, 'x-gate': { rules: ['required'], trim: true, wellFormed: true } },
      code: { type: 'string', title: 'Code', maxLength: 3, allOf: [{ minLength: 1 }], 'x-gate': { rules: ['required', 'length'], trim: true, wellFormed: true } },
      beam: {
        ...{ type: 'number', nullable: true, title: 'Beam (m)', minimum: 0, exclusiveMinimum: true, maximum: 9, exclusiveMaximum: true },
        'x-gate': { rules: ['range'] },
      },
      cargo: {
        type: 'object',
        title: 'Cargo',
        oneOf: [
          { type: 'object', required: ['load'], properties: { load: { enum: ['none'], 'x-json-schema': { const: 'none' } } } },
          {
            type: 'object',
            required: ['load'],
            properties: { load: { enum: ['sand'], 'x-json-schema': { const: 'sand' } }, tonnes: { type: 'number', title: 'Tonnes' } },
          },
        ],
        'x-gate': { rules: [] },
      },
    },
  });
  const leg: Group<{ stops: List<Node> }> = group({
    stops: list(
      'Stops',
      recursive(() => leg as never),
    ),
  });
  expect(() => toJsonSchema(leg, { for: 'openapi-3.0' })).toThrow('Say where it will stand there: { pointer: "/components/schemas/Passage" }');
  expect(JSON.stringify(toJsonSchema(leg, { for: 'openapi-3.0', pointer: '/components/schemas/Leg' }))).toContain('"#/components/schemas/Leg');
});
