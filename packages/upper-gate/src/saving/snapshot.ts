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
import { isVariant } from '../schema/variant/variant.ts';
import { viewValue, type ValueView } from '../validate/view.ts';

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

const hasOwnErrors = ({ errors, children }: BaseNode): boolean => errors > children.reduce((sum, child) => sum + child.errors, 0);

/** Whether what is in a node may be saved. @param isStrict not if there is an error on it, or an answer is awaited */
function isFit(node: BaseNode, isStrict: boolean): boolean {
  if (!node.ownApplies) return true;
  const { part } = node;
  if (isStrict && (hasOwnErrors(node) || (part.isLeaf && node.pending > 0))) return false;
  if (isField(part)) return !isUnreadable((node as FieldNode).value);
  // What is in a group is for itself, what is in an either-or of an either-or as long as the choice is the saved one.
  if (node.rows === undefined && !(isVariant(part) && node.children[0]!.dirty > 0)) return true;
  return node.children.every((child) => isFitWhole(child, isStrict));
}

const isFitWhole = (node: BaseNode, isStrict: boolean): boolean =>
  isFit(node, isStrict) && (!node.ownApplies || node.children.every((child) => isFitWhole(child, isStrict)));

/**
 * Compares what a form holds with what counts as saved.
 *
 * @param isStrict whether what has an error, or awaits an answer, is left as it was saved, too
 */
export function takeSnapshot(store: FormStore, isStrict: boolean): Snapshot {
  const { root } = store;
  const held = new Map<LiveNode, unknown>();
  const left = new Set<LiveNode>();
  const take = (node: BaseNode, saved: unknown): unknown => {
    if (!isFit(node, isStrict)) {
      left.add(node);
      return saved;
    }
    if (node.rows !== undefined || node.part.isLeaf) {
      node.forEach((each) => (each.rows || each.part.isLeaf) && held.set(each, each.rows ? [...each.rows] : each.raw));
      return plainData(node);
    }
    held.set(node, node.children);
    const data = node.fold((child) => take(child, child.key === '' ? saved : ownValue(saved, child.key)));
    // An either-or without a choice is no value, nor is what does not apply.
    return plainData(node) === undefined ? undefined : data;
  };
  const saved = savedData(store);
  return { saved, now: take(root, saved), held, left };
}
