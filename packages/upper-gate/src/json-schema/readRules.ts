// The rules of a value, as a document lists them and as its keywords say them.

import { patternRisk } from '../rules/patternRisk.ts';
import { required } from '../rules/required.ts';
import { noDuplicates } from '../rules/noDuplicates/noDuplicates.ts';
import type { KindDefinition, RuleDefinition } from '../schema/definition.ts';
import { isBlocking, type AnyRule, type AuthorFunction } from '../schema/rule.ts';
import type { Holding, JsonType } from '../schema/traits.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import { factsOf, isKindName, isRuleName, KINDS } from '../schema/vocabulary.ts';
import {
  Inexpressible,
  checkTypes,
  entriesOf,
  isObject,
  JsonSchemaError,
  omit,
  sameJson,
  type JsonObject,
  type Keywords,
} from './document.ts';
import {
  builtIn,
  FORMATS,
  isNamed,
  MOVING,
  NAMED,
  OBJECT,
  OPTION_KEYS,
  OPTION_TYPES,
  PLAIN_ROWS,
  rowOf,
  rowOfOwn,
  typeOfParam,
  WAIT_KEYS,
  type Row,
} from './ruleTable.ts';

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
  const said = entriesOf(OPTION_KEYS).filter(([key]) => given[key] !== undefined);
  const options: RuleOptions = Object.fromEntries(said.map(([key, option]) => [option, given[key]]));
  const params = omit(
    given,
    said.map(([key]) => key),
  );
  checkTypes(Object.fromEntries(said.map(([key]) => [key, given[key]])), OPTION_TYPES, `the rule ${name}`, at);
  const row = rowOf(name, functions.own.rules.get(name));
  if (!row) {
    if (!isRuleName(name) || !isNamed(name))
      throw new JsonSchemaError(at, `there is no rule "${name}". Pass your own rules under "rules".`);
    const by = params['check'];
    const more = omit(params, ['check']);
    const { types = {}, make } = NAMED[name];
    checkTypes(more, types, `the rule ${name}`, at);
    const settings = Object.fromEntries(
      entriesOf(WAIT_KEYS).flatMap(([key, setting]) => (more[key] === undefined ? [] : [[setting, more[key]]])),
    );
    return make(functions.byName(by, at), by as string, settings, options) as AnyRule;
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

/** Of values that a keyword lists, null is no value of the field: whether it is taken, the type says. */
const withoutNull = (given: unknown): unknown => (Array.isArray(given) ? given.filter((each) => each !== null) : given);

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
      stated.some(([keyword, value]) => each.has(keyword) && sameJson(each.schema[keyword], value)),
  );
  for (const [keyword] of stated) bag?.take(keyword);
  for (const [param, keyword] of carried) {
    const { fits, words } = typeOfParam(types[param]!);
    const value = bag?.takeOf(keyword, { fits: (given) => fits(withoutNull(given)), words });
    if (value !== undefined) params[param] = withoutNull(value);
  }
  // Without its keyword a rule is dropped, whatever else the annotation has.
  return bag !== undefined || (stated.length === 0 && Object.keys(params).length > 0);
}

/** The rules of keywords that no entry has taken, as documents of others have them. */
export function readKeywords(type: string, bag: Keywords, functions: Functions): AnyRule[] {
  try {
    return rulesOf(type, bag, functions);
  } catch (error) {
    // What no rule can say, keywords of others still may: what is wrong in itself is found when these are looked through.
    if (!(error instanceof JsonSchemaError) || bag.schema['gate'] !== undefined) throw error;
    throw new Inexpressible(error.pointer, error.message.slice(error.pointer.length + 3));
  }
}

function rulesOf(type: string, bag: Keywords, functions: Functions): AnyRule[] {
  const rules: AnyRule[] = [];
  if (bag.isTaken) return rules;
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
  for (const row of [...PLAIN_ROWS, ...[...functions.own.rules.values()].map(rowOfOwn)]) {
    const { carry, whole, fromKeywords } = row.writing;
    // (A rule sees no empty list or object: what others say of these, the keywords do.)
    if (row.name === 'oneOf' && (type === 'array' || type === 'object') && bag.schema['gate'] === undefined) continue;
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
