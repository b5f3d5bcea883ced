// One walk over a whole value: what the parts of a schema hand their findings to.
//
// Paths grow on the way up: a part reports relative to itself, and whoever walks it puts its key before what it reported.

import { toFinding } from '../evaluate/finding.ts';
import { CRASHED } from '../evaluate/rule.ts';
import { isAbsent, isRefused, rawInJson } from '../evaluate/json.ts';
import type { Catalogue } from '../messages/text.ts';
import { assertNumber } from '../schema/assertUse.ts';
import { checkContext } from '../schema/context/checkContext.ts';
import type { ContextValue } from '../schema/context/context.ts';
import { swapSource, type ContextSource } from '../schema/context/running.ts';
import { isField, UNREADABLE, VALUE_MISSING } from '../schema/field.ts';
import { join, type Finding, BESIDE, stepOf } from '../schema/finding.ts';
import type { GroupPart } from '../schema/group.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { Part } from '../schema/part.ts';
import { blocks } from '../schema/severity.ts';
import type { Clock, Reporter, Verdict } from '../schema/verdict.ts';
import type { WalkView } from '../schema/walker.ts';
import type { Entry } from './entries.ts';
import { walkField } from './field.ts';
import { walkGroup, type GroupWalker } from './group.ts';

/**
 * How a value is written: `'form'` as controls and form bodies hold it (mostly text), `'json'` by its JSON types (a number is
 * not a text, `null` is a type).
 */
export type ValueSource = 'form' | 'json';

/** The options of a walk. */
export interface WalkOptions {
  /** The language of the messages; default English. */
  readonly messages?: Catalogue;
  /** `'refuse'`: keys that the schema does not know are findings. Default: they are dropped. */
  readonly unknown?: 'refuse';
  /** How the value is written. Default `'form'`. */
  readonly source?: ValueSource;
  /**
   * How many findings are kept, errors first. Validation stops once there are more and an error is known; the verdict is the
   * same, and `more` is true. Default: all.
   */
  readonly maxFindings?: number;
  /** The present moment, for rules that depend on today's date. Default: that of the system. */
  readonly now?: Clock;
  /** Facts from outside: `[tides.of(table)]`. If a rule reads a missing one, the call throws a `TypeError`. */
  readonly context?: readonly ContextValue[];
}

const systemClock: Clock = () => new Date();

export class Walk implements GroupWalker, ContextSource {
  readonly entries: Entry[] = [];
  readonly catalogue: Catalogue | undefined;
  readonly locale: string | undefined;
  readonly now: Clock;
  readonly refuseUnknown: boolean;
  readonly isJson: boolean;
  missing = 0;
  raw: unknown = undefined;
  start = 0;
  depth = 0;
  sort: ((entries: Entry[], root: Part) => void) | undefined = undefined;
  /** The moment of every rule has come. */
  readonly isDue = undefined;
  /** The data in which values are missing, and what conditions see of it if there are any. */
  incomplete: WeakMap<object, WalkView | undefined> | undefined = undefined;
  /** What conditions see of the part that is walked, if there are any. */
  view: WalkView | undefined = undefined;

  readonly maxFindings: number;
  /** How many findings there were, and how many of these were errors. */
  found = 0;
  errors = 0;
  /** Whether the verdict is known, and no more findings are kept. */
  isOver = false;

  readonly context: readonly ContextValue[] | undefined;
  lacking: TypeError | undefined = undefined;
  readonly #facts: ContextSource;

  /** @param facts who knows the facts from outside, if that is not the caller */
  constructor({ messages, unknown, source, now = systemClock, maxFindings = Infinity, context }: WalkOptions, facts?: ContextSource) {
    assertNumber('maxFindings', maxFindings, 1);
    this.maxFindings = maxFindings;
    this.catalogue = messages;
    this.locale = messages?.locale;
    this.now = now;
    this.refuseUnknown = unknown === 'refuse';
    this.isJson = source === 'json';
    checkContext(context);
    this.context = context;
    this.#facts = facts ?? this;
  }

