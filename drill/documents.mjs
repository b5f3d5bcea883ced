// Documents and patterns that would take for ever.
import { fieldFromAttributes } from 'upper-gate/html';
import { defaultsOf, fromJsonSchema, JsonSchemaError } from 'upper-gate/json-schema';
import { fromOpenApi } from 'upper-gate/openapi';

const chain = (count, make) => ({
  $ref: '#/$defs/d0',
  $defs: Object.fromEntries(
    Array.from({ length: count }, (_, i) => [`d${i}`, i === count - 1 ? { type: 'string' } : make({ $ref: `#/$defs/d${i + 1}` })]),
  ),
});
const nest = (count, make) => {
  let inner = { type: 'string' };
  for (let i = 0; i < count; i += 1) inner = make(inner);
  return inner;
};
const twice = (next) => ({ type: 'object', properties: { x: next, y: next } });

const ENDLESS = [
  chain(30, twice),
  chain(1000, twice),
  chain(30, (next) => ({ type: 'object', properties: Object.fromEntries(Array.from({ length: 20 }, (_, i) => [`p${i}`, next])) })),
  ...[10_000, 100_000].flatMap((depth) => [
    nest(depth, (inner) => ({ type: 'object', properties: { a: inner } })),
    nest(depth, (inner) => ({ type: 'array', items: inner })),
    nest(depth, (inner) => ({ allOf: [inner] })),
    nest(depth, (inner) => ({ anyOf: [inner, { type: 'null' }] })),
    { type: 'object', properties: { a: {} }, if: nest(depth, (inner) => ({ properties: { a: inner } })), then: { required: ['a'] } },
  ]),
  { $ref: '#' },
  { $ref: '#/$defs/a', $defs: { a: { $ref: '#/$defs/b' }, b: { $ref: '#/$defs/a' } } },
];

/** The same as the body of an operation, in each way in which it can be sent. */
const operationOf = (document, type) => ({
  openapi: '3.1.0',
  paths: { '/x': { post: { operationId: 'x', requestBody: { content: { [type]: { schema: { $ref: '#/components/schemas/X' } } } } } } },
  components: { schemas: { X: JSON.parse(JSON.stringify(document).replaceAll('"#', '"#/components/schemas/X')) } },
});
const CIRCLES = [
  { openapi: '3.1.0', paths: { '/x': { $ref: '#/paths/~1x' } } },
  { openapi: '3.1.0', paths: { '/x': { post: { operationId: 'x', requestBody: { $ref: '#/paths/~1x/post/requestBody' } } } } },
  { openapi: '3.1.0', paths: { '/x': { post: { operationId: 'x', parameters: [{ $ref: '#/paths/~1x/post/parameters/0' }] } } } },
];

const HANGING = [
  '^(a+)+$',
  '(a|a)*$',
  '(a|ab)*c',
  '(.*)*x',
  '(a*a)*b',
  '\\d*\\d*$',
  '(\\w+\\s?)*$',
  '(x+x+)+y',
  '(a?){30}a{30}',
  '([a-zA-Z]+)*$',
  '(?:[^,]+,?)*$',
];

export const attacks = [
  {
    name: 'documents that never end',
    async run({ holds, note }) {
      let longest = 0;
      for (const [i, document] of ENDLESS.entries()) {
        const started = performance.now();
        try {
          fromJsonSchema(document);
          holds(false, `document ${i} was read`);
        } catch (error) {
          holds(error instanceof JsonSchemaError, `document ${i}: ${error}`);
        }
        longest = Math.max(longest, performance.now() - started);
        try {
          defaultsOf(document);
          holds(true);
        } catch (error) {
          holds(error instanceof JsonSchemaError, `the defaults of document ${i}: ${error}`);
        }
      }
      const refuses = (document, what) => {
        const started = performance.now();
        try {
          fromOpenApi(document, { operation: 'x' });
          holds(false, `${what} was read`);
        } catch (error) {
          holds(error instanceof JsonSchemaError, `${what}: ${error}`);
        }
        longest = Math.max(longest, performance.now() - started);
      };
      const deep = [(inner) => ({ type: 'object', properties: { a: inner } }), (inner) => ({ allOf: [inner] })].map((make) =>
        nest(2000, make),
      );
      for (const [i, document] of [...ENDLESS.slice(0, 3), ...deep].entries())
        for (const type of ['application/json', 'multipart/form-data'])
          refuses(operationOf(document, type), `the operation ${i} as ${type}`);
      for (const [i, document] of CIRCLES.entries()) refuses(document, `the circle ${i}`);
      const large = {
        $defs: Object.fromEntries(Array.from({ length: 200_000 }, (_, i) => [`d${i}`, { type: 'string', title: 'T' }])),
        type: 'object',
        properties: {},
      };
      const started = performance.now();
      for (let i = 0; i < 100; i += 1) fromJsonSchema(large);
      const each = (performance.now() - started) / 100;
      holds(each < 5, `three lines within 10 MB took ${each} ms`);
      holds(longest < 3000, `one took ${longest} ms`);
      note(`longest ${longest.toFixed(0)} ms`);
    },
  },
  {
    name: 'patterns that hang',
    async run({ holds }) {
      const refuses = (read) => {
        try {
          read();
          return false;
        } catch {
          return true;
        }
      };
      for (const pattern of HANGING) {
        holds(
          refuses(() => fromJsonSchema({ type: 'object', properties: { a: { type: 'string', pattern } } })),
          `${pattern} of a document was taken`,
        );
        holds(
          refuses(() => fieldFromAttributes({ pattern })),
          `${pattern} of an attribute was taken`,
        );
      }
    },
  },
];
