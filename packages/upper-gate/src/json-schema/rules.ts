// The rules, as JSON Schema writes them: keywords carry their params wherever there are such; the annotation `gate.rules`
// lists the rules in their order, with what no keyword can hold.

import { ASYNC_DEFAULTS, asyncCheck } from '../rules/asyncCheck/asyncCheck.ts';
import { asyncChoicesFrom } from '../rules/asyncChoicesFrom/asyncChoicesFrom.ts';
import { check } from '../rules/crossField/check.ts';
import { depending } from '../rules/depending.ts';
import { fileSize, fileType } from '../rules/files.ts';
import { length } from '../rules/length.ts';
import { noDuplicates } from '../rules/noDuplicates/noDuplicates.ts';
import { range, step } from '../rules/range.ts';
import { required } from '../rules/required.ts';
import { requiredWhen } from '../rules/crossField/requiredWhen.ts';
import { after, before, differsFrom, sameAs } from '../rules/crossField/siblings.ts';
import { patternRisk } from '../rules/patternRisk.ts';
import { choicesFrom, oneOf } from '../rules/options.ts';
import { cardNumber, email, ipAddress, pattern, url } from '../rules/text.ts';
import type { KindDefinition, RuleDefinition } from '../schema/definition.ts';
import type { Params } from '../schema/finding.ts';
import { isBlocking, type AnyRule, type AuthorFunction } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import { SEVERITY_NAMES } from '../schema/severity.ts';
import type { Holding, JsonType } from '../schema/traits.ts';
import { factsOf, isKindName, isRuleName, KINDS, type NamedRule, type ParamType, type RuleName } from '../schema/vocabulary.ts';
import {
  checkTypes,
  FLAG,
  isObject,
  JsonSchemaError,
  LABEL,
  LIMIT,
  listOf,
  NUMBER,
  omit,
  oneOfThese,
  same,
  STAGE,
  TEXT,
  type JsonObject,
  type Keywords,
  type Type,
} from './document.ts';
import { timestamp, uuid } from './formats.ts';

/** A rule in `gate.rules`: its name, or its name with params and options. */
export type RuleEntry = string | (JsonObject & { readonly rule: string });

/** Finds the function of a name; throws if it is missing. */
export interface Functions {
  byName(name: unknown, at: string): AuthorFunction;
  /** Whether patterns may be such that they can hang. */
  readonly trustPatterns: boolean;
  /** What the author has defined. */
  readonly own: OwnRows;
}

/** Rules and kinds of the author, by name. */
export interface OwnRows {
  readonly rules: ReadonlyMap<string, RuleDefinition<AnyRule>>;
  readonly kinds: ReadonlyMap<string, KindDefinition>;
}

/** Finds the name of a function; throws where it has none. */
export interface Names {
  nameOf(of: AuthorFunction, given: string | undefined, at: string): string;
}

/** How a rule is written. */
interface Writing {
  /** The keywords that carry params, by param, for values of a JSON type. */
  readonly carry?: (type: string, params: Params) => Readonly<Record<string, string>>;
  /** Keywords that say the rule itself. */
  readonly keywords?: (type: string, params: Params) => JsonObject;
  /** The keyword that carries all params, in an object. */
  readonly whole?: string | undefined;
  /** Keywords that mean the same as those that carry it: they do not stand in one place. */
  readonly akin?: readonly string[];
  /** Params of the rule, or of several, where a document has keywords alone. */
  readonly fromKeywords?: (type: string, params: Params) => readonly Params[];
  readonly make: (params: Params, options: RuleOptions) => unknown;
}

/** Params without those that are not there. */
const pickKnown = (params: Params): Params =>
  omit(
    params,
    Object.keys(params).filter((key) => params[key] === undefined),
  );

const sized = (type: string) => (type === 'string' ? { min: 'minLength', max: 'maxLength' } : { min: 'minItems', max: 'maxItems' });

/** The rules that are not made of a function of the author. */
type Plain = Exclude<RuleName, NamedRule>;

