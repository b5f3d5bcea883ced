// Reading an object: its properties, and what holds between them.

import { required } from '../rules/required.ts';
import { requiredWhen } from '../rules/crossField/requiredWhen.ts';
import { custom } from '../schema/custom.ts';
import { isDeferred } from '../schema/deferred.ts';
import { definitionOf } from '../schema/field.ts';
import { partial } from '../schema/compose/partial.ts';
import { appliesWhen } from '../clauses/appliesWhen/appliesWhen.ts';
import { fieldRules } from '../clauses/fieldRules/fieldRules.ts';
import type { Written } from '../clauses/flatten.ts';
import { groupRules } from '../clauses/groupRules.ts';
import { groupPartOf } from '../schema/compose/extend.ts';
import { GroupPart, type Fields, type Group, type GroupSettings } from '../schema/group.ts';
import { insideOf, nodeOf, partOf, UNNAMED, type Way, type Part } from '../schema/part.ts';
import { ownValue } from '../schema/safeAccess.ts';
import type { AnyRule, AuthorFunction } from '../schema/rule.ts';
import { validate } from '../validate/validate.ts';
import type { Make } from './absent.ts';
import { annotationOf, readSettings } from './annotation.ts';
import type { OneOfCases } from './cases.ts';
import { type IfCondition, remember, whileHolds } from './conditions.ts';
import {
  Inexpressible,
  isList,
  isObject,
  isTexts,
  type JsonObject,
  JsonSchemaError,
  type Keywords,
  type Place,
  sameJson,
  under,
} from './document.ts';
import { writingOf, takeType } from './kinds.ts';
import type { DocumentReader } from './reader.ts';
import { checkFits, readEntry } from './readRules.ts';
import { isNested } from './writeRule.ts';

type Predicate = (siblings: unknown) => boolean;

/** A part of an object that holds under a condition. */
interface Branch {
  readonly condition: IfCondition;
  readonly place: Place;
}

/** A field that only branches describe. */
interface InBranches {
  readonly place: Place;
  readonly needed: boolean;
  readonly conditions: IfCondition[];
}

/**
 * Reads an object.
 *
 * @param name what it is called, where it has no title
 */
export function readObject(reader: DocumentReader, bags: readonly Keywords[], name: string, more: More): Make {
  return new ObjectReader(reader, bags, more).read(name);
}

/** What else is known of an object. */
interface More {
  /** Branches of a `oneOf`, which stands beside properties. */
  readonly cases?: OneOfCases | undefined;
  /** A property that is not read. */
  readonly without?: string;
  /** Whether only the properties become fields, those of branches too; the other keywords are left. */
  readonly isPlain?: boolean;
  /** The conditions that objects around it put on its properties, and on what is in them. */
  readonly outer: JsonObject | undefined;
}

/** What entries of `rules` or `appliesWhen` say of what is further in, together; nothing if there is nothing. */
export function nestedIn(entries: unknown): JsonObject | undefined {
  const together: Record<string, unknown[]> = {};
  for (const nested of [entries].flat().filter(isNested))
    for (const [key, inner] of Object.entries(nested)) together[key] = [...(together[key] ?? []), inner].flat();
  return Object.keys(together).length > 0 ? together : undefined;
}

/** What entries say, with the way there: a name or a rule for each. */
const flatten = (entries: JsonObject, before: Way = []): [way: Way, entry: unknown][] =>
  Object.entries(entries).flatMap(([key, given]) =>
    [given].flat().flatMap((entry): [Way, unknown][] => (isNested(entry) ? flatten(entry, [...before, key]) : [[[...before, key], entry]])),
  );

/** What is written for a field further in, as clauses take it. */
const nestedAt = <T>([key, ...rest]: Way, value: T): Written<T> => ({ [key!]: rest.length === 0 ? value : nestedAt(rest, value) });

class ObjectReader {
  readonly #reader: DocumentReader;
  readonly #bags: readonly Keywords[];
  readonly #at: string;
  readonly #more: More;
  /** All properties, in their order; nothing as long as only branches describe one. */
  readonly #parts = new Map<string, Part | undefined>();
  readonly #needed = new Set<string>();
  readonly #inBranches = new Map<string, InBranches>();
  /** Conditions that have to hold for a field to apply. */
  readonly #conditions: [way: Way, when: AuthorFunction][] = [];
  readonly #across: [way: Way, rule: AnyRule][] = [];
  /** What the schemas under `if` describe, once all properties are known. */
  readonly #ifs = new Map<JsonObject, Part | undefined>();
  /** Fields that must not be empty under a condition. */
  readonly #wanted: [key: string, condition: IfCondition, at: string][] = [];
  /** Fields that must not be there under a condition: they do not apply then. */
  readonly #forbidden: [key: string, condition: IfCondition][] = [];

