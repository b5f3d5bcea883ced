// The focus stays where the user is as fields stop applying and rows are replaced: it never falls to the start of the page. Whatever
// draws the page does so after the gate has changed, so what to do is noted first and done then.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { connectionsBelow, focusBelow, focusNode, inDocumentOrder } from './focusOrder.ts';
import { activeIn, afterDrawing, isSeen } from './page.ts';

/** Whether what had the focus is gone, or hidden: a browser takes the focus from that as it draws the next frame. */
export const isLost = (active: Element | null): boolean =>
  active === null || active === active.ownerDocument.body || !active.isConnected || !isSeen(active);

/** Does something if the focus is gone once the page has been drawn. */
export const ifLost = (page: Document, act: () => boolean): void => afterDrawing(() => isLost(activeIn(page)) && act());

/** Whether an element is that of a field, or in it. */
const holdsElement = ({ connections }: BaseNode, element: Element): boolean =>
  [...(connections ?? [])].some((each) => (each.element as unknown as Element | undefined)?.contains(element) === true);

/** Whether an element is that of a field at a node or below, or in it. */
export const holdsBelow = (node: BaseNode, element: Element): boolean =>
  holdsElement(node, element) || node.children.some((child) => holdsBelow(child, element));

/** The nodes before one in an order, the nearest first, and then those after it. */
function around(order: readonly BaseNode[], node: BaseNode): readonly BaseNode[] {
  const at = order.indexOf(node);
  return [...order.slice(0, at).reverse(), ...order.slice(at)];
}

/** The fields on the page, as they stand there; those of a large form take a while to sort. */
const inPageOrder = (root: BaseNode): readonly BaseNode[] =>
  inDocumentOrder(connectionsBelow(root).filter(({ node, element }) => node !== root && element !== undefined)).map(({ node }) => node);

function inSchemaOrder(root: BaseNode): readonly BaseNode[] {
  const all: BaseNode[] = [];
  root.forEach((node) => node !== root && all.push(node));
  return all;
}

/**
 * Has the focus go on if what holds it goes: to the nearest of what it was in that is left, or to the field before that, or after.
 *
 * @param page the document that the form is in
 * @param lost what goes, with the focus
 * @param next what it goes on to, if that can take it
 */
export function keepFocus(page: Document, root: BaseNode, lost: BaseNode, next?: BaseNode): void {
  let left = lost;
  while (left.removed && left.parent) left = left.parent;
  // A field that stops applying is on the page only now; what rows were in stays in the schema.
  const order = lost.removed ? undefined : inPageOrder(root);
  ifLost(
    page,
    () =>
      [next, left].some((node) => node && node !== lost && focusBelow(node)) ||
      around(order ?? inSchemaOrder(root), left).some((node) => node.applies && !node.removed && focusNode(node)),
  );
}

/** Keeps the focus in a form. @returns ends it */
export function startFocusKeeper(form: HTMLFormElement, gate: AnyGate): () => void {
  const internals = internalsOf(gate);
  const { store } = internals;
  const { ownerDocument } = form;
  return store.observe(({ nodes, rows }) => {
    const active = activeIn(ownerDocument);
    // (Where one row was removed, and rows are followed, its neighbour gets the focus.)
    const isFollowed = internals.startRowNews !== undefined && rows.some(({ kind }) => kind === 'removed');
    const lost = active && nodes.find((node) => (node.removed ? !isFollowed : !node.applies) && holdsElement(node, active));
    // (Last: each access to a member of a form has the browser look through all controls for one of that name.)
    if (lost && form.contains(active)) keepFocus(ownerDocument, store.root, lost);
  });
}