const isNamed = (name: RuleName): name is NamedRule => factsOf(name).isNamed === true;

const PARAM_TYPES: Readonly<Record<Extract<ParamType, string>, Type>> = {
  number: NUMBER,
  limit: LIMIT,
  text: TEXT,
  flag: FLAG,
  texts: listOf(TEXT),
  values: listOf({ fits: (value) => ['string', 'number', 'boolean'].includes(typeof value), words: 'a text, a number, true or false' }),
};
const OBJECT: Type = { fits: isObject, words: 'an object' };
const typeOfParam = (type: ParamType): Type => (typeof type === 'string' ? PARAM_TYPES[type] : oneOfThese(...type));

/** How rules are written, in the order in which they report where a document has keywords alone. */
const WRITINGS: Readonly<Record<Plain, Writing>> = {
  required: {
    keywords: (type): JsonObject => (type === 'boolean' ? { const: true } : {}),
    make: (_, options) => required(options as object),
  },
  length: {
    carry: sized,
    // JSON Schema counts code points, HTML and this library UTF-16 units.
    fromKeywords: (type, params) => [type === 'string' ? { ...params, count: 'codePoints' } : params],
    make: (params, options) => length(params, options),
  },
  pattern: {
    carry: (_, { pattern: source, flags = '' }): Record<string, string> =>
      source === undefined || (['', 'u'].includes(String(flags)) && isPattern(source as string)) ? { pattern: 'pattern' } : {},
    fromKeywords: (_, params) => [{ ...params, flags: 'u' }],
    make: ({ pattern: source, flags = '' }, options) => pattern(new RegExp(String(source), String(flags)), options),
  },
  email: {
    keywords: (_, { multiple }): JsonObject => (multiple === true ? {} : { format: 'email' }),
    make: (params, options) => email({ ...params, ...options }),
  },
  url: { keywords: () => ({ format: 'uri' }), make: (params, options) => url({ ...params, ...options }) },
  ipAddress: {
    keywords: (_, { version }): JsonObject => (version === undefined ? {} : { format: `ipv${version as number}` }),
    make: (params, options) => ipAddress({ ...params, ...options }),
  },
  timestamp: {
    keywords: (_, { format }) => ({ format }),
    make: ({ format }, options) => timestamp(format as 'time', options),
  },
  uuid: { keywords: () => ({ format: 'uuid' }), make: (_, options) => uuid(options) },
  cardNumber: { make: (_, options) => cardNumber(options) },
  range: {
    carry: (type): Record<string, string> =>
      type === 'number' ? { min: 'minimum', max: 'maximum', above: 'exclusiveMinimum', below: 'exclusiveMaximum' } : {},
    // A rule has one limit at each end.
    fromKeywords(_, { min, max, above, below }) {
      const both = (min !== undefined && above !== undefined) || (max !== undefined && below !== undefined);
      const all = { min, max, above, below };
      return (
        both
          ? [
              { min, max },
              { above, below },
            ]
          : [all]
      ).map((params) => pickKnown(params));
    },
    make: (params, options) => range(params, options),
  },
  step: {
    carry: (type, { base }): Record<string, string> => (type === 'number' && base === undefined ? { step: 'multipleOf' } : {}),
    make: ({ step: size, base }, options) => step(Number(size), base as number | undefined, options),
  },
  oneOf: {
    carry: () => ({ options: 'enum' }),
    akin: ['const', 'oneOf'],
    make: ({ options: values }, options) => oneOf(values as string[], options),
  },
  noDuplicates: {
    keywords: (_, { by }): JsonObject => (by === undefined ? { uniqueItems: true } : {}),
    make: (params, options) => noDuplicates({ ...params, ...options }),
  },
  fileSize: { make: (params, options) => fileSize(params as { max: number }, options) },
  fileType: { make: ({ accept }, options) => fileType(String(accept), options) },
  sameAs: { make: ({ other }, options) => sameAs(other as never, options) },
  differsFrom: { make: ({ other }, options) => differsFrom(other as never, options) },
  after: { make: ({ other, ...rest }, options) => after(other as never, { ...rest, ...options }) },
  before: { make: ({ other, ...rest }, options) => before(other as never, { ...rest, ...options }) },
};

