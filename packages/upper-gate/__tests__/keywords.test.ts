// JSON Schema keyword by keyword: which values each accepts, on both sides, read as a field, a rule or a rule on the value; and in a form.

import { describe, expect, jest, test } from '@jest/globals';
import fc from 'fast-check';
import { createGate, group, validate, type Node } from 'upper-gate';
import { fromJsonSchema, JsonSchemaError, notesOf, toJsonSchema, type JsonSchema } from 'upper-gate/json-schema';
import { runs } from './runs.ts';

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const verdict = (schema: Node, value: unknown) => validate(schema, value, { source: 'json' });

/** A schema, values that it accepts, and values that it refuses. */
type Row = readonly [schema: JsonSchema, right: readonly unknown[], wrong: readonly unknown[]];
const ANY = [null, true, 0, -1.5, '', 'x', [], [1], {}, { a: 1 }];
const DEEP = { properties: { a: { properties: { b: { type: 'number' } } } } };
const TREE = { type: 'object', properties: { name: { type: 'string' }, kids: { type: 'array', items: { $ref: '#' } } }, required: ['name'] };
const ROWS: Readonly<Record<string, readonly Row[]>> = {
  'true, false': [
    [true, ANY, []],
    [{}, ANY, []],
    [false, [], ANY],
    [{ properties: { a: false } }, [{}, { b: 1 }, 1], [{ a: 1 }]],
  ],
  type: [
    [{ type: 'null' }, [null], [0, '', false, [], {}]],
    [{ type: 'boolean' }, [true, false], [0, 'true', null]],
    [{ type: 'integer' }, [0, 1.0, -3], [1.5, '1', null]],
    [{ type: 'number' }, [0, 1.5], ['1', true]],
    [{ type: 'string' }, ['', 'x'], [1, null, []]],
    [{ type: 'array' }, [[], [1, 'x', null]], [{}, '', null]],
    [{ type: 'object' }, [{}, { a: null }], [[], '', null]],
    [{ type: ['string', 'number'] }, ['', 1], [true, null, []]],
    [{ type: ['object', 'null'], properties: { a: { type: 'number' } } }, [null, {}, { a: 1 }], [{ a: 'x' }, 1]],
    [{ type: ['array', 'null'], items: { type: 'number' } }, [null, [], [1]], [['x'], 1]],
  ],
  'enum, const': [
    [{ enum: ['a', 1, null, { x: [1] }] }, ['a', 1, null, { x: [1] }], ['b', 2, {}, { x: [2] }]],
    [{ const: { a: false } }, [{ a: false }], [{ a: 0 }, {}, [false]]],
    [{ const: 0 }, [0, -0], [false, '0']],
    [{ const: null }, [null], [0, '']],
    [{ enum: [[1], ['x']] }, [[1]], [[2], 1]],
    [{ type: 'string', enum: [''] }, [''], ['x']],
  ],
  'texts, in code points': [
    [{ minLength: 2 }, ['ab', '💩💩', 1], ['a', '💩']],
    [{ maxLength: 1 }, ['', 'a', '💩', []], ['ab']],
    [{ pattern: '^a+$' }, ['aa', 1, null], ['b']],
    [{ type: 'string', minLength: 0 }, [''], [1]],
  ],
  numbers: [
    [{ minimum: 1.5 }, [1.5, 2, 'x'], [1]],
    [{ exclusiveMinimum: 1, exclusiveMaximum: 2 }, [1.5, 'x'], [1, 2]],
    [{ multipleOf: 0.01 }, [4.02, 0.07, 19.99, 0, 'x'], [0.075]],
    [{ multipleOf: 0.0001 }, [0.0075, 1], [0.00751]],
    [{ type: 'number', multipleOf: 0.1, maximum: 1 }, [0.3, 1], [0.35, 1.1]],
    [{ type: 'integer', multipleOf: 3 }, [9, 0], [4]],
  ],
  lists: [
    [{ prefixItems: [{ type: 'number' }, { type: 'string' }] }, [[], [1], [1, 'x', null], {}], [['x'], [1, 1]]],
    [{ prefixItems: [{ const: 1 }], items: { type: 'string' } }, [[1], [1, 'x']], [[2], [1, 1]]],
    [{ prefixItems: [true, true], items: false }, [[1, 2]], [[1, 2, 3]]],
    [{ items: false }, [[], 'x'], [[1]]],
    [{ minItems: 1, maxItems: 2 }, [[1], [1, 2], 'x'], [[], [1, 2, 3]]],
    [
      { uniqueItems: true },
      [
        [1, '1', { a: 1, b: 2 }],
        [[1], [2]],
      ],
      [
        [1, 1],
        [
          { a: 1, b: 2 },
          { b: 2, a: 1 },
        ],
        [0, -0],
      ],
    ],
    [{ contains: { const: 1 } }, [[1], [2, 1], {}], [[], [2]]],
    [
      { contains: { minimum: 5 }, minContains: 2, maxContains: 3 },
      [
        [5, 6],
        [1, 5, 6, 7],
      ],
      [[5], [5, 6, 7, 8]],
    ],
    [{ contains: { const: 1 }, minContains: 0 }, [[], [2]], []],
    [{ prefixItems: [true], unevaluatedItems: false }, [[1]], [[1, 2]]],
    [{ contains: { type: 'string' }, unevaluatedItems: { type: 'number' } }, [['x', 1]], [['x', null]]],
  ],
  objects: [
    [{ properties: { a: { type: 'number' } } }, [{}, { a: 1 }, { b: 'x' }, 12, []], [{ a: 'x' }]],
    [{ required: ['a'] }, [{ a: null }, { a: '' }, [], 1], [{}, { b: 1 }]],
    [{ type: 'object', properties: { a: { type: 'string' } }, required: ['a'] }, [{ a: '' }, { a: 'x', b: 1 }], [{}, { a: null }]],
    [{ type: 'object', properties: { a: { type: 'array', items: { type: 'string' } } }, required: ['a'] }, [{ a: [] }, { a: [''] }], [{}, { a: [1] }]],
    [{ patternProperties: { '^n': { type: 'number' } } }, [{ n: 1, x: 'y' }, 1], [{ n: 'x' }]],
    [
      { type: 'object', properties: { a: { type: 'string' } }, patternProperties: { '^n': { type: 'number' } }, additionalProperties: false },
      [{ a: 'x', n: 1 }],
      [{ b: 1 }, { n: 'x' }],
    ],
    [{ additionalProperties: { type: 'number' } }, [{ a: 1 }, []], [{ a: 'x' }]],
    [{ properties: { a: {} }, additionalProperties: { type: 'number' } }, [{ a: 'x', b: 1 }], [{ b: 'x' }]],
    [{ properties: { a: {} }, additionalProperties: false }, [{ a: 1 }, {}, 'x'], [{ b: 1 }]],
    [{ propertyNames: { maxLength: 2 } }, [{ ab: 1 }, {}], [{ abc: 1 }]],
    [{ type: 'object', minProperties: 1, maxProperties: 2 }, [{ a: 1 }], [{}, { a: 1, b: 2, c: 3 }]],
    [{ dependentRequired: { a: ['b'] } }, [{}, { b: 1 }, { a: 1, b: 2 }], [{ a: 1 }]],
    [{ dependentSchemas: { a: { properties: { b: { type: 'number' } }, required: ['b'] } } }, [{ b: 'x' }, { a: 1, b: 2 }], [{ a: 1 }, { a: 1, b: 'x' }]],
    [DEEP, [{ a: 1 }, { a: { b: 2 } }], [{ a: { b: 'x' } }]],
  ],
  'what is combined': [
    [{ anyOf: [{ type: 'string' }, { minimum: 5 }] }, ['x', 5, null], [4]],
    [{ oneOf: [{ minimum: 5 }, { maximum: 2 }] }, [6, 1], [3, 'x']],
    [{ oneOf: [{ multipleOf: 2 }, { multipleOf: 3 }] }, [2, 3], [6, 5]],
    [{ allOf: [{ minimum: 2 }, { maximum: 4 }] }, [3, 'x'], [1, 5]],
    [{ type: 'number', allOf: [{ type: 'integer' }, { not: { const: 3 } }] }, [2], [3, 1.5, 'x']],
    [{ not: { type: 'string' } }, [1, null], ['x']],
    [{ type: 'object', properties: { a: { type: 'string' } }, anyOf: [{ required: ['a'] }, { required: ['b'] }] }, [{ a: 'x' }, { b: 1 }], [{}, { c: 1 }]],
    [
      {
        type: 'object',
        properties: { kind: { enum: ['a', 'b'] } },
        oneOf: [{ properties: { kind: { const: 'a' }, n: { type: 'number' } }, required: ['n'] }, { properties: { kind: { const: 'b' } } }],
      },
      [{ kind: 'a', n: 1 }, { kind: 'b' }],
      [{ kind: 'a' }, { kind: 'c' }],
    ],
    [{ if: { properties: { a: { const: 1 } }, required: ['a'] }, then: { required: ['b'] }, else: { required: ['c'] } }, [{ a: 1, b: 1 }, { c: 1 }, 1], [{ a: 1 }, {}]],
    [{ if: { type: 'number' }, then: { minimum: 3 } }, [3, 'x'], [2]],
    [{ type: 'object', properties: { a: { type: 'number' } }, not: { required: ['b'] } }, [{ a: 1 }], [{ b: 1 }]],
    [{ allOf: [{ properties: { a: {} } }], properties: { b: {} }, unevaluatedProperties: false }, [{ a: 1, b: 2 }], [{ c: 1 }]],
    [{ anyOf: [{ properties: { a: {} }, required: ['a'] }, { properties: { b: {} } }], unevaluatedProperties: false }, [{ a: 1 }, { b: 1 }, { a: 1, b: 1 }], [{ a: 1, c: 1 }]],
    [
      { if: { properties: { a: { const: 1 } }, required: ['a'] }, then: { properties: { b: true } }, unevaluatedProperties: { type: 'null' } },
      [{ a: 1, b: 2 }, { c: null }],
      [{ a: 1, c: 1 }, { b: 2 }],
    ],
  ],
  references: [
    [TREE, [{ name: 'x', kids: [{ name: 'y' }] }], [{ name: 'x', kids: [{}] }, {}]],
    [{ $ref: '#/$defs/a', $defs: { a: { type: 'number' } } }, [1], ['x']],
    [{ $ref: '#it', $defs: { a: { $anchor: 'it', minimum: 2 } } }, [2, 'x'], [1]],
    [{ $id: 'https://locks.example/a', $ref: 'b', $defs: { b: { $id: 'b', type: 'string' } } }, ['x'], [1]],
    [{ $ref: '#/$defs/a~1b%25', $defs: { 'a/b%': { const: 1 } } }, [1], [2]],
    [{ properties: { a: { $ref: '#/$defs/n', maximum: 5 } }, $defs: { n: { minimum: 2 } } }, [{ a: 3 }], [{ a: 1 }, { a: 6 }]],
    [{ properties: { foo: { $ref: '#' } }, additionalProperties: false }, [{ foo: { foo: false } }], [{ foo: { bar: 1 } }, { bar: 1 }]],
    [
      {
        $id: 'https://locks.example/strict',
        $dynamicAnchor: 'node',
        $ref: 'tree',
        unevaluatedProperties: false,
        $defs: { tree: { $id: 'tree', $dynamicAnchor: 'node', type: 'object', properties: { data: true, kids: { type: 'array', items: { $dynamicRef: '#node' } } } } },
      },
      [{ data: 1, kids: [{ data: 2 }] }],
      [{ kids: [{ daat: 1 }] }, { daat: 1 }],
    ],
  ],
  formats: [
    [{ format: 'hostname' }, ['gate.locks.example', 1], ['-x', 'a..b']],
    [{ type: 'string', format: 'duration' }, ['P3DT4H', 'PT1S'], ['P', '3D']],
    [{ format: 'byte' }, ['aGk=', ''], ['a']],
    [{ type: 'string', format: 'berth' }, ['anything', ''], [1]],
    [{ type: 'integer', format: 'int32' }, [2147483647], [2147483648]],
  ],
  'other dialects': [
    [
      { $schema: 'http://json-schema.org/draft-07/schema#', definitions: { a: { type: 'number' } }, items: [{ $ref: '#/definitions/a', minimum: 9 }], additionalItems: false },
      [[1]],
      [['x'], [1, 2]],
    ],
    [
      { $schema: 'http://json-schema.org/draft-07/schema', dependencies: { a: ['b'], c: { required: ['d'] } } },
      [
        { a: 1, b: 1 },
        { c: 1, d: 1 },
      ],
      [{ a: 1 }, { c: 1 }],
    ],
    [
      { $schema: 'https://json-schema.org/draft/2019-09/schema', $recursiveAnchor: true, properties: { a: { $recursiveRef: '#' } }, additionalProperties: false },
      [{ a: { a: {} } }],
      [{ a: { b: 1 } }],
    ],
    [
      { openapi: '3.0.3', properties: { a: { type: 'string', nullable: true }, b: { type: 'number', minimum: 1, exclusiveMinimum: true } } },
      [{ a: null, b: 2 }],
      [{ b: 1 }, { a: 1 }],
    ],
  ],
  'a property that tells': [
    [
      {
        openapi: '3.0.3',
        oneOf: [{ $ref: '#/components/schemas/Goods' }, { $ref: '#/components/schemas/Guests' }],
        discriminator: { propertyName: 'load', mapping: { freight: '#/components/schemas/Goods', people: 'Guests' } },
        components: {
          schemas: {
            Goods: { type: 'object', properties: { load: { type: 'string' }, tonnes: { type: 'number' } }, required: ['load'] },
            Guests: { type: 'object', properties: { load: { type: 'string' }, tonnes: { type: 'string' } }, required: ['load'] },
          },
        },
      },
      [{ load: 'freight', tonnes: 3 }, { load: 'people', tonnes: 'none' }, { load: 'freight' }],
      [{ load: 'freight', tonnes: 'x' }, { load: 'Goods' }, { tonnes: 3 }, {}],
    ],
    [
      {
        items: {
          anyOf: [{ $ref: '#/$defs/rope' }, { $ref: '#/$defs/hook' }],
          discriminator: { propertyName: 'is' },
        },
        $defs: { rope: { properties: { metres: { type: 'number' } }, required: ['metres'] }, hook: { properties: { metres: false } } },
      },
      [[{ is: 'rope', metres: 3 }, { is: 'hook' }], []],
      [[{ is: 'rope' }], [{ is: 'hook', metres: 3 }], [{ metres: 3 }]],
    ],
  ],
};

