// What a form holds against what counts as saved: both as data, so that they can be compared. What cannot be read is left
// as it was saved, so that nothing is lost by saving the rest.

import { BESIDE } from '../schema/finding.ts';
import type { BaseNode } from '../gate/node.ts';
import type { FormStore } from '../gate/store.ts';
import { plainData } from '../gate/compositeNode.ts';
import type { FieldNode } from '../gate/fieldNode.ts';
import { swapSource } from '../schema/context/running.ts';
import { isDictionary } from '../schema/dictionary/dictionary.ts';
import { isField, isUnreadable } from '../schema/field.ts';
import type { LiveNode } from '../schema/kit.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { isVariant } from '../schema/variant/variant.ts';
import { viewValue, type ValueView } from '../clauses/appliesWhen/view.ts';

/** What is saved, and what would be once this is saved. */
export interface Snapshot {
  readonly saved: unknown;
  readonly now: unknown;
  /** What controls hold, field by field, and the rows of lists. */
  readonly held: ReadonlyMap<LiveNode, unknown>;
  /** What stays as it was saved: what is not fit, and what was not edited. */
  readonly left: ReadonlySet<BaseNode>;
}

/** The data of a view, or `undefined` without data. */
function dataOfView(view: ValueView): unknown {
  const { part, children } = view;
  if (!view.applies) return undefined;
  if (isField(part)) {
    try {
      return view.see(0);
    } catch {
      // It cannot be read: nothing of it counts as saved.
      return undefined;
    }
  }
  if (part.traits.json === 'array') return Array.from(children.values(), dataOfView);
  const fields: object = Object.fromEntries([...children].map(([key, child]) => [key, dataOfView(child)]));
  if (!isVariant(part)) return fields;
  // The fields of a case stand beside the choice.
  const { [BESIDE]: chosen, ...choice } = fields as { readonly [BESIDE]?: object };
  return ownValue(choice, part.key) === undefined ? undefined : { ...choice, ...chosen };
}

/** The data of what counts as saved, without what does not apply there. */
export function savedData(store: FormStore): unknown {
  const { root, catalogue } = store;
  const outer = swapSource(store);
  try {
    const [view] = viewValue(root.part, root.saved, { locale: catalogue?.locale });
    return dataOfView(view);
  } finally {
    swapSource(outer);
  }
}

/** Whether what is in a node may be saved. */
export type Fits = (node: BaseNode) => boolean;

export const isReadable: Fits = (node) => !isField(node.part) || !isUnreadable((node as FieldNode).value);

/** Whether a node is looked at as one: a field, a list. */
export const isWhole = ({ rows, part }: BaseNode): boolean => rows !== undefined || part.traits.hasParts !== true;

/** Whether a node is taken as it is, or what is in it is looked at: a list, and an either-or with another choice, is whole or not at all. */
function isFit(node: BaseNode, fits: Fits): boolean {
  // (What is lacking may be whether it applies.)
  if (!node.ownApplies) return !node.kit.lackingNodes?.isAt(node);
  if (!fits(node)) return false;
  const isOne = node.rows !== undefined || (isVariant(node.part) && node.children[0]!.dirty > 0);
  return !isOne || node.children.every((child) => isFitWhole(child, fits));
}

const isFitWhole: (node: BaseNode, fits: Fits) => boolean = (node, fits) =>
  isFit(node, fits) && (!node.ownApplies || node.children.every((child) => isFitWhole(child, fits)));

/** @param fits what may be saved; everything else is left as it was */
export function take({ root }: FormStore, saved: unknown, fits: Fits): Snapshot {
  const held = new Map<LiveNode, unknown>();
  const left = new Set<BaseNode>();
  const dataOf = (node: BaseNode, before: unknown): unknown => {
    if (!isFit(node, fits)) {
      left.add(node);
      return before;
    }
    // Of an entry that is new, that it is there is the edit.
    if (node.dirty === 0 && !(node.parent && isDictionary(node.parent.part))) left.add(node);
    if (isWhole(node)) {
      node.forEach((each) => isWhole(each) && held.set(each, each.rows ? [...each.rows] : each.raw));
      // What was not edited is no change, though it may read as another object each time.
      return node.dirty === 0 && node.ownApplies && before !== undefined ? before : plainData(node);
    }
    held.set(node, node.children);
    const [chooser] = node.children;
    // Another case of a variant may have held something else under the same key.
    const isOther = (child: BaseNode): boolean => isVariant(node.part) && child !== chooser && chooser!.dirty > 0;
    const data = node.fold((child) => dataOf(child, isOther(child) ? undefined : ownValue(before, child.key)));
    // An either-or without a choice is no value, nor is what does not apply.
    return plainData(node) === undefined ? undefined : data;
  };
  return { saved, now: dataOf(root, saved), held, left };
}

/** Compares what a form holds with what counts as saved. */
export function takeSnapshot(store: FormStore): Snapshot {
  return take(store, savedData(store), isReadable);
}