/** What there is to say of a rule in documents, a built-in one or one of the author. */
interface Row {
  readonly name: string;
  readonly params: RuleDefinition<AnyRule>['params'];
  readonly fits: RuleDefinition<AnyRule>['fits'];
  readonly readsOther?: boolean | undefined;
  /** Whether it needs all its params; if not, `make` checks which. */
  readonly needsAll?: true;
  readonly writing: Writing;
}

/** The row of a rule of the author: its keyword carries its only param, or an object of all. */
function rowOfOwn({ name, params, fits, keyword, make }: RuleDefinition<AnyRule>): Row {
  const names = Object.keys(params);
  const carry = keyword === undefined || names.length !== 1 ? {} : { [names[0]!]: keyword };
  return { name, params, fits, needsAll: true, writing: { carry: () => carry, whole: names.length === 1 ? undefined : keyword, make } };
}

const builtIn = (name: Plain): Row => ({ name, ...factsOf(name), writing: WRITINGS[name] });

/** The row of a rule; none for those that are the name of a function. */
const rowOf = (name: string, own: RuleDefinition<AnyRule> | undefined): Row | undefined =>
  own ? rowOfOwn(own) : isRuleName(name) && !isNamed(name) ? builtIn(name) : undefined;

type Types = Readonly<Partial<Record<keyof typeof ASYNC_DEFAULTS, Type>>>;
const WAITING: Types = { timeout: NUMBER, unanswered: oneOfThese('warn', 'block') };

/** Rules of which documents know the name of a function, and options. */
const NAMED: Readonly<
  Record<NamedRule, { types?: Types; make: (by: AuthorFunction, name: string, params: Params, options: RuleOptions) => unknown }>
> = {
  check: { make: (by, _, __, options) => check(by as never, options) },
  requiredWhen: { make: (by, _, __, options) => requiredWhen(by as never, options) },
  asyncCheck: {
    types: { debounce: NUMBER, cache: NUMBER, ...WAITING },
    make: (by, name, params, options) => asyncCheck(by as never, { ...params, ...options, name }),
  },
  choicesFrom: { make: (by, _, __, options) => choicesFrom(by as never, options) },
  asyncChoicesFrom: {
    types: WAITING,
    make: (by, name, params, options) => asyncChoicesFrom(by as never, { ...params, ...options, name }),
  },
};

/** Rules of which params may be a function: documents know its name alone, too. */
const MOVING: Readonly<Partial<Record<RuleName, (by: AuthorFunction, options: RuleOptions) => unknown>>> = {
  range: (by, options) => range(depending(by) as never, options),
  step: (by, options) => step(depending(by) as never, undefined, options),
  length: (by, options) => length(depending(by) as never, options),
  oneOf: (by, options) => oneOf(depending(by) as never, options),
};

/** Whether other readers of a document can use a pattern: they have it under the flag `u`. */
function isPattern(source: string): boolean {
  try {
    new RegExp(source, 'u');
    return true;
  } catch {
    return false;
  }
}

/** The rules for a `format`, by JSON type; none if the kind or a setting covers it. */
const FORMATS: Readonly<Record<string, Readonly<Record<string, readonly [rule: Plain, params: Params] | undefined>>>> = {
  string: {
    email: ['email', {}],
    uri: ['url', {}],
    ipv4: ['ipAddress', { version: 4 }],
    ipv6: ['ipAddress', { version: 6 }],
    'date-time': ['timestamp', { format: 'date-time' }],
    time: ['timestamp', { format: 'time' }],
    uuid: ['uuid', {}],
    password: undefined,
  },
  // Those of OpenAPI's registry.
  number: { int32: ['range', { min: -(2 ** 31), max: 2 ** 31 - 1 }], int64: undefined, float: undefined, double: undefined },
};

