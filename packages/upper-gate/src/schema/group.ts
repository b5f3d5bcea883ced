// Groups: fields under names, with the rules between them. A form is a group.

import { DEV } from '#development';
import { assertUse, wrongUse } from './assertUse.ts';
import { assertFits, isBranded } from './brand.ts';
import type { List } from './list/list.ts';
import type { CHILDREN, DATA, LabelOr, Node, RAW, Settings, VALUE } from './node.ts';
import { nodeOf, Part, partOf, toSettings, type Location, type Piece, type SeenPiece, type StepPlace } from './part.ts';
import type { AnyRule, Mark, Rule } from './rule.ts';
import { HOSTILE, isName, jsonTypeOf, ownRaw } from './safeAccess.ts';
import { makeView } from './view.ts';

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

/** Data `D` of a part that is there only while conditions hold: `C` is `true`, or an object of such, keyed like the data. */
type Under<N, D, C> = (C extends true ? undefined : never) | ([Exclude<keyof C, keyof true>] extends [never] ? D : Inside<N, D, C>);
type Inside<N, D, C> =
  N extends List<infer I>
    ? D extends readonly (infer R)[]
      ? Inside<I, R, C>[]
      : D
    : N extends { readonly key: infer Key extends string; readonly cases: infer A }
      ? D extends { readonly [X in Key]: infer V extends keyof C & keyof A }
        ? Inside<A[V], D, C[V]>
        : D
      : N extends Node<unknown, unknown, infer K>
        ? { [P in keyof D]: P extends keyof C & keyof K ? Under<K[P], D[P], C[P]> : D[P] }
        : D;
/** The conditions that a step adds, as `Under` takes them. */
type ConditionsIn<W> = W extends (...args: never[]) => unknown ? true : { [P in keyof W]: ConditionsIn<W[P]> };

/** Rules on fields, keyed like the data: a list's key stands for each of its rows, a variant's for an object of its cases. */
type RulesIn<F extends Fields, B, L> = {
  readonly [P in keyof F]?:
    OneOrMore<Rule<RuleValue<F[P]>, B, Mark, L>> | RulesBelow<F[P], B, P extends keyof L ? NonNullable<L[P]> : never>;
};
type RulesBelow<N extends Node, B, D> =
  N extends List<infer I>
    ? RulesBelow<I, B, D extends readonly (infer R)[] ? R : never>
    : N extends { readonly key: infer Key extends string; readonly cases: infer C extends Fields }
      ? { readonly [V in keyof C]?: RulesBelow<C[V], B, Omit<Extract<D, { readonly [X in Key]: V }>, Key>> }
      : [keyof N[typeof CHILDREN]] extends [never]
        ? never
        : N[typeof CHILDREN] extends infer K extends Fields
          ? RulesIn<K, B, D>
          : never;

/** The same for conditions: what `W` holds for a part. */
type ConditionOn<N extends Node, W, B, L, P> =
  ((siblings: B, beside: L) => boolean | undefined) | ConditionsBelow<N, W, B, P extends keyof L ? NonNullable<L[P]> : never>;
type ConditionsBelow<N extends Node, W, B, D> =
  N extends List<infer I>
    ? ConditionsBelow<I, W, B, D extends readonly (infer R)[] ? R : never>
    : N extends { readonly key: infer Key extends string; readonly cases: infer C extends Fields }
      ? { [V in keyof W]: V extends keyof C ? ConditionsBelow<C[V], W[V], B, Omit<Extract<D, { readonly [X in Key]: V }>, Key>> : never }
      : N[typeof CHILDREN] extends infer K extends Fields
        ? { [P in keyof W]: P extends keyof K ? ConditionOn<K[P], W[P], B, D, P> : never }
        : never;

/**
 * Fields under names. `C` names those that do not always apply. Every step returns a new group: groups are values and can be used
 * anywhere.
 */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- no field has a condition
export interface Group<F extends Fields, C = {}> extends Node<
  { [P in keyof F]: P extends keyof C ? Under<F[P], F[P][typeof DATA], C[P]> : F[P][typeof DATA] },
  { [P in keyof F]: F[P][typeof RAW] },
  F
