// Looks through the schemas that a value is validated by, before any value comes: what is wrong in them is an error of the document, with
// its place. What has no meaning is noted.

import { patternRisk } from '../../rules/patternRisk.ts';
import { DEEPEST, isList, isObject, isTexts, JsonSchemaError, tooDeep, under, type JsonObject } from '../document.ts';
import { isFormat } from './formats.ts';
import type { Resources, Spot } from './resources.ts';

/** A keyword that has no meaning here. */
export interface Note {
  /** Where it stands, as a JSON Pointer. */
  readonly pointer: string;
  readonly keyword: string;
}

/** What a keyword takes. `schema`, `schemas`, `byName`: schemas, which are looked through too. */
type Takes =
  | 'schema'
  | 'schemas'
  | 'byName'
  | 'count'
  | 'number'
  | 'text'
  | 'texts'
  | 'flag'
  | 'list'
  | 'object'
  | 'type'
  | 'any'
  | 'reference'
  | 'textsByName'
  | 'step';

/** The keywords that say what a value must be. */
const ASSERTIONS: Readonly<Record<string, Takes>> = {
  $ref: 'reference',
  $dynamicRef: 'reference',
  type: 'type',
  enum: 'list',
  const: 'any',
  multipleOf: 'step',
  minimum: 'number',
  maximum: 'number',
  exclusiveMinimum: 'number',
  exclusiveMaximum: 'number',
  minLength: 'count',
  maxLength: 'count',
  pattern: 'text',
  format: 'text',
  minItems: 'count',
  maxItems: 'count',
  uniqueItems: 'flag',
  prefixItems: 'schemas',
  items: 'schema',
  contains: 'schema',
  minContains: 'count',
  maxContains: 'count',
  minProperties: 'count',
  maxProperties: 'count',
  required: 'texts',
  dependentRequired: 'textsByName',
  dependentSchemas: 'byName',
  properties: 'byName',
  patternProperties: 'byName',
  additionalProperties: 'schema',
  propertyNames: 'schema',
  unevaluatedProperties: 'schema',
  unevaluatedItems: 'schema',
  allOf: 'schemas',
  anyOf: 'schemas',
  oneOf: 'schemas',
  not: 'schema',
  if: 'schema',
  then: 'schema',
  else: 'schema',
};

/** Those that say nothing about it. */
const ANNOTATIONS = [
  ...['$schema', '$id', 'id', '$comment', '$defs', 'definitions', '$anchor', '$dynamicAnchor', '$recursiveAnchor', '$vocabulary'],
  ...['title', 'description', 'default', 'deprecated', 'readOnly', 'writeOnly', 'examples', 'example', 'gate'],
  ...['contentMediaType', 'contentEncoding', 'contentSchema', 'discriminator', 'externalDocs', 'xml', 'additionalItems'],
];

const isCount = (value: unknown): boolean => typeof value === 'number' && Number.isInteger(value) && value >= 0;
const isSchema = (value: unknown): boolean => isObject(value) || typeof value === 'boolean';
const TYPES = ['null', 'boolean', 'string', 'number', 'integer', 'array', 'object'];
const CHECKS: Readonly<Record<Takes, readonly [fits: (value: unknown) => boolean, words: string]>> = {
  schema: [isSchema, 'a schema'],
  schemas: [(value) => isList(value) && value.length > 0 && value.every(isSchema), 'a list of schemas'],
  byName: [(value) => isObject(value) && Object.values(value).every(isSchema), 'an object of schemas'],
  count: [isCount, 'a whole number from 0'],
  number: [(value) => typeof value === 'number' && Number.isFinite(value), 'a number'],
  step: [(value) => typeof value === 'number' && value > 0, 'a number above 0'],
  text: [(value) => typeof value === 'string', 'a string'],
  texts: [isTexts, 'a list of strings'],
  textsByName: [(value) => isObject(value) && Object.values(value).every(isTexts), 'an object of lists of strings'],
  flag: [(value) => typeof value === 'boolean', 'true or false'],
  list: [isList, 'a list'],
  object: [isObject, 'an object'],
  type: [
    (value) => [value].flat().length > 0 && [value].flat().every((each) => TYPES.includes(each as string)),
    `${TYPES.join(', ')}, or a list of these`,
  ],
  any: [() => true, 'any value'],
  reference: [(value) => typeof value === 'string', 'a string'],
};

/** Whether so few letters differ that one word was probably meant. */
function isNear(one: string, other: string): boolean {
  if (Math.abs(one.length - other.length) > 2 || Math.min(one.length, other.length) < 4) return false;
  let row = Array.from({ length: other.length + 1 }, (_, i) => i);
  for (let i = 1; i <= one.length; i += 1) {
    const next = [i];
    for (let j = 1; j <= other.length; j += 1)
      next.push(Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (one[i - 1] === other[j - 1] ? 0 : 1)));
    row = next;
  }
  return row.at(-1)! <= 2;
}

/** How keywords without a meaning are taken, and which patterns. */
export interface InspectOptions {
  readonly strict: boolean;
  readonly trustPatterns: boolean;
  /** Keywords of the author's rules. */
  readonly own: ReadonlySet<string>;
}

/** The keywords that say something of values of one JSON type only. */
const OF_TYPE: Readonly<Record<string, readonly string[]>> = {
  string: ['minLength', 'maxLength', 'pattern'],
  number: ['multipleOf', 'minimum', 'maximum', 'exclusiveMinimum', 'exclusiveMaximum'],
  array: ['items', 'prefixItems', 'contains', 'minContains', 'maxContains', 'minItems', 'maxItems', 'uniqueItems', 'unevaluatedItems'],
  object: [
    ...['properties', 'required', 'patternProperties', 'additionalProperties', 'propertyNames', 'minProperties', 'maxProperties'],
    ...['dependentRequired', 'dependentSchemas', 'unevaluatedProperties'],
  ],
};