/** A schema, written in the words of OpenAPI 3.0 and read again. */
function inOpenApi30(schema: Node): Node {
  const pointer = '/components/schemas/It';
  const It = plain(toJsonSchema(schema, { for: 'openapi-3.0', pointer }));
  expect(Object.keys(It).filter((key) => !KNOWN_TO_3_0.test(key))).toEqual([]);
  return fromJsonSchema<Node>({ openapi: '3.0.3', components: { schemas: { It } } }, { pointer });
}
const KNOWN_TO_3_0 =
  /^(x-.*|title|multipleOf|(max|min|exclusiveMax|exclusiveMin)imum|(max|min)(Length|Items|Properties)|pattern|uniqueItems|required|enum|type|allOf|oneOf|anyOf|not|items|properties|additionalProperties|description|format|default|nullable|discriminator|readOnly|writeOnly|example|deprecated)$/;

describe.each(Object.entries(ROWS))('%s', (_, rows) => {
  test.each(rows)('%j', (schema, right, wrong) => {
    const read = fromJsonSchema<Node>(plain(schema));
    for (const value of right) expect([value, verdict(read, value).findings]).toEqual([value, []]);
    for (const value of wrong) expect([value, verdict(read, value).ok]).toEqual([value, false]);
    // What is written of it says the same.
    if (!JSON.stringify(schema).includes('$dynamicRef') && !JSON.stringify(schema).includes('$recursiveRef')) {
      for (const again of [fromJsonSchema<Node>(plain(toJsonSchema(read))), inOpenApi30(read)]) {
        for (const value of right) expect([value, verdict(again, value).findings]).toEqual([value, []]);
        for (const value of wrong) expect([value, verdict(again, value).ok]).toEqual([value, false]);
      }
    }
    // As a property, too; and what a form would send passes no more than the document does.
    const inside = fromJsonSchema<Node>(plain({ type: 'object', properties: { it: { $ref: 'urn:it' } }, required: ['it'] }), { documents: { 'urn:it': plain(schema) } });
    for (const it of right) expect([it, verdict(inside, { it }).findings]).toEqual([it, []]);
    for (const it of wrong) expect([it, verdict(inside, { it }).ok]).toEqual([it, false]);
    const gate = createGate(group({ it: inside }));
    for (const it of wrong) {
      gate.reset({ it: { it } });
      const { data } = gate.root;
      if (gate.state.valid) expect([it, verdict(inside, plain((data as { it: unknown }).it)).ok]).toEqual([it, true]);
    }
    gate.dispose();
  });
});

