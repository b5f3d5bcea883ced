// The kinds of fields, as JSON Schema writes them: the keywords that say the kind itself, and its making.

import { anyJson } from '../schema/anyJson.ts';
import { boolean } from '../schema/boolean.ts';
import { choice, choices } from '../schema/choice.ts';
import { color } from '../schema/color.ts';
import type { KindDefinition } from '../schema/definition.ts';
import type { FieldPart } from '../schema/field.ts';
import { file, files } from '../schema/files.ts';
import { date, dateTime, month, time, week } from '../schema/moments.ts';
import { inLanguage, type Label } from '../messages/text.ts';
import type { Settings } from '../schema/node.ts';
import type { Option, Options, OptionValue } from '../schema/option.ts';
import { integer, number } from '../schema/number.ts';
import type { AnyRule } from '../schema/rule.ts';
import { text } from '../schema/text.ts';
import { isKindName, KINDS, type KindName } from '../schema/vocabulary.ts';
import { Inexpressible, isObject, JsonSchemaError, Keywords, LABEL, sameJson, under, type JsonObject } from './document.ts';

/** How a kind is written. */
interface Writing {
  /** The JSON type of its values; `'any'`: there is no one. */
  readonly type: string;
  /** The keywords of the kind itself, beside its type. */
  readonly keywords?: JsonObject;
  readonly make: (settings: Settings & JsonObject, rules: readonly AnyRule[]) => unknown;
}

type Make = (settings: never, ...rules: never[]) => unknown;
const made =
  (make: Make): Writing['make'] =>
  (settings, rules) =>
    make(settings as never, ...(rules as never[]));

const TIME = '\\d{2}:\\d{2}(:\\d{2}(\\.\\d{1,3})?)?';
const ONE_FILE = {
  properties: { name: { type: 'string' }, size: { type: 'integer', minimum: 0 }, type: { type: 'string' } },
  required: ['name', 'size', 'type'],
};

/** How kinds are written; `choice` and `choices` have their options too. */
const WRITINGS: Readonly<Record<KindName, Writing | undefined>> = {
  text: { type: 'string', make: (settings, rules) => made(text)({ trim: false, wellFormed: false, ...settings }, rules) },
  number: { type: 'number', make: made(number) },
  integer: { type: 'integer', make: made(integer) },
  boolean: { type: 'boolean', make: made(boolean) },
  date: { type: 'string', keywords: { format: 'date' }, make: made(date) },
  time: { type: 'string', keywords: { pattern: `^${TIME}$` }, make: made(time) },
  dateTime: { type: 'string', keywords: { pattern: `^\\d{4,6}-\\d{2}-\\d{2}T${TIME}$` }, make: made(dateTime) },
  month: { type: 'string', keywords: { pattern: '^\\d{4,6}-\\d{2}$' }, make: made(month) },
  week: { type: 'string', keywords: { pattern: '^\\d{4,6}-W\\d{2}$' }, make: made(week) },
  color: { type: 'string', keywords: { pattern: '^#[0-9A-Fa-f]{6}$' }, make: made(color) },
  anyJson: { type: 'any', make: made(anyJson) },
  choice: {
    type: 'string',
    make: ({ options, ...settings }, rules) => choice(settings, options as Options<OptionValue>, ...(rules as [])),
  },
  choices: {
    type: 'array',
    make: ({ options, ...settings }, rules) => choices(settings, options as Options<OptionValue>, ...(rules as [])),
  },
  file: { type: 'object', keywords: ONE_FILE, make: made(file) },
  files: { type: 'array', keywords: { items: { type: 'object', ...ONE_FILE } }, make: made(files) },
  // They read their values by functions, which JSON cannot hold; a recursive part is written by reference.
  custom: undefined,
  standardSchema: undefined,
  deferred: undefined,
};

/** How a kind is written, by whatever name; nothing if it cannot be, or there is none. */
export const writingOf = (kind: string): Writing | undefined => (isKindName(kind) ? WRITINGS[kind] : undefined);

const writeOption = ({ value, label }: Option): JsonObject => ({
  const: value,
  title: inLanguage(label, undefined),
  ...(typeof label !== 'string' && { gate: { label } }),
});

/** Values to choose from: `enum`, or constants with titles where labels say more than the values. */
const writeOptions = (options: readonly Option[], nullable: boolean): JsonObject =>
  options.some(({ value, label }) => value !== label)
    ? { oneOf: [...options.map(writeOption), ...(nullable ? [{ const: null }] : [])] }
    : { enum: [...options.map(({ value }) => value), ...(nullable ? [null] : [])] };

