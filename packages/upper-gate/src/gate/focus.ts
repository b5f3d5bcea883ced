// Bringing what is wrong before the person.

import { blocks } from '../schema/severity.ts';
import type { Cell, Connection } from './cell.ts';

/** Moves the focus to one field. @returns whether it could be moved */
export function focusCell(cell: Cell): boolean {
  return inDocumentOrder([...(cell.connections ?? [])]).some(bring);
}

/**
 * Moves the focus to the first field with an error, as the person sees the page: in document order where the connections
 * tell their elements, else in schema order. What cannot take the focus is passed over.
 */
export function focusFirstError(root: Cell): boolean {
  return inDocumentOrder(connectionsOfErrors(root)).some(bring);
}

const bring = ({ focus }: Connection): boolean => focus() !== false;

function connectionsOfErrors(cell: Cell): Connection[] {
  if (cell.errors === 0) return [];
  // The form itself is no field: its connection is the last resort.
  const own = cell.parent && cell.findings.some(blocks) ? [...(cell.connections ?? [])] : [];
  return [...own, ...cell.children.flatMap(connectionsOfErrors)];
}

const FOLLOWING = 4; // Node.DOCUMENT_POSITION_FOLLOWING

/** Sorts what has elements as these stand in the document. */
export function inDocumentOrder<T extends Pick<Connection, 'element'>>(items: T[]): T[] {
  return items.sort((a, b) => {
    if (!a.element || !b.element || a.element === b.element) return 0;
    return a.element.compareDocumentPosition(b.element as never) & FOLLOWING ? -1 : 1;
  });
}

/** All findings at a cell and below, in schema order: those of a whole behind those of its parts. */
export const findingsBelow = (cell: Cell): Cell['findings'] =>
  cell.found === 0 ? [] : [...cell.children.flatMap(findingsBelow), ...cell.findings];
