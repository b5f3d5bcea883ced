// From a schema of this library to a JSON Schema document.

import { inLanguage } from '../messages/text.ts';
import { isDeferred } from '../schema/deferred.ts';
import { isDictionary, type DictionaryPart } from '../schema/dictionary/dictionary.ts';
import { definitionOf, isField, type FieldPart } from '../schema/field.ts';
import { isGroup, type GroupPart, type Predicate, type ReachOf } from '../schema/group.ts';
import { nodeOf, partOf, UNNAMED, type Way, type Part } from '../schema/part.ts';
import { isList, type ListPart } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import { isBlocking, type AnyRule, type AuthorFunction } from '../schema/rule.ts';
import { isJson } from '../schema/json.ts';
import { readAs, travelling } from '../schema/travel.ts';
import { validate } from '../validate/validate.ts';
import { isVariant, type VariantPart } from '../schema/variant/variant.ts';
import { failsAbsent, takesRequired } from './absent.ts';
import { type IfCondition, originOf } from './conditions.ts';
import { isObject, type JsonObject, JsonSchemaError, under } from './document.ts';
import { inOpenApi30 } from './inOpenApi30.ts';
import { Bundle } from './keywords/bundle.ts';
import { type Origin, originOfRule, typeless } from './keywords/documentRule.ts';
import { kindOf, writingOf, typeOf, writeKind } from './kinds.ts';
import { isNested, type RuleEntry, writeRule, asText } from './writeRule.ts';

/** The options of `toJsonSchema`. */
export interface ToJsonSchemaOptions {
  /** The initial values of a form, written as `default`. */
  readonly initial?: unknown;
  /** Another dialect: the schemas of OpenAPI 3.0. What these have no words for stands in extensions (`x-json-schema`, `x-gate`). */
  readonly for?: 'openapi-3.0';
  /** Of OpenAPI 3.0: the place where the schema will stand, as a JSON Pointer. Needed where it refers to parts of itself. */
  readonly pointer?: string;
}

type JsonDraft = Record<string, unknown>;
/** The conditions that groups further out put on a part, and on what is in it. */
type ConditionsBelow = ReachOf<Predicate>;

/** Keywords that list values refuse null, unless it is among them. */
function acceptNull(draft: JsonDraft): void {
  const { enum: values } = draft;
  if (Array.isArray(values) && !values.includes(null)) draft['enum'] = [...(values as unknown[]), null];
}

/** Refuses an empty text. (Beside a limit of `length`, it would be taken for one.) */
function refuseEmpty(draft: JsonDraft): void {
  if (draft['minLength'] !== undefined) return;
  if (draft['maxLength'] === undefined) draft['minLength'] = 1;
  else draft['allOf'] = [...((draft['allOf'] ?? []) as readonly unknown[]), { minLength: 1 }];
}

/** Whether null passes where its type may be that: for a box, it is `false`, which rules see. */
const takesNull = (part: Part): boolean => part.kind !== 'boolean' || validate(nodeOf(part), null, { source: 'json', async: 'skip' }).ok;

/** What a part holds to begin with, as JSON has it; nothing where only a function knows. */
function defaultIn(part: Part, at: string): unknown {
  const { default: standard } = part.settings;
  if (typeof standard === 'function' || standard === undefined) return undefined;
  // (Rows and entries may be given raw.)
  const data = isVariant(part) ? { [part.key]: standard } : part.isOpen ? readAs(part, standard) : standard;
  const json = travelling(part, data);
  if (isJson(json)) return json;
  throw new JsonSchemaError(at, 'the default is a value that JSON cannot hold. Give its kind toJson and fromJson.');
}

