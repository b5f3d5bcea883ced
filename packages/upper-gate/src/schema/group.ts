// Groups: fields under names, with the clauses between them. A form is a group.

import { DEV } from '#development';
import { assertUse } from './assertUse.ts';
import { assertFits } from './brand.ts';
import type { LiveNode } from './kit.ts';
import type { Dictionary } from './dictionary/dictionary.ts';
import type { List } from './list/list.ts';
import type { CHILDREN, DATA, LabelOr, Node, RAW, Settings } from './node.ts';
import { nodeOf, Part, partOf, toSettings, UNNAMED, type Location, type Placed, type Reach } from './part.ts';
import type { AnyRule } from './rule.ts';
import { HOSTILE, isName } from './safeAccess.ts';
import type { Walker, WalkView } from './walker.ts';
import type { Traits } from './traits.ts';

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

/** Data `D` of a part that is there only while conditions hold: `C` is `true`, or an object of such, keyed like the data. */
export type Under<N, D, C> = (C extends true ? undefined : never) | ([Exclude<keyof C, keyof true>] extends [never] ? D : UnderIn<N, D, C>);
type UnderIn<N, D, C> =
  N extends List<infer I>
    ? D extends readonly (infer R)[]
      ? UnderIn<I, R, C>[]
      : D
    : N extends Dictionary<infer I>
      ? D extends { readonly [key: string]: infer R }
        ? { [key: string]: UnderIn<I, R, C> }
        : D
      : N extends { readonly key: infer Key extends string; readonly cases: infer A }
        ? D extends { readonly [X in Key]: infer V extends keyof C & keyof A }
          ? UnderIn<A[V], D, C[V]>
          : D
        : N extends Node<unknown, unknown, infer K>
          ? { [P in keyof D]: P extends keyof C & keyof K ? Under<K[P], D[P], C[P]> : D[P] }
          : D;

/**
 * What `.with()` adds to a group: conditions (`appliesWhen`), rules on its fields (`fieldRules`), rules on it as a whole
 * (`groupRules`). It takes a group of fields `F`, of which `C` names those that do not always apply, and makes the group `G`.
 */
export interface Clause<F extends Fields, C, G> {
  (group: Group<F, C>): G;
}

/** A row of the data of a list, or an entry of that of a dictionary. */
export type EntryOf<D> = D extends readonly (infer R)[] ? R : D extends { readonly [key: string]: infer R } ? R : never;

/**
 * Fields under names. `C` names those that do not always apply. `.with()` returns a new group: groups are values and can be used
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
   * Adds clauses: conditions, rules on fields, rules on the group as a whole. A clause sees what the ones before it have made of
   * the data.
   *
   * @param clause made by `appliesWhen`, `fieldRules` or `groupRules`
   * @returns a new group
   * @throws TypeError for a clause that names a field which the group does not have
   *
   * @example
   * .with(appliesWhen({ tug: (boat) => boat.beam > 4 }))
   * .with(fieldRules({ emailAgain: sameAs('email') }))
   */
  with<G>(clause: Clause<F, C, G>): G;
  /**
   * Adds two clauses, in their order.
   *
   * @param a the first clause
   * @param b the second, which sees what the first has made of the data
   * @returns a new group
   */
  with<F1 extends Fields, C1, G>(a: Clause<F, C, Group<F1, C1>>, b: Clause<NoInfer<F1>, NoInfer<C1>, G>): G;
  /**
   * Adds three clauses, in their order.
   *
   * @param a the first clause
   * @param b the second, which sees what the first has made of the data
   * @param c the third
   * @returns a new group
   */
  with<F1 extends Fields, C1, F2 extends Fields, C2, G>(
    a: Clause<F, C, Group<F1, C1>>,
    b: Clause<NoInfer<F1>, NoInfer<C1>, Group<F2, C2>>,
    c: Clause<NoInfer<F2>, NoInfer<C2>, G>,
  ): G;
}

/** A condition: reads the group that declares it, then the fields beside its own. */
export type Predicate = (siblings: never, beside: never) => unknown;

/** What a clause has for parts in its group, by the names on the way to them. */
export interface ReachOf<T> extends Reach {
  /** What there is for the part itself, with its position in the list. */
  readonly items: readonly { readonly what: T; readonly index: number }[];
  readonly below: ReadonlyMap<string, ReachOf<T>>;
}

