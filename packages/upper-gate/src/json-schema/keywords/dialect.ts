// What other dialects only spell in another way than JSON Schema 2020-12: draft-07, 2019-09, and the schemas of OpenAPI 3.0. A schema is
// spelt anew when it is read, one place at a time.

import { isList, isObject, omit, type JsonObject } from '../document.ts';

/** A dialect, as far as it is spelt otherwise. */
export type Dialect = 'draft-07' | '2019-09' | '2020-12' | 'openapi-3.0';

const BY_ADDRESS: Readonly<Record<string, Dialect>> = {
  'http://json-schema.org/draft-07/schema': 'draft-07',
  'http://json-schema.org/draft-06/schema': 'draft-07',
  'https://json-schema.org/draft/2019-09/schema': '2019-09',
  'https://json-schema.org/draft/2020-12/schema': '2020-12',
  'https://spec.openapis.org/oas/3.1/dialect/base': '2020-12',
};

/** The dialect of an address; nothing for one that is not known. */
export const dialectOf = (address: unknown): Dialect | undefined =>
  typeof address === 'string' ? BY_ADDRESS[address.replace(/#$/, '')] : undefined;

/** The dialect of a document, by what it says at its beginning. */
export function dialectIn(document: unknown): Dialect {
  const { $schema, openapi, swagger } = isObject(document) ? document : ({} as JsonObject);
  if (typeof openapi === 'string' && /^3\.0\./.test(openapi)) return 'openapi-3.0';
  if (swagger === '2.0') return 'openapi-3.0';
  return dialectOf($schema) ?? '2020-12';
}

/** A schema in the words of 2020-12. */
export function spelt(schema: JsonObject, dialect: Dialect): JsonObject {
  if (dialect === '2020-12') return schema;
  return dialect === 'openapi-3.0' ? ofOpenApi(schema) : ofDraft(schema, dialect);
}

/** `items` as a list, `dependencies`; of draft-07, what stands beside a reference does not count. */
function ofDraft(schema: JsonObject, dialect: Dialect): JsonObject {
  if (dialect === 'draft-07' && schema['$ref'] !== undefined) return { $ref: schema['$ref'] };
  const { items, additionalItems, dependencies } = schema;
  let now = schema;
  if (isList(items))
    now = {
      ...omit(now, ['items', 'additionalItems']),
      prefixItems: items,
      ...(additionalItems !== undefined && { items: additionalItems }),
    };
  // (Without `items` as a list it has no meaning.)
  else if (additionalItems !== undefined) now = omit(now, ['additionalItems']);
  if (isObject(dependencies)) {
    const required = Object.entries(dependencies).filter(([, what]) => isList(what));
    const schemas = Object.entries(dependencies).filter(([, what]) => !isList(what));
    now = {
      ...omit(now, ['dependencies']),
      ...(required.length > 0 && { dependentRequired: Object.fromEntries(required) }),
      ...(schemas.length > 0 && { dependentSchemas: Object.fromEntries(schemas) }),
    };
  }
  if (now['$recursiveRef'] !== undefined) now = { ...omit(now, ['$recursiveRef']), $dynamicRef: now['$recursiveRef'] };
  return now;
}

/** The extensions of OpenAPI 3.0 that hold what it has no words for: keywords of 2020-12, and the annotation `gate`. */
export const KEPT_APART = { keywords: 'x-json-schema', gate: 'x-gate' } as const;

/** `nullable`, limits that exclude by a flag; what stands beside a reference does not count. */
function ofOpenApi(schema: JsonObject): JsonObject {
  if (schema['$ref'] !== undefined) return { $ref: schema['$ref'] };
  const { nullable, type, oneOf, items, exclusiveMinimum, exclusiveMaximum, minimum, maximum } = schema;
  const { [KEPT_APART.keywords]: keywords, [KEPT_APART.gate]: gate } = schema;
  let now = schema;
  if (isObject(keywords)) now = { ...omit(now, [KEPT_APART.keywords, ...(keywords['const'] === undefined ? [] : ['enum'])]), ...keywords };
  if (gate !== undefined) now = { ...omit(now, [KEPT_APART.gate]), gate };
  // (What can be chosen is read with what it is chosen for.)
  if (isList(oneOf)) now = { ...now, oneOf: oneOf.map((each) => (isObject(each) ? constantOf(ofOpenApi(each)) : each)) };
  if (isObject(items)) now = { ...now, items: ofOpenApi(items) };
  if (nullable !== undefined)
    now = { ...omit(now, ['nullable']), ...(nullable === true && typeof type === 'string' && { type: [type, 'null'] }) };
  if (typeof exclusiveMinimum === 'boolean')
    now = exclusiveMinimum ? { ...omit(now, ['minimum']), exclusiveMinimum: minimum } : omit(now, ['exclusiveMinimum']);
  if (typeof exclusiveMaximum === 'boolean')
    now = exclusiveMaximum ? { ...omit(now, ['maximum']), exclusiveMaximum: maximum } : omit(now, ['exclusiveMaximum']);
  return now;
}

/** There is no `const`: the branches of a choice list one value. */
function constantOf(branch: JsonObject): JsonObject {
  const { enum: values } = branch;
  return isList(values) && values.length === 1 ? { ...omit(branch, ['enum']), const: values[0] } : branch;
}