const isValue = (value: unknown): value is OptionValue => ['string', 'number', 'boolean'].includes(typeof value);
const isText = (value: unknown): value is string => typeof value === 'string';

/**
 * The values to choose from that keywords give; nothing where they give none.
 *
 * @param fits which values can be chosen; default: texts, since values that are numbers are of a number kind unless declared otherwise
 */
function optionsOf(
  { enum: values, oneOf: constants, const: value }: JsonObject,
  fits: (value: unknown) => value is OptionValue = isText,
): Options<OptionValue> | undefined {
  const list = value === undefined ? values : [value];
  if (Array.isArray(list)) {
    const chosen = list.filter((each) => each !== null);
    // (An empty text is no choice: it stands for none.)
    return chosen.length > 0 && chosen.every(fits) && !chosen.includes('') ? chosen : undefined;
  }
  if (!Array.isArray(constants)) return undefined;
  const chosen = constants.filter((each) => !(isObject(each) && each['const'] === null));
  const isOption = (each: unknown): each is JsonObject =>
    isObject(each) &&
    fits(each['const']) &&
    Object.keys(each).every((key) => ['const', 'title', 'type', 'description', 'deprecated', 'gate'].includes(key)) &&
    (each['gate'] === undefined ||
      (isObject(each['gate']) && Object.keys(each['gate']).join() === 'label' && LABEL.fits(each['gate']['label'])));
  if (chosen.length === 0 || !chosen.every(isOption)) return undefined;
  return chosen.map(({ const: each, title, gate }) => {
    const { label = isText(title) ? title : String(each) } = (gate ?? {}) as { readonly label?: Label };
    return { value: each as OptionValue, label };
  });
}

/** The keywords of a field's kind; a type of null is written with its settings. */
export function writeKind({ kind, spec, settings }: FieldPart): JsonObject {
  const { type, keywords } = writingOf(kind)!;
  const nullable = settings.inJson?.nullable === true;
  if (type === 'any') return {};
  if (!spec.options) return { type, ...keywords };
  const types = new Set(spec.options.map(({ value }) => typeof value));
  const typed = types.size === 1 ? { type: [...types][0] } : {};
  return kind === 'choices'
    ? { type, items: { ...typed, ...writeOptions(spec.options, false) } }
    : { ...typed, ...writeOptions(spec.options, nullable) };
}

/** The JSON type of the values of a kind, as far as rules care. */
export const typeOf = (kind: string): string =>
  kind === 'list' ? 'array' : kind === 'integer' ? 'number' : (writingOf(kind)?.type ?? 'object');

/**
 * Takes the type.
 *
 * @returns whether `null` is taken
 * @throws JsonSchemaError for a type that is not that of the kind
 */
export function takeType(bags: readonly Keywords[], kind: string, defined?: KindDefinition): boolean {
  if (!defined && !writingOf(kind) && !['list', 'group', 'dictionary'].includes(kind))
    throw new JsonSchemaError(bags[0]?.at ?? '', `there is no kind "${kind}".`);
  const expected: readonly string[] = defined
    ? [defined.traits.json]
    : kind === 'list'
      ? ['array']
      : kind === 'group' || kind === 'dictionary'
        ? ['object']
        : kind === 'choice'
          ? typesOfOptions(bags)
          : [writingOf(kind)!.type];
  // (What is any JSON may have any type: its keywords say so.)
  if (kind === 'anyJson' && !defined) return false;
  let nullable: boolean | undefined;
  for (const bag of bags) {
    if (defined?.format !== undefined && bag.schema['format'] === defined.format) bag.take('format');
    const type = bag.take('type');
    const values = bag.schema['enum'];
    const types = type === undefined ? undefined : [type].flat();
    const strange = types?.find(
      (each) => each !== 'null' && !expected.includes(each as string) && !(each === 'number' && expected.includes('integer')),
    );
    if (strange !== undefined || types?.every((each) => each === 'null'))
      throw new Inexpressible(
        bag.at,
        `"type" is ${JSON.stringify(type)}, but ${expected.join(' or ')} is expected. A field has one type (and perhaps null).`,
      );
    const takesNull = (types?.includes('null') ?? Array.isArray(values)) && !(Array.isArray(values) && !values.includes(null));
    if (types || Array.isArray(values)) nullable = (nullable ?? true) && takesNull;
    if ((bag.schema['const'] ?? null) !== null) nullable = false;
  }
  return nullable ?? bags.some((bag) => bag.nullable);
}

