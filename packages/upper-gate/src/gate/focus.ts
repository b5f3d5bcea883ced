// Moving the focus to what is wrong.

import { blocks } from '../schema/severity.ts';
import type { Finding } from '../schema/finding.ts';
import type { BaseNode, Connection, Placed } from './node.ts';

/**
 * Moves the focus to one field. What hides it is opened.
 *
 * @returns whether it could be moved
 */
export const focusNode = (node: BaseNode): boolean => focusFirst(connectionsAt(node));

/**
 * Moves the focus to the first field with an error, as the user sees the page: in document order where connections have
 * elements, else in schema order. As browsers do, it passes over what cannot take the focus; only if there is nothing else,
 * what hides a field is opened.
 *
 * @returns whether it could be moved
 */
export const focusFirstError = (root: BaseNode): boolean => focusFirst(connectionsOfErrors(root));

/**
 * Moves the focus to the first field at a node or below.
 *
 * @returns whether it could be moved
 */
export function focusBelow(root: BaseNode): boolean {
  const all: NodeConnection[] = [];
  root.forEach((node) => all.push(...connectionsAt(node)));
  return focusFirst(all);
}

interface NodeConnection {
  readonly node: BaseNode;
  readonly connection: Connection;
  readonly element: Connection['element'];
}

function focusFirst(found: NodeConnection[]): boolean {
  const all = inDocumentOrder(found);
  return all.some((each) => moveTo(each, false)) || all.some(showAndMoveTo);
}

/** A connection that throws could not take the focus. */
const moveTo = ({ node, connection: { focus } }: Pick<NodeConnection, 'node' | 'connection'>, opens: boolean): boolean =>
  focus !== undefined && attempt(node, () => focus(opens));

/** How long drawing may take that does not come at once, in milliseconds. */
const DRAWN_AFTER = 100;

/** Opens what is around a field, the outermost first, and moves the focus there: now, or once that is loaded and drawn. */
function showAndMoveTo({ node, connection }: NodeConnection): boolean {
  const loading: unknown[] = [];
  const isShown = show(node, loading);
  if (moveTo({ node, connection }, true)) return true;
  if (!isShown) return false;
  // What was shown may have brought the control, and so another connection.
  const { clock, edits } = node.kit;
  // Whoever has gone on typing meanwhile keeps the focus.
  const retry = (): boolean => node.kit.edits !== edits || connectionsAt(node).some((each) => moveTo(each, true));
  const retrySoon = (): unknown => clock.setTimeout(() => retry() || clock.setTimeout(retry, DRAWN_AFTER), 0);
  Promise.all(loading).then(retrySoon, (error: unknown) => node.fault(error, 'focus'));
  return true;
}

/** @returns whether something was shown of a node, or around it. @param loading gets what has to be waited for */
function show(node: BaseNode, loading: unknown[]): boolean {
  const isShownAround = node.parent !== undefined && show(node.parent, loading);
  const shows = [...(node.connections ?? [])].map((connection) => connection.show).filter((each) => each !== undefined);
  const shown = shows.filter((each) =>
    attempt(node, () => {
      const result = each();
      loading.push(result);
      return result;
    }),
  );
  return shown.length > 0 || isShownAround;
}

/** @returns whether a callback of the author's did what it is for; not if it says `false`, or throws */
function attempt(node: BaseNode, callback: () => unknown): boolean {
  try {
    return callback() !== false;
  } catch (error) {
    node.fault(error, 'focus');
    return false;
  }
}

const connectionsAt = (node: BaseNode): NodeConnection[] =>
  [...(node.connections ?? [])].map((connection) => ({ node, connection, element: connection.element }));

function connectionsOfErrors(node: BaseNode): NodeConnection[] {
  if (node.errors === 0) return [];
  // The form itself is no field: its connection is the last resort.
  const own = node.parent && node.findings.some(blocks) ? connectionsAt(node) : [];
  return [...own, ...node.children.flatMap(connectionsOfErrors)];
}

const DISCONNECTED = 1; // Node.DOCUMENT_POSITION_DISCONNECTED
const FOLLOWING = 4; // Node.DOCUMENT_POSITION_FOLLOWING

/** An element, and the hosts of the shadow roots around it, the innermost first. */
function* hostsOf(element: Placed): Iterable<Placed> {
  for (let at: Placed | undefined = element; at !== undefined; at = (at.getRootNode?.() as { host?: Placed } | undefined)?.host) yield at;
}

/** Whether one element stands before another; across shadow roots, by their hosts. */
function isBefore(a: Placed, b: Placed): boolean {
  const relation = a.compareDocumentPosition(b as never);
  if (!(relation & DISCONNECTED)) return (relation & FOLLOWING) > 0;
  for (const one of hostsOf(a))
    for (const other of hostsOf(b))
      if (one !== other && one.getRootNode?.() === other.getRootNode?.())
        return (one.compareDocumentPosition(other as never) & FOLLOWING) > 0;
  return false;
}

/** Sorts what has elements as these stand in the document. */
export function inDocumentOrder<T extends Pick<Connection, 'element'>>(items: T[]): T[] {
  return items.sort(({ element: a }, { element: b }) => (!a || !b || a === b ? 0 : isBefore(a, b) ? -1 : 1));
}

/** All findings at a node and below, in schema order: those of a whole behind those of its parts. */
export function findingsBelow(node: BaseNode): readonly Finding[] {
  const all: Finding[] = [];
  const collect = (at: BaseNode): void => {
    if (at.found === 0) return;
    at.children.forEach(collect);
    for (const finding of at.findings) all.push(finding);
  };
  collect(node);
  return all;
}
