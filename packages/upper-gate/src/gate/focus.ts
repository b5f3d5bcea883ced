// Moving the focus to what is wrong.

import { blocks } from '../schema/severity.ts';
import type { Finding } from '../schema/finding.ts';
import type { BaseNode, Connection } from './node.ts';

/** Moves the focus to one field. @returns whether it could be moved */
export function focusNode(node: BaseNode): boolean {
  return inDocumentOrder([...(node.connections ?? [])]).some((connection) => moveTo(node, connection));
}

/**
 * Moves the focus to the first field with an error, as the user sees the page: in document order where connections have
 * elements, else in schema order. What cannot take the focus is skipped.
 *
 * @returns whether it could be moved
 */
export function focusFirstError(root: BaseNode): boolean {
  return inDocumentOrder(connectionsOfErrors(root)).some(({ node, focus }) => moveTo(node, { focus }));
}

/** A connection that throws could not take the focus. */
function moveTo(node: BaseNode, { focus }: Connection): boolean {
  try {
    return focus() !== false;
  } catch (error) {
    node.fault(error, 'focus');
    return false;
  }
}

function connectionsOfErrors(node: BaseNode): (Connection & { readonly node: BaseNode })[] {
  if (node.errors === 0) return [];
  // The form itself is no field: its connection is the last resort.
  const own = node.parent && node.findings.some(blocks) ? [...(node.connections ?? [])] : [];
  return [...own.map((connection) => ({ ...connection, node })), ...node.children.flatMap(connectionsOfErrors)];
}

const FOLLOWING = 4; // Node.DOCUMENT_POSITION_FOLLOWING

/** Sorts what has elements as these stand in the document. */
export function inDocumentOrder<T extends Pick<Connection, 'element'>>(items: T[]): T[] {
  return items.sort((a, b) => {
    if (!a.element || !b.element || a.element === b.element) return 0;
    return a.element.compareDocumentPosition(b.element as never) & FOLLOWING ? -1 : 1;
  });
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