/**
 * Writes a schema as a JSON Schema document (2020-12). Keywords hold what they can; the annotation `gate` holds the rest:
 * labels in several languages, the order of rules, messages, timing. Functions are written by their names.
 *
 * @param schema the schema
 * @param options `initial`, the values that a form begins with; another dialect
 * @returns the document
 * @throws JsonSchemaError for functions without a name, custom kinds, messages that are functions
 *
 * @example
 * toJsonSchema(group({ beam: number('Beam (m)', required(), range({ max: 5.2 })) })).properties;
 * // { beam: { type: 'number', title: 'Beam (m)', maximum: 5.2, gate: { rules: ['required', 'range'] } } }
 */
export function toJsonSchema(schema: Node, options: ToJsonSchemaOptions = {}): JsonObject {
  const document = new Writer().document(partOf(schema), options.initial);
  return options.for === 'openapi-3.0' ? forOpenApi(document, options.pointer) : document;
}

/** The same as a schema of OpenAPI 3.0, which has no place for definitions of its own. */
function forOpenApi(document: JsonObject, pointer: string | undefined): JsonObject {
  const refer = (ref: string): string => {
    if (pointer === undefined)
      throw new JsonSchemaError(
        '',
        'the schema refers to parts of itself, by places in the whole document. Say where it will stand there: { pointer: "/components/schemas/Passage" }.',
      );
    return `#${pointer}${ref.slice(1).replace(/^\/\$defs\//, '/x-defs/')}`;
  };
  const written = inOpenApi30(document, refer) as JsonObject;
  const { $defs } = document;
  if (!isObject($defs)) return written;
  return { ...written, 'x-defs': Object.fromEntries(Object.entries($defs).map(([name, part]) => [name, inOpenApi30(part, refer)])) };
}

class Writer {
  readonly #names = new Map<string, AuthorFunction>();
  #root: Part | undefined;
  /** The parts that lie within themselves, by the name of their definition. */
  readonly #definitions = new Map<string, Part>();
  readonly #bundle = new Bundle();