const OPTIONS = ['message', 'code', 'severity', 'on'] as const;
const OPTION_TYPES: Readonly<Record<(typeof OPTIONS)[number], Type>> = {
  message: LABEL,
  code: TEXT,
  severity: oneOfThese(...SEVERITY_NAMES),
  on: STAGE,
};
/** What an author writes as text or data; functions cannot be written down. */
export function written(value: unknown, at: string, what: string): unknown {
  if (typeof value !== 'function') return value;
  throw new JsonSchemaError(at, `${what} is a function, which JSON cannot hold. Use a text with slots instead: '{label} needs {min}'.`);
}

/** Whether an entry is about what is further in: an object of entries, and no rule. */
export const isNested = (entry: unknown): entry is Record<string, unknown> => isObject(entry) && typeof entry['rule'] !== 'string';

/** A rule as written. */
export interface WrittenRule {
  /** The keywords that carry it. */
  readonly keywords: JsonObject;
  /** The keywords that could: two rules do not share them in one place. */
  readonly family: readonly string[];
  /** Its entry in `gate.rules`. */
  readonly entry: RuleEntry;
}

/**
 * Writes a rule.
 *
 * @param type the JSON type of the value that it validates; `''`: everything is in the entry
 */
export function writeRule(rule: AnyRule, type: string, at: string, names: Names): WrittenRule {
  const params: Record<string, unknown> = {};
  for (const [param, value] of Object.entries(rule.params))
    if (param !== 'otherLabel' && value !== undefined && value !== false && value !== '' && Math.abs(value as number) !== Infinity)
      params[param] = value;
  const options: Record<string, unknown> = {};
  for (const option of OPTIONS)
    if (rule[option] !== undefined) options[option] = written(rule[option], at, `the ${option} of the rule ${rule.name}`);
  const keywords: Record<string, unknown> = {};
  let family: readonly string[] = [];
  let carried: readonly string[] = [];
  const row = rowOf(rule.name, rule.definition);
  if (rule.moving || (!row && isRuleName(rule.name))) {
    params['check'] = names.nameOf(rule.author!, rule.async?.name, at);
    for (const key of Object.keys(ASYNC_DEFAULTS) as (keyof typeof ASYNC_DEFAULTS)[])
      if (rule.async && rule.async[key] !== ASYNC_DEFAULTS[key]) params[key] = rule.async[key];
  } else if (!row) {
    throw new JsonSchemaError(at, `there is no rule "${rule.name}".`);
    // A keyword would refuse what the rule only warns of.
  } else if (type !== '' && isBlocking(rule)) {
    const { carry, whole, keywords: state, akin = [] } = row.writing;
    const parts = Object.entries(carry?.(type, params) ?? {});
    carried = whole === undefined ? parts.map(([param]) => param) : Object.keys(params);
    if (whole !== undefined) keywords[whole] = { ...params };
    Object.assign(keywords, state?.(type, params));
    family = [...Object.keys(keywords), ...parts.map(([, keyword]) => keyword), ...akin];
    for (const [param, keyword] of parts) if (params[param] !== undefined) keywords[keyword] = params[param];
  }
  const entry = { rule: rule.name, ...omit(params, carried), ...options };
  return { keywords, family, entry: Object.keys(entry).length === 1 ? rule.name : entry };
}

/**
 * Reads an entry of `gate.rules`, with the keywords that carry it.
 *
 * @param type the JSON type of the value that it validates; `''`: everything is in the entry
 * @param bags the keywords of that value
 * @returns nothing if the keywords that should carry it are gone: whoever took them out meant that
 */
