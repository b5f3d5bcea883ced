// Validates a JSON value by the keywords of a schema, as JSON Schema 2020-12 defines them: what no field and no rule of a form can
// say. A keyword that finds something wrong says where, and why; `unevaluatedProperties` and `unevaluatedItems` need to know
// what other keywords have looked at.

import { decimal } from '../../rules/range.ts';
import { isObject, sameJson, under, type JsonObject } from '../document.ts';
import { NUMBER_FORMATS, TEXT_FORMATS } from './formats.ts';
import type { Choices, Resources } from './resources.ts';

/** What a keyword finds. */
export interface Issue {
  /** The way from the value to what is wrong in it. */
  readonly keys: readonly string[];
  readonly keyword: string;
  /** What the keyword says, and whatever else a message may want. */
  readonly params: Readonly<Record<string, unknown>>;
  /** What the schema there calls itself. */
  readonly title?: string | undefined;
}

/** What came of validating a value: what is wrong, and what keywords have looked at. */
interface Outcome {
  readonly issues: readonly Issue[];
  readonly props: ReadonlySet<string>;
  readonly items: ReadonlySet<number>;
}

/** Where a schema is evaluated. */
interface Frame {
  readonly at: string;
  readonly keys: readonly string[];
  /** The resources that led here, the outermost first: for dynamic references. */
  readonly scope: readonly string[];
  /** The places that references have led to for the same value: led there again, they run in a circle. */
  readonly trail: readonly string[];
  readonly depth: number;
}

const NO_PROPS: ReadonlySet<string> = new Set();
const NO_ITEMS: ReadonlySet<number> = new Set();
const FINE: Outcome = { issues: [], props: NO_PROPS, items: NO_ITEMS };
/** Deeper ones are taken for schemas that refer to themselves without end. */
const DEEPEST = 400;
/** Compared with others, such a value takes its share of what is left to do. */
const MOST_STEPS = 3_000_000;

const TYPE_TESTS: Readonly<Record<string, (value: unknown) => boolean>> = {
  null: (value) => value === null,
  boolean: (value) => typeof value === 'boolean',
  string: (value) => typeof value === 'string',
  number: (value) => typeof value === 'number',
  integer: (value) => Number.isInteger(value),
  array: Array.isArray,
  object: isObject,
};

/** Whether a number is so many times another, as both are written in decimals. */
function isMultiple(value: number, of: number): boolean {
  if (!(of > 0) || !Number.isFinite(value)) return false;
  const [[digits, exponent], [unit, scale]] = [decimal(value), decimal(of)];
  const least = Math.min(exponent, scale);
  // (Numbers so far apart are all multiples, or none is.)
  if (Math.max(exponent, scale) - least > 700) return scale < exponent;
  return (digits * 10n ** BigInt(exponent - least)) % (unit * 10n ** BigInt(scale - least)) === 0n;
}

