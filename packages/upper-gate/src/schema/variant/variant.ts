// Either-or: one field chooses which others there are.

import { BESIDE } from '../finding.ts';
import { nodeClass } from '../nodeClass.ts';
import { DEV, devObject } from '#development';
import { assertUse } from '../assertUse.ts';
import { choice } from '../choice.ts';
import type { Field, Marks, Optional, RulesFor } from '../field.ts';
import { type Group, type GroupPart, isGroup } from '../group.ts';
import { type Inside, type Location, nodeOf, Part, partOf, type Piece, type SeenPiece, toSettings, UNNAMED } from '../part.ts';
import type { LiveNode, NodeKit } from '../kit.ts';
import { NO_VALUE } from '../noValue.ts';
import { seenVariant, variantNode } from './node.ts';
import type { CHILDREN, DATA, FieldSettings, LabelOr, Node, RAW } from '../node.ts';
import type { AnyRule, Rule } from '../rule.ts';
import { jsonTypeOf, ownRaw, ownValue } from '../safeAccess.ts';
import type { Walker } from '../walker.ts';
import type { Traits } from '../traits.ts';

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
export interface Variant<Key extends string, C extends Cases, M extends Marks = []> extends Node<
  Optional<VariantData<Key, C>, M>,
  VariantRaw<Key, C>
> {
  readonly [DATA]: Optional<VariantData<Key, C>, M>;
  readonly [RAW]: VariantRaw<Key, C>;
  readonly [CHILDREN]: { readonly [P in Key]: Field<keyof C & string, (keyof C & string) | ''> } & {
    readonly [P in KeysOf<ChildrenOf<C>>]: ChildrenOf<C> extends infer U ? (U extends { readonly [X in P]: infer N } ? N : never) : never;
  };
  /** The name of the field that chooses. */
  readonly key: Key;
  readonly cases: C;
}

/** What a raw value holds for the field that chooses. What is no object is no choice either: it is reported there. */
const choiceIn = (raw: unknown, key: string): unknown => (jsonTypeOf(raw) === 'object' ? ownRaw(raw as object, key) : raw);

const TRAITS: Traits = { holds: 'cases', hasParts: true, json: 'object' };

/** The class of its nodes. */
const classFor = /* @__PURE__ */ nodeClass(variantNode);

/** A variant as the library's own machinery sees it. */
export class VariantPart extends Part {
  readonly kind = 'variant';
  readonly traits = TRAITS;
  readonly key: string;
  /** The field that chooses. */
  readonly chooser: Part;
  readonly cases: Readonly<Record<string, GroupPart>>;

  constructor(settings: FieldSettings<string>, key: string, cases: Cases, rules: readonly AnyRule[]) {
    devObject(cases, 'variant() takes a name and a group for each value: variant("Cargo", "load", { none: group({}), ... })');
    super(settings, [], (raw, walker) => this.#walk(raw, walker));
    this.key = key;
    this.cases = Object.fromEntries(
      Object.entries(cases).map(([value, node]) => {
        const part = partOf(node);
        assertUse(isGroup(part), DEV && `The case "${value}" of a variant is a ${part.kind}. Make it with group({ ... }).`);
        return [value, part];
      }),
    );
    // A case without a label of its own is called by its value.
    const options = Object.entries(this.cases).map(([value, { label }]) => ({ value, label: label === UNNAMED ? value : label }));
    // (Whether the whole may be left out says nothing about what chooses.)
    this.chooser = partOf(choice({ ...settings, inJson: undefined }, options, ...(rules as readonly Rule<string>[])));
  }

  override inner(): readonly Part[] {
    return [this.chooser, ...Object.values(this.cases)];
  }

  isEmpty(data: unknown): boolean {
    return data === undefined;
  }

  override pieces(raw: unknown): readonly Piece[] {
    const { key, chooser, cases } = this;
    const chosen = choiceIn(raw, key);
    const choosing: Piece = { part: chooser, raw: chosen, key, name: '' };
    return typeof chosen === 'string' && Object.hasOwn(cases, chosen)
      ? [choosing, { part: cases[chosen]!, raw, key: BESIDE, name: chosen }]
      : [choosing];
  }

  override see([choosing, group]: readonly SeenPiece[]): unknown {
    const value = choosing!.read();
    return value === undefined ? value : seenVariant(this.key, value, this.cases[value as string]!.keys, (name) => group!.field(name));
  }

  override inside(name: string): Inside | undefined {
    return Object.hasOwn(this.cases, name) ? { part: this.cases[name]!, isBetween: true } : undefined;
  }

  override insideNames(): readonly string[] {
    return Object.keys(this.cases);
  }

  override locate(key: string, value?: unknown): Location | undefined {
    if (key === this.key) return { part: this.chooser, position: 0 };
    const chosen = String(ownValue(value, this.key));
    const groups = Object.hasOwn(this.cases, chosen) ? [this.cases[chosen]!] : Object.values(this.cases);
    for (const group of groups) {
      const found = group.locate(key);
      if (found) return { part: found.part, position: found.position + 1 };
    }
    return undefined;
  }

  override createNode(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, initial: unknown): LiveNode<Part> {
    return new (classFor(kit))(kit, parent, key, this, initial);
  }

  #walk(raw: unknown, walker: Walker): unknown {
    const { key } = this;
    const { missing } = walker;
    const value = walker.child(this.chooser, choiceIn(raw, key), key);
    if (value === NO_VALUE || value === undefined) return value;
    const inside = walker.instead(this.cases[value as string]!, raw, key);
    if (inside === NO_VALUE) return NO_VALUE;
    const data = { [key]: value, ...(inside as object) };
    walker.close(data, missing);
    return data;
  }
}

export const isVariant = (part: Part): part is VariantPart => part.traits.holds === 'cases';

/**
 * Makes an either-or: the value of one field chooses a group of others. All lie side by side in the data: `{ cargo: 'goods',
 * tonnes: 12 }`.
 *
 * @param settings label of the field that chooses, or label and settings
 * @param key the name of that field
 * @param cases a group for each of its values; the label of the group is that of the value
 * @param rules on that field: `required()`, else nothing may be chosen and the data is `undefined`
 * @returns the variant
 *
 * @example
 * variant('Cargo', 'cargo', {
 *   none: group({}),
 *   goods: group({ tonnes: number('Tonnes', required()) }),
 * }, required()) // data: { cargo: 'none' } | { cargo: 'goods'; tonnes: number }
 */
export function variant<Key extends string, C extends { readonly [value: string]: Group<never> | Node }, M extends Marks = []>(
  settings: LabelOr<FieldSettings<NoInfer<keyof C & string>>>,
  key: Key,
  cases: C,
  ...rules: RulesFor<NoInfer<keyof C & string>, M>
): Variant<Key, C, M> {
  return nodeOf(new VariantPart(toSettings(settings), key, cases, rules));
}