  document(part: Part, initial: unknown): JsonObject {
    this.#root = part;
    const root = this.#write(part, '', initial, NOTHING);
    const definitions: JsonDraft = {};
    // Writing one may bring up further ones.
    for (const [name, target] of this.#definitions) definitions[name] = this.#write(target, `/$defs/${name}`, undefined, NOTHING);
    return {
      $schema: 'https://json-schema.org/draft/2020-12/schema',
      ...root,
      ...(this.#definitions.size + Object.keys(this.#bundle.definitions).length > 0 && {
        $defs: { ...definitions, ...this.#bundle.definitions },
      }),
    };
  }

  /** The name under which a function is written. */
  nameOf(of: AuthorFunction, given: string | undefined, at: string): string {
    const name = given ?? of.name;
    if (name === '') throw new JsonSchemaError(at, 'a function has no name. Give it one: check(function fits(boat) { ... }).');
    const other = this.#names.get(name);
    // A name that was given is meant for whatever function has that task.
    if (other && other !== of && given === undefined)
      throw new JsonSchemaError(at, `two different functions are named "${name}". Rename one of them.`);
    this.#names.set(name, of);
    return name;
  }

  /** @param outer the conditions of groups further out */
  #write(part: Part, at: string, initial: unknown, outer: readonly ConditionsBelow[], isItem = false): JsonObject {
    if (isDeferred(part)) {
      const reference = { $ref: this.#refer(part.target) };
      return {
        title: inLanguage(part.label, undefined),
        ...(part.settings.inJson?.nullable === true ? { anyOf: [reference, { type: 'null' }] } : reference),
      };
    }
    const draft = isGroup(part)
      ? this.#group(part, at, initial, outer)
      : isVariant(part)
        ? this.#variant(part, at, outer)
        : this.#leaf(part as FieldPart | ListPart | DictionaryPart, at, outer);
    const first = initial === undefined ? defaultIn(part, at) : initial;
    if (first !== undefined && !isGroup(part)) draft['default'] = first;
    return this.#finish(part, draft, at, isItem);
  }

  #refer(target: Part): string {
    if (target === this.#root) return '#';
    const known = [...this.#definitions].find(([, part]) => part === target)?.[0];
    const name = known ?? `part${this.#definitions.size + 1}`;
    this.#definitions.set(name, target);
    return `#/$defs/${name}`;
  }

  /** Puts labels and settings to what a part says itself. */
  #finish(part: Part, { gate: own, ...draft }: JsonDraft, at: string, isItem: boolean): JsonObject {
    const gate: JsonDraft = {};
    if (typeof part.label !== 'string') gate['label'] = asText(part.label, at, 'the label');
    if (part.hint !== undefined && typeof part.hint !== 'string') gate['hint'] = part.hint;
    const { reveal, private: isPrivate, messages, inJson } = part.settings;
    if (reveal !== undefined) gate['reveal'] = reveal;
    if (isPrivate) gate['private'] = true;
    for (const [code, message] of Object.entries(messages ?? {})) asText(message, at, `the message for ${code}`);
    if (messages) gate['messages'] = messages;
    // Else it would be read as required(), as that of a row is which has no rules.
    if (inJson?.absent === 'refused' && takesRequired(part)) gate['absent'] = 'refused';
    if (isItem && takesRequired(part)) gate['rules'] = [];
    Object.assign(gate, own);
    // (So it is read where there is no annotation.)
    if (inJson?.empty !== undefined && Object.keys(gate).length > 0) gate['empty'] = inJson.empty;
    // (Without an annotation, an empty text would be read as a value.)
    if (isField(part) && !part.spec.mapped && !inJson?.empty && typeOf(part.kind) === 'string' && Object.keys(gate).length === 0)
      gate['rules'] = [];
    const { type: written, ...rest } = draft;
    const others = inJson?.other && typeless.get(inJson.other);
    const type = others ? undefined : written;
    if (others && isField(part) && kindOf(rest) !== part.kind) gate['kind'] ??= part.kind;
    const more = others ? this.#validated(others) : [];
    if (more.length > 0) rest['allOf'] = [...((rest['allOf'] ?? []) as readonly unknown[]), ...more];
    const nullable = inJson?.nullable === true && typeof type === 'string';
    if (nullable && takesNull(part)) for (const each of [rest, ...((rest['allOf'] ?? []) as JsonDraft[])]) acceptNull(each);
    return {
      ...(type !== undefined && { type: nullable ? [type, 'null'] : type }),
      title: inLanguage(part.label, undefined),
      ...(part.hint !== undefined && { description: inLanguage(part.hint, undefined) }),
      ...rest,
      ...(Object.keys(gate).length > 0 && { gate }),
    };
  }

  /** Rules of one value: keywords beside those that there are, and the entries of the annotation. */
  #rules(rules: readonly AnyRule[], type: string, draft: JsonDraft, at: string): RuleEntry[] {
    const others: JsonDraft[] = [];
    const validated: unknown[] = [];
    const entries = rules.flatMap((rule): RuleEntry[] => {
      const origin = originOfRule(rule);
      if (origin) {
        validated.push(...this.#validated(origin));
        return [];
      }
      const { keywords, family, entry } = writeRule(rule, type, at, this);
      const free = [draft, ...others].find((each) => !family.some((keyword) => Object.hasOwn(each, keyword)));
      const into = free ?? {};
      // Two rules do not share keywords: each finds its own again.
      if (!free) others.push(into);
      Object.assign(into, keywords);
      return [entry];
    });
    if (others.length + validated.length > 0) draft['allOf'] = [...others, ...validated];
    return entries;
  }

  /** What the document says that something was read from, as it says it. */
  #validated({ resources, places }: Origin): unknown[] {
    return places.map(({ at, nullable }) => {
      // (What stands in an `anyOf` is never read as fields and rules.)
      const copy = this.#bundle.copy(resources, at);
      const whole = isObject(copy) && Object.keys(copy).join() === 'anyOf' ? copy : { anyOf: [copy] };
      return nullable ? { anyOf: [whole, { type: 'null' }] } : whole;
    });
  }

