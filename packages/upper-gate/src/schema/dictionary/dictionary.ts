// Dictionaries: entries of one kind under keys that no schema knows.

import { nodeClass } from '../nodeClass.ts';
import { attachOwnRules } from '../../evaluate/attachRule.ts';
import { walkOwnRules } from '../../evaluate/walkRule.ts';
import type { LiveNode, NodeKit } from '../kit.ts';
import type { CHILDREN, DATA, FieldSettings, LabelOr, Node, RAW } from '../node.ts';
import { insideOf, nodeOf, Part, partOf, toSettings, type Inside, type Location, type Piece, type SeenPiece } from '../part.ts';
import type { AnyRule, Mark, Rule } from '../rule.ts';
import { jsonTypeOf, ownKeys, ownRaw } from '../safeAccess.ts';
import { makeView } from '../view.ts';
import { isWellFormed } from '../wellFormed.ts';
import type { Walker } from '../walker.ts';
import { dictionaryNode } from './node.ts';
import type { Traits } from '../traits.ts';

/** Entries of one kind under any keys. */
export interface Dictionary<I extends Node> extends Node<
  { [key: string]: I[typeof DATA] },
  { [key: string]: I[typeof RAW] },
  { readonly [key: string]: I }
> {
  readonly [DATA]: { [key: string]: I[typeof DATA] };
  readonly [RAW]: { [key: string]: I[typeof RAW] };
  readonly [CHILDREN]: { readonly [key: string]: I };
  /** The part of each entry. */
  readonly item: I;
}

/** A raw value as an object; nothing if it is none. */
const objectOf = (raw: unknown): object | undefined => {
  const type = jsonTypeOf(raw);
  return type === 'none' || raw === '' ? {} : type === 'object' ? (raw as object) : undefined;
};

const TRAITS: Traits = { holds: 'entries', hasParts: true, json: 'object' };

/** The class of its nodes. */
const classFor = /* @__PURE__ */ nodeClass(dictionaryNode);

/** A dictionary as the library's own machinery sees it. */
export class DictionaryPart extends Part {
  readonly kind = 'dictionary';
  readonly traits = TRAITS;
  readonly item: Node;
  readonly part: Part;

  constructor(settings: FieldSettings<unknown>, item: Node, rules: readonly AnyRule[]) {
    super(settings, rules, (raw, walker) => this.#walk(raw, walker));
    this.item = item;
    this.part = partOf(item);
  }

  override readonly isOpen = true;

  override inner(): readonly Part[] {
    return [this.part];
  }

  isEmpty(data: unknown): boolean {
    return Object.keys(data as object).length === 0;
  }

  override pieces(raw: unknown): readonly Piece[] | undefined {
    const values = objectOf(raw);
    return (
      values &&
      ownKeys(values)
        .filter(isWellFormed)
        .map((key) => ({ part: this.part.row?.() ?? this.part, raw: ownRaw(values, key), key }))
    );
  }

  override see(pieces: readonly SeenPiece[]): object {
    const byKey = new Map(pieces.map((piece) => [piece.key, piece]));
    return makeView([...byKey.keys()], (key) => byKey.get(key)?.read());
  }

  /** Its name stands for each of its entries. */
  override inside(name: string): Inside | undefined {
    return insideOf(this.part, name);
  }

  override insideNames(): readonly string[] | undefined {
    return this.part.insideNames?.();
  }

  override locate(): Location {
    return { part: this.part, position: 0 };
  }

  override createNode(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, initial: unknown): LiveNode<Part> {
    const node = new (classFor(kit))(kit, parent, key, this, initial);
    // (What is wrong with its keys is reported first.)
    attachOwnRules(node, 1);
    return node;
  }

  #walk(raw: unknown, walker: Walker): unknown {
    const values = objectOf(raw);
    if (!values) return walker.reject(this);
    const { missing, entries } = walker;
    const start = entries.length;
    const data: Record<string, unknown> = {};
    for (const key of ownKeys(values)) {
      // (Databases hold no others.)
      if (isWellFormed(key)) define(data, key, walker.child(this.part, ownRaw(values, key), key));
      else walker.reject(this);
    }
    walker.close(data, missing);
    walker.raw = raw;
    walker.start = start;
    walkOwnRules(this, data, walker);
    return data;
  }
}

/** Sets an own property, whatever it is called. (An assignment to `__proto__` sets something else.) */
function define(data: Record<string, unknown>, key: string, value: unknown): void {
  if (key === '__proto__') Object.defineProperty(data, key, { value, writable: true, enumerable: true, configurable: true });
  else data[key] = value;
}

export const isDictionary = (part: Part): part is DictionaryPart => part.traits.holds === 'entries';

/**
 * Makes a part for entries of one kind under any keys: tolls by class of boat. Its data is always an object; with `required()`
 * it must have an entry. A key is any text; in a path, a dot in it is written `\.`, a backslash `\\`, the empty key `\e`. A form
 * shows the entries that it was given; setting the whole replaces them.
 *
 * @param settings its label, or label and settings
 * @param item what each entry is: a field, a group, a list
 * @param rules on the dictionary as a whole
 * @returns the part
 *
 * @example
 * dictionary('Tolls', number('Toll', required(), range({ min: 0 }))) // data: { [key: string]: number }
 */
export function dictionary<I extends Node>(
  settings: LabelOr<FieldSettings<{ readonly [key: string]: I[typeof DATA] | I[typeof RAW] }>>,
  item: I,
  ...rules: readonly Rule<{ readonly [key: string]: I[typeof DATA] }, unknown, Mark>[]
): Dictionary<I> {
  return nodeOf(new DictionaryPart(toSettings(settings), item, rules));
}