> {
  readonly [DATA]: { [P in keyof F]: P extends keyof C ? Under<F[P], F[P][typeof DATA], C[P]> : F[P][typeof DATA] };
  readonly [RAW]: { [P in keyof F]: F[P][typeof RAW] };
  readonly [CHILDREN]: F;
  /** The declared fields, to use elsewhere. */
  readonly fields: F;

  /**
   * Makes fields apply only while a condition holds. The condition reads the siblings; for a field further in, it reads the
   * data of this group and then the fields beside that field. A field that doesn't apply is neither validated nor sent, and
   * this group reads it as `undefined`; rules further in that read it wait. A condition that reads a field without a value
   * does not hold.
   *
   * @param when the conditions, by the name of the field
   * @returns a new group
   *
   * @example
   * .appliesWhen({ tug: (boat) => boat.beam > 4 })
   * .appliesWhen({ crew: { permit: (boat, member) => boat.dangerous && member.role === 'skipper' } })
   */
  appliesWhen<
    W extends {
      [P in keyof W]: P extends keyof F
        ? ConditionOn<
            F[P],
            W[P],
            { [X in keyof F]: X extends keyof C ? Under<F[X], F[X][typeof DATA], C[X]> : F[X][typeof DATA] },
            { [X in keyof F]: X extends keyof C ? Under<F[X], F[X][typeof DATA], C[X]> : F[X][typeof DATA] },
            P
          >
        : never;
    },
  >(
    when: W,
  ): Group<F, C & ConditionsIn<W>>;

  /**
   * Adds rules that read other fields, by the name of the field that gets the finding; for fields further in, nested like the
   * data. They run again when anything that they read changes.
   *
   * @param rules a rule, or several, by the name of the field
   * @returns a new group
   *
   * @example
   * .rules({ emailAgain: sameAs('email'), phone: requiredWhen((boat) => boat.callBack) })
   * .rules({ crew: { permit: requiredWhen((boat, member) => boat.dangerous && member.role === 'skipper') } })
   */
  rules(
    rules: RulesIn<
      F,
      { [X in keyof F]: X extends keyof C ? Under<F[X], F[X][typeof DATA], C[X]> : F[X][typeof DATA] },
      { [X in keyof F]: X extends keyof C ? Under<F[X], F[X][typeof DATA], C[X]> : F[X][typeof DATA] }
    >,
  ): Group<F, C>;

  /**
   * Adds rules on the group as a whole. Their findings are on the group, or on the field in their `path`.
   *
   * @param rules the rules; each gets the data of the group
   * @returns a new group
   *
   * @example
   * .groupRules(check((boat) => boat.lengthM * boat.beam < 90, 'This boat does not fit the chamber'))
   */
  groupRules(
    ...rules: readonly Rule<
      { [X in keyof F]: X extends keyof C ? Under<F[X], F[X][typeof DATA], C[X]> : F[X][typeof DATA] },
      unknown,
      Mark
    >[]
  ): Group<F, C>;
}

/** A condition in `.appliesWhen()`: reads the group that declares it, then the fields beside its own. */
export type Predicate = (siblings: never, beside: never) => unknown;

/** Where a step leads: the names of the fields on the way in; none: the group itself. A list's rows have none on it. */
export type Way = readonly string[];

/** A rule of a step: on a field (`.rules()`), or on the group itself (`.groupRules()`). */
export interface StepRule {
  readonly way: Way;
  readonly rule: AnyRule;
}

/** A condition of a field; it applies while all of them hold. */
export interface StepCondition {
  readonly way: Way;
  readonly when: Predicate;
}

/** What the steps of a group have added. */
interface Steps {
  readonly conditions: readonly StepCondition[];
  /** The rules on fields, in their order. */
  readonly fieldRules: readonly StepRule[];
  readonly groupRules: readonly AnyRule[];
}

const NO_STEPS: Steps = { conditions: [], fieldRules: [], groupRules: [] };

/** Steps as written: by field, nested like the data. */
export interface Written<T> {
  readonly [key: string]: T | Written<T> | undefined;
}