export function readEntry(entry: unknown, type: string, bags: readonly Keywords[], at: string, functions: Functions): AnyRule | undefined {
  const { rule: name, ...given } = typeof entry === 'string' ? { rule: entry } : isObject(entry) ? entry : { rule: undefined };
  if (typeof name !== 'string')
    throw new JsonSchemaError(at, `a rule is a name, or an object with its name under "rule". It is ${JSON.stringify(entry)}.`);
  const options: RuleOptions = Object.fromEntries(OPTIONS.flatMap((key) => (given[key] === undefined ? [] : [[key, given[key]]])));
  const params = omit(given, OPTIONS);
  checkTypes(options as JsonObject, OPTION_TYPES, `the rule ${name}`, at);
  const row = rowOf(name, functions.own.rules.get(name));
  if (!row) {
    if (!isRuleName(name) || !isNamed(name))
      throw new JsonSchemaError(at, `there is no rule "${name}". Pass your own rules under "rules".`);
    const by = params['check'];
    const more = omit(params, ['check']);
    const { types = {}, make } = NAMED[name];
    checkTypes(more, types, `the rule ${name}`, at);
    return make(functions.byName(by, at), by as string, more, options) as AnyRule;
  }
  if (params['check'] !== undefined && row.params['check'] === undefined) {
    const make = isRuleName(name) ? MOVING[name] : undefined;
    if (!make) throw new JsonSchemaError(at, `the rule ${name} takes no function, so "check" has no meaning.`);
    checkTypes(omit(params, ['check']), {}, `the rule ${name}`, at);
    return make(functions.byName(params['check'], at), options) as AnyRule;
  }
  if (type !== '' && isBlocking(options) && !takeCarried(row, type, params, bags)) return undefined;
  return making(at, row, params, options, functions);
}

/** The built-in kind that an own one is like, by what is known of it. */
const LIKE_MEASURE = { text: 'text', number: 'number', moment: 'date' } as const;
const LIKE_HOLDING: Readonly<Partial<Record<Holding, string>>> = {
  flag: 'boolean',
  option: 'choice',
  options: 'choices',
  file: 'file',
  files: 'files',
};
const LIKE_JSON: Readonly<Partial<Record<JsonType, string>>> = { string: 'text', array: 'list' };

/** The kinds of which rules fit a part. Documents of others have `pattern` and the like on every string, dates too. */
function namesFor(kind: string, defined: KindDefinition | undefined): readonly string[] {
  if (!defined) return isKindName(kind) && KINDS[kind].json === 'string' ? [kind, 'text'] : [kind];
  const { holds, measures, json } = defined.traits;
  return [kind, measures && LIKE_MEASURE[measures], LIKE_HOLDING[holds], LIKE_JSON[json]].filter((name) => name !== undefined);
}

/**
 * Throws unless rules fit the part that a document lists them on. (Declared in TypeScript, they are checked by the compiler.)
 *
 * @param of the kind of the part
 * @param canReadOthers whether they are listed where rules may read other fields
 */
export function checkFits(rules: readonly AnyRule[], of: string, canReadOthers: boolean, at: string, defined?: KindDefinition): void {
  const names = namesFor(of, defined);
  for (const { name, definition } of rules) {
    const row = definition ?? (isRuleName(name) ? factsOf(name) : undefined);
    if (!row) continue;
    const { fits, readsOther }: Pick<Row, 'fits' | 'readsOther'> = row;
    if (fits !== 'any' && (defined ?? of !== 'deferred') && !names.some((one) => fits.includes(one)))
      throw new JsonSchemaError(at, `the rule ${name} does not fit a value of kind ${of}. It fits ${fits.join(', ')}.`);
    if (readsOther && !canReadOthers)
      throw new JsonSchemaError(
        at,
        `the rule ${name} reads other fields. Move it to "gate": { "fieldRules": { ... } } of the object around this value.`,
      );
  }
}

/**
 * Takes what carries a rule from the first keywords that do.
 *
 * @returns whether it is there
 */
