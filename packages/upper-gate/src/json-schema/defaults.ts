// The values that a document gives by `default`: what a form begins with.

import { isObject, referred, resolve, type JsonObject, type JsonSchema } from './document.ts';

/**
 * The values that a document gives by `default`, as the initial values of a form.
 *
 * @param pointer where in the document the schema stands; default: it is the document
 * @returns nothing where no default is given
 *
 * @example
 * createGate(fromJsonSchema(document), { initial: defaultsOf(document) })
 */
export function defaultsOf(document: JsonSchema, pointer = ''): JsonObject | undefined {
  const find = (schema: unknown, open: readonly unknown[]): unknown => {
    if (!isObject(schema) || open.includes(schema)) return undefined;
    if (schema['default'] !== undefined) return schema['default'];
    const within = [...open, schema];
    const { $ref: ref, allOf, properties } = schema;
    const all: unknown[] = [ref === undefined ? undefined : resolve(document, referred(ref, pointer)), allOf].flat();
    const found = all.map((each) => find(each, within)).filter((value) => value !== undefined);
    const own = isObject(properties) ? ofProperties(properties, within) : undefined;
    if (own !== undefined) found.push(own);
    return found.length > 1 && found.every(isObject) ? found.reduce((all, more) => ({ ...all, ...more })) : found[0];
  };
  const ofProperties = (properties: JsonObject, open: readonly unknown[]): JsonObject | undefined => {
    const given = Object.entries(properties)
      .map(([key, schema]) => [key, find(schema, open)] as const)
      .filter(([, value]) => value !== undefined);
    return given.length > 0 ? Object.fromEntries(given) : undefined;
  };
  const found = find(resolve(document, pointer), []);
  // What is no object is no form.
  return isObject(found) ? found : undefined;
}