  #leaf(part: FieldPart | ListPart | DictionaryPart, at: string, outer: readonly ConditionsBelow[]): JsonDraft {
    // What travels is another value, which functions make: of it, the type is known.
    if (isField(part) && part.spec.mapped) return part.spec.mapped.json === 'any' ? {} : { type: part.spec.mapped.json };
    const draft: JsonDraft = isList(part)
      ? { type: 'array', items: this.#write(part.part, under(at, 'items'), undefined, outer, true) }
      : isDictionary(part)
        ? { type: 'object', additionalProperties: this.#write(part.part, under(at, 'additionalProperties'), undefined, NOTHING, true) }
        : this.#kind(part, at);
    const gate: JsonDraft = {};
    const { kind } = part;
    const details = (isField(part) && part.spec.details) || {};
    // What a document need not say: digits are grouped, and nothing else is done.
    for (const [name, value] of Object.entries(details)) if (value !== undefined && value !== (name === 'useGrouping')) gate[name] = value;
    const entries = this.#rules(part.ruleList, definitionOf(part)?.traits.json ?? typeOf(kind), draft, at);
    // Others know `required` as presence alone: what it says of empty texts, another keyword tells them.
    if (kind === 'text' && part.required && isBlocking(part.required) && part.settings.inJson?.empty === undefined) refuseEmpty(draft);
    // Behind the rules: they may bring keywords that make it look like another kind.
    if (kindOf(draft) !== kind || definitionOf(part)) gate['kind'] = kind;
    if (entries.length > 0) gate['rules'] = entries;
    return { ...draft, gate };
  }

  #kind(part: FieldPart, at: string): JsonDraft {
    const { definition } = part.spec;
    if (definition) {
      const { traits, format } = definition;
      return { ...(traits.json !== 'any' && { type: traits.json }), ...(format !== undefined && { format }) };
    }
    if (writingOf(part.kind)) return { ...writeKind(part) };
    throw new JsonSchemaError(at, `a field of kind ${part.kind} reads its values with functions, which JSON cannot hold.`);
  }

