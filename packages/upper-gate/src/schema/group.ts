// Groups: fields under names, with the rules between them. A form is a group.
//
// Judging a group has two passes: each field by itself, in order; then the rules that read several fields.

import { assert } from '#development';
import { unknown } from '../messages/en.ts';
import { badValue } from '../messages/enEnter.ts';
import { settleConditions } from './conditions.ts';
import { walkPart } from './walkPart.ts';
import { runRule } from './runRule.ts';
import { NO_VALUE, Part, partOf, toSettings, type DATA, type CHILDREN, type LabelOr, type Node, type RAW, type Settings } from './node.ts';
import { HOSTILE, ownKeys, ownRaw, shapeOf } from './safeAccess.ts';
import type { AnyRule, Rule, Verdict } from './rule.ts';
import { isPendingCheck, prefixPaths, rejectValue, reportCrash, toFinding, type Walk } from './walk.ts';
import { makeView, viewProperties, WAITING, type Source } from './siblings.ts';

/** The fields of a group, by name. */
export interface Fields {
  readonly [name: string]: Node;
}

export interface GroupSettings extends Settings {
  /** `'refuse'`: keys that it does not know are findings (code `unknown`). Default: they are dropped. */
  readonly unknown?: 'refuse' | undefined;
}

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
   * Makes fields apply only while a condition on their siblings holds. A field that does not apply is neither judged nor
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
    [P in keyof F]?: OneOrMore<
      Rule<NonNullable<F[P][typeof DATA]>, { [X in keyof F]: F[X][typeof DATA] | (X extends K ? undefined : never) }, string>
    >;
  }): Group<F, K>;

  /**
   * Adds rules on the group as a whole. Their findings lie on the group, or on the field whose `path` they give.
   *
   * @example
   * .groupRules(check((boat) => boat.lengthM * boat.beam < 90, 'This boat does not fit the chamber'))
   */
  groupRules(
    ...rules: readonly Rule<{ [X in keyof F]: F[X][typeof DATA] | (X extends K ? undefined : never) }, unknown, string>[]
  ): Group<F, K>;
}

/** A rule of `.rules()`: on the field at `index`. */
interface CrossRule {
  readonly index: number;
  readonly rule: AnyRule;
}

type Predicate = (siblings: unknown) => unknown;

/** What the steps of a group have added. */
interface Steps {
  /** The conditions of a field; it applies while all hold. */
  readonly conditions: ReadonlyMap<string, readonly Predicate[]>;
  readonly crossRules: readonly CrossRule[];
  readonly groupRules: readonly AnyRule[];
}

const NOT_A_GROUP: Verdict = { code: 'badInput', text: badValue };

type Values = Readonly<Record<string, unknown>>;
type Data = Record<string, unknown>;

/** A constructor of data objects; each group has its own, so that the engine knows their shape. They look like plain objects. */
function dataClass(): new () => Data {
  const Data = function () {} as unknown as new () => Data;
  Data.prototype = Object.prototype;
  return Data;
}

/** The fault of conditions that depend on each other. */
export const circleError = (keys: readonly string[]): Error =>
  new Error(`The conditions of ${keys.join(', ')} in appliesWhen() read each other in a circle. These fields always apply.`);

/** A group as the library's own machinery sees it. */
export class GroupPart extends Part {
  readonly kind = 'group';
  readonly fields: Fields;
  readonly keys: readonly string[];
  readonly parts: readonly Part[];
  /** The index of each key. */
  readonly positions: ReadonlyMap<string, number>;
  readonly steps: Steps;
  readonly hasAsyncRules: boolean;
  readonly unknown: 'refuse' | undefined;
  readonly #Data = dataClass();
  #view: PropertyDescriptorMap | undefined;

  constructor(settings: GroupSettings, fields: Fields, steps: Steps) {
    super(settings, steps.groupRules);
    this.unknown = settings.unknown;
    this.fields = fields;
    this.keys = Object.keys(fields);
    this.parts = this.keys.map((key) => partOf(fields[key]!));
    this.positions = new Map(this.keys.map((key, index) => [key, index]));
    this.steps = steps;
    this.hasAsyncRules =
      this.parts.some((part) => part.hasAsyncRules) ||
      [...steps.crossRules.map(({ rule }) => rule), ...steps.groupRules].some((rule) => rule.async);
  }