/** A constructor of data objects; each group has its own, so that the engine knows their shape. They look like plain objects. */
function dataClass(): new () => Record<string, unknown> {
  const Data = function () {} as unknown as new () => Record<string, unknown>;
  Data.prototype = Object.prototype;
  return Data;
}

/** What the steps of a group say of a part, and of what is in it, by the names on the way there. */
export interface StepTree {
  readonly conditions: Predicate[];
  readonly rules: { readonly rule: AnyRule; readonly index: number }[];
  readonly below: Map<string, StepTree>;
}

function treeOf(conditions: readonly StepCondition[], rules: readonly StepRule[]): StepTree {
  const newTree = (): StepTree => ({ conditions: [], rules: [], below: new Map() });
  const root = newTree();
  const at = (way: Way): StepTree =>
    way.reduce((tree, key) => {
      const next = tree.below.get(key) ?? newTree();
      tree.below.set(key, next);
      return next;
    }, root);
  for (const { way, when } of conditions) at(way).conditions.push(when);
  rules.forEach(({ way, rule }, index) => at(way).rules.push({ rule, index }));
  return root;
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
  /** All conditions of the steps. */
  readonly conditions: readonly StepCondition[];
  /** All rules of the steps, in the order in which they report: those on fields, then those on the group. */
  readonly stepRules: readonly StepRule[];
  /** The same, by field. */
  readonly steps: StepTree;
  readonly unknown: 'refuse' | undefined;
  /** Whether only the fields that are there count. */
  readonly isPartial: boolean;
  /** Makes its data. */
  readonly Data = dataClass();
  readonly #settings: GroupSettings;
  readonly #steps: Steps;

  constructor(settings: GroupSettings, fields: Fields, steps: Steps = NO_STEPS, isPartial = false) {
    super(settings, steps.groupRules);
    assertNames(fields);
    this.isPartial = isPartial;
    this.#settings = settings;
    this.#steps = steps;
    this.unknown = settings.unknown;
    this.fields = fields;
    this.keys = Object.keys(fields);
    this.parts = this.keys.map((key) => partOf(fields[key]!));
    this.positions = new Map(this.keys.map((key, index) => [key, index]));
    this.conditions = steps.conditions;
    this.stepRules = [...steps.fieldRules, ...steps.groupRules.map((rule) => ({ way: [], rule }))];
    this.steps = treeOf(this.conditions, this.stepRules);
  }

  appliesWhen(when: Written<Predicate>): GroupPart {
    const added = this.#flatten(when, 'appliesWhen', (at, given) => {
      assertUse(
        given.every((each) => typeof each === 'function'),
        DEV && `What appliesWhen() got for "${at}" is no condition. Give a function: (siblings) => siblings.callBack.`,
      );
      return given as readonly Predicate[];
    });
    return this.#with({ conditions: [...this.conditions, ...added.map(([way, predicate]) => ({ way, when: predicate }))] });
  }

  rules(rules: Written<OneOrMore<AnyRule>>): GroupPart {
    const added = this.#flatten(rules, 'rules', (at, given) => {
      for (const rule of given)
        assertFits(rule, DEV && `What rules() got for "${at}" is not a rule. Give check(...), sameAs(...) or another rule.`);
      return given as readonly AnyRule[];
    });
    return this.#with({
      fieldRules: [...this.#steps.fieldRules, ...added.map(([way, rule]) => ({ way, rule: this.#withOtherLabel(rule) }))],
    });
  }

  groupRules(...rules: readonly AnyRule[]): GroupPart {
    return this.#with({ groupRules: [...this.#steps.groupRules, ...rules] });
  }

  #with(steps: Partial<Steps>): GroupPart {
    return new GroupPart(this.#settings, this.fields, { ...this.#steps, ...steps });
  }

  /** A group of the same settings. @param keepsSteps whether with the same steps */
  withFields(fields: Fields, keepsSteps: boolean, isPartial = false): GroupPart {
    return new GroupPart(this.#settings, fields, keepsSteps ? this.#steps : NO_STEPS, isPartial);
  }

  /** What was written for fields here and further in, with the way to each. @param check throws for what does not fit the step */
  #flatten<T>(written: object, step: string, check: (at: string, given: readonly unknown[]) => readonly T[]): [way: Way, T][] {
    const below = (part: Part, given: object, before: Way): [Way, T][] =>
      Object.entries(given).flatMap(([key, value]: [string, unknown]): [Way, T][] => {
        if (value === undefined) return [];
        const way = [...before, key];
        const inner = part.stepInto(key);
        if (!inner) this.#throwUnknown(way.join('.'), part, step);
        // A rule is an object as well, with a brand.
        const isNested = typeof value === 'object' && value !== null && !Array.isArray(value) && !isBranded(value);
        if (isNested && !inner.part.isLeaf) return below(inner.part, value, way);
        assertUse(!inner.isBetween, DEV && `${step}() got a rule for the case "${way.join('.')}". Name its fields: { ${key}: { ... } }.`);
        return check(way.join('.'), [value].flat()).map((each) => [way, each]);
      });
    return below(this, written, []);
  }

  #throwUnknown(at: string, part: Part, step: string): never {
    throw wrongUse(
      DEV && `${step}() names the field "${at}", which the group does not have. There are: ${part.stepNames.join(', ') || 'none'}.`,
    );
  }

  /** A rule on another field (`params.other`) learns that field's label here, for its message. */
  #withOtherLabel(rule: AnyRule): AnyRule {
    const { other } = rule.params;
    if (typeof other !== 'string') return rule;
    const position = this.positions.get(other) ?? this.#throwUnknown(other, this, rule.name);
    return { ...rule, params: { ...rule.params, otherLabel: this.parts[position]!.label } };
  }

  override get inner(): readonly Part[] {
    return this.parts;
  }

  override get isAsync(): boolean {
    return this.stepRules.some(({ rule }) => rule.async);
  }

  override get isConditional(): boolean {
    return this.conditions.length > 0;
  }

  isEmpty(): boolean {
    return false;
  }

  override stepInto(key: string): StepPlace | undefined {
    const part = this.locate(key)?.part;
    return part && { part, isBetween: false };
  }

  override get stepNames(): readonly string[] {
    return this.keys;
  }

  override pieces(raw: unknown): readonly Piece[] | undefined {
    const type = jsonTypeOf(raw);
    if (type !== 'none' && type !== 'object') return undefined;
    const values = raw ?? {};
    const keys = this.isPartial ? this.keys.filter((key) => Object.hasOwn(values, key)) : this.keys;
    return keys.map((key) => ({ part: this.locate(key)!.part, raw: ownRaw(values, key), key, step: key }));
  }

  override see(pieces: readonly SeenPiece[]): object {
    const byKey = new Map(pieces.map((piece) => [piece.key, piece]));
    return makeView(this.keys, (key) => byKey.get(key)?.read());
  }

  override locate(key: string): Location | undefined {
    const position = this.positions.get(key);
    return position === undefined ? undefined : { part: this.parts[position]!, position };
  }
}