  /**
   * Walks a value as a whole; entries are in schema order then.
   *
   * @returns its data
   */
  whole(part: Part, raw: unknown): unknown {
    const outer = swapSource(this.#facts);
    try {
      const data = this.#all(part, raw);
      this.assertContext();
      this.sort?.(this.entries, part);
      return data;
    } finally {
      swapSource(outer);
    }
  }

  #all(part: Part, raw: unknown): unknown {
    try {
      return this.instead(part, raw);
    } catch (error) {
      // Groups in groups, deeper than the engine can go: nothing passes.
      this.entries.length = 0;
      this.fault(error, part.kind);
      return this.reject(part, CRASHED);
    }
  }

  /** Throws if a fact was read that was not given. @throws TypeError */
  assertContext(): void {
    if (this.lacking) throw this.lacking;
  }

  fault(error: unknown, rule: string, path = ''): void {
    this.entries.push({ error, path, rule });
  }

  report(part: Part, rule: Reporter | undefined, verdict: Verdict): void {
    this.keep(toFinding('', part, rule, verdict, this.catalogue));
  }

  keep(finding: Finding): void {
    const { maxFindings } = this;
    if (this.isOver) return;
    const isError = blocks(finding);
    this.found += 1;
    if (isError) this.errors += 1;
    // Errors come first, so other findings have no part in their share.
    if ((isError ? this.errors : this.found - this.errors) <= maxFindings) this.entries.push(finding);
    if (this.found > maxFindings && this.errors > 0) this.isOver = true;
  }

  reject(part: Part, verdict: Verdict = UNREADABLE.verdict, rule?: Reporter): typeof NO_VALUE {
    this.report(part, rule, verdict);
    this.missing += 1;
    return NO_VALUE;
  }

  child(part: Part, raw: unknown, key: string | number): unknown {
    if (this.isOver) {
      this.missing += 1;
      return NO_VALUE;
    }
    const { entries, view } = this;
    const { length } = entries;
    if (view !== undefined) this.view = view.child(String(key));
    const data = this.instead(part, raw);
    this.view = view;
    if (entries.length > length) this.prefix(length, stepOf(key));
    return data;
  }

  prefix(from: number, path: string): void {
    const { entries } = this;
    for (let i = from; i < entries.length; i += 1) entries[i]!.path = join(path, entries[i]!.path);
  }

  instead(part: Part, raw: unknown, known?: string): unknown {
    const { walk } = part;
    if (known !== undefined) return this.#case(part as GroupPart, raw, known);
    if (this.isJson) {
      // JSON is validated by its types first.
      if (isRefused(part, raw)) return this.reject(part, VALUE_MISSING, part.required);
      const found = part.settings.inJson?.other?.(raw);
      if (found) return this.#other(part, raw, found);
      if (isAbsent(part, raw)) return undefined;
      raw = rawInJson(part, raw);
    } else if (part.isLeftOut?.(raw)) return undefined;
    if (walk !== undefined) return walk(raw, this);
    return isField(part) ? walkField(part, raw, this) : walkGroup(part as GroupPart, raw, this);
  }

  /** A value of another type, and what is wrong with it. */
  #other(part: Part, raw: unknown, found: readonly Verdict[]): unknown {
    for (const verdict of found) this.report(part, undefined, verdict);
    if (found.length === 0) return raw;
    this.missing += 1;
    return NO_VALUE;
  }

  /** A case of a variant, whose fields stand beside the choice. */
  #case(part: GroupPart, raw: unknown, known: string): unknown {
    const { view } = this;
    this.view = view?.child(BESIDE);
    const data = walkGroup(part, raw, this, known);
    this.view = view;
    return data;
  }

  close(data: object, before: number): void {
    if (this.missing > before) (this.incomplete ??= new WeakMap()).set(data, this.view);
  }
}
