// Rows that come, go and move: they are announced, and the focus follows what the user did, to the new row, to the neighbour of one that
// is gone, along with one that moves. Only forms with rows on the page load this.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf, type RowNews } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { inLanguage } from '../messages/text.ts';
import { rowAdded, rowMoved, rowRemoved } from '../messages/english.ts';
import type { RowChange } from '../schema/kit.ts';
import { holdsBelow, ifLost, isLost, keepFocus } from './focusKeeper.ts';
import { focusBelow } from './focusOrder.ts';
import { activeIn, afterDrawing, isElement, LAST_DRAWN } from './page.ts';

const TEXTS = { added: ['rowAdded', rowAdded], removed: ['rowRemoved', rowRemoved], moved: ['rowMoved', rowMoved] } as const;

/** Follows the rows of a form. */
function startRowNews(form: HTMLFormElement, gate: AnyGate): RowNews {
  const { store } = internalsOf(gate);
  const { ownerDocument } = form;
  const ended = new AbortController();
  const { signal } = ended;
  /** Whether the user has just activated a button of the form, such as the one that adds a row. */
  let isActing = false;
  let isMoving = false;
  let drawing: ReturnType<typeof setTimeout> | undefined;
  /** The row that was added last, and the last operation that did something to rows. */
  let added: BaseNode | undefined;
  let latest: object | undefined;

  const acts = (event: Event): void => {
    const button = isElement(event.target) && event.target.closest('button, [type=button], [role=button], a');
    if (!button) return;
    const owner = button.closest('form');
    if (owner && owner !== form) return;
    isActing = true;
    setTimeout(() => (isActing = false));
  };
  form.getRootNode().addEventListener('click', acts, { signal, capture: true });

  /** A row came, went or moved by what the user did: on to the new row, its neighbour, or the same element. */
  const follow = ({ list, row, ...change }: RowChange<BaseNode>): void => {
    const active = activeIn(ownerDocument);
    if (change.kind === 'moved') {
      isMoving = true;
      clearTimeout(drawing);
      drawing = setTimeout(() => (isMoving = false), LAST_DRAWN);
      if (isLost(active)) return;
      const isInside = form.contains(active);
      // Where one row moves, what draws the page may move others. What had the focus may be hidden where it stands now.
      ifLost(ownerDocument, () => {
        (active as HTMLElement | null)?.focus();
        return !isLost(activeIn(ownerDocument)) || (isInside && focusBelow(row));
      });
    } else if (!isActing && !(active && holdsBelow(row, active))) return;
    else if (change.kind === 'added') {
      added = row;
      afterDrawing(() => {
        const now = activeIn(ownerDocument);
        // Whoever goes on before the row is drawn keeps the focus.
        return signal.aborted || added !== row || (now !== active && !isLost(now)) || focusBelow(row);
      });
    } else keepFocus(ownerDocument, store.root, row, list.rows![Math.min(change.from, list.rows!.length - 1)]);
  };

  const stop = store.observe(({ rows }) => {
    if (rows.length === 0) return;
    const now = (latest = rows);
    for (const change of rows) {
      const [name, text] = TEXTS[change.kind];
      const row = (change.kind === 'added' ? change.to : change.from) + 1;
      store.say?.(name, text, change.list, () => latest === now, {
        label: inLanguage(change.list.part.rowLabel, store.catalogue),
        row,
        ...(change.kind === 'moved' && { to: change.to + 1 }),
      });
      follow(change);
    }
  });
  return {
    get isMoving() {
      return isMoving;
    },
    undo() {
      clearTimeout(drawing);
      ended.abort();
      stop();
    },
  };
}

/**
 * Announces the rows of lists as they come, go and move, and has the focus follow them. Call it for each list that a page shows: once or
 * often, before the form is wired or after.
 *
 * @param gate the gate of the form
 *
 * @example
 * followRows(gate);
 */
export function followRows(gate: AnyGate): void {
  const internals = internalsOf(gate);
  internals.startRowNews = startRowNews;
  internals.form?.followRows();
}