/** The same text for the same JSON value, whatever the order of its keys. */
function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join()}]`;
  if (!isObject(value)) return JSON.stringify(value === 0 ? 0 : value);
  return `{${Object.keys(value)
    .sort()
    .map((key) => `${JSON.stringify(key)}:${canonical(value[key])}`)
    .join()}}`;
}

/** The number of code points, as JSON Schema counts. */
const lengthOf = (text: string): number => Array.from(text).length;

/** Patterns that were compiled. */
const patterns = new Map<string, RegExp>();
function patternOf(source: string): RegExp {
  let pattern = patterns.get(source);
  if (!pattern) {
    pattern = new RegExp(source, 'u');
    if (patterns.size > 1000) patterns.clear();
    patterns.set(source, pattern);
  }
  return pattern;
}

const isNumber = (value: unknown): value is number => typeof value === 'number';
const own = (of: JsonObject, key: string): boolean => Object.hasOwn(of, key);

export class Evaluation {
  readonly #resources: Resources;
  #steps = 0;

  constructor(resources: Resources) {
    this.#resources = resources;
  }

  /** What is wrong in a value, by the schema at a place. */
  issuesAt(at: string, value: unknown): readonly Issue[] {
    this.#steps = 0;
    return this.#run(this.#resources.find(at), value, { at, keys: [], scope: [at], trail: [at], depth: 0 }).issues;
  }

  #run(schema: unknown, value: unknown, frame: Frame): Outcome {
    this.#steps += 1;
    const { keys, depth } = frame;
    const fail = (keyword: string, params: Issue['params'] = {}): Outcome => ({ ...FINE, issues: [{ keys, keyword, params }] });
    if (depth > DEEPEST || this.#steps > MOST_STEPS) return fail('depth');
    if (schema === true) return FINE;
    if (!isObject(schema)) return fail('false');
    return new Keywords(this, this.#resources.words(schema, frame.at), value, frame).outcome();
  }

  /** Which branch a property chooses. */
  choicesOf(schema: JsonObject, branches: readonly unknown[], at: string): Choices | undefined {
    return this.#resources.choicesOf(schema, branches, at);
  }

  /** Validates a value by a schema further in. */
  inner(schema: unknown, value: unknown, frame: Frame): Outcome {
    return this.#run(schema, value, frame);
  }

  /** The same by a schema elsewhere. */
  elsewhere(ref: unknown, isDynamic: boolean, value: unknown, frame: Frame): Outcome {
    const { at, keys, scope, trail, depth } = frame;
    const spot = isDynamic ? this.#resources.followDynamic(ref, at, scope) : this.#resources.follow(ref, at);
    if (trail.includes(spot.at)) return { ...FINE, issues: [{ keys, keyword: 'depth', params: {} }] };
    return this.#run(spot.schema, value, { keys, at: spot.at, scope: [...scope, spot.at], trail: [...trail, spot.at], depth: depth + 1 });
  }
}

/** The keywords of one schema on one value. */
class Keywords {
  readonly #of: Evaluation;
  readonly #schema: JsonObject;
  readonly #value: unknown;
  readonly #frame: Frame;
  readonly #issues: Issue[] = [];
  readonly #props = new Set<string>();
  readonly #items = new Set<number>();

  constructor(of: Evaluation, schema: JsonObject, value: unknown, frame: Frame) {
    this.#of = of;
    this.#schema = schema;
    this.#value = value;
    this.#frame = frame;
  }

  outcome(): Outcome {
    const { $ref, $dynamicRef, type, enum: values } = this.#schema;
    const value = this.#value;
    if ($ref !== undefined) this.#take(this.#of.elsewhere($ref, false, value, this.#frame));
    if ($dynamicRef !== undefined) this.#take(this.#of.elsewhere($dynamicRef, true, value, this.#frame));
    if (type !== undefined && !([type].flat() as string[]).some((each) => TYPE_TESTS[each]?.(value))) {
      this.#fail('type', { type });
      return this.#done();
    }
    if (Array.isArray(values) && !values.some((each) => sameJson(each, value))) this.#fail('enum', { options: values });
    if (own(this.#schema, 'const') && !sameJson(this.#schema['const'], value)) this.#fail('const', { options: [this.#schema['const']] });
    if (typeof value === 'string') this.#text(value);
    else if (isNumber(value)) this.#number(value);
    else if (Array.isArray(value)) this.#list(value);
    else if (isObject(value)) this.#object(value);
    this.#combined();
    this.#rest();
    return this.#done();
  }

  #done(): Outcome {
    return { issues: this.#issues, props: this.#props, items: this.#items };
  }

  #fail(keyword: string, params: Issue['params'] = {}, key?: string): void {
    const { keys } = this.#frame;
    const { properties } = this.#schema;
    // What is missing, or must not be there, is called by its own title.
    const about = key === undefined ? this.#schema : isObject(properties) && own(properties, key) ? properties[key] : undefined;
    const title = isObject(about) ? about['title'] : undefined;
    this.#issues.push({ keys: key === undefined ? keys : [...keys, key], keyword, params, ...(typeof title === 'string' && { title }) });
  }

  /** Takes over what another schema found in the same value. */
  #take({ issues, props, items }: Outcome): boolean {
    this.#issues.push(...issues);
    if (issues.length === 0) this.#note(props, items);
    return issues.length === 0;
  }

  #note(props: ReadonlySet<string>, items: ReadonlySet<number>): void {
    for (const each of props) this.#props.add(each);
    for (const each of items) this.#items.add(each);
  }

  /** Validates the value by a schema under a keyword. */
  #try(schema: unknown, ...way: readonly (string | number)[]): Outcome {
    const { at, depth } = this.#frame;
    return this.#of.inner(schema, this.#value, { ...this.#frame, at: under(at, ...way), depth: depth + 1 });
  }

  /** Validates something in the value. */
  #tryIn(schema: unknown, value: unknown, key: string | number, ...way: readonly (string | number)[]): Outcome {
    const { at, keys, depth, scope } = this.#frame;
    return this.#of.inner(schema, value, { at: under(at, ...way), keys: [...keys, String(key)], scope, trail: [], depth: depth + 1 });
  }

  /** @param param what a message calls the limit */
  #limit(keyword: string, param: string, holds: (limit: number) => boolean): void {
    const limit = this.#schema[keyword];
    if (isNumber(limit) && !holds(limit)) this.#fail(keyword, { [param]: limit });
  }

  #text(value: string): void {
    const { pattern, format } = this.#schema;
    const size = lengthOf(value);
    this.#limit('minLength', 'min', (min) => size >= min);
    this.#limit('maxLength', 'max', (max) => size <= max);
    if (typeof pattern === 'string' && !patternOf(pattern).test(value)) this.#fail('pattern', { pattern });
    if (typeof format === 'string' && own(TEXT_FORMATS, format) && !TEXT_FORMATS[format]!(value)) this.#fail('format', { format });
  }

  #number(value: number): void {
    const { format } = this.#schema;
    this.#limit('minimum', 'min', (min) => value >= min);
    this.#limit('maximum', 'max', (max) => value <= max);
    this.#limit('exclusiveMinimum', 'above', (above) => value > above);
    this.#limit('exclusiveMaximum', 'below', (below) => value < below);
    this.#limit('multipleOf', 'step', (step) => isMultiple(value, step));
    if (typeof format === 'string' && own(NUMBER_FORMATS, format) && !NUMBER_FORMATS[format]!(value)) this.#fail('format', { format });
  }

  #list(value: readonly unknown[]): void {
    const { prefixItems, items, contains, minContains = 1, maxContains, uniqueItems } = this.#schema;
    this.#limit('minItems', 'min', (min) => value.length >= min);
    this.#limit('maxItems', 'max', (max) => value.length <= max);
    const first = Array.isArray(prefixItems) ? (prefixItems as readonly unknown[]) : [];
    value.slice(0, first.length).forEach((each, i) => {
      this.#issues.push(...this.#tryIn(first[i], each, i, 'prefixItems', i).issues);
      this.#items.add(i);
    });
    if (items !== undefined)
      for (let i = first.length; i < value.length; i += 1) {
        this.#issues.push(...this.#tryIn(items, value[i], i, 'items').issues);
        this.#items.add(i);
      }
    if (contains !== undefined) {
      const found = value.flatMap((each, i) => (this.#tryIn(contains, each, i, 'contains').issues.length === 0 ? [i] : []));
      for (const i of found) this.#items.add(i);
      if (isNumber(minContains) && found.length < minContains) this.#fail('minContains', { min: minContains });
      if (isNumber(maxContains) && found.length > maxContains) this.#fail('maxContains', { max: maxContains });
    }
    if (uniqueItems === true) {
      const seen = new Map<string, number>();
      value.forEach((each, i) => {
        const key = canonical(each);
        const before = seen.get(key);
        if (before === undefined) seen.set(key, i);
        else this.#fail('uniqueItems', { row: i + 1, first: before + 1 }, String(i));
      });
    }
  }

  #object(value: JsonObject): void {
    const { properties, patternProperties, additionalProperties, propertyNames, required, dependentRequired, dependentSchemas } =
      this.#schema;
    const names = Object.keys(value);
    this.#limit('minProperties', 'min', (min) => names.length >= min);
    this.#limit('maxProperties', 'max', (max) => names.length <= max);
    const lacks = (all: unknown): void => {
      if (Array.isArray(all))
        for (const name of all as readonly unknown[]) if (typeof name === 'string' && !own(value, name)) this.#fail('required', {}, name);
    };
    lacks(required);
    if (isObject(dependentRequired)) for (const [name, all] of Object.entries(dependentRequired)) if (own(value, name)) lacks(all);
    if (isObject(dependentSchemas))
      for (const [name, schema] of Object.entries(dependentSchemas))
        if (own(value, name)) this.#take(this.#try(schema, 'dependentSchemas', name));
    if (propertyNames !== undefined)
      for (const name of names) {
        const { at, keys, scope, depth } = this.#frame;
        const { issues } = this.#of.inner(propertyNames, name, {
          at: under(at, 'propertyNames'),
          keys: [...keys, name],
          scope,
          trail: [],
          depth: depth + 1,
        });
        if (issues.length > 0) this.#fail('propertyNames', { name }, name);
      }
    const byPattern = isObject(patternProperties) ? Object.entries(patternProperties) : [];
    for (const name of names) {
      let isKnown = false;
      if (isObject(properties) && own(properties, name)) {
        isKnown = true;
        this.#issues.push(...this.#tryIn(properties[name], value[name], name, 'properties', name).issues);
      }
      for (const [pattern, schema] of byPattern) {
        if (!patternOf(pattern).test(name)) continue;
        isKnown = true;
        this.#issues.push(...this.#tryIn(schema, value[name], name, 'patternProperties', pattern).issues);
      }
      if (!isKnown && additionalProperties !== undefined) {
        isKnown = true;
        if (additionalProperties === false) this.#fail('additionalProperties', { name }, name);
        else this.#issues.push(...this.#tryIn(additionalProperties, value[name], name, 'additionalProperties').issues);
      }
      if (isKnown) this.#props.add(name);
    }
  }

  #combined(): void {
    const { allOf, anyOf, oneOf, not, if: condition } = this.#schema;
    if (Array.isArray(allOf)) allOf.forEach((schema, i) => this.#take(this.#try(schema, 'allOf', i)));
    if (Array.isArray(anyOf) && !this.#chosen(anyOf, 'anyOf')) {
      const all = anyOf.map((schema, i) => this.#try(schema, 'anyOf', i));
      const right = all.filter(({ issues }) => issues.length === 0);
      for (const { props, items } of right) this.#note(props, items);
      if (right.length === 0) this.#issues.push(...this.#closest(all));
    }
    if (Array.isArray(oneOf) && !this.#chosen(oneOf, 'oneOf')) {
      const all = oneOf.map((schema, i) => this.#try(schema, 'oneOf', i));
      const [first, ...more] = all.filter(({ issues }) => issues.length === 0);
      if (!first) this.#issues.push(...this.#closest(all));
      else if (more.length > 0) this.#fail('oneOf', { count: more.length + 1 });
      else this.#note(first.props, first.items);
    }
    if (not !== undefined && this.#try(not, 'not').issues.length === 0) this.#fail('not');
    if (condition === undefined) return;
    const { issues, props, items } = this.#try(condition, 'if');
    if (issues.length === 0) this.#note(props, items);
    const branch = issues.length === 0 ? 'then' : 'else';
    if (this.#schema[branch] !== undefined) this.#take(this.#try(this.#schema[branch], branch));
  }

  /** Validates by the branch that a property of the value chooses. @returns whether there is such a property */
  #chosen(branches: readonly unknown[], keyword: string): boolean {
    const choices = this.#of.choicesOf(this.#schema, branches, this.#frame.at);
    if (!choices) return false;
    const { key, byValue } = choices;
    const given = isObject(this.#value) && own(this.#value, key) ? this.#value[key] : undefined;
    const i = typeof given === 'string' ? byValue.get(given) : undefined;
    if (i !== undefined) this.#take(this.#try(branches[i], keyword, i));
    else if (given === undefined) this.#fail('required', {}, key);
    else this.#fail('enum', { options: [...byValue.keys()] }, key);
    return true;
  }

  /** What the branch finds that the value comes closest to: one of its type, with the least that is wrong, as far in as can be. */
  #closest(all: readonly Outcome[]): readonly Issue[] {
    const depth = this.#frame.keys.length;
    const rate = ({ issues }: Outcome): number => {
      const isOther = issues.some(({ keys, keyword }) => keys.length === depth && (keyword === 'type' || keyword === 'false'));
      // A constant that is another says that another branch was meant.
      const isMeant = !issues.some(({ keyword }) => keyword === 'const');
      return (isOther ? 1e6 : 0) + (isMeant ? 0 : 1e3) + issues.length;
    };
    const [best] = [...all].sort((a, b) => rate(a) - rate(b));
    return best?.issues ?? [{ keys: this.#frame.keys, keyword: 'false', params: {} }];
  }

  /** What no other keyword has looked at. */
  #rest(): void {
    const { unevaluatedProperties, unevaluatedItems } = this.#schema;
    const value = this.#value;
    if (unevaluatedProperties !== undefined && isObject(value))
      for (const name of Object.keys(value)) {
        if (this.#props.has(name)) continue;
        if (unevaluatedProperties === false) this.#fail('unevaluatedProperties', { name }, name);
        else this.#issues.push(...this.#tryIn(unevaluatedProperties, value[name], name, 'unevaluatedProperties').issues);
        this.#props.add(name);
      }
    if (unevaluatedItems !== undefined && Array.isArray(value))
      value.forEach((each, i) => {
        if (this.#items.has(i)) return;
        if (unevaluatedItems === false) this.#fail('unevaluatedItems', {}, String(i));
        else this.#issues.push(...this.#tryIn(unevaluatedItems, each, i, 'unevaluatedItems').issues);
        this.#items.add(i);
      });
  }
}
