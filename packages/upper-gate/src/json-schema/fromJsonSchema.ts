// From a JSON Schema document to a schema of this library.

import { explain, warnOnce } from '#development';
import type { DefinedRule } from '../rules/defineRule.ts';
import { assertDistinct } from '../schema/definition.ts';
import type { DefinedKind } from '../schema/defineKind.ts';
import type { Fields, Group } from '../schema/group.ts';
import type { Node } from '../schema/node.ts';
import type { AuthorFunction } from '../schema/rule.ts';
import { JsonSchemaError, shallow, type JsonSchema } from './document.ts';
import type { Note } from './keywords/inspect.ts';
import { Resources } from './keywords/resources.ts';
import type { OwnRows } from './readRules.ts';
import { Reader } from './read.ts';

/** The options of `fromJsonSchema`. */
export interface FromJsonSchemaOptions {
  /**
   * The functions that the document names: those of rules such as `check` and `requiredWhen`, of limits and options that
   * depend on other fields, and of `appliesWhen`.
   */
  readonly checks?: { readonly [name: string]: AuthorFunction };
  /** Your own rules that the document names, or has keywords for. */
  readonly rules?: readonly Pick<DefinedRule, 'definition'>[];
  /** Your own kinds that the document names, or has formats for. */
  readonly kinds?: readonly Pick<DefinedKind, 'definition'>[];
  /** The place of the schema in the document, as a JSON Pointer: `'/components/schemas/Passage'`. Default: the whole document. */
  readonly pointer?: string;
  /** The documents that it refers to, by their addresses. Nothing is fetched. */
  readonly documents?: { readonly [address: string]: unknown };
  /** Which way the values go: to a server, what is `readOnly` is left out; from it, what is `writeOnly`. Default: nothing is. */
  readonly direction?: 'request' | 'response';
  /** Whether a keyword that nearly is a known one is an error. Default true. Others that are not known are listed by `notesOf`. */
  readonly strict?: boolean;
  /** Whether to accept patterns that can take very long on a short text (nested repetition). By default they are errors. */
  readonly trustPatterns?: boolean;
}

/**
 * Reads a schema from a JSON Schema document, or from a place in an OpenAPI document.
 *
 * @param document parsed JSON
 * @param options the place in the document, functions by name, your own rules and kinds
 * @returns a group, where an object is described; you may say its type: `fromJsonSchema<typeof passage>(document)`
 * @throws TypeError for two rules of one name or keyword, or two kinds of one name or format
 * @throws JsonSchemaError for what cannot be expressed, with keyword and place; nothing is ignored in silence; and for one of more than
 *   100,000 parts, or 200 levels
 *
 * @example
 * const boat = fromJsonSchema({ type: 'object', properties: { beam: { type: 'number', maximum: 5.2 } }, required: ['beam'] });
 * validate(boat, { beam: 6 }, { source: 'json' }).findings[0]?.code; // 'rangeOverflow'
 */
export function fromJsonSchema<N extends Node = Group<Fields>>(
  document: JsonSchema,
  { pointer = '', documents = {}, direction, ...options }: FromJsonSchemaOptions = {},
): N {
  assertPointer(pointer);
  return readSchema(new Resources(document, documents, { direction }), pointer, options);
}

/** What reading takes beside the documents. */
export type ReadingOptions = Omit<FromJsonSchemaOptions, 'pointer' | 'documents' | 'direction'>;

/** Reads the schema at a place in documents. @param at the place, as a JSON Pointer, or `address#pointer` */
export function readSchema<N extends Node>(
  resources: Resources,
  at: string,
  { checks = {}, rules = [], kinds = [], strict = true, trustPatterns = false }: ReadingOptions,
): N {
  const byName = (name: unknown, place: string): AuthorFunction => {
    if (typeof name === 'string' && Object.hasOwn(checks, name) && typeof checks[name] === 'function') return checks[name];
    throw new JsonSchemaError(place, `the function ${JSON.stringify(name)} is missing. Pass it under "checks".`);
  };
  const [ruleRows, kindRows] = [rules.map(({ definition }) => definition), kinds.map(({ definition }) => definition)];
  assertDistinct(ruleRows, ['keyword']);
  assertDistinct(kindRows, ['format']);
  const own: OwnRows = {
    rules: new Map(ruleRows.map((row) => [row.name, row])),
    kinds: new Map(kindRows.map((row) => [row.name, row])),
  };
  const reader = new Reader(resources, { byName, trustPatterns, own }, strict);
  const part = shallow(() => reader.read(at), at);
  warnOnce(part, () => [
    reader.deprecated.size > 0 &&
      explain(
        'deprecated-part',
        `The document says that these are deprecated: ${[...reader.deprecated].map((place) => `#${place}`).join(', ')}. Leave them out of the form, or ask what takes their place.`,
      ),
  ]);
  const byPlace = new Map(reader.notes.map((note) => [note.pointer, note]));
  notes.set(
    part,
    [...byPlace.keys()].sort().map((pointer) => byPlace.get(pointer)!),
  );
  return part as never;
}

/** What has no meaning in the documents of schemas that were read. */
const notes = new WeakMap<object, readonly Note[]>();

/**
 * Returns what a document says that has no meaning here: keywords and formats that are not known, each with its place.
 *
 * @param schema what `fromJsonSchema` returned
 * @returns the notes, by their places
 *
 * @example
 * notesOf(fromJsonSchema({ type: 'object', properties: { berth: { type: 'string', format: 'berth' } } }));
 * // [{ pointer: '/properties/berth/format', keyword: 'format: berth' }]
 */
export const notesOf = (schema: Node): readonly Note[] => notes.get(schema) ?? [];

/** @throws JsonSchemaError for what is no pointer */
export function assertPointer(pointer: string): void {
  if (pointer !== '' && !pointer.startsWith('/') && !pointer.includes('#'))
    throw new JsonSchemaError(
      pointer,
      `"${pointer}" is not a JSON Pointer. A pointer begins with a slash, or is empty for the whole document.`,
    );
}
