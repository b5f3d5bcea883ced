// A JSON Schema document as it is read: the keywords at a place are taken one by one, so that those which nobody took can
// be reported, and nothing is ignored in silence.

import { keysIn, pointerOf } from '../schema/pointer.ts';

/** A JSON Schema 2020-12 document, or a part of one. */
export type JsonSchema = boolean | JsonObject;
/** A JSON object, such as a JSON Schema document. */
export interface JsonObject {
  readonly [keyword: string]: unknown;
}

export const isObject = (value: unknown): value is JsonObject => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Thrown for a document that cannot be read or written, with its place. */
export class JsonSchemaError extends Error {
  /** The place, as a JSON Pointer. */
  readonly pointer: string;

  constructor(pointer: string, what: string) {
    super(`#${pointer}: ${what}`);
    this.name = 'JsonSchemaError';
    this.pointer = pointer;
  }
}

/** Reads a document that may lie too deep in itself: what the stack does not hold is an error of the document. */
export function shallow<T>(read: () => T, at: string): T {
  try {
    return read();
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new JsonSchemaError(at, 'the document lies too deep in itself to be read.');
  }
}

/** A schema, and where it stands. */
export interface Place {
  readonly schema: unknown;
  readonly at: string;
  /** Whether `null` is accepted too. */
  readonly nullable?: boolean;
}

/** The place under a key. */
export const under = (at: string, ...keys: readonly (string | number)[]): string => at + pointerOf(keys);

/** An object without some of its keys. */
export const omit = (object: JsonObject, keys: readonly string[]): Record<string, unknown> =>
  Object.fromEntries(Object.entries(object).filter(([key]) => !keys.includes(key)));

/**
 * Where a reference leads, as a JSON Pointer.
 *
 * @throws JsonSchemaError if not to a place of the same document
 */
