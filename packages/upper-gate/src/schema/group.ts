// Groups: fields under names, with the rules between them. A form is a group.

import { DEV } from '#development';
import { assertUse } from './assertUse.ts';
import { assertFits } from './brand.ts';
import type { CHILDREN, DATA, LabelOr, Node, RAW, Settings, VALUE } from './node.ts';
import { nodeOf, Part, partOf, toSettings, type Location } from './part.ts';
import type { AnyRule, Rule } from './rule.ts';
import { HOSTILE } from './safeAccess.ts';

/** The fields of a group, by name. */
export interface Fields {
  readonly [name: string]: Node;
}

export interface GroupSettings extends Settings {
  /** `'refuse'`: keys that it does not know are findings (code `unknown`). Default: they are dropped. */
  readonly unknown?: 'refuse' | undefined;
}

/** What rules on a field get: its data, or `unknown` where the type is not known. */
type RuleValue<N extends Node> = N extends { readonly [VALUE]: infer V } ? V : NonNullable<N[typeof DATA]>;

/** One rule, or several in the order in which they report. */
export type OneOrMore<T> = T | readonly T[];

/**
 * Fields under names. `K` are the names of the fields that do not always apply. Every step returns a new group: groups
 * are values and can be used anywhere.
 */
export interface Group<F extends Fields, K extends keyof F = never> extends Node<
  { [P in keyof F]: F[P][typeof DATA] | (P extends K ? undefined : never) },
  { [P in keyof F]: F[P][typeof RAW] },
  F
> {
  readonly [DATA]: { [P in keyof F]: F[P][typeof DATA] | (P extends K ? undefined : never) };
  readonly [RAW]: { [P in keyof F]: F[P][typeof RAW] };
  readonly [CHILDREN]: F;
  /** The fields that were declared, for use elsewhere. */
  readonly fields: F;

  /**
   * Makes fields apply only while a condition on their siblings holds. A field that does not apply is neither validated nor
   * sent, and siblings read it as `undefined`. A condition that reads a field without a value does not hold.
   *
   * @example
   * .appliesWhen({ tug: (boat) => boat.beam > 4 })
   */
  appliesWhen<K2 extends keyof F>(when: {
    [P in K2]: (siblings: { [X in keyof F]: F[X][typeof DATA] | (X extends K ? undefined : never) }) => boolean | undefined;
  }): Group<F, K | K2>;

  /**
   * Adds rules that read other fields, keyed by the field that gets the finding. They run again when anything that they
   * read changes; nothing has to be listed.
   *
   * @example
   * .rules({ emailAgain: sameAs('email'), phone: requiredWhen((boat) => boat.callBack) })
   */
  rules(rules: {
    [P in keyof F]?: OneOrMore<Rule<RuleValue<F[P]>, { [X in keyof F]: F[X][typeof DATA] | (X extends K ? undefined : never) }, string>>;
  }): Group<F, K>;

  /**
   * Adds rules on the group as a whole. Their findings are on the group, or on the field whose `path` they give.
   *
   * @example
   * .groupRules(check((boat) => boat.lengthM * boat.beam < 90, 'This boat does not fit the chamber'))
   */
  groupRules(
    ...rules: readonly Rule<{ [X in keyof F]: F[X][typeof DATA] | (X extends K ? undefined : never) }, unknown, string>[]
  ): Group<F, K>;
}

/** A condition in `.appliesWhen()`: reads the siblings of its field. */
export type Predicate = (siblings: never) => unknown;

/** A rule of a step: on a field of the group (`.rules()`), or on the group itself (`.groupRules()`). */
export interface StepRule {
  /** The field; nothing: the group. */
  readonly key: string | undefined;
  readonly rule: AnyRule;
}

/** What the steps of a group have added. */
interface Steps {
  /** The conditions of a field; it applies while all hold. */
  readonly conditions: ReadonlyMap<string, readonly Predicate[]>;
  /** The rules on fields, in their order. */
  readonly fieldRules: readonly StepRule[];
  readonly groupRules: readonly AnyRule[];
}

/** A constructor of data objects; each group has its own, so that the engine knows their shape. They look like plain objects. */
function dataClass(): new () => Record<string, unknown> {
  const Data = function () {} as unknown as new () => Record<string, unknown>;
  Data.prototype = Object.prototype;
  return Data;
}