  #variant(part: VariantPart, at: string, outer: readonly ConditionsBelow[]): JsonDraft {
    const cases = Object.entries(part.cases).map(([value, group], i) => {
      const {
        title,
        properties,
        required = [],
        ...rest
      } = this.#write(group, under(at, 'oneOf', i), undefined, below(outer, value)) as JsonDraft & { required?: string[] };
      return {
        ...rest,
        ...(title !== UNNAMED && { title }),
        properties: { [part.key]: { const: value }, ...(properties as object) },
        required: [part.key, ...required],
      };
    });
    const entries = this.#rules(part.chooser.ruleList, '', {}, at);
    // (Without rules it would be read as one that has to be chosen.)
    return { type: 'object', oneOf: cases, gate: { rules: entries } };
  }

  #group(part: GroupPart, at: string, initial: unknown, outer: readonly ConditionsBelow[]): JsonDraft {
    const { keys, parts, ruleList } = part;
    const { unknown } = part.settings;
    const { conditions: own } = part.clauses;
    const appliesWhen: Record<string, unknown> = {};
    const properties: JsonDraft = {};
    const required: string[] = [];
    const branches: JsonObject[] = [];
    keys.forEach((key, i) => {
      const place = under(at, 'properties', key);
      const inner = below(own ? [own.reach, ...outer] : outer, key);
      const schema = this.#write(parts[i]!, place, isObject(initial) ? initial[key] : undefined, inner);
      const conditions = (own?.reach.below.get(key)?.items ?? []).map(({ what }) => what);
      const [first, ...more] = conditions.flatMap((when) => originOf(when) ?? []);
      const names = conditions.filter((when) => !originOf(when)).map((when) => this.nameOf(when, undefined, place));
      if (names.length > 0) appliesWhen[key] = names.length > 1 ? names : names[0];
      const isTaken = below(outer, key).some(({ items }) => items.length > 0);
      const needs = names.length === 0 && !isTaken && !part.isPartial && failsAbsent(parts[i]!);
      if (needs && !first) required.push(key);
      // What is described under a condition keeps its place by `true`.
      properties[key] = first ? true : schema;
      const described = { properties: { [key]: schema }, ...(needs && { required: [key] }) };
      for (const condition of first?.conditions ?? []) branches.push(branch(condition, described));
      for (const { if: schemaOf, holds } of more.flatMap(({ conditions: necessary }) => necessary))
        branches.push(branch({ if: schemaOf, holds: !holds }, { properties: { [key]: false } }));
    });
    for (const { way, what } of own?.list ?? []) if (way.length > 1) nest(appliesWhen, way, this.nameOf(what, undefined, placeOf(at, way)));
    const { fieldRules, conditional } = this.#across(part, at);
    const allOf = [...branches, ...conditional];
    const ofWhole: JsonDraft = {};
    const groupRules = this.#rules(ruleList, '', ofWhole, at);
    allOf.push(...((ofWhole['allOf'] ?? []) as JsonObject[]));
    const gate = Object.entries({ appliesWhen, fieldRules, groupRules }).filter(([, value]) => Object.keys(value).length > 0) as [
      string,
      unknown,
    ][];
    if (part.isPartial) gate.push(['partial', true]);
    return {
      type: 'object',
      properties,
      ...(required.length > 0 && { required }),
      ...(unknown && { unevaluatedProperties: false }),
      ...(allOf.length > 0 && { allOf }),
      gate: Object.fromEntries(gate),
    };
  }

  /** The rules between fields: by field, and those that came from an `if`. */
  #across(part: GroupPart, at: string): { fieldRules: JsonDraft; conditional: JsonObject[] } {
    const fieldRules: Record<string, unknown> = {};
    const conditional: JsonObject[] = [];
    for (const { way, what: rule } of part.clauses.fieldRules?.list ?? []) {
      const [key, ...further] = way as readonly [string, ...string[]];
      const place = placeOf(at, way);
      const origin = originOf(rule) ?? (rule.author && originOf(rule.author));
      if (!origin || further.length > 0) {
        fieldRules[key] ??= [];
        for (const entry of this.#rules([rule], '', {}, place)) nest(fieldRules, way, entry);
        continue;
      }
      const draft: JsonDraft = {};
      const entries = origin.rule && this.#rules([origin.rule], typeOf(part.locate(key)!.part.kind), draft, place);
      const inForce = entries ? { properties: { [key]: { ...draft, gate: { rules: entries } } } } : { required: [key] };
      for (const condition of origin.conditions) conditional.push(branch(condition, inForce));
    }
    return { fieldRules, conditional };
  }
}

const NOTHING: readonly never[] = [];

/** What conditions say of a part further in. */
const below = (all: readonly ConditionsBelow[], name: string): readonly ConditionsBelow[] =>
  all.flatMap((each) => each.below.get(name) ?? NOTHING);

/** Where a part stands in the document that a way leads to: only for error messages. */
const placeOf = (at: string, way: Way): string => under(at, 'properties', way.join('.'));

/** Puts what a clause says where its way leads to: a list for each name, in which what is further in is an object again. */
function nest(into: JsonDraft, [key, ...rest]: Way, entry: unknown): void {
  const before = into[key!];
  const list = before === undefined ? [] : ([before].flat() as unknown[]);
  into[key!] = list;
  if (rest.length === 0) return void list.push(entry);
  const last = list.at(-1);
  const inner = isNested(last) ? last : {};
  if (inner !== last) list.push(inner);
  nest(inner, rest, entry);
}

/** What holds under a condition. */
const branch = ({ if: schema, holds }: IfCondition, inForce: JsonObject): JsonObject => ({
  if: schema,
  [holds ? 'then' : 'else']: inForce,
});
