// Showing what is hidden by functions of the author's, to focus what is in it: a tab, a dialog, a part of the page that is loaded first.

import type { Connection } from '../gate/connection.ts';
import type { BaseNode } from '../gate/node.ts';
import { attempt, connectionsAt, moveTo, type NodeConnection, type Opening } from './focusOrder.ts';

/** How long drawing may take that does not come at once, in milliseconds. */
const DRAWN_AFTER = 100;

/** The fields that could not be shown when that was tried last, or did not take the focus then. */
const unreached = /* @__PURE__ */ new WeakSet<BaseNode>();

/** What shows a field, or a group around it: the outermost first. */
const showsOf = (node: BaseNode | undefined): readonly Connection[] =>
  node === undefined ? [] : [...showsOf(node.parent), ...[...(node.connections ?? [])].filter(({ show }) => show !== undefined)];

/** Whether something of the author's shows a field where it is hidden, and did not fail to. */
const canBeShown = (node: BaseNode): boolean => !unreached.has(node) && showsOf(node).length > 0;

/** What each `show()` has returned, which is called once: `false`, or a promise of what it comes to. */
type Shown = Map<Connection, unknown>;

/** Opens what hides a field, of the first that can be shown so, and moves the focus there: now, or once that is loaded and drawn. */
function openFirst(all: readonly NodeConnection[], otherwise?: () => unknown): boolean {
  const shown: Shown = new Map();
  const failed = new Set<BaseNode>();
  for (const [i, each] of all.entries()) {
    const isWaitedFor = showOnce(each.node, shown).some((result) => result !== false);
    const isMoved = moveTo(each, true);
    if (!isMoved && !isWaitedFor) failed.add(each.node);
    else {
      noteReached(failed, isMoved ? each.node : undefined);
      if (!isMoved) void openLater(all.slice(i), shown, otherwise);
      return true;
    }
  }
  noteReached(failed);
  return false;
}

/** The same for what is waited for. Whoever has gone on typing meanwhile keeps the focus. */
async function openLater(all: readonly NodeConnection[], shown: Shown, otherwise?: () => unknown): Promise<void> {
  const { kit } = all[0]!.node;
  const { clock } = kit;
  let isEdited = false;
  const hasGoneOn = (): boolean => isEdited;
  const stop = kit.observe((operation) => (isEdited ||= operation.hasNewValues));
  try {
    const failed = new Set<BaseNode>();
    let known = 0;
    for (const { node } of all) {
      const results = await Promise.all(showOnce(node, shown));
      if (results.some((result) => result !== false))
        // What was shown now may take time to be drawn. It may have brought the control, and so another connection.
        for (const delay of shown.size > known ? [0, DRAWN_AFTER] : [undefined]) {
          if (delay !== undefined) await new Promise<void>((resolve) => void clock.setTimeout(resolve, delay));
          if (hasGoneOn() || connectionsAt(node).some((each) => moveTo(each, true))) return noteReached(failed, node);
        }
      known = shown.size;
      failed.add(node);
    }
    noteReached(failed);
    if (!hasGoneOn()) otherwise?.();
  } finally {
    stop();
  }
}

/** Calls whatever shows a field, unless that was done. */
const showOnce = (node: BaseNode, shown: Shown): readonly unknown[] =>
  showsOf(node).map((connection) => {
    let result = shown.get(connection);
    if (result === undefined) {
      const returned = attempt(node, () => connection.show!());
      result = returned !== false && Promise.resolve(returned).catch(() => false);
      shown.set(connection, result);
    }
    return result;
  });

/** Notes which fields could not be reached: their findings are for the line above the form, until they can. */
function noteReached(failed: ReadonlySet<BaseNode>, reached?: BaseNode): void {
  const changed = [...failed].filter((node) => !unreached.has(node));
  changed.forEach((node) => unreached.add(node));
  if (reached && unreached.delete(reached)) changed.push(reached);
  const [first] = changed;
  if (!first?.kit.beginEdit(first)) return;
  changed.forEach((node) => node.kit.markChanged(node));
  first.kit.end();
}

/** What connections with `show` bring. */
export const OPENING: Opening = { openFirst, canBeShown };