/** Schemas of every keyword, in one another. */
const NAME = fc.constantFrom('a', 'b');
const SCALAR = fc.constantFrom('', 'x', 'yy', 'a@b.example', 0, 2.5, 7, true, false, null);
const VALUE = fc.letrec((tie) => ({ it: fc.oneof({ maxDepth: 3 }, SCALAR, fc.array(tie('it'), { maxLength: 3 }), fc.dictionary(NAME, tie('it'))) })).it;
const TYPE = fc.constantFrom('string', 'number', 'integer', 'boolean', 'array', 'object', 'null');
const LIMIT = fc.nat(2);
const SCHEMA = fc.letrec<{ it: JsonSchema }>((tie) => {
  const it = tie('it');
  // (A schema that is about its own value by way of itself says nothing.)
  const below = fc.oneof(it, fc.constantFrom<JsonSchema>({ $ref: '#' }, { $ref: '#/$defs/x' }, { $ref: '#/$defs/y', title: 'Y', minProperties: 1 }));
  const several = fc.array(it, { minLength: 1, maxLength: 2 });
  const keywords: Readonly<Record<string, fc.Arbitrary<unknown>>> = {
    ...{ enum: fc.uniqueArray(SCALAR, { minLength: 1, maxLength: 3 }), const: SCALAR, format: fc.constantFrom('email', 'date', 'int32') },
    ...{ minLength: LIMIT, maxLength: LIMIT, pattern: fc.constantFrom('^x', 'y$'), minimum: LIMIT, exclusiveMaximum: fc.nat(8), multipleOf: fc.constantFrom(0.5, 2) },
    ...{ properties: fc.dictionary(NAME, below), required: fc.uniqueArray(NAME), additionalProperties: below, patternProperties: fc.dictionary(fc.constant('^a'), it) },
    ...{ minProperties: LIMIT, dependentRequired: fc.constant({ a: ['b'] }), unevaluatedProperties: fc.boolean() },
    ...{ items: below, prefixItems: several, minItems: LIMIT, maxItems: LIMIT, uniqueItems: fc.boolean(), contains: below },
    ...{ allOf: several, anyOf: several, oneOf: several, not: it, if: it, then: it, else: it },
  };
  const rare = Object.entries(keywords).map(([name, of]) => [name, fc.oneof({ arbitrary: fc.constant(undefined), weight: 5 }, { arbitrary: of, weight: 1 })] as const);
  const type = fc.option(fc.oneof(TYPE, fc.uniqueArray(TYPE, { minLength: 1, maxLength: 2 })), { nil: undefined });
  return { it: fc.oneof({ maxDepth: 2 }, fc.constantFrom<JsonSchema>(true, { type: 'string' }, { type: 'number' }), fc.record({ type, ...Object.fromEntries(rare) }).map(plain)) };
}).it;

