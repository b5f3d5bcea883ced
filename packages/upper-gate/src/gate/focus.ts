// Moving the focus to what is wrong.

import { blocks } from '../schema/severity.ts';
import type { Finding } from '../schema/finding.ts';
import type { BaseNode, Connection, Placed } from './node.ts';

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
export const focusFirstError = (root: BaseNode, otherwise?: () => void): boolean => focusFirst(connectionsOfErrors(root), otherwise);

/**
 * Moves the focus to the first field at a node or below.
 *
 * @returns whether it could be moved, or is waited for
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

function focusFirst(found: NodeConnection[], otherwise?: () => void): boolean {
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
export const canBeShown = (node: BaseNode): boolean => !unreached.has(node) && showsOf(node).length > 0;

/** Opens what hides a field, of the first that can be shown so, and moves the focus there. */
function openFirst(all: readonly NodeConnection[], otherwise?: () => void): boolean {
  /** What those who show something have returned: each is asked once. */
  const asked = new Map<Connection, false | Promise<unknown>>();
  const failed: BaseNode[] = [];
  const openFrom = (start: number): boolean => {
    let isMoved = false;
    for (let i = start; i < all.length && !isMoved; i += 1) {
      const { node } = all[i]!;
      isMoved = showAndMoveTo(all[i]!, asked, (isReached, isPast) => {
        if (!isReached) failed.push(node);
        if (isReached || isPast) noteReached(isReached ? node : undefined, failed);
        else if (!openFrom(i + 1)) otherwise?.();
      });
      if (!isMoved) failed.push(node);
    }
    if (!isMoved) noteReached(undefined, failed);
    return isMoved;
  };
  return openFrom(0);
}

/** Notes which fields could be reached: where they could not, their findings are for the line above the form. */
function noteReached(reached: BaseNode | undefined, failed: readonly BaseNode[]): void {
  const changed = failed.filter((node) => canBeShown(node));
  changed.forEach((node) => unreached.add(node));
  if (reached && unreached.delete(reached)) changed.push(reached);
  const [first] = changed;
  if (!first?.kit.beginEdit(first)) return;
  first.kit.markChanged(first);
  first.kit.end();
}

/**
 * Opens what is around a field and moves the focus there: now, or once that is loaded and drawn.
 *
 * @param conclude called with whether the focus could be moved, and whether the user has gone on meanwhile
 * @returns whether it was moved, or is waited for
 */
function showAndMoveTo(
  { node, connection }: NodeConnection,
  asked: Map<Connection, false | Promise<unknown>>,
  conclude: (isReached: boolean, isPast: boolean) => void,
): boolean {
  const results = showsOf(node).map((each) => {
    if (!asked.has(each)) asked.set(each, ask(node, each));
    return asked.get(each);
  });
  if (moveTo({ node, connection }, true)) {
    conclude(true, false);
    return true;
  }
  const loading = results.filter((result) => result !== false);
  if (loading.length === 0) return false;
  // What was shown may have brought the control, and so another connection.
  const { clock, edits } = node.kit;
  // Whoever has gone on typing meanwhile keeps the focus.
  const isPast = (): boolean => node.kit.edits !== edits;
  const retry = (): boolean => isPast() || connectionsAt(node).some((each) => moveTo(each, true));
  const retryLater = (): unknown => clock.setTimeout(() => conclude(retry(), isPast()), DRAWN_AFTER);
  void Promise.all(loading).then((done) => {
    if (done.every((result) => result === false)) conclude(false, isPast());
    else clock.setTimeout(() => (retry() ? conclude(true, isPast()) : retryLater()), 0);
  });
  return true;
}

/** Asks to show something: `false` if that cannot be done, or a promise of what comes of it. */
function ask(node: BaseNode, { show }: Connection): false | Promise<unknown> {
  const result = attempt(node, () => show!());
  return (
    result !== false &&
    Promise.resolve(result).catch((error: unknown) => {
      node.fault(error, 'focus');
      return false;
    })
  );
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