/** The keywords that say nothing of values of a JSON type. */
export function idleFor(type: string): readonly string[] {
  const known = idle.get(type) ?? Object.entries(OF_TYPE).flatMap(([each, keywords]) => (each === type ? [] : keywords));
  idle.set(type, known);
  return known;
}
const idle = new Map<string, readonly string[]>();

/** Whether a keyword says what a value must be. */
export const isAssertion = (keyword: string): boolean => Object.hasOwn(ASSERTIONS, keyword);

/** What an unknown keyword comes to: a note. @throws JsonSchemaError where another was probably meant */
export function noteOf(keyword: string, at: string, { strict, own }: Pick<InspectOptions, 'strict' | 'own'>): Note | undefined {
  if (keyword.startsWith('x-') || isAssertion(keyword) || ANNOTATIONS.includes(keyword) || own.has(keyword)) return undefined;
  const near = strict ? [...Object.keys(ASSERTIONS), ...ANNOTATIONS].find((known) => isNear(keyword, known)) : undefined;
  if (near)
    throw new JsonSchemaError(at, `there is no keyword "${keyword}". Did you mean "${near}"? With { strict: false } it says nothing.`);
  return { pointer: under(at, keyword), keyword };
}

/** How many places are looked through at most. */
const MOST_PLACES = 100_000;

/**
 * Looks through the schema at a place, and all that it reaches.
 *
 * @returns what is noted, and whether the annotation `gate`, or a keyword of the author, is somewhere in it
 * @throws JsonSchemaError for what is wrong
 */
export function inspect(
  resources: Resources,
  start: string,
  options: InspectOptions,
  seen: Set<object>,
): { readonly notes: readonly Note[]; readonly hasGate: boolean } {
  const notes: Note[] = [];
  let hasGate = false;
  const due: (Spot & { readonly depth: number })[] = [{ schema: resources.find(start), at: start, depth: 0 }];
  for (let next = due.pop(); next; next = due.pop()) {
    const { schema: found, at } = next;
    const depth = next.depth + 1;
    if (typeof found === 'boolean') continue;
    if (!isObject(found)) throw new JsonSchemaError(at, `a schema is an object, or true. It is ${JSON.stringify(found)}.`);
    // (By what they are: the places of what lies deep are long.)
    if (seen.has(found)) continue;
    seen.add(found);
    if (seen.size > MOST_PLACES) throw new JsonSchemaError(at, `the document describes more than ${MOST_PLACES} parts.`);
    if (depth > DEEPEST) throw tooDeep(at);
    const vocabularies = found['$vocabulary'];
    if (isObject(vocabularies)) assertVocabularies(vocabularies, at);
    if (Object.keys(found).some((keyword) => keyword === 'gate' || (options.own.has(keyword) && !isAssertion(keyword)))) hasGate = true;
    const schema = resources.words(found, at);
    for (const [keyword, value] of Object.entries(schema)) {
      const takes = ASSERTIONS[keyword];
      if (!Object.hasOwn(ASSERTIONS, keyword) || takes === undefined) {
        const note = noteOf(keyword, at, options);
        if (note) notes.push(note);
        continue;
      }
      const [fits, words] = CHECKS[takes];
      if (keyword === 'format' && !isFormat(value)) notes.push({ pointer: under(at, keyword), keyword: `format: ${String(value)}` });
      if (!fits(value)) throw new JsonSchemaError(at, `"${keyword}" takes ${words}. It is ${JSON.stringify(value)}.`);
      if (takes === 'reference') due.push({ ...resources.follow(value, at), depth: 0 });
      else if (takes === 'schema') due.push({ schema: value, at: under(at, keyword), depth });
      else if (takes === 'schemas') (value as unknown[]).forEach((each, i) => due.push({ schema: each, at: under(at, keyword, i), depth }));
      else if (takes === 'byName')
        for (const [name, each] of Object.entries(value as object)) due.push({ schema: each, at: under(at, keyword, name), depth });
    }
    const expressions = [
      ...(typeof schema['pattern'] === 'string' ? [schema['pattern']] : []),
      ...Object.keys((schema['patternProperties'] as object | undefined) ?? {}),
    ];
    for (const source of expressions) assertPattern(source, at, options);
  }
  return { notes, hasGate };
}

function assertPattern(source: string, at: string, { trustPatterns }: InspectOptions): void {
  try {
    new RegExp(source, 'u');
  } catch (error) {
    throw new JsonSchemaError(at, error instanceof Error ? error.message : String(error));
  }
  const risk = trustPatterns ? undefined : patternRisk(source, 'u');
  if (risk !== undefined)
    throw new JsonSchemaError(at, `the pattern can take very long on a short text: ${risk}. Rewrite it, or pass { trustPatterns: true }.`);
}

const VOCABULARIES = /^https:\/\/(?:json-schema\.org\/draft\/(?:2019-09|2020-12)\/vocab|spec\.openapis\.org\/oas\/3\.1\/vocab)\//;

function assertVocabularies(vocabularies: JsonObject, at: string): void {
  const stranger = Object.entries(vocabularies).find(([uri, isRequired]) => isRequired === true && !VOCABULARIES.test(uri));
  if (stranger) throw new JsonSchemaError(at, `the vocabulary ${stranger[0]} is required, and not known here.`);
}
