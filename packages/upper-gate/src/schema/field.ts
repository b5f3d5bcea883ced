// Fields: the leaves of a schema. A kind defines how a field reads what its control holds, and writes data back.

import { badValue } from '../messages/englishEnter.ts';
import { valueMissing } from '../messages/english.ts';
import type { Text } from '../messages/text.ts';
import { Branded, isBranded } from './brand.ts';
import type { Option, RawOptions } from './option.ts';
import type { CHILDREN, DATA, FieldSettings, LabelOr, Node, RAW } from './node.ts';
import { nodeOf, Part, toSettings } from './part.ts';
import type { KindDefinition } from './definition.ts';
import type { FieldHolding, JsonType, Traits } from './traits.ts';
import type { KindName } from './vocabulary.ts';
import { type AnyRule, isBlocking, type Mark, type Rule, type RunnableRule } from './rule.ts';
import type { Clock, Verdict } from './verdict.ts';

/** One field of a form: `D` is its data, `R` what its control holds. */
export interface Field<out D = unknown, out R = unknown> extends Node<D, R, NoChildren> {
  readonly [DATA]: D;
  readonly [RAW]: R;
  readonly [CHILDREN]: NoChildren;
}
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- a field has no children, under any key
type NoChildren = {};

/** The marks of the rules of a field, in their order. */
export type Marks = readonly Mark[];

/**
 * The rules that fit a field of values `T`. Only their marks are inferred from them. As long as none are, callbacks among them
 * get the type of their value from the first case; the second has one rule for each of `M`, so that rules which are there only
 * sometimes (`...(strict ? [required()] : [])`) are a list of unknown length. (Without `M extends unknown`, TypeScript would
 * take such a list for a tuple.)
 */
export type RulesFor<T, M extends Marks> = [M] extends [never]
  ? readonly Rule<T, unknown, Mark>[]
  : M extends unknown
    ? { readonly [P in keyof M]: Rule<T, unknown, M[P]> }
    : never;

/** The data type of a field: `required()` turns `T | undefined` into `T`, if it is there in every case. */
export type Optional<T, M extends Marks> = M extends readonly [infer First, ...infer Rest extends Marks]
  ? [First] extends ['required']
    ? T
    : Optional<T, Rest>
  : M extends readonly [...infer Rest extends Marks, infer Last]
    ? [Last] extends ['required']
      ? T
      : Optional<T, Rest>
    : T | undefined;

/** A raw value that a kind cannot read. */
export class Unreadable extends Branded {
  readonly verdict: Verdict;
  constructor(verdict: Verdict) {
    super();
    this.verdict = verdict;
  }
}

/** What a kind's `read` returns for a value that it cannot read; `text` asks for the right one. */
export const unreadableAs = (text: Text = badValue): Unreadable => new Unreadable({ code: 'badInput', text });
export const UNREADABLE = /* @__PURE__ */ unreadableAs();

/** Whether reading found a value unreadable, whichever copy of the library says so. */
export const isUnreadable = (value: unknown): value is Unreadable => isBranded(value) && 'verdict' in value;

/** The verdict on an empty value that is required. */
export const VALUE_MISSING: Verdict = { code: 'valueMissing', text: valueMissing };

/** A field of a form whose values are written by a language. */
export interface TranslatedField {
  raw: unknown;
  initial: unknown;
  saved: unknown;
  /** The value that a raw value has in a language; undefined if there is none. */
  readIn(raw: unknown, locale: string | undefined): unknown;
  /** From data to what a control can hold. */
  writeData(data: unknown): unknown;
  readRaw(): void;
  runRules(): void;
}

/** What is known of a kind of field. */
export interface FieldTraits extends Traits {
  readonly holds: FieldHolding;
}

/** How a field reads and writes its value. Its name is that of a kind in the table of all kinds, or of one that an author has defined. */
export type Kind = KindBody &
  ({ readonly name: KindName; readonly definition?: undefined } | { readonly name: string; readonly definition: KindDefinition });