  /** The properties of views on this group's fields. */
  get view(): PropertyDescriptorMap {
    return (this.#view ??= viewProperties(this.keys));
  }

  appliesWhen(when: Readonly<Record<string, Predicate>>): GroupPart {
    const conditions = new Map(this.steps.conditions);
    for (const key of Object.keys(when)) {
      this.#assertKey(key, 'appliesWhen()');
      conditions.set(key, [...(conditions.get(key) ?? []), when[key]!]);
    }
    return this.#with({ conditions: conditions });
  }

  rules(rules: Readonly<Record<string, OneOrMore<AnyRule> | undefined>>): GroupPart {
    const added = Object.keys(rules).flatMap((key) => {
      this.#assertKey(key, 'rules()');
      return [rules[key] ?? []].flat().map((rule): CrossRule => ({ index: this.positions.get(key)!, rule: this.#naming(rule) }));
    });
    return this.#with({ crossRules: [...this.steps.crossRules, ...added] });
  }

  groupRules(...rules: readonly AnyRule[]): GroupPart {
    return this.#with({ groupRules: [...this.steps.groupRules, ...rules] });
  }

  #with(steps: Partial<Steps>): GroupPart {
    return new GroupPart(this, this.fields, { ...this.steps, ...steps });
  }

  #assertKey(key: string, step: string): void {
    assert(
      () => !this.positions.has(key) && `${step} names the field "${key}", which the group does not have. It has: ${this.keys.join(', ')}.`,
    );
  }

  /** A rule on another field (`params.other`) learns that field's label here, for its message. */
  #naming(rule: AnyRule): AnyRule {
    const { other } = rule.params;
    if (typeof other !== 'string') return rule;
    this.#assertKey(other, rule.name);
    return { ...rule, params: { ...rule.params, otherLabel: this.fields[other]?.label } };
  }

  acceptsJson(value: unknown): boolean {
    return shapeOf(value) === 'object';
  }

  override child(key: string): Part | undefined {
    return this.parts[this.positions.get(key) ?? -1];
  }

  override positionOf(key: string): number | undefined {
    return this.positions.get(key);
  }

  override readForRule(data: unknown, run: Walk): unknown {
    return run.incomplete ? makeView(this.view, { read: (key) => this.#lookAt(data as Data, key, run) }) : data;
  }

  #lookAt(data: Data, key: string, run: Walk): unknown {
    const value = data[key];
    if (value === NO_VALUE) throw WAITING;
    return value === undefined ? value : this.parts[this.positions.get(key)!]!.readForRule(value, run);
  }

  /** @param also a key that is known beside those of the fields */
  walk(raw: unknown, run: Walk, also?: string): unknown {
    const shape = shapeOf(raw);
    if (shape !== 'none' && shape !== 'object') return rejectValue(run, this, undefined, NOT_A_GROUP);
    const values = (raw ?? {}) as Values;
    const { keys, steps } = this;
    const { entries } = run;
    const first = entries.length;
    const data = new this.#Data();
    let off: ReadonlySet<string> | undefined;
    if (steps.conditions.size > 0) {
      off = this.#judgeConditional(values, data, run);
    } else {
      // Enumeration is the engine's fastest way to read an object. It serves as long as the keys come in schema order.
      let i = 0;
      try {
        for (const key in values) {
          if (key !== keys[i] || !Object.prototype.hasOwnProperty.call(values, key)) break;
          this.#judgeField(i, values[key], data, run);
          i += 1;
        }
      } catch {
        // A getter or a proxy threw: the guarded reads below find out at which key.
      }
      for (; i < keys.length; i += 1) this.#judgeGuarded(i, values, data, run);
    }
    const own = entries.length;
    if (steps.crossRules.length + steps.groupRules.length > 0) this.#judgeAcross(data, run, off);
    if (run.refuseUnknown || this.unknown) this.#refuseUnknown(values, run, also);
    if (entries.length > own || off) run.unsorted = true;
    if (run.collectAsync)
      for (const entry of entries.slice(first)) if (isPendingCheck(entry)) entry.siblings ??= this.readForRule(data, run);
    return data;
  }

  /** Judges the fields that apply, and finds out which those are. */
  #judgeConditional(values: Values, data: Data, run: Walk): ReadonlySet<string> {
    // All keys from the start, so that data has them in schema order.
    for (const key of this.keys) data[key] = undefined;
    return settleConditions({
      keys: this.keys,
      judgeKey: (key) => this.#judgeGuarded(this.positions.get(key)!, values, data, run),
      read: (key) => this.#lookAt(data, key, run),
      holds: (key, siblings) => this.#holds(key, siblings, run),
      circle: (keys) => run.entries.push({ error: circleError(keys), path: '', rule: 'appliesWhen' }),
    });
  }

  #holds(key: string, siblings: Source, run: Walk): boolean {
    const first = run.entries.length;
    try {
      return (this.steps.conditions.get(key) ?? []).every((predicate) => predicate(makeView(this.view, siblings)));
    } catch (error) {
      if (error === WAITING) return false;
      reportCrash(run, this.parts[this.positions.get(key)!]!, 'appliesWhen', error);
      prefixPaths(run, first, key);
      return true;
    }
  }

