// A schema as plain data, for tools that make something from it: types, markup, a diagram.

import { pathOf } from '../schema/finding.ts';
import type { Attributes } from '../html/fieldFromAttributes.ts';
import { toAttributes } from '../html/toAttributes.ts';
import { inLanguage, type Catalogue, type Label } from '../messages/text.ts';
import { isDeferred } from '../schema/deferred.ts';
import { isDictionary } from '../schema/dictionary/dictionary.ts';
import { isField, jsonTypeIn } from '../schema/field.ts';
import type { Params } from '../schema/finding.ts';
import { isGroup, type Predicate, type ReachOf } from '../schema/group.ts';
import { nodeOf, partOf, type Placed, type Part } from '../schema/part.ts';
import { isList } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import { isJson } from '../schema/json.ts';
import type { Option, OptionValue } from '../schema/option.ts';
import { keysIn, pointerOf } from '../schema/pointer.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { travelling } from '../schema/travel.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { Stage } from '../schema/verdict.ts';
import type { Severity } from '../schema/severity.ts';
import type { Traits } from '../schema/traits.ts';
import type { KindName } from '../schema/vocabulary.ts';
import { isVariant } from '../schema/variant/variant.ts';

/** The part of a rule that is data. */
export interface RuleDescription {
  /** The name of a built-in rule (`RuleName`), or of yours. */
  readonly name: string;
  readonly params: Params;
  readonly severity: Severity;
  /** The code of your rule, if it has one. */
  readonly code?: string;
  /** The event at which it first runs, if the rule has its own. */
  readonly on?: Stage;
  /** The name of your function, if the rule has one with a name. */
  readonly function?: string;
}

/** What a part of a schema declares. */
export interface SchemaDescription {
  /** `'text'`, `'number'`, `'group'`, ...; for `'deferred'`, the part is under `target`. */
  readonly kind: KindName | 'group' | 'list' | 'variant' | (string & {});
  /** What is known of the kind: what it holds, its type in JSON, what its limits are about, how a control shows it. */
  readonly traits: Traits;
  /** The TypeScript type of the data, if the kind doesn't determine it. */
  readonly type?: string;
  readonly label: string;
  readonly hint: string | undefined;
  /** Its default as it travels, unless that is a function. */
  readonly default?: unknown;
  /** Whether valid data always has a value here. */
  readonly always: boolean;
  /** Whether it applies only under a condition. */
  readonly conditional?: boolean;
  /** Whether it may be left out, in a group made by `partial`. */
  readonly optional?: boolean;
  /** The rules on the value itself, in their order. */
  readonly rules: readonly RuleDescription[];
  /** Of a group: the rules between its fields, by the field that gets the finding; `crew.permit` for one further in. */
  readonly fieldRules?: Readonly<Record<string, readonly RuleDescription[]>>;
  /** Of a group: the names of the functions that decide which fields apply, by field; `''` for a function without a name. */
  readonly appliesWhen?: Readonly<Record<string, readonly string[]>>;
  /** The values of a choice. */
  readonly options?: readonly Option<OptionValue, string>[];
  /** HTML's constraint attributes of a field. */
  readonly attributes?: Attributes;
  /** The fields of a group, by name. */
  readonly fields?: Readonly<Record<string, SchemaDescription>>;
  /** The part of each row of a list, or each entry of a dictionary. */
  readonly item?: SchemaDescription;
  /** Of a variant: the field that chooses, its name, and the groups to choose from. */
  readonly chooser?: SchemaDescription;
  readonly key?: string;
  readonly cases?: Readonly<Record<string, SchemaDescription>>;
  /** Of a recursive part: the description of the part that it stands for, unless that is described elsewhere. */
  readonly target?: SchemaDescription;
  /** Where else that is described: a JSON Pointer (RFC 6901) into the whole description. `targetOf` follows it. */
  readonly targetAt?: string;
}

type MutableDescription = { -readonly [K in keyof SchemaDescription]: SchemaDescription[K] };

function describeRule({ name, params, severity = 'error', code, on, author, async: spec }: AnyRule): RuleDescription {
  const functionName = spec?.name ?? author?.name;
  return {
    name,
    params,
    severity,
    ...(code !== undefined && { code }),
    ...(on && { on }),
    ...(functionName && { function: functionName }),
  };
}

/** What a clause has for each field, by its path. */
function byField<T, D>(list: readonly Placed<T>[], describe: (what: T) => D): Record<string, D[]> {
  const described: Record<string, D[]> = {};
  for (const { way, what } of list) (described[pathOf(way)] ??= []).push(describe(what));
  return described;
}

