// Whether a value is what one of our published JSON Schemas says: the few keywords that they use, and no other.

type Schema = boolean | Readonly<Record<string, unknown>>;
type Check = (value: unknown, what: never, schema: Record<string, Schema & object>, root: Schema) => boolean;

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value);
const TYPES: Readonly<Record<string, (value: unknown) => boolean>> = {
  object: isObject,
  array: Array.isArray,
  string: (value) => typeof value === 'string',
  boolean: (value) => typeof value === 'boolean',
  number: (value) => typeof value === 'number',
  integer: Number.isInteger,
};
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const KEYWORDS: Readonly<Record<string, Check>> = {
  type: (value, type) => TYPES[type]!(value),
  const: same,
  enum: (value, all: unknown[]) => all.some((each) => same(each, value)),
  minimum: (value, least: number) => typeof value !== 'number' || value >= least,
  format: (value) => !Number.isNaN(Date.parse(String(value))),
  required: (value, names: string[]) => !isObject(value) || names.every((name) => name in value),
  properties: (value, of: Record<string, Schema>, _, root) => !isObject(value) || Object.entries(value).every(([key, each]) => !(key in of) || conforms(each, of[key]!, root)),
  additionalProperties: (value, rest: Schema, { properties = {} }, root) =>
    !isObject(value) || Object.entries(value).every(([key, each]) => key in properties || conforms(each, rest, root)),
  items: (value, item: Schema, _, root) => !Array.isArray(value) || value.every((each) => conforms(each, item, root)),
  oneOf: (value, all: Schema[], _, root) => all.filter((each) => conforms(value, each, root)).length === 1,
  $ref: (value, pointer: string, _, root) =>
    conforms(
      value,
      pointer
        .split('/')
        .slice(1)
        .reduce<Schema>((of, key) => (of as Record<string, Schema>)[key]!, root),
      root,
    ),
};
const NOTES = ['$schema', '$id', '$defs', 'title', 'description'];

export function conforms(value: unknown, schema: Schema, root = schema): boolean {
  if (typeof schema === 'boolean') return schema;
  return Object.entries(schema).every(([keyword, what]) => {
    const check = KEYWORDS[keyword];
    if (!check && !NOTES.includes(keyword)) throw new Error(`The keyword ${keyword} is not known here.`);
    return !check || check(value, what as never, schema as never, root);
  });
}