interface Spread<T> {
  /** In the order in which they were written. */
  readonly list: readonly Placed<T>[];
  readonly reach: ReachOf<T>;
}

/** The conditions of a group. */
interface Conditions extends Spread<Predicate> {
  /** What they see of a value of the group. */
  viewOf(part: Part, raw: unknown, walker: Walker): WalkView;
}

/** The rules of a group on its fields. */
interface FieldRules extends Spread<AnyRule> {
  /** What conditions further in see of a value of the group: its rules do not run on what these take away. */
  viewOf(part: Part, raw: unknown, walker: Walker): WalkView | undefined;
  /** Runs them on a value of the group. */
  walk(part: GroupPart, data: object, walker: Walker): void;
}

/** Runs the rules on a group as a whole: those in its `ruleList`. */
export interface GroupRules {
  walk(part: GroupPart, data: object, walker: Walker): void;
  attach(node: LiveNode<Part>): void;
}

/** The clauses of a group. Each brings its own code, so that a group without it does not load that. */
export interface Clauses {
  readonly conditions?: Conditions;
  readonly fieldRules?: FieldRules;
  readonly groupRules?: GroupRules;
  /** What they say of the parts further in. */
  readonly reaches?: readonly Reach[];
}

/** A constructor of data objects; each group has its own, so that the engine knows their shape. They look like plain objects. */
function dataClass(): new () => Record<string, unknown> {
  const Data = function () {} as unknown as new () => Record<string, unknown>;
  Data.prototype = Object.prototype;
  return Data;
}

/** A clause as the library's own machinery sees it. */
type AnyClause = (group: GroupPart) => GroupPart;

const TRAITS: Traits = { holds: 'fields', hasParts: true, json: 'object' };

/** A group as the library's own machinery sees it. */
export class GroupPart extends Part {
  readonly kind = 'group';
  readonly traits = TRAITS;
  declare readonly settings: GroupSettings;
  readonly fields: Fields;
  readonly keys: readonly string[];
  readonly parts: readonly Part[];
  /** The position of each field. */
  readonly positions: ReadonlyMap<string, number>;
  override readonly clauses: Clauses;
  /** Whether only the fields that are there count. */
  readonly isPartial: boolean;
  /** Makes its data. */
  readonly Data = dataClass();

  /** @param groupRules the rules on it as a whole */
  constructor(settings: GroupSettings, fields: Fields, clauses: Clauses = {}, groupRules: readonly AnyRule[] = [], isPartial = false) {
    super(settings, groupRules);
    for (const [key, field] of Object.entries(fields))
      assertFits(field, DEV && `The field "${key}" is not a field. Make it with text("${key}"), number("${key}") or another kind.`);
    this.isPartial = isPartial;
    this.fields = fields;
    this.keys = Object.keys(fields);
    this.parts = this.keys.map((key) => partOf(fields[key]!));
    this.positions = new Map(this.keys.map((key, index) => [key, index]));
    this.clauses = clauses;
  }

  with(...clauses: readonly AnyClause[]): GroupPart {
    return clauses.reduce((group: GroupPart, clause) => {
      assertFits(clause, DEV && '.with() takes clauses: appliesWhen({ ... }), fieldRules({ ... }), groupRules(...).');
      return clause(group);
    }, this);
  }

  override inner(): readonly Part[] {
    return this.parts;
  }

  isEmpty(): boolean {
    return false;
  }

  override locate(key: string): Location | undefined {
    const position = this.positions.get(key);
    return position === undefined ? undefined : { part: this.parts[position]!, position };
  }
}

/** Throws for names that no declared field can have. (Documents of others have any.) @throws TypeError */
export function assertNames(fields: Fields): void {
  for (const key of Object.keys(fields))
    assertUse(
      isName(key),
      DEV && `"${key}" cannot be the name of a field: a name is not empty, has no dot, and is not one of ${HOSTILE.join(', ')}.`,
    );
}

export const isGroup = (part: Part): part is GroupPart => part.traits.holds === 'fields';

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
export function group<F extends Fields>(fields: F, settings: LabelOr<GroupSettings> = UNNAMED): Group<F> {
  assertNames(fields);
  return nodeOf(new GroupPart(toSettings(settings), { ...fields }));
}