test('read as fields, as a rule on the value, and written again: the same verdicts, references included', () => {
  fc.assert(
    fc.property(SCHEMA, SCHEMA, SCHEMA, fc.array(VALUE, { minLength: 5, maxLength: 8 }), (root, x, y, values) => {
      const schema = typeof root === 'boolean' ? root : { ...root, $defs: { x, y } };
      const read = fromJsonSchema<Node>(schema);
      const byKeywords = fromJsonSchema<Node>({ not: { not: { $ref: 'urn:it' } } }, { documents: { 'urn:it': schema } });
      const all = [read, fromJsonSchema<Node>(plain(toJsonSchema(read))), inOpenApi30(read)];
      for (const value of values) expect([value, ...all.map((each) => verdict(each, value).ok)]).toEqual([value, ...all.map(() => verdict(byKeywords, value).ok)]);
    }),
    runs(600),
  );
});

test('what goes the other way is left out', () => {
  const document = {
    properties: { id: { type: 'string', readOnly: true }, pin: { $ref: '#/$defs/pin' }, name: { type: 'string' } },
    required: ['id', 'pin', 'name'],
    $defs: { pin: { type: 'string', writeOnly: true } },
  };
  const missing = (direction?: 'request' | 'response') =>
    verdict(fromJsonSchema({ type: 'object', ...document }, { ...(direction && { direction }) }), {}).findings.map(({ path }) => path);
  expect([missing(), missing('request'), missing('response')]).toEqual([
    ['id', 'pin', 'name'],
    ['pin', 'name'],
    ['id', 'name'],
  ]);
});

