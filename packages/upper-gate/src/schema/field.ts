// Fields: the leaves of a schema. A kind says how a field reads what its control holds into data, and writes it back.

import { valueMissing } from '../messages/en.ts';
import { badValue } from '../messages/enEnter.ts';
import type { Text } from '../messages/text.ts';
import { NO_VALUE, Part, toSettings, type DATA, type CHILDREN, type LabelOr, type Node, type RAW, type Settings } from './node.ts';
import type { AnyRule, Rule, Verdict } from './rule.ts';
import { rejectValue, report, reportCrash, type Walk } from './walk.ts';

/** One field of a form: `D` the data it yields, `R` what its control holds. */
export interface Field<out D = unknown, out R = unknown> extends Node<D, R, NoKids> {
  readonly [DATA]: D;
  readonly [RAW]: R;
  readonly [CHILDREN]: NoKids;
}
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- a field has no children, under any key
type NoKids = {};

/** The data type of a field: `required()` turns `T | undefined` into `T`. */
export type Optional<T, Q extends string> = [Q] extends [never] ? T | undefined : T;

/** The rules that fit a field of values `T`; the mark `Q` is all that is inferred from them. */
export type RulesFor<T, Q extends string> = readonly Rule<T, unknown, Q>[];

/** A raw value that a kind cannot read. */
export class Unreadable {
  readonly verdict: Verdict;
  constructor(verdict: Verdict) {
    this.verdict = verdict;
  }
}

/** What a kind's `read` returns for a value that it cannot read; `say` tells what it wants. */
export const unreadableAs = (say: Text = badValue): Unreadable => new Unreadable({ code: 'badInput', text: say });
export const UNREADABLE = /* @__PURE__ */ unreadableAs();

/** The verdict on an empty value that is needed. */
export const VALUE_MISSING: Verdict = { code: 'valueMissing', text: valueMissing };

/** How a field reads and writes its value. */
export interface Kind {
  readonly name: string;
  /** From what a control (or JSON) holds to data; `blank` where it is empty. What it throws is a finding, and a fault. */
  readonly read: (raw: unknown) => unknown;
  /** From data, or raw, to what a control can hold. */
  readonly write?: (value: unknown) => unknown;
  /** The data of an empty control. */
  readonly emptyData?: unknown;
  /** The raw value of an empty control; default `''`. */
  readonly emptyRaw?: unknown;
  /** Whether an empty value that is not `undefined` is empty to the other rules too, as an `undefined` one is. */
  readonly skipsRulesWhenEmpty?: true;
  /** Whether two raw values are the same; default `Object.is`. */
  readonly same?: (a: unknown, b: unknown) => boolean;
  /** The type of its values in JSON; default `'string'`. */
  readonly jsonType?: 'string' | 'number' | 'boolean' | 'array' | 'object' | 'any';
  /** The settings of the kind itself, as data. */
  readonly details?: Readonly<Record<string, unknown>>;
  /** Values it may take, where they are given one by one. */
  readonly options?: readonly Option[];
}

/** One of the values of a choice, and how it is called. */
export interface Option<T extends string = string> {
  readonly value: T;
  readonly label: string;
}

/** A field as the library's own machinery sees it. */
export class FieldPart extends Part {
  readonly kind: string;
  readonly spec: Kind;
  /** The rule that asks for a value, if there is one. */
  readonly required: AnyRule | undefined;
  /** Whether there is no data without a value: the rule that asks for one blocks. */
  readonly mandatory: boolean;
  /** The rules that judge at once. */
  readonly sync: readonly AnyRule[];
  /** The rules that ask over the network. */
  readonly async: readonly AnyRule[];

  constructor(how: Kind, settings: LabelOr<Settings>, rules: readonly AnyRule[]) {
    super(toSettings(settings), rules);
    this.kind = how.name;
    this.spec = how;
    this.required = rules.find((rule) => rule.requires);
    this.mandatory = this.required !== undefined && (this.required.severity ?? 'error') === 'error';
    this.sync = rules.filter((rule) => rule.test);
    this.async = rules.filter((rule) => rule.async);
  }

  get hasAsyncRules(): boolean {
    return this.async.length > 0;
  }

  acceptsJson(value: unknown): boolean {
    const { jsonType = 'string' } = this.spec;
    return jsonType === 'any' || jsonType === (Array.isArray(value) ? 'array' : value === null ? 'null' : typeof value);
  }

  override isEmpty(data: unknown): boolean {
    return data === this.spec.emptyData;
  }

  override skipsRules(data: unknown): boolean {
    return data === undefined || (data === this.spec.emptyData && (this.required !== undefined || this.spec.skipsRulesWhenEmpty === true));
  }

  walk(raw: unknown, run: Walk): unknown {
    const { required, sync } = this;
    let value: unknown;
    try {
      value = this.spec.read(raw);
    } catch (error) {
      reportCrash(run, this, 'read', error);
      run.incomplete = true;
      return NO_VALUE;
    }
    if (value instanceof Unreadable) return rejectValue(run, this, undefined, value.verdict);
    if (value === this.spec.emptyData) {
      if (this.mandatory && value === undefined) return rejectValue(run, this, required, VALUE_MISSING);
      if (required) report(run, this, required, VALUE_MISSING);
      if (this.skipsRules(value)) return value;
    }
    for (let i = 0; i < sync.length; i += 1) {
      try {
        const result = sync[i]!.test!(value as never, undefined as never, run.now);
        if (result !== undefined) report(run, this, sync[i], result);
      } catch (error) {
        reportCrash(run, this, sync[i]!.name, error);
      }
    }
    if (run.collectAsync) for (const rule of this.async) run.entries.push({ path: '', part: this, rule, value, siblings: undefined });
    return value;
  }
}
