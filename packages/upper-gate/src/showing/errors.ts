// The errors that the person may see, as a summary lists them.

import type { Cell } from '../gate/cell.ts';
import { engineOf, type Gate } from '../gate/createGate.ts';
import { focusCell, inDocumentOrder } from '../gate/focus.ts';
import { summary } from '../messages/en.ts';
import { formatText } from '../messages/text.ts';
import { inLanguage, type Node } from '../schema/node.ts';

/** An error, and the way to where it is mended. */
export interface ShownError {
  readonly path: string;
  /** What the field is called. */
  readonly label: string;
  readonly message: string;
  /** The control (or other element) that was connected to the field; nothing where there is none. */
  readonly element: Element | undefined;
  /** Moves the focus to the field. @returns whether it could be moved */
  focus(): boolean;
}

/** All errors that are shown, in document order; those without an element come last, in schema order. */
export function shownErrors(gate: Pick<Gate<Node>, 'state'>): readonly ShownError[] {
  const { root, catalogue } = engineOf.get(gate)!;
  const found: ShownError[] = [];
  const collect = (cell: Cell): void => {
    if (cell.errors === 0) return;
    cell.kids.forEach(collect);
    if (!cell.revealed) return;
    const element = [...(cell.connections ?? [])].find((each) => each.element)?.element as Element | undefined;
    for (const { severity, message, path } of cell.findings)
      if (severity === 'error')
        found.push({ path, label: inLanguage(cell.part.label, catalogue), message, element, focus: () => focusCell(cell) });
  };
  collect(root);
  return [...inDocumentOrder(found.filter(({ element }) => element)), ...found.filter(({ element }) => !element)];
}

/** What stands above the list of all errors. */
export const summaryHeading = (gate: Pick<Gate<Node>, 'state'>, count: number): string =>
  formatText(engineOf.get(gate)!.catalogue?.['summary'] ?? summary, { label: '', count });

/** Whether the person can be brought to an element: it is on the page, seen, and not disabled. */
export const isReachable = (element: Element | undefined): boolean =>
  element !== undefined && element.isConnected && element.checkVisibility() && !element.matches(':disabled');
