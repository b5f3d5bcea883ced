// The focus stays where the user is as rows come, go and move, and as fields stop applying: it never falls to the start of
// the page. Whatever draws the page does so after the gate has changed, so what to do is noted first and done then.

import type { AnyGate } from '../gate/gate.ts';
import { focusBelow, focusNode, inDocumentOrder } from './focusOrder.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { RowChange } from '../schema/kit.ts';
import { activeIn } from './page.ts';

/** How long drawing may take, in milliseconds: that of most comes at once. */
const DRAWN = [0, 100];

export class FocusKeeper {
  readonly #form: HTMLFormElement;
  readonly #gate: AnyGate;
  readonly #stop: () => void;
  readonly #ended = new AbortController();
  /** Whether the user has just activated a button of the form, such as the one that adds a row. */
  #isActing = false;
  /** Whether a row has just moved: an element that is moved loses the focus. */
  isMoving = false;
  /** The row that was added last. */
  #added: BaseNode | undefined;

  constructor(form: HTMLFormElement, gate: AnyGate) {
    this.#form = form;
    this.#gate = gate;
    const acts = (event: Event): void => {
      const button = event.target instanceof Element && event.target.closest('button, [type=button], [role=button], a');
      if (!button) return;
      const owner = button.closest('form');
      if (owner && owner !== form) return;
      this.#isActing = true;
      setTimeout(() => (this.#isActing = false));
    };
    form.getRootNode().addEventListener('click', acts, { signal: this.#ended.signal, capture: true });
    const { store } = internalsOf(gate);
    this.#stop = store.observe(({ nodes, rows }) => {
      if (nodes.some(({ applies, removed }) => !applies && !removed)) this.#keepBeside(nodes);
      // (Where one row was removed, its neighbour gets the focus.)
      const isFollowed = rows.some(({ kind }) => kind === 'removed');
      const gone = isFollowed ? undefined : nodes.find((node) => node.removed && holdsElement(node, this.#active));
      if (gone) this.#keepIn(gone);
      rows.forEach((change) => this.#follow(change));
    });
  }

  undo(): void {
    this.#stop();
    this.#ended.abort();
  }

  /** A row came, went or moved by what the user did: on to the new row, its neighbour, or the same element. */
  #follow(change: RowChange<BaseNode>): void {
    const { list, row, kind } = change;
    const active = this.#active;
    if (kind === 'moved') {
      this.isMoving = true;
      setTimeout(() => (this.isMoving = false));
      // Where one row moves, what draws the page may move others.
      this.#ifLost(() => refocus(active));
    } else if (!this.#isActing && !holdsBelow(row, active)) return;
    else if (kind === 'added') {
      this.#added = row;
      let before: Element | null | undefined;
      this.#afterDrawing(() => {
        const now = this.#active;
        if (before === undefined) before = now;
        // Whoever goes on before the row is drawn keeps the focus.
        return this.#added !== row || (now !== before && !isLost(now)) || focusBelow(row);
      });
    } else {
      const next = list.rows![Math.min(change.from, list.rows!.length - 1)];
      this.#ifLost(() => (next !== undefined && focusBelow(next)) || focusNode(list) || this.#focusBeside(list));
    }
  }

  /** Rows were replaced, and the focus was in one of them: it stays in what they are in. */
  #keepIn(gone: BaseNode): void {
    let around = gone;
    while (around.removed && around.parent) around = around.parent;
    this.#ifLost(() => focusBelow(around) || this.#focusBeside(around));
  }

  /** Moves the focus to the field before a list that cannot take it, or after; not to the line of the form. */
  #focusBeside(list: BaseNode): boolean {
    const all: BaseNode[] = [];
    internalsOf(this.#gate).store.root.forEach((node) => node.parent && all.push(node));
    const at = all.indexOf(list);
    return [...all.slice(0, at).reverse(), ...all.slice(at)].some(focusNode);
  }

  /** Some fields apply no more. If one of them has the focus, that goes to the field before it, or after. */
  #keepBeside(nodes: readonly BaseNode[]): void {
    const active = this.#active;
    if (!active || !this.#form.contains(active)) return;
    const lost = nodes.find((node) => !node.applies && holdsElement(node, active));
    if (!lost) return;
    const all: { readonly node: BaseNode; readonly element: Element }[] = [];
    internalsOf(this.#gate).store.root.forEach((node) => {
      for (const { element } of node.connections ?? []) if (element) all.push({ node, element: element as unknown as Element });
    });
    const order = inDocumentOrder(all).map(({ node }) => node);
    const [first, last] = [order.indexOf(lost), order.lastIndexOf(lost)];
    const beside = [...order.slice(0, first).reverse(), ...order.slice(last + 1)];
    this.#ifLost(() => beside.some((node) => node.applies && focusNode(node)));
  }

  get #active(): Element | null {
    return activeIn(document);
  }

  #ifLost(act: () => unknown): void {
    this.#afterDrawing(() => isLost(this.#active) && act());
  }

  /** @param act returns whether it could be done */
  #afterDrawing(act: () => unknown): void {
    let isDone = false;
    const attempt = (): void => void (isDone ||= this.#ended.signal.aborted || act() === true);
    queueMicrotask(attempt);
    for (const delay of DRAWN) setTimeout(attempt, delay);
  }
}

/** Whether what had the focus is gone. */
const isLost = (active: Element | null): boolean => active === null || active === document.body || !active.isConnected;

/** Whether an element is that of a field, or in it. */
const holdsElement = ({ connections }: BaseNode, element: Element | null): boolean =>
  [...(connections ?? [])].some((each) => (each.element as unknown as Element | undefined)?.contains(element) === true);

const holdsBelow = (node: BaseNode, element: Element | null): boolean =>
  holdsElement(node, element) || node.children.some((child) => holdsBelow(child, element));

function refocus(element: Element | null): boolean {
  (element as HTMLElement | null)?.focus();
  return element !== null;
}
