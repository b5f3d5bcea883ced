// Reading a document: from the keywords at a place to the part of a schema that they describe.

import { list } from '../schema/list/list.ts';
import { dictionary } from '../schema/dictionary/dictionary.ts';
import { length } from '../rules/length.ts';
import type { KindDefinition } from '../schema/definition.ts';
import { UNNAMED } from '../schema/group.ts';
import { DeferredPart } from '../schema/deferred.ts';
import { nodeOf, type Part, partOf } from '../schema/part.ts';
import type { InJson, Node } from '../schema/node.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { isBlocking, type AnyRule } from '../schema/rule.ts';
import { dataIn, heldIn } from '../schema/travel.ts';
import { validate } from '../validate/validate.ts';
import { variant } from '../schema/variant/variant.ts';
import { type Make, makeNeeded } from './absent.ts';
import { annotationOf, readDefault, readSettings } from './annotation.ts';
import { casesOf, type OneOfCases } from './cases.ts';
import {
  besideNull,
  isList,
  isObject,
  JsonSchemaError,
  Keywords,
  omit,
  orNull,
  referred,
  resolve,
  sameJson,
  under,
  type JsonObject,
  type JsonSchema,
  type Place,
} from './document.ts';
import { checkAnnotation, kindOf, writingOf, takeKind, takeType, typeOf } from './kinds.ts';
import type { DocumentReader, RulesOn, Where } from './reader.ts';
import { nestedIn, readObject } from './readObject.ts';
import { checkFits, type Functions, readEntry, readKeywords } from './readRules.ts';

const DIALECTS = ['https://json-schema.org/draft/2020-12/schema', 'https://spec.openapis.org/oas/3.1/dialect/base'];

/** How many parts a document may describe, counted where they are used, and how deep they may be in one another. */
const MOST_PARTS = 100_000;
const DEEPEST = 200;

/** Reads one document. */
export class Reader implements DocumentReader {
  readonly functions: Functions;
  readonly #document: JsonSchema;
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

  constructor(document: JsonSchema, functions: Functions) {
    this.functions = functions;
    this.#document = document;
  }