test('the closest branch says what is wrong, at its place, in words', () => {
  const schema = fromJsonSchema({
    type: 'object',
    properties: {
      cargo: {
        title: 'Cargo',
        anyOf: [
          { type: 'object', properties: { kind: { const: 'goods' }, tonnes: { type: 'number', title: 'Tonnes', maximum: 60 } }, required: ['kind', 'tonnes'] },
          { type: 'null' },
        ],
      },
      load: { title: 'Load', anyOf: [{ type: 'number' }, { type: 'string', minLength: 3 }] },
    },
  });
  const told = (value: unknown) => verdict(schema, value).findings.map(({ path, code, message }) => [path, code, message]);
  expect(told({ cargo: { kind: 'goods', tonnes: 80 }, load: 'x' })).toEqual([
    ['cargo.tonnes', 'rangeOverflow', 'Tonnes must be at most 60'],
    ['load', 'tooShort', 'Load must have at least 3 characters'],
  ]);
});

test('what is missing in a part is said once, by the name of what is missing', () => {
  const from = { type: 'string', title: 'From' };
  const window = { type: 'object', title: 'Window', required: ['from'], properties: { from } };
  const slot = { type: 'object', title: 'Slot', required: ['window'], properties: { window } };
  const told = (schema: JsonSchema, value: unknown) => verdict(fromJsonSchema<Node>(schema), value).findings.map(({ path, message }) => `${path}: ${message}`);
  expect(told({ type: 'object', minProperties: 1, properties: { slot } }, { slot: {} })).toEqual(['slot.window.from: From is required']);
  expect(told({ anyOf: [slot, { type: 'string' }] }, {})).toEqual(['window: Window is required']);
});

