// Fields: the leaves of a schema. A kind says how a field reads what its control holds into data, and writes it back.

import { valueMissing } from '../messages/en.ts';
import { badValue } from '../messages/enEnter.ts';
import type { Text } from '../messages/text.ts';
import { HOLE, Part, settingsOf, type DATA, type KIDS, type LabelOr, type Node, type RAW, type Settings } from './node.ts';
import type { AnyRule, Rule, Verdict } from './rule.ts';
import { refuse, report, reportCrash, type Run } from './run.ts';

/** One field of a form: `D` the data it yields, `R` what its control holds. */
export interface Field<out D = unknown, out R = unknown> extends Node<D, R, NoKids> {
  readonly [DATA]: D;
  readonly [RAW]: R;
  readonly [KIDS]: NoKids;
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
export const illegible = (say: Text = badValue): Unreadable => new Unreadable({ code: 'badInput', say });
export const UNREADABLE = /* @__PURE__ */ illegible();

/** The verdict on an empty value that is needed. */
export const MISSING: Verdict = { code: 'valueMissing', say: valueMissing };

/** How a field reads and writes its value. */
export interface Kind {
  readonly name: string;
  /** From what a control (or JSON) holds to data; `blank` where it is empty. What it throws is a finding, and a fault. */
  readonly read: (raw: unknown) => unknown;
  /** From data, or raw, to what a control can hold. */
  readonly write?: (value: unknown) => unknown;
  /** The data of an empty control. */
  readonly blank?: unknown;
  /** The raw value of an empty control; default `''`. */
  readonly empty?: unknown;
  /** Whether an empty value that is not `undefined` is empty to the other rules too, as an `undefined` one is. */
  readonly vacuous?: true;
  /** Whether two raw values are the same; default `Object.is`. */
  readonly same?: (a: unknown, b: unknown) => boolean;
  /** The type of its values in JSON; default `'string'`. */
  readonly json?: 'string' | 'number' | 'boolean' | 'array' | 'object' | 'any';
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
  readonly how: Kind;
  /** The rule that asks for a value, if there is one. */
  readonly required: AnyRule | undefined;
  /** Whether there is no data without a value: the rule that asks for one blocks. */
  readonly demands: boolean;
  /** The rules that judge at once. */
  readonly sync: readonly AnyRule[];
  /** The rules that ask over the network. */
  readonly async: readonly AnyRule[];

  constructor(how: Kind, settings: LabelOr<Settings>, rules: readonly AnyRule[]) {
    super(settingsOf(settings), rules);
    this.kind = how.name;
    this.how = how;
    this.required = rules.find((rule) => rule.need);
    this.demands = this.required !== undefined && (this.required.severity ?? 'error') === 'error';
    this.sync = rules.filter((rule) => rule.judge);
    this.async = rules.filter((rule) => rule.ask);
  }

  get asks(): boolean {
    return this.async.length > 0;
  }

  takesJson(value: unknown): boolean {
    const { json = 'string' } = this.how;
    return json === 'any' || json === (Array.isArray(value) ? 'array' : value === null ? 'null' : typeof value);
  }

  override isBlank(data: unknown): boolean {
    return data === this.how.blank;
  }

  override passes(data: unknown): boolean {
    return data === undefined || (data === this.how.blank && (this.required !== undefined || this.how.vacuous === true));
  }

  judge(raw: unknown, run: Run): unknown {
    const { required, sync } = this;
    let value: unknown;
    try {
      value = this.how.read(raw);
    } catch (error) {
      reportCrash(run, this, 'read', error);
      run.broken = true;
      return HOLE;
    }
    if (value instanceof Unreadable) return refuse(run, this, undefined, value.verdict);
    if (value === this.how.blank) {
      if (this.demands && value === undefined) return refuse(run, this, required, MISSING);
      if (required) report(run, this, required, MISSING);
      if (this.passes(value)) return value;
    }
    for (let i = 0; i < sync.length; i += 1) {
      try {
        const told = sync[i]!.judge!(value as never, undefined as never, run.now);
        if (told !== undefined) report(run, this, sync[i], told);
      } catch (error) {
        reportCrash(run, this, sync[i]!.name, error);
      }
    }
    if (run.questions) for (const rule of this.async) run.entries.push({ path: '', part: this, rule, value, siblings: undefined });
    return value;
  }
}
