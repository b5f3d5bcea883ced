// A JSON Schema document as it is read: the keywords at a place are taken one by one, so that those which nobody took can
// be reported, and nothing is ignored in silence.

import { pointerOf } from '../schema/pointer.ts';

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

/** Thrown for what no field and no rule can say: the value is then validated by its keywords. */
export class Inexpressible extends JsonSchemaError {
  readonly #what: string;

  constructor(pointer: string, what: string) {
    super(pointer, what);
    this.#what = what;
  }

  /** The same, where the value cannot be validated so either. */
  get final(): JsonSchemaError {
    return new JsonSchemaError(this.pointer, this.#what);
  }
}

/** How deep the parts of a document may be in one another. */
export const DEEPEST = 200;

export const tooDeep = (at: string): JsonSchemaError =>
  new JsonSchemaError(at, `the document lies more than ${DEEPEST} levels deep in itself.`);

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

/** Whether two JSON values are the same. */
export const sameJson = (a: unknown, b: unknown): boolean =>
  a === b ||
  (Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((value, i) => sameJson(value, b[i]))) ||
  (isObject(a) &&
    isObject(b) &&
    sameJson(Object.keys(a).sort(), Object.keys(b).sort()) &&
    Object.keys(a).every((key) => sameJson(a[key], b[key])));

// Annotations, which validate nothing, of JSON Schema and of OpenAPI.
const ANNOTATIONS = [
  ...[
    '$schema',
    '$id',
    '$comment',
    '$defs',
    'definitions',
    '$anchor',
    '$dynamicAnchor',
    '$recursiveAnchor',
    '$vocabulary',
    'title',
    'description',
    'default',
    'deprecated',
    'readOnly',
    'writeOnly',
    'examples',
    'gate',
  ],
  ...['contentMediaType', 'contentEncoding', 'contentSchema'],
  ...['discriminator', 'example', 'externalDocs', 'xml'],
];

const isNull = (schema: unknown): boolean =>
  isObject(schema) && schema['type'] === 'null' && Object.keys(schema).every((key) => key === 'type' || ANNOTATIONS.includes(key));

/** The other branch of an `anyOf` or `oneOf` of something and null, as many documents write what may be null. */
export function besideNull(schema: JsonObject): { keyword: string; index: number } | undefined {
  for (const keyword of ['anyOf', 'oneOf']) {
    const branches = schema[keyword];
    const others = isList(branches) && branches.length === 2 ? branches.filter((branch) => !isNull(branch)) : [];
    // (Of `oneOf` only one branch may hold, and this one must not take null, too.)
    const [other] = others;
    if (!isList(branches) || others.length !== 1 || !isObject(other)) continue;
    if (keyword === 'anyOf' || ['type', 'enum', '$ref', 'allOf', 'oneOf'].some((each) => other[each] !== undefined))
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
  /** Whether the value may also be null. */
  readonly nullable: boolean;
  readonly #left: Set<string>;

  constructor(schema: JsonObject, at: string, nullable = false) {
    this.at = at;
    this.nullable = nullable;
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
    // (Whether it is wrong, or only more than a field can say, is known once the keywords are looked through.)
    throw new Inexpressible(this.at, `"${keyword}" takes ${words}. It is ${JSON.stringify(value)}.`);
  }

  /** Whether everything is taken. */
  get isTaken(): boolean {
    return this.#left.size === 0;
  }

  /** Whether all is taken, annotations apart. */
  get isEmpty(): boolean {
    return this.#unknown === undefined;
  }

  /** A keyword that nothing took; those with `x-` are for whom they concern. */
  get #unknown(): string | undefined {
    return [...this.#left].find((key) => !key.startsWith('x-'));
  }

  /** The keywords that nothing took. */
  get left(): readonly string[] {
    return [...this.#left].filter((key) => !key.startsWith('x-'));
  }

  /** Throws for keywords that nothing took. */
  end(kind: string): void {
    const left = this.#unknown;
    if (left === undefined) return;
    const value = JSON.stringify(this.schema[left]);
    const shown = value.length > 60 ? `${value.slice(0, 59)}…` : value;
    throw new Inexpressible(this.at, `"${left}": ${shown} cannot be expressed here (${kind}).`);
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
