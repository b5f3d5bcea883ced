// Moving the focus to what is wrong.

import { reported, type FocusOnRefusal } from '../gate/store.ts';
import { blocks } from '../schema/severity.ts';
import { awaitedBy } from './awaited.ts';
import type { Connection, Placed } from '../gate/connection.ts';
import type { BaseNode } from '../gate/node.ts';

/**
 * Moves the focus to one field. What hides it is opened.
 *
 * @returns whether it could be moved, or is waited for
 */
export const focusNode = (node: BaseNode): boolean => focusFirst(connectionsAt(node));

/**
 * Moves the focus to the first field with an error, as the user sees the page: in document order where connections have
 * elements, else in schema order. As browsers do, it passes over what cannot take the focus; only if there is nothing else,
 * what hides a field is opened.
 *
 * @param otherwise called if the focus could be moved nowhere after all, though it was waited for
 * @returns whether it could be moved, or is waited for
 */
export const focusFirstError = (root: BaseNode, otherwise?: () => unknown): boolean => focusFirst(connectionsOfErrors(root), otherwise);

/** Moves the focus after a refusal: to the first invalid field, to whatever is connected to the form as a whole, or nowhere. */
export function followRefusal(root: BaseNode, focus: FocusOnRefusal): void {
  const focusForm = (): unknown => focusNode(root);
  if (focus === 'summary' || (focus === 'first' && !focusFirstError(root, focusForm))) focusForm();
}

/**
 * Moves the focus to the first field at a node or below.
 *
 * @returns whether it could be moved, or is waited for
 */
export const focusBelow = (root: BaseNode): boolean => focusFirst(connectionsBelow(root));

/** The connections at a node and below. */
export function connectionsBelow(root: BaseNode): NodeConnection[] {
  const all: NodeConnection[] = [];
  root.forEach((node) => all.push(...connectionsAt(node)));
  return all;
}

/** A connection, and its node. */
export interface NodeConnection {
  readonly node: BaseNode;
  readonly connection: Connection;
  readonly element: Connection['element'];
}

function focusFirst(found: NodeConnection[], otherwise?: () => unknown): boolean {
  const all = inDocumentOrder(found);
  if (all.some((each) => moveTo(each, false))) return true;
  const opening = all.map(({ node }) => openingOf(node)).find(Boolean);
  return opening ? opening.openFirst(all, otherwise) : all.some((each) => moveTo(each, true));
}

/** Shows what is hidden by functions of the author's (`show`): brought by connections that have some. */
export interface Opening {
  openFirst(all: readonly NodeConnection[], otherwise?: () => unknown): boolean;
  /** Whether something of the author's shows a field where it is hidden, and did not fail to. */
  canBeShown(node: BaseNode): boolean;
}

/** A connection that can show what is hidden, of a field or a group around it. */
export interface OpeningConnection extends Connection {
  readonly opening: Opening;
}

/** What shows a field; nothing where nobody connected such a thing, to it or to a group around it. */
export const openingOf = (node: BaseNode | undefined): Opening | undefined =>
  node && ([...(node.connections ?? [])].find((each): each is OpeningConnection => 'opening' in each)?.opening ?? openingOf(node.parent));

/** How many moves of the focus are under way. */
let moves = 0;

/** Whether it is the program that moves the focus now, not the user: nobody leaves a field by that. */
export const isMovedByProgram = (): boolean => moves > 0;

/** Moves the focus to a connection. One that throws could not take it. */
export function moveTo({ node, connection: { focus } }: Pick<NodeConnection, 'node' | 'connection'>, opens: boolean): boolean {
  if (!focus) return false;
  moves += 1;
  try {
    const isMoved = attempt(node, () => focus(opens)) !== false;
    if (isMoved) node.kit.tracer?.focused(node);
    return isMoved;
  } finally {
    moves -= 1;
  }
}

/** What a callback of the author's returns; `false` if it throws: then it has not done what it is for. (That is reported, also if it rejects later.) */
export function attempt(node: BaseNode, callback: () => unknown): unknown {
  let result: unknown = false;
  reported(
    () => (result = callback()),
    (error) => node.fault(error, 'focus'),
  );
  return result;
}

/** The connections at a node. */
export const connectionsAt = (node: BaseNode): NodeConnection[] =>
  [...(node.connections ?? [])].map((connection) => ({ node, connection, element: connection.element }));

function connectionsOfErrors(node: BaseNode): NodeConnection[] {
  if (node.errors === 0) return [];
  // The form itself is no field: its connection is the last resort.
  const own = node.parent && node.findings.some(blocks) && !awaitedBy(node) ? connectionsAt(node) : [];
  return [...own, ...node.children.flatMap(connectionsOfErrors)];
}

const DISCONNECTED = 1; // Node.DOCUMENT_POSITION_DISCONNECTED
/** `Node.DOCUMENT_POSITION_FOLLOWING` */
const FOLLOWING = 4;

/** An element, and the hosts of the shadow roots around it, the innermost first. */
function* hostsOf(element: Placed): Iterable<Placed> {
  for (let at: Placed | undefined = element; at !== undefined; at = (at.getRootNode?.() as { host?: Placed } | undefined)?.host) yield at;
}

/** Whether one element stands before another; across shadow roots, by their hosts. */
function isBefore(a: Placed, b: Placed): boolean {
  const relation = a.compareDocumentPosition(b);
  if (!(relation & DISCONNECTED)) return (relation & FOLLOWING) > 0;
  for (const one of hostsOf(a))
    for (const other of hostsOf(b))
      if (one !== other && one.getRootNode?.() === other.getRootNode?.()) return (one.compareDocumentPosition(other) & FOLLOWING) > 0;
  return false;
}

/** Sorts what has elements as these stand in the document. */
export function inDocumentOrder<T extends Pick<Connection, 'element'>>(items: T[]): T[] {
  return items.sort(({ element: a }, { element: b }) => (!a || !b || a === b ? 0 : isBefore(a, b) ? -1 : 1));
}