  constructor(reader: DocumentReader, bags: readonly Keywords[], more: More) {
    this.#reader = reader;
    this.#bags = bags;
    this.#at = bags[0]?.at ?? '';
    this.#more = more;
  }

  read(name: string): Make {
    const { cases, isPlain } = this.#more;
    if (isPlain) return this.#plain(name);
    const { appliesWhen: conditions = {}, fieldRules: rules = {}, groupRules: ofGroup = [], partial: isPartial } = annotationOf(this.#bags);
    const at = under(this.#at, 'gate');
    if (!isObject(conditions) || !isObject(rules))
      throw new JsonSchemaError(at, '"appliesWhen" and "fieldRules" must be objects with the names of fields as keys.');
    if (!isList(ofGroup)) throw new JsonSchemaError(at, '"groupRules" must be a list of rules.');
    this.#properties(conditions, cases);
    for (const branch of [...this.#casesAsBranches(cases), ...this.#branches()]) this.#branch(branch, cases?.key);
    for (const [key, { place, needed, conditions }] of this.#inBranches) {
      this.#parts.set(key, this.#reader.build([place], { name: key, needed }));
      this.#conditions.push([[key], this.#predicate(conditions)]);
    }
    for (const [key, condition, where] of this.#wanted)
      this.#across.push([[this.#known(key, where)], requiredWhen(this.#predicate([condition]))]);
    // What is known nowhere is dropped anyway.
    for (const [key, condition] of this.#forbidden)
      if (this.#parts.has(key)) this.#conditions.push([[key], this.#predicate([{ ...condition, holds: !condition.holds }])]);
    for (const [way, each] of flatten(conditions)) {
      this.#partAt(way, at);
      this.#conditions.push([way, this.#reader.functions.byName(each, under(at, 'appliesWhen', ...way))]);
    }
    for (const [way, entry] of flatten(rules))
      for (const rule of this.#entries(entry, this.#partAt(way, at), under(at, 'fieldRules', ...way))) this.#across.push([way, rule]);
    for (const key of [...this.#parts.keys(), ...this.#needed]) this.#known(key, this.#at);
    // Now that all kinds are known; each once, however many branches it has.
    for (const schema of this.#ifs.keys()) this.#ifs.set(schema, this.#condition(schema));
    const unknown = this.#unknown();
    const settings = readSettings(this.#bags, name);
    const rulesOnGroup = this.#entries(ofGroup, undefined, under(at, 'groupRules'), true);
    return (_, json) => {
      const declared = nodeOf<Group<Fields>>(groupOf(this.#parts, { ...settings, unknown, inJson: json }));
      let made = groupPartOf(isPartial === true ? partial(declared) : declared, 'group');
      // (Nobody knows the types of what was read.)
      for (const [way, when] of this.#conditions) made = made.with(appliesWhen(nestedAt(way, when) as never) as never);
      for (const [way, rule] of this.#across) made = made.with(fieldRules(nestedAt(way, rule) as never) as never);
      return rulesOnGroup.length > 0 ? made.with(groupRules(...(rulesOnGroup as never[])) as never) : made;
    };
  }

  /** Only properties: those of the object, and those that branches describe, which may be left out. */
  #plain(name: string): Make {
    this.#properties({}, undefined);
    const strangers = new Map<string, Place[]>();
    for (const bag of this.#bags)
      for (const [key, place] of describedIn(bag.schema, bag.at))
        if (!this.#parts.has(key)) strangers.set(key, [...(strangers.get(key) ?? []), place]);
    for (const key of this.#needed) if (!this.#parts.has(key) && !strangers.has(key)) strangers.set(key, []);
    for (const [key, [first, ...others]] of strangers) {
      assertName(key, first?.at ?? this.#at);
      // A branch may not hold: its field only says of which type the value usually is. What it must be, the keywords say.
      const isClear = first !== undefined && others.every(({ schema }) => sameJson(schema, first.schema));
      const usual = isClear ? usualOf(first.schema) : undefined;
      const place = { schema: usual ?? true, at: first?.at ?? this.#at };
      this.#parts.set(key, this.#reader.build([place], { name: key, needed: this.#needed.has(key), isLoose: true }));
    }
    for (const [key, part] of this.#parts)
      if (!part) this.#parts.set(key, this.#reader.build([{ schema: true, at: this.#at }], { name: key, needed: this.#needed.has(key) }));
    const settings = readSettings(this.#bags, name);
    return (_, json) => groupOf(this.#parts, { ...settings, inJson: json });
  }

  /** The name of a property that is described somewhere. */
  #known(key: string, at: string): string {
    if (key === this.#more.without || this.#parts.get(key)) return key;
    throw new Inexpressible(at, `"${key}" is named here, but "properties" does not describe it.`);
  }

  /** The part that a way leads to: undefined for the key of a variant. */
  #partAt([key, ...rest]: Way, at: string): Part | undefined {
    let part = this.#parts.get(this.#known(key!, at));
    for (const name of rest) {
      part = part && insideOf(part, name)?.part;
      if (!part) throw new JsonSchemaError(at, `"${[key, ...rest].join('.')}" is named here, but nothing describes "${name}".`);
    }
    return part;
  }

  /** The rules that entries list on a part: undefined for the key of a variant. */
  #entries(entries: unknown, part: Part | undefined, at: string, isOnGroup = false): AnyRule[] {
    const rules = [entries].flat().flatMap((entry) => readEntry(entry, '', [], at, this.#reader.functions) ?? []);
    const kind = isOnGroup ? 'group' : (part?.kind ?? 'choice');
    checkFits(rules, kind, !isOnGroup, at, part && definitionOf(part));
    return rules;
  }

  #properties(conditions: JsonObject, cases: OneOfCases | undefined): void {
    const places = new Map<string, Place[]>();
    for (const bag of this.#bags) {
      bag.takeAs('required', isTexts, 'a list of texts')?.forEach((key) => this.#needed.add(key));
      for (const [key, place] of propertiesOf(bag)) if (key !== this.#more.without) places.set(key, [...(places.get(key) ?? []), place]);
    }
    for (const [key, all] of places) {
      // `true` describes nothing: it may reserve the place of a field that branches describe.
      const silent = all.every(({ schema }) => schema === true);
      const own = ownValue(conditions, key);
      const further = ownValue(this.#more.outer, key);
      const isTaken = [own, further].flat().some((each) => typeof each === 'string');
      const needed = isTaken || annotationOf(this.#bags).partial === true ? undefined : this.#needed.has(key);
      const outer = nestedIn([own, further].flat());
      this.#parts.set(key, silent || key === cases?.key ? undefined : this.#reader.build(all, { name: key, needed, outer }));
    }
    if (!cases) return;
    const options = cases.branches.map(({ value, title }) => ({ value, label: title }));
    // What its own schema may have too: type string, the same values, a title.
    const own = this.#reader.gather(places.get(cases.key) ?? []);
    takeType(own, 'choice');
    for (const bag of own) {
      bag.take('enum');
      bag.end('choice');
    }
    const { label } = readSettings(own, cases.key);
    this.#parts.set(cases.key, writingOf('choice')!.make({ label, options }, [required()]) as Part);
  }

  #casesAsBranches(cases: OneOfCases | undefined): Branch[] {
    return (cases?.branches ?? []).map(({ value, place }) => {
      const chosen = { properties: { [cases!.key]: { const: value } }, required: [cases!.key] };
      return { condition: { if: chosen, holds: true }, place };
    });
  }

  /** What `if`, `dependentRequired` put under conditions. */
  #branches(): Branch[] {
    return this.#bags.flatMap((bag) => {
      const branches: Branch[] = [];
      for (const [key, names] of Object.entries(bag.takeAs('dependentRequired', isObject, 'an object') ?? {}))
        branches.push({
          condition: { if: { required: [key] }, holds: true },
          place: { schema: { required: names }, at: under(bag.at, 'dependentRequired', key) },
        });
      const condition = bag.takeAs('if', isObject, 'an object');
      for (const [keyword, holds] of [
        ['then', true],
        ['else', false],
      ] as const) {
        const schema = condition && bag.take(keyword);
        if (schema !== undefined) branches.push({ condition: { if: condition!, holds }, place: { schema, at: under(bag.at, keyword) } });
      }
      return branches;
    });
  }

  #branch({ condition, place }: Branch, chooser: string | undefined): void {
    const bags = this.#reader.gather([place]);
    takeType(bags, 'group');
    const needed = new Set(bags.flatMap((bag) => bag.takeAs('required', isTexts, 'a list of texts') ?? []));
    needed.delete(chooser!);
    for (const bag of bags) {
      for (const [key, inner] of propertiesOf(bag)) {
        if (key === chooser) continue;
        const part = this.#parts.get(key);
        if (inner.schema === false) {
          this.#forbidden.push([key, condition]);
        } else if (part) this.#constrain(key, part, inner, condition);
        else {
          this.#describe(key, inner, condition, needed.has(key) || this.#needed.has(key));
          needed.delete(key);
        }
      }
      bag.end('branch');
    }
    for (const key of needed) if (!this.#needed.has(key)) this.#wanted.push([key, condition, place.at]);
  }

  /** A field that branches describe: it applies while any of them holds. */
  #describe(key: string, place: Place, condition: IfCondition, needed: boolean): void {
    const before = this.#inBranches.get(key);
    if (before && !(sameJson(before.place.schema, place.schema) && before.needed === needed))
      throw new Inexpressible(place.at, `"${key}" has a different schema in another branch. Give both branches the same schema.`);
    this.#inBranches.set(key, { place, needed, conditions: [...(before?.conditions ?? []), condition] });
    if (!this.#parts.has(key)) this.#parts.set(key, undefined);
  }

  /** Rules that a field has while a branch holds. */
  #constrain(key: string, part: Part, place: Place, condition: IfCondition): void {
    const bags = this.#reader.gather([place]);
    const { kind } = part;
    const { holds } = part.traits;
    if (holds === 'fields' || holds === 'cases' || isDeferred(part))
      throw new Inexpressible(place.at, `"${key}" is an object that is described elsewhere. A branch cannot add to it.`);
    const defined = definitionOf(part);
    takeType(bags, kind, defined);
    const isMet = this.#predicate([condition]);
    for (const rule of this.#reader.rules(kind, bags, undefined, { defined, canReadOthers: true }))
      this.#across.push([[key], whileHolds(rule, isMet, [condition])]);
    for (const bag of bags) bag.end('branch');
  }

  /** A function on siblings: whether any of the conditions holds. */
  #predicate(conditions: readonly IfCondition[]): Predicate {
    for (const { if: schema } of conditions) this.#ifs.set(schema, undefined);
    return remember(
      (siblings: unknown) =>
        conditions.some(
          ({ if: schema, holds }) => validate(nodeOf(this.#ifs.get(schema)!), siblings, { source: 'json', async: 'skip' }).ok === holds,
        ),
      conditions,
    );
  }

  /** What an `if` describes: fields of the kinds that they have outside it. */
  #condition(schema: JsonObject): Part {
    const bags = this.#reader.gather([{ schema, at: under(this.#at, 'if') }]);
    takeType(bags, 'group');
    const needed = new Set(bags.flatMap((bag) => bag.takeAs('required', isTexts, 'a list of texts') ?? []));
    const fields: Record<string, Part> = {};
    for (const bag of bags) {
      for (const [key, place] of propertiesOf(bag)) {
        const part = this.#parts.get(this.#known(key, place.at));
        const kind = part?.kind;
        // (The data of a box that is left out are those of one that is not ticked.)
        if (kind === 'boolean' && !(needed.has(key) && isObject(place.schema) && place.schema['const'] === true))
          throw new Inexpressible(place.at, 'what depends on a box that is left out, or not ticked, cannot be expressed here.');
        // A constant is one of the values of a choice.
        fields[key] = this.#reader.build([place], { name: key, needed: needed.has(key), kind: kind === 'choice' ? 'text' : kind });
      }
      bag.end('condition');
    }
    for (const key of needed) {
      const part = this.#parts.get(this.#known(key, bags[0]!.at));
      if (!fields[key] && part && (part.traits.hasParts || part.kind === 'boolean'))
        throw new Inexpressible(bags[0]!.at, `what depends on whether "${key}" is there cannot be expressed here.`);
      fields[key] ??= partOf(custom(key, { read: (raw) => raw }, required()));
    }
    return groupOf(Object.entries(fields), { label: UNNAMED });
  }

  /** Whether keys that the object does not know are refused. */
  #unknown(): 'refuse' | undefined {
    let refuse = false;
    const open = this.#bags.find(looksAtMore);
    if (open && this.#bags.some(({ schema }) => schema['unevaluatedProperties'] === false))
      throw new Inexpressible(open.at, '"unevaluatedProperties" refuses only what no other keyword has looked at.');
    for (const bag of this.#bags) {
      if (bag.has('patternProperties')) throw new Inexpressible(bag.at, '"patternProperties" cannot be expressed here.');
      const own = Object.keys(isObject(bag.schema['properties']) ? bag.schema['properties'] : {});
      const stranger = [...this.#parts.keys()].find((key) => !own.includes(key));
      if (bag.has('additionalProperties') && bag.schema['additionalProperties'] === false && stranger !== undefined)
        throw new Inexpressible(
          bag.at,
          `"additionalProperties": false refuses "${stranger}", which is described elsewhere. Use "unevaluatedProperties": false instead.`,
        );
      for (const keyword of ['additionalProperties', 'unevaluatedProperties'])
        if (
          bag.takeAs(keyword, (value) => typeof value === 'boolean', 'true or false; objects with any keys cannot be expressed') === false
        )
          refuse = true;
    }
    return refuse ? 'refuse' : undefined;
  }
}

/** Takes the properties of an object, with their places. */
function propertiesOf(bag: Keywords): [key: string, place: Place][] {
  return Object.entries(bag.takeAs('properties', isObject, 'an object') ?? {}).map(([key, schema]) => {
    const at = under(bag.at, 'properties', key);
    assertName(key, at);
    return [key, { schema, at }];
  });
}

function assertName(key: string, at: string): void {
  if (key === '__proto__') throw new Inexpressible(at, `"${key}" cannot be the name of a field.`);
}

/** A group of fields under any names. */
const groupOf = (parts: Iterable<readonly [string, Part | undefined]>, settings: GroupSettings): GroupPart =>
  new GroupPart(settings, Object.fromEntries([...parts].map(([key, part]) => [key, nodeOf(part!)])));

/** Whether keywords look at properties that no field has, so that `unevaluatedProperties` lets these pass. */
const looksAtMore = (bag: Keywords): boolean =>
  (bag.schema['additionalProperties'] ?? false) !== false ||
  ['anyOf', 'oneOf', 'not', 'dependentSchemas', '$dynamicRef'].some((keyword) => bag.has(keyword)) ||
  ['if', 'then', 'else'].some((keyword) => /additionalProp|unevaluatedProp|patternProp/.test(JSON.stringify({ of: bag.schema[keyword] })));

/** What values usually are that a schema describes: their type, for a control, and what they are called. */
function usualOf(schema: unknown): JsonObject | undefined {
  if (!isObject(schema)) return undefined;
  const { type, title, description } = schema;
  const said = Object.fromEntries(Object.entries({ title, description }).filter(([, value]) => value !== undefined));
  if (type === 'integer') return { type: 'number', ...said };
  return type === 'string' || type === 'number' || type === 'boolean' ? { type, ...said } : undefined;
}

/** The properties that branches of a schema describe, with their places. */
function* describedIn(schema: JsonObject, at: string): Iterable<readonly [key: string, place: Place]> {
  const branches: Place[] = [];
  for (const keyword of ['anyOf', 'oneOf', 'allOf']) {
    const all = schema[keyword];
    if (isList(all)) all.forEach((each, i) => branches.push({ schema: each, at: under(at, keyword, i) }));
  }
  for (const keyword of ['if', 'then', 'else']) branches.push({ schema: schema[keyword], at: under(at, keyword) });
  const dependent = schema['dependentSchemas'];
  if (isObject(dependent))
    for (const [key, each] of Object.entries(dependent)) branches.push({ schema: each, at: under(at, 'dependentSchemas', key) });
  for (const { schema: branch, at: place } of branches) {
    if (!isObject(branch)) continue;
    const { properties } = branch;
    if (isObject(properties))
      for (const [key, each] of Object.entries(properties)) yield [key, { schema: each, at: under(place, 'properties', key) }];
    yield* describedIn(branch, place);
  }
}