interface KindBody {
  /** From what a control (or JSON) holds to data, in a language: `emptyData` if it is empty. What it throws is a finding, and a fault. */
  readonly read: (raw: unknown, locale: string) => unknown;
  /** The same for data as JSON, where it is another way. Default `read`. */
  readonly readJson?: (json: unknown) => unknown;
  /** From data to JSON. Default: they are JSON as they are. */
  readonly writeJson?: (data: unknown) => unknown;
  /** From data, or raw, told apart by type, to what a control can hold. */
  readonly write?: (value: unknown, locale: string) => unknown;
  /** The same for what is known to be data. Default `write`. */
  readonly writeData?: (data: unknown, locale: string) => unknown;
  /** Writes a field of a form again, in another language, if that is how the kind reads and writes. @param before the language until now */
  readonly translate?: (field: TranslatedField, before: string | undefined) => void;
  /** The data of an empty control. Default `undefined`. */
  readonly emptyData?: unknown;
  /** The raw value of an empty control. Default `''`. */
  readonly emptyRaw?: unknown;
  /** Whether two raw values are the same. Default `Object.is`. */
  readonly same?: (a: unknown, b: unknown) => boolean;
  readonly traits: FieldTraits;
  /** The settings of the kind itself, as data. */
  readonly details?: Readonly<Record<string, unknown>>;
  /** Where its data are made from those of the kind: their type in JSON, and in TypeScript. */
  readonly mapped?: { readonly json: JsonType; readonly type: string };
  /** How messages write limits, where these are not written as their type is. */
  readonly writeLimits?: Part['writeLimits'];
  /** Values it may take, where they are given one by one; and the same as controls hold them. */
  readonly options?: readonly Option[];
  readonly textOptions?: RawOptions;
}

/** Whether rules have nothing to report on a value. */
function acceptedBy(rules: readonly RunnableRule[]): (value: unknown, now: Clock) => boolean {
  const tests = rules.map((rule) => rule.test!);
  return (value, now) => {
    for (let i = 0; i < tests.length; i += 1) if (tests[i]!(value, undefined, now, undefined) !== undefined) return false;
    return true;
  };
}

/** A field as the library's own machinery sees it. */
export class FieldPart extends Part {
  readonly kind: string;
  readonly traits: FieldTraits;
  readonly spec: Kind;
  /** See `Kind`; here for speed: all fields are alike, their kinds are not. */
  readonly read: Kind['read'];
  readonly write: Kind['write'];
  readonly same: Kind['same'];
  readonly emptyRaw: unknown;
  readonly emptyData: unknown;
  /** Whether there is no data without a value: the rule that requires one blocks. */
  readonly mandatory: boolean;
  /** The rules that need nothing but the value. */
  readonly sync: readonly AnyRule[];
  /** Those that need more: an answer from elsewhere, params that depend on facts from outside. */
  readonly attached: readonly AnyRule[];
  override readonly options: RawOptions | undefined;
  override readonly writeLimits: Kind['writeLimits'];
  /**
   * Whether a value passes all its sync rules, as most do (bench: P1, P14). Only where they run at the same moment, and none of
   * them has a function of the author. May throw.
   */
  readonly accepts: ((value: unknown, now: Clock) => boolean) | undefined;
  /** Runs its rules in a live form, if a function among them may read facts from outside. */
  readonly follow: AnyRule['follow'];

  constructor(spec: Kind, settings: LabelOr<FieldSettings<unknown>>, rules: readonly AnyRule[], walk?: Part['walk']) {
    super(toSettings(settings), rules, walk);
    this.kind = spec.name;
    this.traits = spec.traits;
    this.spec = spec;
    this.options = spec.textOptions;
    this.writeLimits = spec.writeLimits;
    this.read = spec.read;
    this.write = spec.write;
    this.same = spec.same;
    this.emptyRaw = spec.emptyRaw === undefined ? '' : spec.emptyRaw;
    this.emptyData = spec.emptyData;
    this.mandatory = this.required !== undefined && isBlocking(this.required);
    this.sync = rules.filter((rule) => rule.test);
    this.attached = rules.filter((rule) => rule.walk !== undefined && !rule.test);
    this.follow = this.sync.find((rule) => rule.follow)?.follow;
    this.accepts =
      this.sync.length === 0 || this.sync.some((rule) => rule.follow ?? rule.skips ?? rule.on) ? undefined : acceptedBy(this.sync);
  }

  isEmpty(data: unknown): boolean {
    return data === this.emptyData;
  }
}

/** Makes a field, of the types that its kind declares. */
export const makeField = <D, R>(spec: Kind, settings: LabelOr<FieldSettings<unknown>>, rules: readonly AnyRule[]): Field<D, R> =>
  nodeOf(new FieldPart(spec, settings, rules));

export const isField = (part: Part): part is FieldPart => part.traits.hasParts !== true;

/** The type of the data of a part in JSON. */
export const jsonTypeIn = (part: Part): JsonType => (isField(part) && part.spec.mapped ? part.spec.mapped.json : part.traits.json);

/** What its author has defined, of a field of an own kind. */
export const definitionOf = (part: Part): KindDefinition | undefined => (isField(part) ? part.spec.definition : undefined);
