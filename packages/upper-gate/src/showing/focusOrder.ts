// Moving the focus to what is wrong.

import type { FocusOnRefusal } from '../gate/store.ts';
import { blocks } from '../schema/severity.ts';
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

interface NodeConnection {
  readonly node: BaseNode;
  readonly connection: Connection;
  readonly element: Connection['element'];
}

function focusFirst(found: NodeConnection[], otherwise?: () => unknown): boolean {
  const all = inDocumentOrder(found);
  return all.some((each) => moveTo(each, false)) || openFirst(all, otherwise);
}

/** A connection that throws could not take the focus. */
const moveTo = ({ node, connection: { focus } }: Pick<NodeConnection, 'node' | 'connection'>, opens: boolean): boolean =>
  focus !== undefined && attempt(node, () => focus(opens)) !== false;

/** How long drawing may take that does not come at once, in milliseconds. */
const DRAWN_AFTER = 100;

/** The fields that could not be shown when that was tried last, or did not take the focus then. */
const unreached = /* @__PURE__ */ new WeakSet<BaseNode>();

/** What shows a field, or a group around it: the outermost first. */
const showsOf = (node: BaseNode | undefined): readonly Connection[] =>
  node === undefined ? [] : [...showsOf(node.parent), ...[...(node.connections ?? [])].filter(({ show }) => show !== undefined)];

/** Whether something of the author's shows a field where it is hidden, and did not fail to. */
export const canBeShown = (node: BaseNode | undefined): boolean => node !== undefined && !unreached.has(node) && showsOf(node).length > 0;

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
      result = returned !== false && Promise.resolve(returned).catch((error: unknown) => (node.fault(error, 'focus'), false));
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

/** What a callback of the author's returns; `false` if it throws: then it has not done what it is for. */
function attempt(node: BaseNode, callback: () => unknown): unknown {
  try {
    return callback();
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