/** Descriptions of parts on which a group puts conditions, here or further in. */
function underConditions(
  described: Readonly<Record<string, SchemaDescription>>,
  { below }: ReachOf<Predicate>,
): Record<string, SchemaDescription> {
  const within = (one: SchemaDescription, reach: ReachOf<Predicate>): SchemaDescription => ({
    ...one,
    ...(one.fields && { fields: underConditions(one.fields, reach) }),
    ...(one.item && { item: within(one.item, reach) }),
    ...(one.cases && { cases: underConditions(one.cases, reach) }),
  });
  return Object.fromEntries(
    Object.entries(described).map(([key, one]) => {
      const reach = below.get(key);
      if (!reach) return [key, one];
      const inner = within(one, reach);
      return [key, reach.items.length > 0 ? { ...inner, always: false, conditional: true } : inner];
    }),
  );
}

/**
 * Describes a schema as plain data.
 *
 * @param schema the schema
 * @param options `messages`: the language of labels and hints, by its catalogue; default English
 * @returns a plain object, for `JSON.stringify`
 *
 * @example
 * describeSchema(passage).fields?.['beam']?.attributes; // { type: 'number', required: true, max: '5.2', step: 'any' }
 */
export function describeSchema(schema: Node, { messages }: { readonly messages?: Catalogue } = {}): SchemaDescription {
  const inWords = (label: Label): string => inLanguage(label, messages);
  /** Where parts are described. */
  const known = new Map<Part, string>();
  const all = (parts: Readonly<Record<string, Part>>, at: string): Record<string, SchemaDescription> =>
    Object.fromEntries(Object.entries(parts).map(([key, part]) => [key, read(part, at + pointerOf([key]))]));
  const read = (part: Part, at: string): SchemaDescription => {
    const description: MutableDescription = {
      kind: part.kind,
      traits: part.traits,
      label: inWords(part.label),
      hint: part.hint === undefined ? undefined : inWords(part.hint),
      always: part.settings.inJson?.absent !== 'accepted',
      rules: part.ruleList.map(describeRule),
    };
    if (!known.has(part)) known.set(part, at);
    const { default: standard } = part.settings;
    const first = typeof standard === 'function' ? undefined : travelling(part, standard);
    if (isJson(first)) description.default = first;
    if (isDeferred(part)) {
      const targetAt = known.get(part.target);
      const target = targetAt === undefined ? { target: read(part.target, `${at}/target`) } : { targetAt };
      Object.assign(description, { always: part.always, ...target });
    } else if (isField(part)) {
      description.always = part.mandatory || part.spec.emptyData !== undefined;
      description.attributes = toAttributes(nodeOf(part));
      if (part.spec.options) description.options = part.spec.options.map(({ value, label }) => ({ value, label: inWords(label) }));
      if (part.spec.definition) description.type = part.spec.definition.type;
      // What the data becomes, functions alone know.
      if (part.spec.mapped) Object.assign(description, { type: part.spec.mapped.type, traits: { ...part.traits, json: jsonTypeIn(part) } });
    } else if (isGroup(part)) {
      const { conditions, fieldRules } = part.clauses;
      const fields = all(Object.fromEntries(part.keys.map((key, i) => [key, part.parts[i]!])), `${at}/fields`);
      description.fields = conditions ? underConditions(fields, conditions.reach) : fields;
      if (part.isPartial)
        description.fields = Object.fromEntries(Object.entries(description.fields).map(([key, one]) => [key, { ...one, optional: true }]));
      if (fieldRules) description.fieldRules = byField(fieldRules.list, describeRule);
      if (conditions) description.appliesWhen = byField(conditions.list, ({ name }) => name);
    } else if (isList(part) || isDictionary(part)) description.item = read(part.part, `${at}/item`);
    else if (isVariant(part)) {
      const { key, cases, chooser } = part;
      Object.assign(description, {
        key,
        cases: all(cases, `${at}/cases`),
        chooser: read(chooser, `${at}/chooser`),
        always: isField(chooser) && chooser.mandatory,
      });
    }
    return description;
  };
  return read(partOf(schema), '');
}

/**
 * Returns what a recursive part stands for.
 *
 * @param whole the description of the schema
 * @param description that of a part in it
 * @returns the description of the part that it stands for; nothing for a part that is not recursive
 *
 * @example
 * const basin = group({ name: text('Name'), sides: list('Side basins', recursive((): Node => basin)) });
 * const whole = describeSchema(basin);
 * targetOf(whole, whole.fields!['sides']!.item!); // whole
 */
export function targetOf(whole: SchemaDescription, { target, targetAt }: SchemaDescription): SchemaDescription | undefined {
  if (targetAt === undefined) return target;
  return keysIn(targetAt).reduce<unknown>((of, key) => ownValue(of, key), whole) as SchemaDescription;
}
