// Either-or: one field chooses which others there are.

import { choice } from './choice.ts';
import type { Field, Optional } from './field.ts';
import type { Group, GroupPart } from './group.ts';
import { walkPart } from './walkPart.ts';
import { NO_VALUE, Part, partOf, toSettings, type DATA, type CHILDREN, type LabelOr, type Node, type RAW, type Settings } from './node.ts';
import { ownRaw, shapeOf } from './safeAccess.ts';
import type { AnyRule, Rule } from './rule.ts';
import { prefixPaths, type Walk } from './walk.ts';
import { makeView, viewProperties } from './siblings.ts';

/** The groups to choose from, by the value that chooses them. */
export interface Cases {
  readonly [value: string]: Node;
}

type Flat<T> = { [P in keyof T]: T[P] };
type KeysOf<U> = U extends unknown ? keyof U : never;
type ChildrenOf<C extends Cases> = C[keyof C][typeof CHILDREN];

/** The data of a variant: for each case, its value under the key, beside the data of its group. */
export type VariantData<Key extends string, C extends Cases> = {
  [V in keyof C & string]: Flat<{ [P in Key]: V } & C[V][typeof DATA]>;
}[keyof C & string];
type VariantRaw<Key extends string, C extends Cases> = {
  [V in keyof C & string]: Flat<{ [P in Key]: V | '' } & C[V][typeof RAW]>;
}[keyof C & string];

/** One of several groups, chosen by the field under a key. */
export interface Variant<Key extends string, C extends Cases, Q extends string = never> extends Node<
  Optional<VariantData<Key, C>, Q>,
  VariantRaw<Key, C>
> {
  readonly [DATA]: Optional<VariantData<Key, C>, Q>;
  readonly [RAW]: VariantRaw<Key, C>;
  readonly [CHILDREN]: { readonly [P in Key]: Field<keyof C & string, (keyof C & string) | ''> } & {
    readonly [P in KeysOf<ChildrenOf<C>>]: ChildrenOf<C> extends infer U ? (U extends { readonly [X in P]: infer N } ? N : never) : never;
  };
  readonly cases: C;
}

/** A variant as the library's own machinery sees it. */
export class VariantPart extends Part {
  readonly kind = 'variant';
  readonly key: string;
  /** The field that chooses. */
  readonly chooser: Part;
  readonly cases: Readonly<Record<string, GroupPart>>;
  readonly hasAsyncRules: boolean;
  readonly #views: Readonly<Record<string, PropertyDescriptorMap>>;

  constructor(key: string, cases: Readonly<Record<string, GroupPart>>, settings: Settings, rules: readonly AnyRule[]) {
    super(settings, []);
    this.key = key;
    this.cases = cases;
    this.chooser = partOf(choice(settings, Object.keys(cases), ...(rules as readonly Rule<unknown>[])));
    this.hasAsyncRules = [this.chooser, ...Object.values(cases)].some((part) => part.hasAsyncRules);
    this.#views = Object.fromEntries(Object.entries(cases).map(([value, part]) => [value, viewProperties([key, ...part.keys])]));
  }

  /** A view on one of the cases: the value that chose it, beside its fields. */
  view(value: string, inside: () => unknown): object {
    return makeView(this.#views[value]!, {
      read: (name) => (name === this.key ? value : (inside() as Readonly<Record<string, unknown>>)[name]),
    });
  }

  acceptsJson(value: unknown): boolean {
    return shapeOf(value) === 'object';
  }

  override child(key: string): Part | undefined {
    if (key === this.key) return this.chooser;
    return Object.values(this.cases)
      .map((group) => group.child(key))
      .find(Boolean);
  }

  override positionOf(key: string): number | undefined {
    if (key === this.key) return 0;
    const place = Object.values(this.cases)
      .map((group) => group.positionOf(key))
      .find((each) => each !== undefined);
    return place === undefined ? undefined : place + 1;
  }

  override readForRule(data: unknown, run: Walk): unknown {
    if (!run.incomplete || data === undefined) return data;
    const value = (data as Readonly<Record<string, string>>)[this.key]!;
    return this.view(value, () => this.cases[value]!.readForRule(data, run));
  }

  walk(raw: unknown, run: Walk): unknown {
    const { key } = this;
    const first = run.entries.length;
    // What is no object is told of the key: there is no such choice.
    const value = walkPart(this.chooser, shapeOf(raw) === 'object' ? ownRaw(raw as object, key) : raw, run);
    prefixPaths(run, first, key);
    if (value === NO_VALUE || value === undefined) return value;
    const inside = this.cases[value as string]!.walk(raw, run, key);
    return inside === NO_VALUE ? NO_VALUE : { [key]: value, ...(inside as object) };
  }
}

/**
 * Either-or: the value of one field chooses which group of others there is. All lie side by side: `{ cargo: 'goods', tonnes: 12 }`.
 *
 * @param settings label of the field that chooses, or label and settings
 * @param key the name of that field
 * @param cases a group for each of its values
 * @param rules on that field: `required()`, else nothing may be chosen and the data is `undefined`
 *
 * @example
 * variant('Cargo', 'cargo', {
 *   none: group({}),
 *   goods: group({ tonnes: number('Tonnes', required()) }),
 * }, required()) // data: { cargo: 'none' } | { cargo: 'goods'; tonnes: number }
 */
export function variant<Key extends string, C extends { readonly [value: string]: Group<never> | Node }, Q extends string = never>(
  settings: LabelOr<Settings>,
  key: Key,
  cases: C,
  ...rules: readonly Rule<NoInfer<keyof C & string>, unknown, Q>[]
): Variant<Key, C, Q> {
  return new VariantPart(key, cases as never, toSettings(settings), rules) as never;
}
