// What runs rules needs, and what validates a whole value hands to parts, rules and clauses: the types. They never import
// ../validate, so that an application pays only for what it declares.

import type { Scopes } from './kit.ts';
import type { NO_VALUE } from './noValue.ts';
import type { Clock, Reporter, RuleResult, Verdict } from './verdict.ts';

/** Where a fault happened: in which rule, on which field. */
export interface Fault {
  /** What was thrown, or what is wrong. */
  readonly error: unknown;
  readonly path: string;
  readonly rule: string;
}

/** What running rules needs of whoever runs them: a walk over a whole value, or a live form. */
export interface Evaluation {
  readonly now: Clock;
  /** Whether the moment of a rule has come. Default: that of every rule has, as for a whole value. */
  readonly isDue?: ((rule: Reporter) => boolean) | undefined;
  /** The language in which values are written, by its tag. Default `'en'`. */
  readonly locale?: string | undefined;
  /** Whether the value has JSON's types. Default: those of a form. */
  readonly isJson?: boolean;
  /** Told of each rule that has run. */
  readonly ran?: ((rule: Reporter, result: RuleResult) => void) | undefined;
  /** Reports what a callback of the value at hand threw. */
  fault(error: unknown, rule: string): void;
}

/** What running rules on a part of a value needs to know of the part. */
export interface WalkedPart {
  /** The rule that requires a value, if there is one. */
  readonly required: Reporter | undefined;
  /** Whether data counts as empty: only the rules that require a value run on it. */
  isEmpty(data: unknown): boolean;
}

/** What conditions see of a part of a value. It comes with the clause `appliesWhen`. */
export interface WalkView {
  readonly part: WalkedPart;
  /** How deep the part lies. */
  readonly depth: number;
  /** The view of a part in it. */
  child(key: string): WalkView | undefined;
  /** The same, also of a field of a case beside the choice. */
  find(key: string): WalkView | undefined;
  /** Whether it applies: all its conditions hold. */
  readonly applies: boolean;
  /** Whether callbacks of a group at a depth know nothing of its being absent: they wait. */
  isTakenFrom(depth: number): boolean;
  /** Walks those fields of a group that apply. */
  walkFields(values: object, data: Record<string, unknown>, walker: Walker): void;
}

/** What a walk has yielded at a path. */
interface Entry {
  path: string;
}

/**
 * A walk over a whole value. Parts report relative to themselves; whoever walks one puts its key before what it reported.
 */
export interface Walker extends Evaluation {
  readonly isJson: boolean;
  readonly entries: readonly Entry[];
  /** How many values without data there were so far. */
  missing: number;
  /** What the whole is made of whose own rules run, and the first entry about what is in it. */
  raw: unknown;
  start: number;
  /** How deep the walk is in parts that lie within themselves. */
  depth: number;
  /** Whether the verdict is known, and no more findings are kept. */
  readonly isOver: boolean;
  /** The data in which values are missing, and what conditions see of it if there are any. */
  readonly incomplete: WeakMap<object, WalkView | undefined> | undefined;
  /** What conditions see of the part that is walked, if there are any. */
  view: WalkView | undefined;
  /** Brings the entries into schema order, once they have come in another. */
  sort: ((entries: never, root: never) => void) | undefined;
  /**
   * Walks a part under a key; its findings get the key before their paths.
   *
   * @returns its data, or `NO_VALUE`
   */
  child(part: WalkedPart, raw: unknown, key: string | number): unknown;
  /** Walks a part in place of this one, at the same path. @param known a key that belongs to the value beside those of the part */
  instead(part: WalkedPart, raw: unknown, known?: string): unknown;
  report(part: WalkedPart, rule: Reporter | undefined, verdict: Verdict): void;
  /** Reports that this part has no data of its type. */
  reject(part: WalkedPart, verdict?: Verdict, rule?: Reporter): typeof NO_VALUE;
  fault(error: unknown, rule: string, path?: string): void;
  /** Puts a key before the paths of all that was reported from an entry on. */
  prefix(from: number, path: string): void;
  /** Marks data in which values are missing, so that callbacks which read one of those wait. @param before `missing` before it was built */
  close(data: object, before: number): void;
  /** Leaves an async rule for later, where it stands among the entries; absent: async rules are left out. */
  defer?(rule: Reporter, part: WalkedPart, data: unknown, scopes: Scopes | undefined): void;
}
