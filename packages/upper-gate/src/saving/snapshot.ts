// What a form holds against what counts as saved: both as data, so that they can be compared. What cannot be read is left
// as it was saved, so that nothing is lost by saving the rest.

import type { BaseNode } from '../gate/node.ts';
import type { FormStore } from '../gate/store.ts';
import { plainData } from '../gate/compositeNode.ts';
import type { FieldNode } from '../gate/fieldNode.ts';
import { swapSource } from '../schema/context/context.ts';
import { isField, isUnreadable } from '../schema/field.ts';
import type { LiveNode } from '../schema/kit.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { blocks } from '../schema/severity.ts';
import { isVariant } from '../schema/variant/variant.ts';
import { isFinding } from '../validate/entries.ts';
import { viewValue, type ValueView } from '../validate/view.ts';
import { Walk } from '../validate/walk.ts';

/** What is saved, and what would be once this is saved. */
export interface Snapshot {
  readonly saved: unknown;
  readonly now: unknown;
  /** What controls hold, field by field, and the rows of lists. */
  readonly held: ReadonlyMap<LiveNode, unknown>;
  /** What is left as it was saved. */
  readonly left: ReadonlySet<LiveNode>;
}

/** The data of a view, with `undefined` where there is none. */
function dataOfView(view: ValueView): unknown {
  const { part, children } = view;
  if (!view.settle().applies) return undefined;
  if (isField(part)) {
    try {
      return view.see(0);
    } catch {
      // It cannot be read: nothing of it counts as saved.
      return undefined;
    }
  }
  if (part.jsonType === 'array') return Array.from(children.values(), dataOfView);
  const fields: object = Object.fromEntries([...children].map(([key, child]) => [key, dataOfView(child)]));
  if (!isVariant(part)) return fields;
  // The fields of a case lie beside the choice.
  const { '': chosen, ...choice } = fields as { readonly ''?: object };
  return ownValue(choice, part.key) === undefined ? undefined : { ...choice, ...chosen };
}

/** The data of what counts as saved, without what does not apply there. */
function savedData(store: FormStore): unknown {
  const { root, catalogue } = store;
  const outer = swapSource(store);
  try {
    const [view] = viewValue(root.part, root.saved, { locale: catalogue?.locale }, (_, raw) => raw);
    return dataOfView(view);
  } finally {
    swapSource(outer);
  }
}

/** Whether what is in a node may be saved. */
type Fits = (node: BaseNode) => boolean;

const isReadable: Fits = (node) => !isField(node.part) || !isUnreadable((node as FieldNode).value);

const isOpen = ({ rows, part }: BaseNode): boolean => rows !== undefined || part.isLeaf;

/** Whether a node is taken as it is, or what is in it is looked at: a list, and an either-or with another choice, is whole or not at all. */
function isFit(node: BaseNode, fits: Fits): boolean {
  if (!node.ownApplies) return true;
  if (!fits(node)) return false;
  const isWhole = node.rows !== undefined || (isVariant(node.part) && node.children[0]!.dirty > 0);
  return !isWhole || node.children.every((child) => isFitWhole(child, fits));
}

const isFitWhole: (node: BaseNode, fits: Fits) => boolean = (node, fits) =>
  isFit(node, fits) && (!node.ownApplies || node.children.every((child) => isFitWhole(child, fits)));

function take({ root }: FormStore, saved: unknown, fits: Fits): Snapshot {
  const held = new Map<LiveNode, unknown>();
  const left = new Set<LiveNode>();
  const dataOf = (node: BaseNode, before: unknown): unknown => {
    if (!isFit(node, fits)) {
      left.add(node);
      return before;
    }
    if (isOpen(node)) {
      node.forEach((each) => (each.rows || each.part.isLeaf) && held.set(each, each.rows ? [...each.rows] : each.raw));
      return plainData(node);
    }
    held.set(node, node.children);
    const data = node.fold((child) => dataOf(child, child.key === '' ? before : ownValue(before, child.key)));
    // An either-or without a choice is no value, nor is what does not apply.
    return plainData(node) === undefined ? undefined : data;
  };
  return { saved, now: dataOf(root, saved), held, left };
}

/** The nodes on which there would be an error if a snapshot were saved: the rules between fields see the whole, with what is left. */
function wrongIn(store: FormStore, { left }: Snapshot): ReadonlySet<BaseNode> {
  const { root, catalogue, now } = store;
  const rawOf = (node: BaseNode): unknown => (left.has(node) ? node.saved : isOpen(node) ? node.raw : node.fold(rawOf));
  const walk = new Walk({ ...(catalogue && { messages: catalogue }), now }, false, store);
  walk.whole(root.part, rawOf(root));
  const wrong = walk.entries
    .filter((entry) => isFinding(entry) && blocks(entry))
    .map(({ path }) => store.find(path) as BaseNode | undefined);
  return new Set(wrong.filter((node) => node !== undefined));
}

/**
 * Compares what a form holds with what counts as saved.
 *
 * @param isStrict whether what has an error, or awaits an answer, is left as it was saved, too
 */
export function takeSnapshot(store: FormStore, isStrict: boolean): Snapshot {
  const saved = savedData(store);
  if (!isStrict) return take(store, saved, isReadable);
  const fits: Fits = (node) => isReadable(node) && (!isOpen(node) || (node.errors === 0 && node.pending === 0));
  const snapshot = take(store, saved, fits);
  const wrong = wrongIn(store, snapshot);
  return wrong.size === 0 ? snapshot : take(store, saved, (node) => fits(node) && !wrong.has(node));
}
