// A document in the words of OpenAPI 3.0, whose schemas are those of an older dialect. What these have no words for stands in extensions:
// others pass it over, `fromJsonSchema` reads it.

import { isList, isObject, omit, type JsonObject } from './document.ts';
import { KEPT_APART } from './keywords/dialect.ts';

/** How schemas stand under a keyword. */
const SCHEMAS: Readonly<Record<string, 'one' | 'list' | 'byName'>> = {
  items: 'one',
  not: 'one',
  additionalProperties: 'one',
  allOf: 'list',
  anyOf: 'list',
  oneOf: 'list',
  properties: 'byName',
};

/** Keywords that it has no words for. */
const APART = [
  ...['if', 'then', 'else', 'dependentRequired', 'dependentSchemas', 'patternProperties', 'propertyNames', 'contains', 'minContains'],
  ...['maxContains', 'prefixItems', 'unevaluatedItems', 'unevaluatedProperties', '$dynamicRef', '$anchor', '$dynamicAnchor', '$id'],
  ...['contentMediaType', 'contentEncoding', 'contentSchema'],
];

/** What holds values, whatever these look like. */
const VALUES = ['enum', 'const', 'default', 'examples', 'gate'];

const mapped = (object: JsonObject, map: (value: unknown) => unknown): JsonObject =>
  Object.fromEntries(Object.entries(object).map(([key, value]) => [key, map(value)]));

/**
 * Writes a schema in these words.
 *
 * @param schema of 2020-12
 * @param refer where what a reference leads to stands
 */
export function inOpenApi30(schema: unknown, refer: (ref: string) => string): unknown {
  if (schema === true) return {};
  if (schema === false) return { not: {} };
  if (!isObject(schema)) return schema;
  const inner = (each: unknown): unknown => inOpenApi30(each, refer);
  const {
    $ref,
    type,
    const: constant,
    exclusiveMinimum,
    exclusiveMaximum,
    examples,
    gate,
    ...rest
  } = omit(schema, [...APART, '$schema', '$defs', '$comment']);
  const now: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(rest)) {
    const how = SCHEMAS[key];
    // (Only of objects, whether there are others is said by a flag.)
    if (key === 'additionalProperties' && typeof value === 'boolean') now[key] = value;
    else if (how === 'one') now[key] = inner(value);
    else if (how === 'list' && isList(value)) now[key] = value.map(inner);
    else if (how === 'byName' && isObject(value)) now[key] = mapped(value, inner);
    else now[key] = value;
  }
  const apart: Record<string, unknown> = Object.fromEntries(
    APART.flatMap((key) => (schema[key] === undefined ? [] : [[key, schema[key]]])),
  );
  const all = (added: unknown): void => void (now['allOf'] = [...((now['allOf'] ?? []) as readonly unknown[]), added]);
  const types = [type ?? []].flat();
  const others = types.filter((each) => each !== 'null');
  const nullable = types.length > others.length;
  if (others.length === 1) Object.assign(now, { type: others[0] }, nullable && { nullable });
  else if (types.length > 0) all({ anyOf: [...others.map((each) => ({ type: each })), ...(nullable ? [{ enum: [null], nullable }] : [])] });
  // (A constant says so apart, too: a list of one value is another rule.)
  if (constant !== undefined && now['enum'] !== undefined) all({ enum: [constant] });
  else if (constant !== undefined) [now['enum'], apart['const']] = [[constant], constant];
  // A limit that excludes is a flag beside the other one.
  for (const [limit, exclusive, value] of [
    ['minimum', 'exclusiveMinimum', exclusiveMinimum],
    ['maximum', 'exclusiveMaximum', exclusiveMaximum],
  ] as const) {
    if (value === undefined) continue;
    if (now[limit] === undefined) Object.assign(now, { [limit]: value, [exclusive]: true });
    else all({ [limit]: value, [exclusive]: true });
  }
  if (isList(examples) && examples.length > 0) now['example'] = examples[0];
  if (Object.keys(apart).length > 0) now[KEPT_APART.keywords] = withRefs(apart, refer);
  if (gate !== undefined) now[KEPT_APART.gate] = gate;
  return $ref === undefined ? now : beside({ $ref: refer($ref as string) }, now);
}

/** What keeps its words, with its references as they are there. */
function withRefs(value: unknown, refer: (ref: string) => string): unknown {
  if (isList(value)) return value.map((each) => withRefs(each, refer));
  if (!isObject(value)) return value;
  const { $ref, ...rest } = value;
  const now: Record<string, unknown> = {};
  for (const [key, each] of Object.entries(rest)) now[key] = VALUES.includes(key) ? each : withRefs(each, refer);
  if (typeof $ref !== 'string') return $ref === undefined ? now : { ...now, $ref: withRefs($ref, refer) };
  return beside({ $ref: refer($ref) }, now);
}

/** A reference, and what stands beside it: there that does not count. */
const beside = (reference: JsonObject, rest: JsonObject): JsonObject =>
  Object.keys(rest).length === 0 ? reference : { ...rest, allOf: [...((rest['allOf'] ?? []) as readonly unknown[]), reference] };
