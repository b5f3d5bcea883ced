// One walk over a whole value: what the parts of a schema hand their findings to.
//
// Paths grow on the way up: a part reports relative to itself, and whoever walks it puts its key before what it reported.

import { skipsRules, dataOf, evaluateField, readValue, verdictsIn } from '../evaluate/field.ts';
import { toFinding } from '../evaluate/finding.ts';
import { sortByPath } from '../evaluate/order.ts';
import { runRule } from '../evaluate/rule.ts';
import type { Catalogue } from '../messages/text.ts';
import { isField, UNREADABLE, VALUE_MISSING, type FieldPart } from '../schema/field.ts';
import { join } from '../schema/finding.ts';
import type { GroupPart } from '../schema/group.ts';
import { NO_VALUE, WAITING } from '../schema/noValue.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule, Clock, Verdict } from '../schema/rule.ts';
import { INACCESSIBLE, jsonTypeOf } from '../schema/safeAccess.ts';
import type { Entry } from './entries.ts';
import { walkGroup, type GroupWalker } from './group.ts';

/**
 * How a value is held: `'form'` as controls and the bodies of forms hold it (mostly text), `'json'` by JSON's own types (a
 * number is not a text, `null` is a type of its own).
 */
export type ValueSource = 'form' | 'json';

/** What may be said of a walk. */
export interface WalkOptions {
  /** The language of the messages; default English. */
  readonly messages?: Catalogue;
  /** `'refuse'`: keys that the schema does not know are findings. Default: they are dropped. */
  readonly unknown?: 'refuse';
  /** How the value is held. Default `'form'`. */
  readonly source?: ValueSource;
  /** The present moment, for rules that depend on today's date. Default: that of the system. */
  readonly now?: Clock;
}

export class Walk implements GroupWalker {
  readonly entries: Entry[] = [];
  readonly catalogue: Catalogue | undefined;
  readonly now: Clock;
  readonly refuseUnknown: boolean;
  readonly isJson: boolean;
  /** Whether async rules leave a `PendingCheck` among the entries. */
  readonly collectAsync: boolean;
  missing = 0;
  depth = 0;
  /** Whether entries have come out of schema order. */
  unsorted = false;
  /** The data in which values are missing. */
  #incomplete: WeakSet<object> | undefined;

  constructor({ messages, unknown, source, now = () => new Date() }: WalkOptions, collectAsync: boolean) {
    this.catalogue = messages;
    this.now = now;
    this.refuseUnknown = unknown === 'refuse';
    this.isJson = source === 'json';
    this.collectAsync = collectAsync;
  }

  /** Walks a value as a whole; entries are in schema order then. @returns its data */
  whole(part: Part, raw: unknown): unknown {
    const data = this.instead(part, raw);
    if (this.unsorted && this.entries.length > 1) sortByPath(this.entries, part);
    return data;
  }

  isDue(): boolean {
    return true;
  }

  fault(error: unknown, rule: string): void {
    this.entries.push({ error, path: '', rule });
  }

  report(part: Part, rule: AnyRule | undefined, verdict: Verdict): void {
    this.entries.push(toFinding('', part, rule, verdict, this.catalogue));
    if (verdict.path) this.unsorted = true;
  }

  reject(part: Part, verdict: Verdict = UNREADABLE.verdict, rule?: AnyRule): typeof NO_VALUE {
    this.report(part, rule, verdict);
    this.missing += 1;
    return NO_VALUE;
  }

  child(part: Part, raw: unknown, key: string | number): unknown {
    const { length } = this.entries;
    const data = this.instead(part, raw);
    if (this.entries.length > length) this.prefix(length, key);
    return data;
  }

  /** Puts a key before the paths of all that was reported from an entry on. */
  prefix(from: number, key: string | number): void {
    const { entries } = this;
    for (let i = from; i < entries.length; i += 1) entries[i]!.path = join(String(key), entries[i]!.path);
  }

  instead(part: Part, raw: unknown, known?: string): unknown {
    return this.isJson && known === undefined ? this.#json(part, raw) : this.#walk(part, raw, known);
  }

  /** JSON is validated by its types first. */
  #json(part: Part, raw: unknown): unknown {
    const { nullable, absent } = part.inJson ?? {};
    const type = jsonTypeOf(raw);
    if (raw !== undefined && !(raw === null && nullable))
      return this.#walk(part, part.jsonType === 'any' || part.jsonType === type ? raw : INACCESSIBLE);
    if (absent === 'accepted') return undefined;
    return raw === undefined && absent === 'refused' ? this.reject(part, VALUE_MISSING, part.required) : this.#walk(part, undefined);
  }

  #walk(part: Part, raw: unknown, known?: string): unknown {
    return part.walk ? part.walk(raw, this) : isField(part) ? this.#field(part, raw) : walkGroup(part as GroupPart, raw, this, known);
  }

  #field(part: FieldPart, raw: unknown): unknown {
    const value = readValue(part, raw, this);
    const found = evaluateField(part, value, this);
    for (let i = 0; i < found.length; i += 1) this.report(part, found[i]!.rule, found[i]!.verdict);
    const data = dataOf(part, value);
    if (data === NO_VALUE) this.missing += 1;
    else if (this.collectAsync) for (const rule of part.async) this.#collect(part, data, rule, undefined);
    return data;
  }

  rules(part: Part, data: unknown): void {
    for (const rule of part.ruleList) this.rule(rule, part, data, this.readable(data));
  }

  /**
   * Runs a rule that may read siblings; findings are relative to its part.
   *
   * @param siblings the group that declares it, as callbacks read it
   */
  rule(rule: AnyRule, part: Part, data: unknown, siblings: unknown): void {
    if (rule.async) this.#collect(part, data, rule, siblings);
    else {
      const subject = {
        empty: data !== NO_VALUE && part.isEmpty(data),
        skipsRules: data !== NO_VALUE && skipsRules(part, data, this),
        readForRule: () => this.readable(data),
      };
      for (const verdict of verdictsIn(runRule(rule, subject, [siblings], this))) this.report(part, rule, verdict);
    }
  }

  #collect(part: Part, value: unknown, rule: AnyRule, siblings: unknown): void {
    if (this.collectAsync && value !== NO_VALUE && !skipsRules(part, value, this))
      this.entries.push({ path: '', part, rule, value: this.readable(value), siblings });
  }

  close(data: object, before: number): void {
    if (this.missing > before) (this.#incomplete ??= new WeakSet()).add(data);
  }

  /** Data as callbacks read it: where a value is missing, whoever reads that waits. */
  readable(data: unknown): unknown {
    if (data === NO_VALUE) throw WAITING;
    return this.#incomplete?.has(data as object)
      ? new Proxy(data as object, { get: (target, key) => this.readable(target[key as never]) })
      : data;
  }
}
