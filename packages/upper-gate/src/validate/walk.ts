// One walk over a whole value: what the parts of a schema hand their findings to.
//
// Paths grow on the way up: a part reports relative to itself, and whoever walks it puts its key before what it reported.

import { DEV } from '#development';
import { skipsRules } from '../evaluate/field.ts';
import { toFinding } from '../evaluate/finding.ts';
import { sortByPath } from '../evaluate/order.ts';
import { NO_SCOPES, runRule } from '../evaluate/rule.ts';
import { verdictsIn } from '../evaluate/verdicts.ts';
import type { Catalogue } from '../messages/text.ts';
import { assertNumber, wrongUse } from '../schema/assertUse.ts';
import { contextMap, swapSource, type ContextSource, type ContextToken, type ContextValue } from '../schema/context/context.ts';
import { isField, UNREADABLE, VALUE_MISSING } from '../schema/field.ts';
import { join, type Finding } from '../schema/finding.ts';
import type { GroupPart } from '../schema/group.ts';
import { NO_VALUE, WAITING } from '../schema/noValue.ts';
import type { Scopes } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import { blocks } from '../schema/severity.ts';
import type { Clock, Reporter, Verdict } from '../schema/verdict.ts';
import { INACCESSIBLE, jsonTypeOf } from '../schema/safeAccess.ts';
import type { Entry } from './entries.ts';
import { walkField } from './field.ts';
import { walkGroup, type GroupWalker } from './group.ts';
import { ABSENT, viewValue, type ValueView } from './view.ts';

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

/** Whether JSON may leave a value out, and does. */
const isAbsent = ({ inJson }: Part, raw: unknown): boolean =>
  inJson?.absent === 'accepted' && (raw === undefined || (raw === null && inJson.nullable === true));
/** Whether JSON may not leave a value out, and does. */
const isRefused = ({ inJson }: Part, raw: unknown): boolean => inJson?.absent === 'refused' && raw === undefined;
/** What a part is read from in JSON: no value for `null` where that is taken, nothing that can be read for another type. */
const rawInJson = ({ inJson, jsonType }: Part, raw: unknown): unknown =>
  raw === undefined || (raw === null && inJson?.nullable)
    ? undefined
    : jsonType === 'any' || jsonType === jsonTypeOf(raw)
      ? raw
      : INACCESSIBLE;

export class Walk implements GroupWalker, ContextSource {
  readonly entries: Entry[] = [];
  readonly catalogue: Catalogue | undefined;
  readonly locale: string | undefined;
  readonly now: Clock;
  readonly refuseUnknown: boolean;
  readonly isJson: boolean;
  readonly collectAsync: boolean;
  missing = 0;
  depth = 0;
  unsorted = false;
  /** The moment of every rule has come. */
  readonly isDue = undefined;
  /** The data in which values are missing, and what conditions see of it if there are any. */
  incomplete: WeakMap<object, ValueView | undefined> | undefined = undefined;
  /** What conditions see of the part that is walked, if there are any. */
  view: ValueView | undefined = undefined;

  readonly maxFindings: number;
  /** How many findings there were, and how many of these were errors. */
  found = 0;
  errors = 0;
  /** Whether the verdict is known, and no more findings are kept. */
  isOver = false;

  readonly #context: ReadonlyMap<ContextToken, unknown> | undefined;
  readonly #facts: ContextSource | undefined;
  /** The first fact that was read and not given. */
  #lacking: ContextToken | undefined;

  /** @param facts who knows the facts from outside, if that is not the caller */
  constructor(
    { messages, unknown, source, now = systemClock, maxFindings = Infinity, context }: WalkOptions,
    collectAsync: boolean,
    facts?: ContextSource,
  ) {
    assertNumber('maxFindings', maxFindings, 1);
    this.maxFindings = maxFindings;
    this.catalogue = messages;
    this.locale = messages?.locale;
    this.now = now;
    this.refuseUnknown = unknown === 'refuse';
    this.isJson = source === 'json';
    this.collectAsync = collectAsync;
    this.#context = contextMap(context);
    this.#facts = facts;
  }

  /**
   * Walks a value as a whole; entries are in schema order then.
   *
   * @returns its data
   */
  whole(part: Part, raw: unknown): unknown {
    const outer = swapSource(this);
    try {
      const data = this.instead(part, raw);
      this.assertContext();
      if (this.unsorted) sortByPath(this.entries, part);
      return data;
    } finally {
      swapSource(outer);
    }
  }

