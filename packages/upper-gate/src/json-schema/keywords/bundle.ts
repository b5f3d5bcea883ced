// A schema of a document in a document of its own: in the words of 2020-12, with all that it refers to.

import { isList, isObject, JsonSchemaError, under, type JsonObject } from '../document.ts';
import type { Choices, Resources } from './resources.ts';

/** What has no meaning where a schema is copied to. */
const LEFT_OUT = ['$schema', '$id', 'id', '$anchor', '$dynamicAnchor', '$recursiveAnchor', '$defs', 'definitions', 'gate', 'discriminator'];
const SCHEMAS = ['prefixItems', 'allOf', 'anyOf', 'oneOf'];
const BY_NAME = ['properties', 'patternProperties', 'dependentSchemas'];
const ONE = [
  'items',
  'contains',
  'additionalProperties',
  'propertyNames',
  'unevaluatedProperties',
  'unevaluatedItems',
  'not',
  'if',
  'then',
  'else',
];

/** Copies schemas, and collects what they refer to. */
export class Bundle {
  readonly definitions: Record<string, unknown> = {};
  readonly #names = new Map<string, string>();

  /** Copies the schema at a place. */
  copy(resources: Resources, at: string): unknown {
    return this.#copy(resources, resources.find(at), at);
  }

  #copy(resources: Resources, schema: unknown, at: string): unknown {
    if (!isObject(schema)) return schema;
    const worded = resources.words(schema, at);
    if (worded['$dynamicRef'] !== undefined) throw new JsonSchemaError(at, '"$dynamicRef" cannot be written into another document.');
    const inner = (each: unknown, ...way: readonly (string | number)[]): unknown => this.#copy(resources, each, under(at, ...way));
    const made: Record<string, unknown> = {};
    for (const [keyword, value] of Object.entries(worded)) {
      if (LEFT_OUT.includes(keyword)) continue;
      if (keyword === '$ref') made[keyword] = `#/$defs/${this.#nameOf(resources, value, at)}`;
      else if (SCHEMAS.includes(keyword) && isList(value)) {
        const choices = keyword.endsWith('Of') ? resources.choicesOf(worded, value, at) : undefined;
        made[keyword] = value.map((each, i) => chosenBy(choices, i, inner(each, keyword, i)));
      } else if (BY_NAME.includes(keyword) && isObject(value)) made[keyword] = mapped(value, (each, name) => inner(each, keyword, name));
      else if (ONE.includes(keyword)) made[keyword] = inner(value, keyword);
      else made[keyword] = value;
    }
    return made;
  }

  #nameOf(resources: Resources, ref: unknown, from: string): string {
    const { schema, at } = resources.follow(ref, from);
    const known = this.#names.get(at);
    if (known !== undefined) return known;
    const name = `schema${this.#names.size + 1}`;
    this.#names.set(at, name);
    this.definitions[name] = this.#copy(resources, schema, at);
    return name;
  }
}

/** A branch that a property chooses says so itself. */
function chosenBy(choices: Choices | undefined, i: number, branch: unknown): unknown {
  if (!choices) return branch;
  const values = [...choices.byValue].flatMap(([value, index]) => (index === i ? [value] : []));
  return { allOf: [branch, { properties: { [choices.key]: { enum: values } }, required: [choices.key] }] };
}

/** (`__proto__` is a name like any other here.) */
const mapped = (of: JsonObject, make: (value: unknown, name: string) => unknown): JsonObject =>
  Object.fromEntries(Object.entries(of).map(([name, value]) => [name, make(value, name)]));
