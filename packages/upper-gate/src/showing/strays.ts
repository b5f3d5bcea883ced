// What nothing on the page can show: findings of fields without a control or a place, and of controls that cannot be reached. The
// line above the form shows them.

import type { AnyGate } from '../gate/gate.ts';
import { shownOf } from '../gate/fieldState.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { awaitedBy } from './awaited.ts';
import { namesAbove } from './errors.ts';
import { openingOf } from './focusOrder.ts';
import { isWithinReach } from './page.ts';
import type { LineMessage } from './plan/line.ts';
import { awayFromField } from './plan/names.ts';

/** Whether a node has a control or a place, or somebody else listens to it. */
const isBound = ({ connections, listeners }: BaseNode): boolean => (connections?.size ?? 0) + (listeners?.size ?? 0) > 0;

/** Whether the user can be brought to a field: its element is on the page, seen or within reach, and not disabled. */
const isReachable = ({ connections }: BaseNode): boolean =>
  [...(connections ?? [])].some((each) => {
    const element = each.element as Element | undefined;
    return element?.isConnected === true && isWithinReach(element) && !element.matches(':disabled');
  });

/** What nothing on the page can show. */
export interface Strays {
  /** Its messages, in schema order. */
  readonly read: () => readonly LineMessage[];
  /** Whether a field has something to say, but its control could not be reached when that mattered. */
  readonly isLost: (node: BaseNode) => boolean;
  readonly undo: () => void;
}

/**
 * Follows what nothing on the page can show.
 *
 * @returns what that is now
 */
export function followStrays(gate: AnyGate): Strays {
  const { store, submission } = internalsOf(gate);
  /** Those that had something to say as nothing on the page followed them. */
  const unbound = new Set<BaseNode>();
  /** Those that could not be reached when that mattered. */
  const lost = new Set<BaseNode>();
  const set = (nodes: Set<BaseNode>, node: BaseNode, isIn: boolean): unknown => (isIn ? nodes.add(node) : nodes.delete(node));

  const note = (node: BaseNode): void => {
    const { findings, verdicts } = node;
    const speaks =
      node.parent !== undefined && node.applies && !node.removed && shownOf(node, findings, store).length > 0 && !awaitedBy(node);
    set(unbound, node, speaks && !isBound(node));
    // Only then: it takes the layout of the page. What is found while the user fills in a field is beside it.
    const isLookedAt = lost.has(node) || verdicts?.hasAdded || (submission.status === 'refused' && (verdicts?.errors.length ?? 0) > 0);
    set(lost, node, speaks && isLookedAt && !isReachable(node) && openingOf(node)?.canBeShown(node) !== true);
  };
  let timer: ReturnType<typeof setTimeout>;
  /** Looks again once it is drawn: what a component draws, or ties, is only there by then. */
  const noteLater = (): void => {
    clearTimeout(timer);
    if (unbound.size + lost.size === 0) return;
    timer = setTimeout(() => {
      const before = [...lost, ...unbound];
      before.forEach(note);
      if (lost.size + unbound.size !== before.length) store.batch(() => store.markChanged(store.root));
    });
  };
  const stop = store.observe(({ nodes }) => {
    if (submission.status === 'refused' && nodes.includes(store.root)) store.root.forEach(note);
    else nodes.forEach(note);
    noteLater();
  });
  store.root.forEach(note);
  noteLater();
  return {
    read() {
      const strays: LineMessage[] = [];
      const { catalogue } = store;
      if (unbound.size + lost.size > 0)
        store.root.forEach((node) => {
          if (!lost.has(node) && (!unbound.has(node) || isBound(node))) return;
          for (const { message, severity } of shownOf(node, node.findings, store))
            // A notice of a field that is on no page, such as an earlier step, is none for this one.
            if (severity !== 'notice')
              strays.push({ message: awayFromField(namesAbove(node, catalogue), node.part, message, catalogue), severity });
        });
      return strays;
    },
    isLost: (node) => lost.has(node),
    undo() {
      clearTimeout(timer);
      stop();
    },
  };
}