  /** Judges one field whose reading may throw. */
  #judgeGuarded(index: number, values: Values, data: Data, run: Walk): void {
    this.#judgeField(index, ownRaw(values, this.keys[index]!), data, run);
  }

  /** Judges one field by itself, into the data. */
  #judgeField(index: number, raw: unknown, data: Data, run: Walk): void {
    const key = this.keys[index]!;
    const first = run.entries.length;
    data[key] = walkPart(this.parts[index]!, raw, run);
    if (run.entries.length !== first) prefixPaths(run, first, key);
  }

  /** Judges the rules between fields; those on fields in `off` do not apply. */
  #judgeAcross(data: Data, run: Walk, off: ReadonlySet<string> | undefined): void {
    const siblings = this.readForRule(data, run);
    for (const { index, rule } of this.steps.crossRules) {
      const key = this.keys[index]!;
      if (off?.has(key) || data[key] === NO_VALUE) continue;
      const first = run.entries.length;
      runRule(rule, this.parts[index]!, data[key], siblings, run);
      prefixPaths(run, first, key);
    }
    for (const rule of this.steps.groupRules) runRule(rule, this, data, siblings, run);
  }

  #refuseUnknown(values: Values, run: Walk, also: string | undefined): void {
    for (const name of ownKeys(values)) {
      if (!this.positions.has(name) && name !== also)
        run.entries.push(toFinding(name, this, undefined, { code: 'unknown', text: unknown, params: { name } }, run.catalogue));
    }
  }
}

/**
 * A group of fields under names: a form, or a part of one.
 *
 * @param fields the fields, by name, in the order in which they report
 * @param settings its label, or label and settings, for messages on the group as a whole
 * @throws TypeError (in development) for a name that cannot be one (empty, with a dot, `__proto__`), or a value that is no field
 *
 * @example
 * const berth = group({ name: text('Name', required()), lengthM: number('Length (m)') });
 * type Berth = DataOf<typeof berth>; // { name: string; lengthM: number | undefined }
 */
export function group<F extends Fields>(fields: F, settings: LabelOr<GroupSettings> = 'Form'): Group<F> {
  for (const key of Object.keys(fields)) {
    assert(
      () =>
        (key === '' || key.includes('.') || HOSTILE.includes(key)) &&
        `"${key}" cannot be the name of a field: names are not empty, have no dot, and are none of ${HOSTILE.join(', ')}.`,
    );
    assert(
      () =>
        !((fields[key] as unknown) instanceof Part) &&
        `The field "${key}" is not a field. Make it with text("${key}"), number("${key}") or another kind.`,
    );
  }
  return new GroupPart(toSettings(settings), { ...fields }, { conditions: new Map(), crossRules: [], groupRules: [] }) as never;
}