export function referred(ref: unknown, at: string): string {
  try {
    if (typeof ref === 'string' && /^#(\/|$)/.test(ref)) return decodeURIComponent(ref.slice(1));
  } catch {
    // Signs that are escaped wrongly lead nowhere.
  }
  throw new JsonSchemaError(at, `"$ref" is ${JSON.stringify(ref)}. It must point into the same document, such as "#/$defs/berth".`);
}

/** Whether two JSON values are the same. */
export const sameJson = (a: unknown, b: unknown): boolean =>
  Object.is(a, b) ||
  (Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((value, i) => sameJson(value, b[i]))) ||
  (isObject(a) &&
    isObject(b) &&
    sameJson(Object.keys(a).sort(), Object.keys(b).sort()) &&
    Object.keys(a).every((key) => sameJson(a[key], b[key])));

/**
 * What stands at a JSON Pointer (RFC 6901) of a document.
 *
 * @throws JsonSchemaError if there is nothing
 */
export function resolve(document: unknown, pointer: string, asker = pointer): unknown {
  if (pointer !== '' && !pointer.startsWith('/'))
    throw new JsonSchemaError(
      asker,
      `"${pointer}" is not a JSON Pointer. A pointer begins with a slash, or is empty for the whole document.`,
    );
  let value = document;
  for (const name of keysIn(pointer)) {
    if (typeof value !== 'object' || value === null || !Object.hasOwn(value, name))
      throw new JsonSchemaError(asker, `there is nothing at #${pointer}.`);
    value = (value as JsonObject)[name];
  }
  return value;
}

// Annotations, which validate nothing, of JSON Schema and of OpenAPI.
const ANNOTATIONS = [
  ...['$schema', '$id', '$comment', '$defs', 'title', 'description', 'default', 'deprecated', 'readOnly', 'writeOnly', 'examples', 'gate'],
  ...['discriminator', 'example', 'externalDocs', 'xml'],
];

const isNull = (schema: unknown): boolean => isObject(schema) && schema['type'] === 'null';

/** The other branch of an `anyOf` or `oneOf` of something and null, as many documents write what may be null. */
export function besideNull(schema: JsonObject): { keyword: string; index: number } | undefined {
  for (const keyword of ['anyOf', 'oneOf']) {
    const branches = schema[keyword];
    if (isList(branches) && branches.length === 2 && branches.filter(isNull).length === 1)
      return { keyword, index: branches.findIndex((branch) => !isNull(branch)) };
  }
  return undefined;
}

/** A schema that accepts `null` too. */
export const orNull = (schema: JsonObject): JsonObject => ({
  ...schema,
  ...(schema['type'] !== undefined && { type: [schema['type'], 'null'].flat() }),
  ...(isList(schema['enum']) && { enum: [...schema['enum'], null] }),
});

/** The keywords at one place. */
export class Keywords {
  readonly at: string;
  readonly schema: JsonObject;
  readonly #left: Set<string>;

  constructor(schema: JsonObject, at: string) {
    this.at = at;
    this.schema = schema;
    this.#left = new Set(Object.keys(schema).filter((key) => !ANNOTATIONS.includes(key)));
  }

  /** Whether a keyword is there that nobody took. */
  has(keyword: string): boolean {
    return this.#left.has(keyword);
  }

  /** Takes a keyword; nothing where it is not there. */
  take(keyword: string): unknown {
    return this.#left.delete(keyword) ? this.schema[keyword] : undefined;
  }

  /** Takes a keyword whose value has to be of a type. */
  takeAs<T>(keyword: string, is: (value: unknown) => value is T, what: string): T | undefined {
    return this.takeOf(keyword, { fits: is, words: what }) as T | undefined;
  }

  /** The same of any type. */
  takeOf(keyword: string, { fits, words }: Type): unknown {
    const value = this.take(keyword);
    if (value === undefined || fits(value)) return value;
    throw new JsonSchemaError(this.at, `"${keyword}" takes ${words}. It is ${JSON.stringify(value)}.`);
  }

  /** Whether all is taken, annotations apart. */
  get isEmpty(): boolean {
    return this.#unknown === undefined;
  }

  /** A keyword that nothing took; those with `x-` are for whom they concern. */
  get #unknown(): string | undefined {
    return [...this.#left].find((key) => !key.startsWith('x-'));
  }

  /** Throws for keywords that nothing took. */
  end(kind: string): void {
    const left = this.#unknown;
    if (left === undefined) return;
    const value = JSON.stringify(this.schema[left]);
    const shown = value.length > 60 ? `${value.slice(0, 59)}…` : value;
    throw new JsonSchemaError(this.at, `"${left}": ${shown} cannot be expressed here (${kind}).`);
  }
}

const isText = (value: unknown): value is string => typeof value === 'string';
export const isTexts = (value: unknown): value is readonly string[] => Array.isArray(value) && value.every(isText);
export const isList = (value: unknown): value is readonly unknown[] => Array.isArray(value);

/** The entries of a table, by its keys. */
export const entriesOf = <K extends string, V>(table: Readonly<Record<K, V>>): readonly (readonly [K, V])[] =>
  Object.entries(table) as [K, V][];

/** A type of values, and its name for errors. */
export interface Type {
  readonly fits: (value: unknown) => boolean;
  readonly words: string;
}
export const NUMBER: Type = { fits: (value) => typeof value === 'number' && Number.isFinite(value), words: 'a number' };
export const TEXT: Type = { fits: isText, words: 'a string' };
export const FLAG: Type = { fits: (value) => typeof value === 'boolean', words: 'true or false' };
export const LIMIT: Type = { fits: (value) => NUMBER.fits(value) || isText(value), words: 'a number or a string' };
export const LABEL: Type = {
  fits: (value) => isText(value) || (isObject(value) && Object.values(value).every(isText) && Object.keys(value).length > 0),
  words: 'a string, or an object of strings by language',
};
export const oneOfThese = (...values: readonly unknown[]): Type => ({
  fits: (value) => values.includes(value),
  words: values.map((value) => JSON.stringify(value)).join(' or '),
});
export const STAGE: Type = oneOfThese('change', 'blur', 'submit');
export const listOf = ({ fits, words }: Type): Type => ({
  fits: (value) => isList(value) && value.every(fits),
  words: `an array, each item ${words}`,
});

/** Throws unless the values are known and of their types. */
export function checkTypes(values: JsonObject, types: Readonly<Record<string, Type>>, whose: string, at: string): void {
  for (const [name, value] of Object.entries(values)) {
    const type = Object.hasOwn(types, name) ? types[name] : undefined;
    if (!type) throw new JsonSchemaError(at, `${whose} has no "${name}". It takes ${Object.keys(types).join(', ') || 'nothing'}.`);
    if (!type.fits(value)) throw new JsonSchemaError(at, `"${name}" of ${whose} takes ${type.words}. It is ${JSON.stringify(value)}.`);
  }
}
