// Lists: any number of fields, groups or lists of one kind.

import { FieldPart, isField, jsonTypeIn } from '../field.ts';
import { nodeClass } from '../nodeClass.ts';
import { attachOwnRules } from '../../evaluate/attachRule.ts';
import type { Label } from '../../messages/text.ts';
import type { CHILDREN, DATA, FieldSettings, LabelOr, Node, RAW, Settings } from '../node.ts';
import { insideOf, nodeOf, Part, partOf, toSettings, UNNAMED, type Inside, type Location, type Piece, type SeenPiece } from '../part.ts';
import type { AnyRule, Mark, Rule } from '../rule.ts';
import type { LiveNode, NodeKit } from '../kit.ts';
import { ownRaw } from '../safeAccess.ts';
import { listNode } from './node.ts';
import { makeListView } from './view.ts';
import { rowsOf, walkList } from './walk.ts';
import type { Traits } from '../traits.ts';

/** A list of items. */
export interface List<I extends Node> extends Node<I[typeof DATA][], I[typeof RAW][], { readonly [index: `${number}`]: I }> {
  readonly [DATA]: I[typeof DATA][];
  readonly [RAW]: I[typeof RAW][];
  readonly [CHILDREN]: { readonly [index: `${number}`]: I };
  /** The part of each row. */
  readonly item: I;
}

const TRAITS: Traits = { holds: 'rows', hasParts: true, json: 'array' };

/** The class of its nodes. */
const classFor = /* @__PURE__ */ nodeClass(listNode);

/** The part of a row. In JSON, `null` is a row without a value: there is no other way to say that it is there. */
function rowOf(part: Part): Part {
  const { settings } = part;
  if (!isField(part) || part.mandatory || !part.isEmpty(undefined) || settings.inJson || jsonTypeIn(part) === 'any') return part;
  return new FieldPart(part.spec, { ...settings, inJson: { nullable: true } }, part.ruleList, part.walk);
}

/** The settings of a list. */
export interface ListSettings<T> extends FieldSettings<T> {
  /**
   * What a single row is called, before its number: in what is announced, in the summary, in reviews. Default: the label of its group,
   * if it has one, else that of the list.
   */
  readonly rowLabel?: Label | undefined;
}

/** A list as the library's own machinery sees it. */
export class ListPart extends Part {
  readonly kind = 'list';
  readonly traits = TRAITS;
  readonly item: Node;
  readonly part: Part;

  constructor(settings: Settings, item: Node, rules: readonly AnyRule[]) {
    super(settings, rules, (raw, walker) => walkList(this, raw, walker));
    this.item = item;
    this.part = rowOf(partOf(item));
  }

  override readonly isOpen = true;

  override get rowLabel(): Label {
    const { rowLabel } = this.settings as ListSettings<unknown>;
    // (A field says its label in its messages itself.)
    const isNamed = !isField(this.part) && this.part.label !== UNNAMED;
    return rowLabel ?? (isNamed ? this.part.label : this.label);
  }

  override inner(): readonly Part[] {
    return [this.part];
  }

  isEmpty(data: unknown): boolean {
    return (data as readonly unknown[]).length === 0;
  }

  override pieces(raw: unknown): readonly Piece[] | undefined {
    const found = rowsOf(raw);
    return (
      found && Array.from({ length: found[1] }, (_, key) => ({ part: this.part.row?.() ?? this.part, raw: ownRaw(found[0], key), key }))
    );
  }

  override see(pieces: readonly SeenPiece[]): readonly unknown[] {
    return makeListView(pieces, (piece) => piece.read());
  }

  /** Its name stands for each of its rows. */
  override inside(name: string): Inside | undefined {
    return insideOf(this.part, name);
  }

  override insideNames(): readonly string[] | undefined {
    return this.part.insideNames?.();
  }

  override locate(key: string): Location {
    return { part: this.part, position: Number(key) };
  }

  override createNode(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, initial: unknown): LiveNode<Part> {
    const node = new (classFor(kit))(kit, parent, key, this, initial);
    attachOwnRules(node);
    return node;
  }
}

export const isList = (part: Part): part is ListPart => part.traits.holds === 'rows';

/**
 * Makes a list of rows. Its data is always a list; with `required()` it must have a row.
 *
 * @param settings its label, or label and settings
 * @param item what each row is: a field, a group, a list
 * @param rules on the list as a whole; they run on an empty list too
 * @returns the list
 *
 * @example
 * list('Crew', group({ name: text('Name', required()) }), length({ min: 1, max: 12 }), noDuplicates({ by: 'name' }))
 * list({ label: 'Boats', rowLabel: 'Boat' }, group({ name: text('Name') })) // "Boat 2 added"
 */
export function list<I extends Node>(
  settings: LabelOr<ListSettings<readonly (I[typeof DATA] | { readonly [P in keyof I[typeof RAW]]?: I[typeof RAW][P] })[]>>,
  item: I,
  ...rules: readonly Rule<readonly I[typeof DATA][], unknown, Mark>[]
): List<I> {
  return nodeOf(new ListPart(toSettings(settings), item, rules));
}
