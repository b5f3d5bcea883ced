// Reading a document: from the keywords at a place to the part of a schema that they describe.

import { anyJson } from '../schema/anyJson.ts';
import { groupRules } from '../clauses/groupRules.ts';
import { required } from '../rules/required.ts';
import { groupPartOf } from '../schema/compose/extend.ts';
import { list } from '../schema/list/list.ts';
import { dictionary } from '../schema/dictionary/dictionary.ts';
import { length } from '../rules/length.ts';
import type { KindDefinition } from '../schema/definition.ts';
import { UNNAMED } from '../schema/part.ts';
import { DeferredPart } from '../schema/deferred.ts';
import { nodeOf, type Part, partOf } from '../schema/part.ts';
import type { InJson, Node } from '../schema/node.ts';
import { jsonTypeOf, ownValue } from '../schema/safeAccess.ts';
import { isBlocking, type AnyRule } from '../schema/rule.ts';
import type { Verdict } from '../schema/verdict.ts';
import { dataIn, heldIn } from '../schema/travel.ts';
import { validate } from '../validate/validate.ts';
import { variant } from '../schema/variant/variant.ts';
import { type Make, makeNeeded } from './absent.ts';
import { annotationOf, readDefault, readSettings, shown } from './annotation.ts';
import { casesOf, type OneOfCases } from './cases.ts';
import { documentRule, type Origin, typeless, validating } from './keywords/documentRule.ts';
import { Evaluation } from './keywords/evaluate.ts';
import { isFormat } from './keywords/formats.ts';
import { idleFor, inspect, isAssertion, noteOf, type InspectOptions, type Note } from './keywords/inspect.ts';
import type { Choices, Resources } from './keywords/resources.ts';
import {
  besideNull,
  DEEPEST,
  Inexpressible,
  isList,
  isObject,
  JsonSchemaError,
  Keywords,
  omit,
  orNull,
  sameJson,
  tooDeep,
  under,
  type JsonObject,
  type Place,
} from './document.ts';
import { checkAnnotation, kindOf, writingOf, takeKind, takeType, typeOf } from './kinds.ts';
import type { DocumentReader, RulesOn, Where } from './reader.ts';
import { nestedIn, readObject } from './readObject.ts';
import { checkFits, type Functions, readEntry, readKeywords } from './readRules.ts';

/** How many parts a document may describe, counted where they are used. */
const MOST_PARTS = 100_000;

/** Reads one document. */
export class Reader implements DocumentReader {
  readonly functions: Functions;
  readonly #resources: Resources;
  readonly #evaluation: Evaluation;
  readonly #options: InspectOptions;
  /** What has no meaning in what was read. */
  readonly notes: Note[] = [];
  /** Where something stands that is to go away. */
  readonly deprecated = new Set<string>();
  /** The schemas that values are validated by as they are, and that were looked through. */
  readonly #seen = new Set<object>();
  /** The places that are being read: a reference to one of them from within is a recursion. */
  readonly #open = new Set<string>();
  /** What recursions refer to; nothing as long as it was not made. */
  readonly #targets = new Map<string, Part | undefined>();
  /** What references led to, so that each is read once for each use; how many parts it has. */
  readonly #referred = new Map<string, { readonly part: Part; readonly size: number }>();
  /** How many parts there are so far, and how deep the one that is being read lies. */
  #count = 0;
  #depth = 0;
  /** How many references to what they are within there were. */
  #recursions = 0;

  /** @param strict whether a keyword that is nearly one is an error */
  constructor(resources: Resources, functions: Functions, strict: boolean) {
    this.functions = functions;
    this.#resources = resources;
    this.#evaluation = new Evaluation(resources);
    const own = new Set([...functions.own.rules.values()].flatMap(({ keyword }) => keyword ?? []));
    this.#options = { strict, trustPatterns: functions.trustPatterns, own };
  }