/** The JSON types of the values to choose from. */
const typesOfOptions = (bags: readonly Keywords[]): readonly string[] => {
  const options = bags.map(({ schema }) => optionsOf(schema, isValue)).find((each) => each !== undefined);
  const types = (options as readonly unknown[] | undefined)?.map((each) => typeof (isObject(each) ? each['value'] : each));
  return types ? [...types, ...(types.includes('number') ? ['integer'] : [])] : ['string', 'number', 'boolean'];
};

/** The kind of values that keywords speak of; nothing where they do not say. */
export function kindOf(schema: JsonObject): string | undefined {
  const { type, format, items, enum: values, const: value } = schema;
  const types = [type].flat().filter((each) => each !== 'null');
  if (types.length > 1) return undefined;
  // (Lists and objects to choose from are no choice that a control has.)
  const chosen = new Set((Array.isArray(values) ? values : [value]).filter((each) => each !== null).map((each) => typeof each));
  const [only = chosen.size > 1 || chosen.has('object') ? 'none' : [...chosen][0]] = types;
  if (only === 'array') return isObject(items) && optionsOf(items) && schema['uniqueItems'] === true ? 'choices' : 'list';
  if (only === 'number' && ['int32', 'int64'].includes(String(format))) return 'integer';
  if (only === 'number' || only === 'integer' || only === 'boolean') return only;
  if (optionsOf(schema)) return 'choice';
  if (only === 'none') return undefined;
  if (isObject(schema['additionalProperties']) && schema['properties'] === undefined && schema['patternProperties'] === undefined)
    return 'dictionary';
  if (only === 'string') return format === 'date' ? 'date' : 'text';
  return only === 'object' || schema['properties'] !== undefined || schema['oneOf'] !== undefined ? 'group' : undefined;
}

/** What only some kinds have under `gate`. */
const OF_GROUPS = ['partial', 'appliesWhen', 'fieldRules', 'groupRules'];
const OF_TEXTS = ['empty'];
const OF_SOME = ['trim', 'wellFormed', 'case', 'decimal', 'locale', 'useGrouping', ...OF_TEXTS, ...OF_GROUPS];

/** Throws if the annotation has something without a meaning for the kind. */
export function checkAnnotation(annotation: JsonObject, kind: string, at: string, defined?: KindDefinition): void {
  const ofKind = isKindName(kind) ? KINDS[kind].settings : [];
  const taken: readonly string[] = defined
    ? []
    : kind === 'group'
      ? OF_GROUPS
      : typeOf(kind) === 'string'
        ? [...ofKind, ...OF_TEXTS]
        : ofKind;
  const stranger = OF_SOME.find((name) => annotation[name] !== undefined && !taken.includes(name));
  if (stranger !== undefined) throw new JsonSchemaError(under(at, 'gate'), `"${stranger}" has no meaning for a field of kind ${kind}.`);
  if (kind === 'group' && !defined && isObject(annotation['rules']))
    throw new JsonSchemaError(
      under(at, 'gate'),
      '"rules" has no meaning for an object. Move rules on its fields to "fieldRules", others to "groupRules".',
    );
}

/**
 * Takes the keywords of a kind.
 *
 * @returns the settings that they give beside those of every kind
 */
export function takeKind(kind: string, bags: readonly Keywords[]): JsonObject {
  for (const [keyword, value] of Object.entries(writingOf(kind)?.keywords ?? {}))
    bags.find((bag) => bag.has(keyword) && sameJson(bag.schema[keyword], value))?.take(keyword);
  if (kind !== 'choice' && kind !== 'choices') return {};
  for (const bag of bags) {
    const { items } = bag.schema;
    const inner = kind === 'choice' ? bag : isObject(items) ? new Keywords(items, under(bag.at, 'items')) : undefined;
    const options = inner && optionsOf(inner.schema, isValue);
    if (!options) continue;
    for (const keyword of ['const', 'enum', 'oneOf'].filter((each) => inner.has(each)).slice(0, 1)) inner.take(keyword);
    if (kind === 'choices') {
      takeType([inner], 'choice');
      inner.end('choice');
      bag.take('items');
    }
    return { options };
  }
  throw new Inexpressible(bags[0]!.at, 'the choices are missing. Add an "enum".');
}