  readContext(token: ContextToken): unknown {
    if (this.#facts) return this.#facts.readContext(token);
    if (this.#context?.has(token)) return this.#context.get(token);
    if (token.hasFallback) return token.fallback;
    this.#lacking ??= token;
    throw this.#lackOf(token);
  }

  /** Throws if a fact was read that was not given, whatever became of the callback that read it. @throws TypeError */
  assertContext(): void {
    if (this.#lacking) throw this.#lackOf(this.#lacking);
  }

  #lackOf({ name }: ContextToken): TypeError {
    return wrongUse(
      DEV && `The schema reads the context "${name}", which was not given. Pass { context: [${name}.of(...)] }, or give it a fallback.`,
    );
  }

  fault(error: unknown, rule: string): void {
    this.entries.push({ error, path: '', rule });
  }

  report(part: Part, rule: Reporter | undefined, verdict: Verdict): void {
    this.keep(toFinding('', part, rule, verdict, this.catalogue));
    if (verdict.path) this.unsorted = true;
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

  reject(part: Part, verdict: Verdict = UNREADABLE.verdict, rule?: AnyRule): typeof NO_VALUE {
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
    if (view !== undefined) this.view = view.children.get(String(key));
    const data = this.instead(part, raw);
    this.view = view;
    if (entries.length > length) this.prefix(length, key);
    return data;
  }

  prefix(from: number, key: string | number): void {
    const { entries } = this;
    for (let i = from; i < entries.length; i += 1) entries[i]!.path = join(String(key), entries[i]!.path);
  }

  instead(part: Part, raw: unknown, known?: string): unknown {
    const { walk } = part;
    if (known !== undefined) return this.#case(part as GroupPart, raw, known);
    if (this.isJson) {
      // JSON is validated by its types first.
      if (isRefused(part, raw)) return this.reject(part, VALUE_MISSING, part.required);
      if (isAbsent(part, raw)) return undefined;
      raw = rawInJson(part, raw);
    }
    if (walk !== undefined) return walk(raw, this);
    return isField(part) ? walkField(part, raw, this) : walkGroup(part as GroupPart, raw, this, undefined);
  }

  /** A case of a variant, whose fields stand beside the choice. */
  #case(part: GroupPart, raw: unknown, known: string): unknown {
    const { view } = this;
    this.view = view?.children.get('');
    const data = walkGroup(part, raw, this, known);
    this.view = view;
    return data;
  }

  viewOf(part: GroupPart, raw: unknown): ValueView | undefined {
    if (this.view?.part === part) return this.view;
    if (!part.hasConditions) return undefined;
    const [view, faults] = viewValue(part, raw, this, (inner, value) =>
      !this.isJson ? value : isAbsent(inner, value) ? ABSENT : isRefused(inner, value) ? NO_VALUE : rawInJson(inner, value),
    );
    this.entries.push(...faults);
    return view;
  }

  rules(part: Part, data: unknown): void {
    const seen = this.readable(data);
    for (const rule of part.ruleList) this.rule(rule, part, data, [seen, seen]);
  }

  rule(rule: AnyRule, part: Part, data: unknown, scopes: Scopes | undefined): void {
    if (this.isOver) return;
    const has = data !== NO_VALUE;
    if (!rule.async) {
      const subject = {
        empty: has && part.isEmpty(data),
        skipsRules: has && skipsRules(part, data),
        readForRule: () => this.readable(data),
      };
      for (const verdict of verdictsIn(runRule(rule, subject, scopes ?? NO_SCOPES, this))) this.report(part, rule, verdict);
    } else if (this.collectAsync && has && !skipsRules(part, data))
      this.entries.push({ path: '', part, rule, value: this.readable(data), scopes });
  }

  close(data: object, before: number): void {
    if (this.missing > before) (this.incomplete ??= new WeakMap()).set(data, this.view);
  }

  readable(data: unknown, from?: number): unknown {
    if (data === NO_VALUE) throw WAITING;
    const { incomplete } = this;
    if (!incomplete?.has(data as object)) return data;
    const view = incomplete.get(data as object);
    const depth = from ?? view?.depth;
    return new Proxy(data as object, {
      get: (target, key) => {
        const value: unknown = target[key as never];
        if (value === undefined && typeof key === 'string' && view?.find(key)?.isTakenFrom(depth!)) throw WAITING;
        return this.readable(value, depth);
      },
    });
  }
}