  /** Reads the schema at a pointer, and all in it that refers to itself. */
  read(pointer: string): Part {
    const part = this.#at(pointer);
    // Errors have to appear now, not when data comes. Each may add further ones.
    for (const target of this.#targets.keys()) this.#target(target);
    return part;
  }

  #at(pointer: string): Part {
    const place = { schema: this.#resources.find(pointer), at: pointer };
    return this.#inside([pointer], () => this.build([place], { name: pointer.split('/').at(-1) || UNNAMED }));
  }

  #target(pointer: string): Part {
    const made = this.#targets.get(pointer) ?? this.#at(pointer);
    this.#targets.set(pointer, made);
    return made;
  }

  /** Reads with places open. */
  #inside<T>(places: readonly string[], read: () => T): T {
    const opened = places.filter((place) => !this.#open.has(place));
    for (const place of opened) this.#open.add(place);
    this.#depth += 1;
    try {
      return read();
    } finally {
      this.#depth -= 1;
      for (const place of opened) this.#open.delete(place);
    }
  }

  /** Counts parts. @throws JsonSchemaError for too many: references to references make a short document describe millions */
  #countParts(parts: number, at: string): void {
    this.#count += parts;
    if (this.#count > MOST_PARTS) throw new JsonSchemaError(at, `the document describes more than ${MOST_PARTS} parts.`);
    if (this.#depth > DEEPEST) throw tooDeep(at);
  }

  /**
   * The keywords at places, and at those that they refer to or combine.
   *
   * @param refs takes the places that are referred to
   */
  gather(places: readonly Place[], refs: string[] = [], path: readonly string[] = [], seen = new Set<string>()): Keywords[] {
    return places.flatMap(({ schema, at, nullable = false }) => {
      const trail = [...path, at];
      if (trail.length > DEEPEST) throw tooDeep(at);
      if (path.includes(at))
        throw new JsonSchemaError(path.at(-1)!, `"$ref" runs in a circle: ${trail.map((each) => `#${each}`).join(' → ')}.`);
      // What is combined twice says the same twice.
      if (schema === true || seen.has(`${at} ${nullable}`)) return [];
      seen.add(`${at} ${nullable}`);
      if (schema === false) throw new Inexpressible(at, '"false" accepts no value, so a form cannot have it.');
      if (!isObject(schema)) throw new JsonSchemaError(at, `a schema is an object, or true. It is ${JSON.stringify(schema)}.`);
      const worded = this.#resources.words(schema, at);
      const within: Place[] = [];
      const other = besideNull(worded);
      if (other) {
        const { keyword, index } = other;
        within.push({ schema: (worded[keyword] as readonly unknown[])[index], at: under(at, keyword, index), nullable: true });
      }
      const own = other ? omit(worded, [other.keyword]) : worded;
      const bag = new Keywords(nullable ? orNull(own) : own, at, nullable);
      const ref = bag.take('$ref');
      if (ref !== undefined) {
        const { schema: target, at: place } = this.#resources.follow(ref, at);
        refs.push(place);
        within.push({ schema: target, at: place, nullable });
      }
      bag.takeAs('allOf', isList, 'a list')?.forEach((each, i) => within.push({ schema: each, at: under(at, 'allOf', i), nullable }));
      return [bag, ...this.gather(within, refs, trail, seen)];
    });
  }

  choicesOf({ schema, at }: Keywords, branches: readonly Place[]): Choices | undefined {
    return this.#resources.choicesOf(
      schema,
      branches.map((branch) => branch.schema),
      at,
    );
  }

  /** The part of a schema that the schemas at several places describe together: as fields, or as any JSON that they validate. */
  build(places: readonly Place[], where: Where): Part {
    try {
      return this.#asFields(places, where);
    } catch (error) {
      if (!(error instanceof Inexpressible)) throw error;
      // What the author's own annotation says, only fields can do.
      if (places.some(({ at }) => this.#inspect(at))) throw error.final;
      return this.#asJson(places, where);
    }
  }

  /** Looks through what a value is validated by. @returns whether an annotation of ours is in there */
  #inspect(at: string): boolean {
    const { notes, hasGate } = inspect(this.#resources, at, this.#options, this.#seen);
    this.notes.push(...notes);
    return hasGate;
  }

  /** Any JSON, which the keywords validate. */
  #asJson(places: readonly Place[], { name, needed }: Where): Part {
    const said = places.map(({ schema }) => (isObject(schema) ? schema : {}));
    const text = (keyword: string): string | undefined =>
      said.map((each) => each[keyword]).find((each): each is string => typeof each === 'string' && each !== '');
    const standard = said.map((each) => each['default']).find((each) => each !== undefined);
    const settings = {
      label: text('title') ?? shown(name),
      hint: text('description'),
      ...(standard !== undefined && { default: standard as never }),
    };
    const rule = documentRule(this.#resources, this.#evaluation, places);
    // (`null` is a value like any other.)
    const inJson: InJson = { nullable: false, ...((needed === true || needed === 'item') && { absent: 'refused' }) };
    return partOf(anyJson({ ...settings, inJson }, ...([...(needed === true ? [required()] : []), rule] as never[])));
  }

  #asFields(places: readonly Place[], where: Where): Part {
    const { at } = places[0]!;
    const alone = aloneRef(places);
    const key = alone === undefined ? undefined : JSON.stringify([this.#resources.follow(alone, at).at, places[0]!.nullable, where]);
    const known = key === undefined ? undefined : this.#referred.get(key);
    if (known) {
      this.#countParts(known.size, at);
      return known.part;
    }
    this.#countParts(1, at);
    const refs: string[] = [];
    const bags = this.gather(places, refs);
    const again = refs.find((ref) => this.#open.has(ref));
    if (again === undefined) {
      const [before, recursions] = [this.#count, this.#recursions];
      const part = this.#inside(refs, () => this.#partOrPlain(places, bags, where));
      // What stands for a part that it is within depends on where it is.
      if (key !== undefined && recursions === this.#recursions) this.#referred.set(key, { part, size: this.#count - before + 1 });
      return part;
    }
    this.#recursions += 1;
    const nullable = places.some(({ schema }) => isObject(schema) && besideNull(schema) !== undefined);
    return this.#recursion(again, bags, where, nullable);
  }

  #recursion(target: string, bags: readonly Keywords[], { name, needed }: Where, nullable: boolean): Part {
    const outer = bags.slice(
      0,
      bags.findIndex(({ at }) => at === target),
    );
    const more = outer.find((bag) => !bag.isEmpty);
    if (more) throw new Inexpressible(more.at, `a schema that refers to itself (#${target}) cannot have keywords beside "$ref".`);
    if (!this.#targets.has(target)) this.#targets.set(target, undefined);
    const json: InJson = { nullable, ...(needed === true && { absent: 'refused' }) };
    return new DeferredPart(
      { ...readSettings(outer, name), inJson: json },
      () => this.#target(target),
      (part, raw) => validate(nodeOf(part), raw, { async: 'skip' }),
    );
  }

  #partOrPlain(places: readonly Place[], bags: readonly Keywords[], where: Where): Part {
    try {
      return this.#part(places, bags, where);
    } catch (error) {
      const isObjects =
        bags.some(({ schema }) => schema['properties'] !== undefined) && bags.every(({ schema }) => schema['gate'] === undefined);
      if (!(error instanceof Inexpressible) || !isObjects) throw error;
      return this.#part(places, this.gather(places), where, true);
    }
  }

  /** @param isPlain whether of an object only the properties become fields, and the rest is left to its keywords */
  #part(places: readonly Place[], bags: readonly Keywords[], where: Where, isPlain = false): Part {
    for (const { schema, at: place } of bags) if (schema['deprecated'] === true) this.deprecated.add(place);
    const annotation = annotationOf(bags);
    const { kind: declared, absent, rules, empty: declaredEmpty } = annotation;
    const isAny = bags.every((bag) => bag.isEmpty);
    const named = declared ?? where.kind ?? this.#ownKind(bags);
    // Keywords alone never mean a kind of the author, whatever it is called.
    const defined = named === undefined ? undefined : this.functions.own.kinds.get(named);
    const kind = named ?? bags.map(({ schema }) => kindOf(schema)).find((each) => each !== undefined) ?? (isAny ? 'anyJson' : undefined);
    const at = bags[0]?.at ?? '';
    if (kind === undefined)
      throw new Inexpressible(at, 'one "type" is needed: string, number, integer, boolean, array or object (and perhaps null).');
    const nullable = takeType(bags, kind, defined);
    checkAnnotation(annotation as JsonObject, kind, at, defined);
    // (Of our own documents, such a keyword is a mistake.)
    const isKnown = defined === undefined && kind !== 'anyJson';
    const idle = bags.filter(
      (bag) =>
        isKnown && bag.schema['gate'] === undefined && idleFor(typeOf(kind)).filter((each) => bag.take(each) !== undefined).length > 0,
    );
    const extra: AnyRule[] = [];
    const make = this.#maker(kind, bags, where, defined, extra, isPlain);
    const isForeign = bags.every(({ schema }) => schema['gate'] === undefined);
    const rest = bags.filter((bag) => this.#rest(bag, kind).length > 0);
    if (rest.length > 0 && kind === 'group' && !isPlain && isVariantLike(bags))
      throw new Inexpressible(at, 'what stands beside "oneOf" cannot be expressed here.');
    if (rest.length > 0) {
      for (const { at: each } of rest) this.#inspect(each);
      extra.push(documentRule(this.#resources, this.#evaluation, rest));
    }
    const isTyped =
      defined !== undefined ||
      kind === 'anyJson' ||
      kind === 'choice' ||
      // (Of what is no object, all branches hold, or none.)
      (kind === 'group' && !isPlain && isVariantLike(bags)) ||
      bags.some(({ schema }) => schema['type'] !== undefined || holdsOnly(schema, typeOf(kind)));
    // In JSON an empty text is a value, which only texts hold; so is one of another type, where the document says no type.
    const empty = isForeign && typeOf(kind) === 'string' ? ('value' as const) : declaredEmpty;
    const { isLoose = false } = where;
    const listsNull = bags.some(({ schema: { enum: values } }) => isList(values) && values.includes(null));
    const nulls = kind === 'boolean' && (isForeign || listsNull) ? places : rest;
    const ofNull = nullable && nulls.length > 0 ? validating(this.#evaluation, nulls) : undefined;
    const hasOthers = isLoose || !isTyped || ofNull !== undefined || (empty !== undefined && kind !== 'text');
    const other = hasOthers
      ? othersOf(isLoose ? () => [] : validating(this.#evaluation, places), {
          kind,
          isTyped: isTyped && !isLoose,
          empty,
          ofNull,
          origin: { resources: this.#resources, places: isLoose || idle.length === 0 ? [] : places },
        })
      : undefined;
    const needed = where.needed === 'item' && rules !== undefined ? undefined : where.needed;
    return makeNeeded(make, needed, {
      ...(nullable && { nullable }),
      ...(absent && { absent }),
      ...(other && { other }),
      ...(empty && { empty }),
    });
  }

  /** The keywords that nothing has taken and that say what the value must be. Of the others, a note is made. */
  #rest(bag: Keywords, kind: string): readonly string[] {
    if (bag.schema['gate'] !== undefined) {
      bag.end(kind);
      return [];
    }
    return bag.left.filter((keyword) => {
      const { [keyword]: value } = bag.schema;
      const isUnknownFormat = keyword === 'format' && !isFormat(value);
      const note = isUnknownFormat
        ? { pointer: under(bag.at, keyword), keyword: `format: ${String(value)}` }
        : noteOf(keyword, bag.at, this.#options);
      if (note) this.notes.push(note);
      return isAssertion(keyword) && !isUnknownFormat;
    });
  }

  /** A kind of the author, by its format. */
  #ownKind(bags: readonly Keywords[]): string | undefined {
    for (const { name, format } of this.functions.own.kinds.values())
      if (format !== undefined && bags.some(({ schema }) => schema['format'] === format)) return name;
    return undefined;
  }

  #maker(
    kind: string,
    bags: readonly Keywords[],
    where: Where,
    defined: KindDefinition | undefined,
    extra: readonly AnyRule[],
    isPlain: boolean,
  ): Make {
    const settings = { ...readSettings(bags, where.name), ...readDefault(bags) };
    if (defined) {
      const rules = this.rules(kind, bags, where.needed, { defined });
      const standard = dataIn(partOf(defined.make(settings, []) as Node), settings.default);
      return (first, json) =>
        partOf(
          defined.make({ ...settings, ...(standard !== undefined && { default: standard }), inJson: json }, [
            ...first,
            ...rules,
            ...extra,
          ]) as Node,
        );
    }
    if (kind === 'group' && isPlain) return inGroup(readObject(this, bags, where.name, { isPlain, outer: where.outer }), extra);
    if (kind === 'group') {
      const cases = casesOf(this, bags);
      if (cases && !bags.some((bag) => bag.has('properties'))) return this.#variant(cases, bags, where);
      return inGroup(readObject(this, bags, where.name, { cases, outer: where.outer }), extra);
    }
    if (kind === 'list') {
      const { item, rules: places } = this.#items(bags, where.outer);
      const rules = this.rules('list', bags, where.needed);
      const standard = heldIn(partOf(list('Rows', nodeOf(item))), settings.default) as never;
      return (first, json) =>
        partOf(
          list({ ...settings, default: standard, inJson: json }, nodeOf(item), ...([...first, ...rules, ...places, ...extra] as never[])),
        );
    }
    if (kind === 'dictionary') {
      const bag = bags.find((each) => isObject(each.schema['additionalProperties']));
      const place = { schema: bag?.take('additionalProperties'), at: under(bag?.at ?? '', 'additionalProperties') };
      const item = nodeOf(this.build([place], { name: 'Entry', needed: 'item' }));
      const rules = this.rules('dictionary', bags, where.needed);
      const standard = heldIn(partOf(dictionary('Entries', item)), settings.default) as never;
      return (first, json) =>
        partOf(dictionary({ ...settings, default: standard, inJson: json }, item, ...([...first, ...rules, ...extra] as never[])));
    }
    const details = takeKind(kind, bags);
    const rules = this.rules(kind, bags, where.needed);
    return (first, json) => writingOf(kind)!.make({ ...settings, ...details, inJson: json }, [...first, ...rules, ...extra]) as Part;
  }

  /** The rules of a value: those that the annotation lists, in its order, then those of the keywords that are left. */
  rules(kind: string, bags: readonly Keywords[], needed: Where['needed'], { defined, canReadOthers = false }: RulesOn = {}): AnyRule[] {
    const type = defined?.traits.json ?? typeOf(kind);
    const at = under(bags[0]?.at ?? '', 'gate', 'rules');
    const entries = annotationOf(bags).rules ?? [];
    if (!isList(entries)) throw new JsonSchemaError(at, '"rules" must be a list for a value that is not an object.');
    const listed = entries.flatMap((entry) => readEntry(entry, type, bags, at, this.functions) ?? []);
    checkFits(listed, kind, canReadOthers, at, defined);
    // What `required` says of empty texts stands there for others.
    const isRequired = type === 'string' && annotationOf(bags).empty === undefined && listed.some(({ name }) => name === 'required');
    for (const bag of isRequired ? bags : []) if (bag.schema['minLength'] === 1) bag.take('minLength');
    // A name that was removed from `required` is optional. A box that must be ticked has another keyword.
    const kept = listed.filter((rule) => needed !== false || type === 'boolean' || rule.name !== 'required' || !isBlocking(rule));
    return [...kept, ...bags.flatMap((bag) => readKeywords(type, bag, this.functions))];
  }

  /** What the rows of a list are, and how many places there are for them. */
  #items(bags: readonly Keywords[], outer: Where['outer']): { item: Part; rules: readonly AnyRule[] } {
    const items: Place[] = [];
    const rules: unknown[] = [];
    for (const bag of bags) {
      const places = (bag.takeAs('prefixItems', isList, 'a list') ?? []).map((schema, i): Place => ({
        schema,
        at: under(bag.at, 'prefixItems', i),
      }));
      const rest = bag.take('items');
      const [first] = places;
      if (first && !places.every(({ schema }) => sameJson(schema, first.schema)))
        throw new Inexpressible(
          bag.at,
          '"prefixItems" with different schemas cannot be expressed: all rows of a list have the same schema.',
        );
      if (first && rest !== false && !sameJson(rest, first.schema))
        throw new Inexpressible(bag.at, '"prefixItems" can be read if "items" is the same schema, or false.');
      if (!first && rest === false) throw new Inexpressible(bag.at, '"items" is false, so the list could have no rows.');
      if (rest === false) rules.push(length({ max: places.length }));
      if (first) items.push(first);
      else if (rest !== undefined) items.push({ schema: rest, at: under(bag.at, 'items') });
    }
    if (items.length === 0) throw new Inexpressible(bags[0]!.at, 'the schema of the items is missing. Add "items".');
    return { item: this.build(items, { name: 'Entry', needed: 'item', outer }), rules: rules as readonly AnyRule[] };
  }

  #variant({ key, branches }: OneOfCases, bags: readonly Keywords[], { name, needed, outer }: Where): Make {
    const settings = { ...readSettings(bags, name), default: ownValue(readDefault(bags).default, key) as string | undefined };
    const cases: Record<string, Part> = {};
    for (const { value, place } of branches) {
      const inner = this.gather([place]);
      takeType(inner, 'group');
      cases[value] = readObject(this, inner, UNNAMED, { without: key, outer: nestedIn(outer?.[value]) })([], {});
      for (const bag of inner) bag.end('case');
    }
    // Without the property, no branch holds, or several do.
    const chosen = annotationOf(bags).rules === undefined ? [required()] : [];
    // (That the whole may be left out says nothing about what chooses in it.)
    const rules = [...(chosen as readonly AnyRule[]), ...this.rules('choice', bags, needed === false ? undefined : needed)];
    return (first, json) => partOf(variant({ ...settings, inJson: json }, key, cases as never, ...([...first, ...rules] as never[])));
  }
}

/** What makes an object, with rules on the whole. */
const inGroup =
  (make: Make, extra: readonly AnyRule[]): Make =>
  (first, json) => {
    const part = make(first, json);
    return extra.length > 0 ? groupPartOf(nodeOf(part), 'group').with(groupRules(...(extra as never[])) as never) : part;
  };

/** Whether an object is read as an either-or, which takes no rules on the whole. */
const isVariantLike = (bags: readonly Keywords[]): boolean =>
  bags.some(({ schema }) => schema['oneOf'] !== undefined) && !bags.some(({ schema }) => schema['properties'] !== undefined);

/** Whether a schema lists its values, all of one type, or null. */
function holdsOnly({ enum: values, const: value }: JsonObject, type: string): boolean {
  const all = (isList(values) ? values : [value]).filter((each) => each !== null && each !== undefined);
  return all.length > 0 && all.every((each) => jsonTypeOf(each) === type);
}

/** What is known of a part that also has values which its kind does not hold. */
interface OtherValues {
  readonly kind: string;
  readonly isTyped: boolean;
  /** Whether an empty text is a value. */
  readonly empty: 'value' | undefined;
  /** What further keywords say of `null`, where that is taken. */
  readonly ofNull: ((raw: null) => readonly Verdict[]) | undefined;
  /** What says more of values of other types. */
  readonly origin: Origin;
}

/** What validates the values that a kind does not hold. */
function othersOf(
  validate: (raw: unknown) => readonly Verdict[],
  { kind, isTyped, empty, ofNull, origin }: OtherValues,
): NonNullable<InJson['other']> {
  const other = (raw: unknown): readonly Verdict[] | undefined => {
    // (No rule sees what stands for no value; and that of a box would be seen as `false`.)
    const found = raw === null ? ofNull?.(raw) : undefined;
    if (found && (found.length > 0 || kind === 'boolean')) return found;
    const isOther = !isTyped && raw !== undefined && jsonTypeOf(raw) !== typeOf(kind);
    return isOther || (raw === '' && empty !== undefined && kind !== 'text') ? validate(raw) : undefined;
  };
  if (!isTyped) typeless.set(other, origin);
  return other;
}

/** The reference that a place consists of; nothing where there is more. */
function aloneRef(places: readonly Place[]): unknown {
  const [{ schema }] = places as readonly [Place];
  return places.length === 1 && isObject(schema) && Object.keys(schema).length === 1 ? schema['$ref'] : undefined;
}