function takeCarried(
  { params: types, writing: { keywords, carry, whole } }: Row,
  type: string,
  params: Record<string, unknown>,
  bags: readonly Keywords[],
): boolean {
  if (whole !== undefined) {
    const bag = bags.find((each) => each.has(whole));
    for (const [param, value] of Object.entries((bag?.takeOf(whole, OBJECT) ?? {}) as JsonObject)) params[param] ??= value;
    return bag !== undefined;
  }
  const carried = Object.entries(carry?.(type, params) ?? {}).filter(([param]) => params[param] === undefined);
  const stated = Object.entries(keywords?.(type, params) ?? {});
  if (carried.length + stated.length === 0) return true;
  const bag = bags.find(
    (each) =>
      carried.some(([, keyword]) => each.has(keyword)) ||
      stated.some(([keyword, value]) => each.has(keyword) && same(each.schema[keyword], value)),
  );
  for (const [keyword] of stated) bag?.take(keyword);
  for (const [param, keyword] of carried) {
    const value = bag?.takeOf(keyword, typeOfParam(types[param]!));
    if (value !== undefined) params[param] = value;
  }
  // Without its keyword a rule is dropped, whatever else the annotation has.
  return bag !== undefined || (stated.length === 0 && Object.keys(params).length > 0);
}

/** The rules of keywords that no entry has taken, as documents of others have them. */
export function readKeywords(type: string, bag: Keywords, functions: Functions): AnyRule[] {
  const rules: AnyRule[] = [];
  const format = bag.has('format') ? String(bag.schema['format']) : '';
  if (Object.hasOwn(FORMATS[type] ?? {}, format)) {
    bag.take('format');
    const rule = FORMATS[type]![format];
    if (rule) rules.push(making(bag.at, builtIn(rule[0]), rule[1], {}, functions));
  }
  if (bag.has('const') && type === 'boolean' && bag.schema['const'] === true) {
    bag.take('const');
    rules.push(required());
  }
  if (bag.has('uniqueItems') && type === 'array') {
    if (bag.takeAs('uniqueItems', (value) => typeof value === 'boolean', 'true or false')) rules.push(noDuplicates());
  }
  if (bag.has('const') && type !== 'array' && type !== 'object')
    rules.push(making(bag.at, builtIn('oneOf'), { options: [bag.take('const')] }, {}, functions));
  for (const row of [...(Object.keys(WRITINGS) as Plain[]).map(builtIn), ...[...functions.own.rules.values()].map(rowOfOwn)]) {
    const { carry, whole, fromKeywords } = row.writing;
    const keywords = [...Object.values(carry?.(type, {}) ?? {}), whole];
    if (!keywords.some((keyword) => keyword !== undefined && bag.has(keyword))) continue;
    const params: Record<string, unknown> = {};
    takeCarried(row, type, params, [bag]);
    for (const each of fromKeywords?.(type, params) ?? [params]) rules.push(making(bag.at, row, each, {}, functions));
  }
  return rules;
}

/** Makes a rule; throws with its place if it is wrong. */
function making(at: string, row: Row, params: JsonObject, options: RuleOptions, { trustPatterns }: Functions): AnyRule {
  const { name } = row;
  const types = Object.fromEntries(Object.entries(row.params).map(([param, type]) => [param, typeOfParam(type)]));
  checkTypes(params, types, `the rule ${name}`, at);
  const lacking = Object.keys(types).find((param) => row.needsAll && params[param] === undefined && row.params[param] !== 'flag');
  if (lacking !== undefined) throw new JsonSchemaError(at, `the rule ${name} needs "${lacking}".`);
  // (Both are texts: their types were checked.)
  const { pattern: source, flags = '' } = params as { readonly pattern?: string; readonly flags?: string };
  const risk = name === 'pattern' && !trustPatterns ? patternRisk(source ?? '', flags) : undefined;
  if (risk !== undefined)
    throw new JsonSchemaError(at, `the pattern can take very long on a short text: ${risk}. Rewrite it, or pass { trustPatterns: true }.`);
  try {
    return row.writing.make(params, options) as AnyRule;
  } catch (error) {
    throw new JsonSchemaError(at, error instanceof Error ? error.message : String(error));
  }
}
