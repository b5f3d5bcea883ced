// What conditions see of a raw value, and which of its parts apply. Parts are read when a condition reads them: reading one
// that has conditions itself runs these first. Where that shows a circle, all begins again, with the fields of the circle
// applying whatever their conditions come to.

import { dataRead, readValue } from '../../evaluate/field.ts';
import { isAbsent, isRefused, rawInJson } from '../../evaluate/json.ts';
import { isField } from '../../schema/field.ts';
import { BESIDE, childPath, stepOf } from '../../schema/finding.ts';
import { isGroup, type GroupPart, type Predicate, type ReachOf } from '../../schema/group.ts';
import type { Scopes } from '../../schema/kit.ts';
import { NO_VALUE, WAITING } from '../../schema/noValue.ts';
import type { Part, Piece, SeenPiece } from '../../schema/part.ts';
import { piecesOf, seeAs } from '../../schema/pieces.ts';
import { ownRaw } from '../../schema/safeAccess.ts';
import type { Evaluation, Fault, Walker, WalkView } from '../../schema/walker.ts';
import { conditionalGroupIn } from '../conditionalGroupIn.ts';
import { circleError, circlesThrough, HOLDS, runConditions, type Applies, type ScopedCondition } from './applies.ts';
import { NOT_TAKEN } from '../../schema/applying.ts';

/** What all views of one value share. */
interface Session {
  readonly values: Pick<Evaluation, 'isJson' | 'locale'>;
  /** The views that have conditions. */
  readonly conditional: ValueView[];
  /** Those that are in a circle. */
  readonly circular: Set<ValueView>;
  /** The one whose conditions are running. */
  running: ValueView | undefined;
}

/** In place of a raw value that JSON may leave out, and does. */
const ABSENT: unique symbol = Symbol('absent');

/** What a part is read from, where values have JSON's types. */
const normalised = (part: Part, raw: unknown): unknown =>
  isAbsent(part, raw) ? ABSENT : isRefused(part, raw) ? NO_VALUE : rawInJson(part, raw);

/** The conditions of a group that lead to a part, with the view of the group. */
interface ScopedReach {
  readonly scope: ValueView;
  readonly reach: ReachOf<Predicate>;
}

/** The conditions on what is in a part, those of the innermost group first. @param name by what they name it */
function reachesOn(parent: ValueView, name: string): readonly ScopedReach[] {
  const own = isGroup(parent.part) ? parent.part.clauses.conditions?.reach : undefined;
  const all = own ? [{ scope: parent, reach: own }, ...parent.reaches] : parent.reaches;
  return all.flatMap(({ scope, reach }): readonly ScopedReach[] => {
    const inner = reach.below.get(name);
    return inner ? [{ scope, reach: inner }] : NOTHING;
  });
}

const NOTHING: readonly never[] = [];

/** How deep views are made before anybody reads them: a recursive part is as deep as a client wants; walking it ends far above. */
const DEEPEST = 1000;

export class ValueView implements WalkView {
  readonly part: Part;
  readonly depth: number;
  readonly reaches: readonly ScopedReach[];
  readonly #session: Session;
  readonly #parent: ValueView | undefined;
  readonly #key: string;
  readonly #raw: unknown;
  readonly #conditions: readonly ScopedCondition[];
  #children: ReadonlyMap<string, ValueView> | undefined;
  /** Whether it consists of parts: that it is of its type. */
  #hasParts = false;
  /** What callbacks see, by the depth of the groups that declare them. */
  readonly #seen: unknown[] = [];
  #isRunning = false;
  #result: Applies | undefined;
  /** What its conditions threw. */
  #errors: unknown[] = [];
  /** The views with conditions that its own have read. */
  readonly #reads = new Set<ValueView>();