/** Throws for names that no field can have, and for what is no field. @throws TypeError */
function assertNames(fields: Fields): void {
  for (const [key, field] of Object.entries(fields)) {
    assertUse(
      isName(key),
      DEV && `"${key}" cannot be the name of a field: a name is not empty, has no dot, and is not one of ${HOSTILE.join(', ')}.`,
    );
    assertFits(field, DEV && `The field "${key}" is not a field. Make it with text("${key}"), number("${key}") or another kind.`);
  }
}

export const isGroup = (part: Part): part is GroupPart => 'stepRules' in part;

/**
 * Makes a group of fields under names: a form, or a part of one.
 *
 * @param fields the fields, by name, in the order in which they report
 * @param settings its label, or label and settings, for messages on the group as a whole
 * @returns the group
 * @throws TypeError for a name that no field can have (empty, with a dot, `__proto__`), or a value that is no field
 *
 * @example
 * const berth = group({ name: text('Name', required()), lengthM: number('Length (m)') });
 * type Berth = DataOf<typeof berth>; // { name: string; lengthM: number | undefined }
 */
export const group = <F extends Fields>(fields: F, settings: LabelOr<GroupSettings> = 'Form'): Group<F> =>
  nodeOf(new GroupPart(toSettings(settings), { ...fields }));