  /** Reads the schema at a pointer, and all in it that refers to itself. */
  read(pointer: string): Part {
    const part = this.#at(pointer);
    // Errors have to appear now, not when data comes. Each may add further ones.
    for (const target of this.#targets.keys()) this.#target(target);
    return part;
  }

  #at(pointer: string): Part {
    const place = { schema: resolve(this.#document, pointer), at: pointer };
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
    const result = read();
    this.#depth -= 1;
    for (const place of opened) this.#open.delete(place);
    return result;
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
      if (schema === false) throw new JsonSchemaError(at, '"false" accepts no value, so a form cannot have it.');
      if (!isObject(schema)) throw new JsonSchemaError(at, `a schema is an object, or true. It is ${JSON.stringify(schema)}.`);
      const dialect = schema['$schema'];
      if (dialect !== undefined && !(typeof dialect === 'string' && DIALECTS.includes(dialect.replace(/#$/, ''))))
        throw new JsonSchemaError(at, `"$schema" is ${JSON.stringify(dialect)}. Only JSON Schema 2020-12 can be read.`);
      const within: Place[] = [];
      const other = besideNull(schema);
      if (other) {
        const { keyword, index } = other;
        within.push({ schema: (schema[keyword] as readonly unknown[])[index], at: under(at, keyword, index), nullable: true });
      }
      const own = other ? omit(schema, [other.keyword]) : schema;
      const bag = new Keywords(nullable ? orNull(own) : own, at);
      const ref = bag.take('$ref');
      if (ref !== undefined) {
        const target = referred(ref, at);
        refs.push(target);
        within.push({ schema: resolve(this.#document, target, at), at: target, nullable });
      }
      bag.takeAs('allOf', isList, 'a list')?.forEach((each, i) => within.push({ schema: each, at: under(at, 'allOf', i), nullable }));
      return [bag, ...this.gather(within, refs, trail, seen)];
    });
  }

  /** The part of a schema that the schemas at several places describe together. */
  build(places: readonly Place[], where: Where): Part {
    const { at } = places[0]!;
    const alone = aloneRef(places);
    const key = alone === undefined ? undefined : JSON.stringify([referred(alone, at), places[0]!.nullable, where]);
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
      const part = this.#inside(refs, () => this.#part(bags, where));
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
    if (more) throw new JsonSchemaError(more.at, `a schema that refers to itself (#${target}) cannot have keywords beside "$ref".`);
    if (!this.#targets.has(target)) this.#targets.set(target, undefined);
    const json: InJson = { nullable, ...(needed === true && { absent: 'refused' }) };
    return new DeferredPart(
      { ...readSettings(outer, name), inJson: json },
      () => this.#target(target),
      (part, raw) => validate(nodeOf(part), raw, { async: 'skip' }),
    );
  }

  #part(bags: readonly Keywords[], where: Where): Part {
    const annotation = annotationOf(bags);
    const { kind: declared, absent, rules } = annotation;
    const isAny = bags.every((bag) => bag.isEmpty);
    const named = declared ?? where.kind ?? this.#ownKind(bags);
    // Keywords alone never mean a kind of the author, whatever it is called.
    const defined = named === undefined ? undefined : this.functions.own.kinds.get(named);
    const kind = named ?? bags.map(({ schema }) => kindOf(schema)).find((each) => each !== undefined) ?? (isAny ? 'anyJson' : undefined);
    const at = bags[0]?.at ?? '';
    if (kind === undefined)
      throw new JsonSchemaError(at, 'one "type" is needed: string, number, integer, boolean, array or object (and perhaps null).');
    const nullable = takeType(bags, kind, defined);
    checkAnnotation(annotation as JsonObject, kind, at, defined);
    const make = this.#maker(kind, bags, where, defined);
    for (const bag of bags) bag.end(kind);
    const needed = where.needed === 'item' && rules !== undefined ? undefined : where.needed;
    return makeNeeded(make, needed, { ...(nullable && { nullable }), ...(absent && { absent }) });
  }

  /** A kind of the author, by its format. */
  #ownKind(bags: readonly Keywords[]): string | undefined {
    for (const { name, format } of this.functions.own.kinds.values())
      if (format !== undefined && bags.some(({ schema }) => schema['format'] === format)) return name;
    return undefined;
  }

  #maker(kind: string, bags: readonly Keywords[], where: Where, defined: KindDefinition | undefined): Make {
    const settings = { ...readSettings(bags, where.name), ...readDefault(bags) };
    if (defined) {
      const rules = this.rules(kind, bags, where.needed, { defined });
      const standard = dataIn(partOf(defined.make(settings, []) as Node), settings.default);
      return (first, json) =>
        partOf(
          defined.make({ ...settings, ...(standard !== undefined && { default: standard }), inJson: json }, [...first, ...rules]) as Node,
        );
    }
    if (kind === 'group') {
      const cases = casesOf(this, bags);
      if (cases && !bags.some((bag) => bag.has('properties'))) return this.#variant(cases, bags, where);
      return readObject(this, bags, where.name, { cases, outer: where.outer });
    }
    if (kind === 'list') {
      const { item, rules: places } = this.#items(bags, where.outer);
      const rules = this.rules('list', bags, where.needed);
      const standard = heldIn(partOf(list('Rows', nodeOf(item))), settings.default) as never;
      return (first, json) =>
        partOf(list({ ...settings, default: standard, inJson: json }, nodeOf(item), ...([...first, ...rules, ...places] as never[])));
    }
    if (kind === 'dictionary') {
      const bag = bags.find((each) => isObject(each.schema['additionalProperties']));
      const place = { schema: bag?.take('additionalProperties'), at: under(bag?.at ?? '', 'additionalProperties') };
      const item = nodeOf(this.build([place], { name: 'Entry', needed: 'item' }));
      const rules = this.rules('dictionary', bags, where.needed);
      const standard = heldIn(partOf(dictionary('Entries', item)), settings.default) as never;
      return (first, json) =>
        partOf(dictionary({ ...settings, default: standard, inJson: json }, item, ...([...first, ...rules] as never[])));
    }
    const details = takeKind(kind, bags);
    const rules = this.rules(kind, bags, where.needed);
    return (first, json) => writingOf(kind)!.make({ ...settings, ...details, inJson: json }, [...first, ...rules]) as Part;
  }

  /** The rules of a value: those that the annotation lists, in its order, then those of the keywords that are left. */
  rules(kind: string, bags: readonly Keywords[], needed: Where['needed'], { defined, canReadOthers = false }: RulesOn = {}): AnyRule[] {
    const type = defined?.traits.json ?? typeOf(kind);
    const at = under(bags[0]?.at ?? '', 'gate', 'rules');
    const entries = annotationOf(bags).rules ?? [];
    if (!isList(entries)) throw new JsonSchemaError(at, '"rules" must be a list for a value that is not an object.');
    const listed = entries.flatMap((entry) => readEntry(entry, type, bags, at, this.functions) ?? []);
    checkFits(listed, kind, canReadOthers, at, defined);
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
        throw new JsonSchemaError(
          bag.at,
          '"prefixItems" with different schemas cannot be expressed: all rows of a list have the same schema.',
        );
      if (first && rest !== false && !sameJson(rest, first.schema))
        throw new JsonSchemaError(bag.at, '"prefixItems" can be read if "items" is the same schema, or false.');
      if (!first && rest === false) throw new JsonSchemaError(bag.at, '"items" is false, so the list could have no rows.');
      if (rest === false) rules.push(length({ max: places.length }));
      if (first) items.push(first);
      else if (rest !== undefined) items.push({ schema: rest, at: under(bag.at, 'items') });
    }
    if (items.length === 0) throw new JsonSchemaError(bags[0]!.at, 'the schema of the items is missing. Add "items".');
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
    const rules = this.rules('choice', bags, needed);
    return (first, json) => partOf(variant({ ...settings, inJson: json }, key, cases as never, ...([...first, ...rules] as never[])));
  }
}

const tooDeep = (at: string): JsonSchemaError => new JsonSchemaError(at, `the document lies more than ${DEEPEST} levels deep in itself.`);

/** The reference that a place consists of; nothing where there is more. */
function aloneRef(places: readonly Place[]): unknown {
  const [{ schema }] = places as readonly [Place];
  return places.length === 1 && isObject(schema) && Object.keys(schema).length === 1 ? schema['$ref'] : undefined;
}