test('what is deprecated is read, with a warning for developers', () => {
  const warned = jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  const read = fromJsonSchema({ type: 'object', properties: { old: { type: 'string', deprecated: true }, fresh: { type: 'string', deprecated: false } } });
  expect(verdict(read, { old: 'x', fresh: 'y' }).ok).toBe(true);
  expect(warned.mock.calls).toEqual([[expect.stringMatching(/deprecated: #\/properties\/old\. .*\(docs: troubleshooting#deprecated-part\)$/)]]);
  warned.mockRestore();
});

test('notes: keywords and formats without a meaning, with their places; what nearly is a keyword is an error', () => {
  const document = { type: 'object', properties: { a: { type: 'string', format: 'berth', 'x-own': 1, colour: 'red' }, b: { anyOf: [{ colur: 1 }, { type: 'null', shape: 2 }] } } };
  expect(notesOf(fromJsonSchema(document))).toEqual([
    { pointer: '/properties/a/colour', keyword: 'colour' },
    { pointer: '/properties/a/format', keyword: 'format: berth' },
    ...['colur', 'shape'].map((keyword) => expect.objectContaining({ keyword }) as unknown),
  ]);
});

test.each<[JsonSchema, RegExp, object?]>([
  [{ anyOf: [{ minlength: 3 }] }, /#\/anyOf\/0: there is no keyword "minlength"\. Did you mean "minLength"\?/],
  [{ type: ['string', 'number'], minimum: 'x' }, /"minimum" takes a number/],
  [{ not: { $ref: '#/$defs/none' } }, /there is nothing at #\/\$defs\/none/],
  [{ not: { $ref: 'https://locks.example/other' } }, /a document that was not given\. Pass it under "documents": \{ "https:\/\/locks\.example\/other"/],
  [{ not: { pattern: '(a+)+$' } }, /can take very long on a short text/],
  [{ patternProperties: { '(': {} } }, /Invalid regular expression/],
  [{ $schema: 'https://locks.example/own' }, /Only JSON Schema 2020-12, 2019-09 and draft-07 can be read/],
  [{ anyOf: [{ $vocabulary: { 'https://locks.example/v': true } }, {}] }, /the vocabulary https:\/\/locks\.example\/v is required, and not known here/],
  [{ type: 'tree' }, /"type" takes null, boolean/],
])('%j is refused, with a place', (document, message) => {
  expect(() => fromJsonSchema(document)).toThrow(message);
  expect(() => fromJsonSchema(document)).toThrow(JsonSchemaError);
  if (message.source.includes('minlength')) expect(() => fromJsonSchema(document, { strict: false })).not.toThrow();
});
