// The values that a document gives by `default`: what a form begins with.

import { isObject, shallow, type JsonObject, type JsonSchema } from './document.ts';
import { assertPointer } from './fromJsonSchema.ts';
import { Resources } from './keywords/resources.ts';

/**
 * Returns the `default` values of a document, as the initial values of a form.
 *
 * @param document the document
 * @param pointer where in the document the schema stands; default: it is the document
 * @returns nothing where no default is given
 * @throws JsonSchemaError for a pointer or a reference that leads nowhere
 *
 * @example
 * createGate(fromJsonSchema(document), { initial: defaultsOf(document) })
 */
export function defaultsOf(document: JsonSchema, pointer = ''): JsonObject | undefined {
  assertPointer(pointer);
  const resources = new Resources(document);
  /** What each schema gives, read once; nothing while it is being read: it refers to itself. */
  const known = new Map<JsonObject, unknown>();
  const find = (schema: unknown): unknown => {
    if (!isObject(schema)) return undefined;
    if (!known.has(schema)) {
      known.set(schema, undefined);
      known.set(schema, read(schema));
    }
    return known.get(schema);
  };
  const read = (schema: JsonObject): unknown => {
    if (schema['default'] !== undefined) return schema['default'];
    const { $ref: ref, allOf, properties } = schema;
    const all: unknown[] = [ref === undefined ? undefined : resources.follow(ref, pointer).schema, allOf].flat();
    const found = all.map(find).filter((value) => value !== undefined);
    const own = isObject(properties) ? ofProperties(properties) : undefined;
    if (own !== undefined) found.push(own);
    return found.length > 1 && found.every(isObject) ? found.reduce((all, more) => ({ ...all, ...more })) : found[0];
  };
  const ofProperties = (properties: JsonObject): JsonObject | undefined => {
    const given = Object.entries(properties)
      .map(([key, schema]) => [key, find(schema)] as const)
      .filter(([, value]) => value !== undefined);
    return given.length > 0 ? Object.fromEntries(given) : undefined;
  };
  const found = shallow(() => find(resources.find(pointer)), pointer);
  // What is no object is no form.
  return isObject(found) ? found : undefined;
}