  constructor(session: Session, { part, raw, key, name }: Piece, parent: ValueView | undefined) {
    this.part = part;
    this.#session = session;
    this.#parent = parent;
    this.#key = String(key);
    this.#raw = session.values.isJson ? normalised(part, raw) : raw;
    this.depth = parent === undefined ? 0 : parent.depth + 1;
    this.reaches = parent === undefined ? NOTHING : name === undefined ? parent.reaches : reachesOn(parent, name);
    // Those on a list are not on its rows, but on what is in them.
    this.#conditions =
      name === undefined
        ? NOTHING
        : this.reaches.flatMap(({ scope, reach }) =>
            reach.items.map(({ what }) => ({ when: what, depth: scope.depth, scopes: () => this.#scopesIn(scope) })),
          );
    if (this.#conditions.length > 0) session.conditional.push(this);
  }

  #scopesIn(scope: ValueView): Scopes {
    let beside = this.#parent!;
    while (!isGroup(beside.part)) beside = beside.#parent!;
    return [scope.see(scope.depth), beside.see(scope.depth)];
  }

  get #path(): string {
    return this.#parent === undefined ? '' : childPath(this.#parent.#path, this.#key);
  }

  get children(): ReadonlyMap<string, ValueView> {
    if (this.#children) return this.#children;
    const pieces = piecesOf(this.part, this.#raw);
    this.#hasParts = pieces !== undefined;
    return (this.#children = new Map(pieces?.map((piece) => [String(piece.key), new ValueView(this.#session, piece, this)])));
  }

  child(key: string): ValueView | undefined {
    return this.children.get(key);
  }

  find(key: string): ValueView | undefined {
    return this.child(key) ?? this.child(BESIDE)?.child(key);
  }

  get applies(): boolean {
    return this.settle().applies;
  }

  isTakenFrom(depth: number): boolean {
    return this.settle().takenAt < depth;
  }

  /** Runs its conditions, unless that was done. */
  settle(): Applies {
    if (this.#result) return this.#result;
    // Its conditions are running, or it is in a circle: it applies.
    if (this.#conditions.length === 0 || this.#isRunning) return HOLDS;
    const session = this.#session;
    const outer = session.running;
    this.#isRunning = true;
    session.running = this;
    try {
      const result = runConditions(this.#conditions, { fault: (error) => this.#errors.push(error) });
      return (this.#result = session.circular.has(this) ? { ...result, applies: true, takenAt: NOT_TAKEN } : result);
    } finally {
      session.running = outer;
      this.#isRunning = false;
    }
  }

  /** What a callback sees of it. @param from the depth of the group that declares the callback */
  #read(from: number): unknown {
    const { running } = this.#session;
    if (running && this.#conditions.length > 0) running.#reads.add(this);
    const { applies, takenAt } = this.settle();
    if (applies) return this.see(from);
    if (takenAt < from) throw WAITING;
    return undefined;
  }

  /** The same, if it applies. @throws WAITING if it has no value of its type */
  see(from: number): unknown {
    const seen = (this.#seen[from] ??= this.#look(from));
    if (seen === NO_VALUE) throw WAITING;
    return seen;
  }

  #look(from: number): unknown {
    const { part } = this;
    const raw = this.#raw;
    if (raw === ABSENT) return undefined;
    if (raw === NO_VALUE) return NO_VALUE;
    if (!this.#session.values.isJson && part.isLeftOut?.(raw)) return undefined;
    if (isField(part)) return dataRead(part, readValue(part, raw, { ...this.#session.values, fault: () => undefined }));
    const { children } = this;
    if (!this.#hasParts) return NO_VALUE;
    return seeAs(
      part,
      [...children.values()].map((child): SeenPiece => ({
        key: child.#key,
        read: () => child.#read(from),
        field: (name) => child.child(name)!.#read(from),
      })),
    );
  }

  /**
   * Runs all conditions in it.
   *
   * @returns the circles that there are, as faults
   */
  settleAll(): readonly Fault[] {
    const { conditional, circular } = this.#session;
    this.#visit();
    for (let round = 0; ; round += 1) {
      for (const view of conditional) view.settle();
      const members = new Set<ValueView>();
      const circles = conditional.flatMap((view) => {
        const circle = members.has(view) ? undefined : circlesThrough(view, (other) => other.#reads);
        circle?.forEach((member) => members.add(member));
        return circle ? [circle] : [];
      });
      if (members.size === circular.size && [...members].every((view) => circular.has(view)))
        return circles.map((circle) => ({
          error: circleError(circle.map((view) => view.#key)),
          path: circle[0]!.#parent!.#path,
          rule: 'appliesWhen',
        }));
      // That the fields of a circle apply may lead conditions other ways, out of circles too; but not for ever.
      if (round < conditional.length) circular.clear();
      for (const view of members) circular.add(view);
      for (const view of conditional) view.#forget();
    }
  }

  /** Makes the views of all parts that may have conditions. */
  #visit(): void {
    if ((!conditionalGroupIn(this.part) && this.reaches.length === 0) || this.depth > DEEPEST) return;
    this.children.forEach((child) => child.#visit());
  }

  walkFields(values: object, data: Record<string, unknown>, walker: Walker): void {
    const { keys, parts } = this.part as GroupPart;
    keys.forEach((key, i) => {
      const field = this.child(key);
      // Of a group of which fields may be left out.
      if (!field) return;
      const { applies, verdict } = field.settle();
      const from = walker.entries.length;
      for (const error of field.#errors) walker.fault(error, 'appliesWhen');
      if (verdict) walker.report(parts[i]!, undefined, verdict);
      walker.prefix(from, stepOf(key));
      data[key] = applies ? walker.child(parts[i]!, ownRaw(values, key), key) : undefined;
      // What was taken away from further out is missing to those who know nothing of it.
      if (field.isTakenFrom(this.depth)) walker.missing += 1;
    });
  }

  #forget(): void {
    this.#result = undefined;
    this.#errors = [];
    this.#reads.clear();
  }
}

/**
 * Makes the view of a value, with all its conditions run.
 *
 * @returns the view, and the circles of conditions that there are, as faults
 */
export function viewValue(part: Part, raw: unknown, { isJson = false, locale }: Session['values']): [ValueView, readonly Fault[]] {
  const session: Session = { values: { isJson, locale }, conditional: [], circular: new Set(), running: undefined };
  const view = new ValueView(session, { part, raw, key: '' }, undefined);
  return [view, view.settleAll()];
}

/** What the conditions of a group see of a value of it. */
export function viewOf(part: Part, raw: unknown, walker: Walker): WalkView {
  const [view, faults] = viewValue(part, raw, walker);
  for (const { error, rule, path } of faults) walker.fault(error, rule, path);
  return view;
}