/** A group as the library's own machinery sees it. */
export class GroupPart extends Part {
  readonly kind = 'group';
  readonly isLeaf = false;
  readonly jsonType = 'object';
  readonly fields: Fields;
  readonly keys: readonly string[];
  readonly parts: readonly Part[];
  /** The position of each field. */
  readonly positions: ReadonlyMap<string, number>;
  readonly conditions: Steps['conditions'];
  /** All rules of the steps, in the order in which they report: those on fields, then those on the group. */
  readonly stepRules: readonly StepRule[];
  readonly hasAsyncRules: boolean;
  readonly unknown: 'refuse' | undefined;
  /** Makes its data. */
  readonly Data = dataClass();
  readonly #settings: GroupSettings;
  readonly #steps: Steps;

  constructor(settings: GroupSettings, fields: Fields, steps: Steps) {
    super(settings, steps.groupRules);
    this.#settings = settings;
    this.#steps = steps;
    this.unknown = settings.unknown;
    this.fields = fields;
    this.keys = Object.keys(fields);
    this.parts = this.keys.map((key) => partOf(fields[key]!));
    this.positions = new Map(this.keys.map((key, index) => [key, index]));
    this.conditions = steps.conditions;
    this.stepRules = [...steps.fieldRules, ...steps.groupRules.map((rule) => ({ key: undefined, rule }))];
    this.hasAsyncRules = this.parts.some((part) => part.hasAsyncRules) || this.stepRules.some(({ rule }) => rule.async);
  }

  appliesWhen(when: Readonly<Record<string, Predicate>>): GroupPart {
    const conditions = new Map(this.conditions);
    for (const [key, predicate] of Object.entries(when)) {
      this.#assertKey(key, 'appliesWhen');
      conditions.set(key, [...(conditions.get(key) ?? []), predicate]);
    }
    return this.#with({ conditions });
  }

  rules(rules: Readonly<Record<string, OneOrMore<AnyRule> | undefined>>): GroupPart {
    const added = Object.entries(rules).flatMap(([key, given]) => {
      this.#assertKey(key, 'rules');
      return [given ?? []].flat().map((rule): StepRule => {
        assertFits(rule, DEV && `What rules() got for "${key}" is not a rule. Give check(...), sameAs(...) or another rule.`);
        return { key, rule: this.#withOtherLabel(rule) };
      });
    });
    return this.#with({ fieldRules: [...this.#steps.fieldRules, ...added] });
  }

  groupRules(...rules: readonly AnyRule[]): GroupPart {
    return this.#with({ groupRules: [...this.#steps.groupRules, ...rules] });
  }

  #with(steps: Partial<Steps>): GroupPart {
    return new GroupPart(this.#settings, this.fields, { ...this.#steps, ...steps });
  }

  #assertKey(key: string, step: string): void {
    assertUse(
      this.positions.has(key),
      DEV && `${step}() names the field "${key}", which the group does not have. It has: ${this.keys.join(', ')}.`,
    );
  }

  /** A rule on another field (`params.other`) learns that field's label here, for its message. */
  #withOtherLabel(rule: AnyRule): AnyRule {
    const { other } = rule.params;
    if (typeof other !== 'string') return rule;
    this.#assertKey(other, rule.name);
    return { ...rule, params: { ...rule.params, otherLabel: this.fields[other]!.label } };
  }

  isEmpty(): boolean {
    return false;
  }

  override locate(key: string): Location | undefined {
    const position = this.positions.get(key);
    return position === undefined ? undefined : { part: this.parts[position]!, position };
  }
}

export const isGroup = (part: Part): part is GroupPart => 'stepRules' in part;

/**
 * A group of fields under names: a form, or a part of one.
 *
 * @param fields the fields, by name, in the order in which they report
 * @param settings its label, or label and settings, for messages on the group as a whole
 * @throws TypeError for a name that no field can have (empty, with a dot, `__proto__`), or a value that is no field
 *
 * @example
 * const berth = group({ name: text('Name', required()), lengthM: number('Length (m)') });
 * type Berth = DataOf<typeof berth>; // { name: string; lengthM: number | undefined }
 */
export function group<F extends Fields>(fields: F, settings: LabelOr<GroupSettings> = 'Form'): Group<F> {
  for (const [key, field] of Object.entries(fields)) {
    assertUse(
      key !== '' && !key.includes('.') && !HOSTILE.includes(key),
      DEV && `"${key}" cannot be the name of a field: a name is not empty, has no dot, and is not one of ${HOSTILE.join(', ')}.`,
    );
    assertFits(field, DEV && `The field "${key}" is not a field. Make it with text("${key}"), number("${key}") or another kind.`);
  }
  return nodeOf(new GroupPart(toSettings(settings), { ...fields }, { conditions: new Map(), fieldRules: [], groupRules: [] }));
}
