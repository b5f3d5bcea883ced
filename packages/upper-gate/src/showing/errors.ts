// The errors that the user may see, as a summary lists them.

import type { AnyGate } from '../gate/gate.ts';
import { shownOf } from '../gate/fieldState.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { FormStore } from '../gate/store.ts';
import type { Catalogue } from '../messages/text.ts';
import type { Finding } from '../schema/finding.ts';
import { nameIn } from '../schema/nameIn.ts';
import { awaitedBy } from './awaited.ts';
import { focusNode, inDocumentOrder } from './focusOrder.ts';
import { awayFromField } from './plan/names.ts';

/** An error, and the way to its control. */
export interface ShownError {
  /** Unique in the list: a field may have several errors. */
  readonly key: string;
  readonly path: string;
  /** The label of the field. */
  readonly label: string;
  readonly code: string;
  readonly message: string;
  /**
   * The message away from its field: after the rows around that, and after its label where the message does not say it.
   * `'Crew 2: Name is required'`, `'PIN: Four digits'`
   */
  readonly text: string;
  /** The connected control (or other element); undefined without one, or where it cannot be shown. */
  readonly element: Element | undefined;
  /**
   * Moves the focus to the field.
   *
   * @returns whether it could be moved
   */
  focus(): boolean;
}

/** All errors that are shown, in schema order: the node, the error, its number at that node. */
export function* shownErrors(store: FormStore, node: BaseNode = store.root): Iterable<readonly [BaseNode, Finding, number]> {
  if (node.errors === 0 || awaitedBy(node)) return;
  for (const child of node.children) yield* shownErrors(store, child);
  for (const [i, error] of shownOf(node, node.verdicts?.errors ?? [], store).entries()) yield [node, error, i];
}

/** The names of the rows and entries around a field, the outermost first. */
export const namesAbove = ({ parent, key }: BaseNode, catalogue: Catalogue | undefined): readonly string[] =>
  parent ? [...namesAbove(parent, catalogue), ...nameIn(parent.part, key, catalogue)] : [];

function toShown([node, { code, message, path }, index]: readonly [BaseNode, Finding, number], gate: AnyGate): ShownError {
  const { store, form } = internalsOf(gate);
  const { catalogue } = store;
  // There is no way to what cannot be shown.
  const connection = form?.isLost(node) ? undefined : [...(node.connections ?? [])].find(({ element }) => element);
  return {
    key: `${path}:${index}`,
    path,
    label: node.label,
    code,
    message,
    text: awayFromField(namesAbove(node, catalogue), node.parent && node.part, message, catalogue),
    element: connection?.element as Element | undefined,
    focus: () => focusNode(node),
  };
}

const NONE: readonly ShownError[] = [];

/**
 * Follows the errors of the refusals of a gate.
 *
 * @param gate the gate of the form
 * @returns to be called after each change of the gate: what is left of the last refusal, in document order, what has no element last;
 *   the same list while that stays so
 */
export function followErrors(gate: AnyGate): () => readonly ShownError[] {
  const { store } = internalsOf(gate);
  let left = NONE;
  return () => {
    const isRefused = gate.state.status === 'refused';
    if (!isRefused && left === NONE) return left;
    const all = [...shownErrors(store)].map((error) => toShown(error, gate));
    const now = [...inDocumentOrder(all.filter(({ element }) => element)), ...all.filter(({ element }) => !element)];
    if (!sameListBy(now, left, (a, b) => a.path === b.path && a.text === b.text && a.element === b.element))
      left = now.length > 0 ? now : NONE;
    return left;
  };
}

/** Whether two lists have the same items, by a comparison. */
export const sameListBy = <T>(a: readonly T[], b: readonly T[], sameItem: (a: T, b: T) => boolean): boolean =>
  a.length === b.length && a.every((item, i) => sameItem(item, b[i]!));
