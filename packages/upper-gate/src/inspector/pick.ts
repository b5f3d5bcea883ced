// Picking a field by clicking it on the page. The page does not get that click.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';

const isElement = (value: unknown): value is Element => (value as Partial<Element> | null)?.nodeType === 1;

/** The innermost field whose control, or the label of it, is where something was clicked. */
function nodeAt(gate: AnyGate, path: readonly EventTarget[]): BaseNode | undefined {
  const places = new Set(path);
  const [label] = path.filter((each): each is HTMLLabelElement => isElement(each) && each.localName === 'label');
  if (label?.control) places.add(label.control);
  let found: BaseNode | undefined;
  internalsOf(gate).store.root.forEach((node) => {
    for (const { element } of node.connections ?? []) if (isElement(element) && places.has(element)) found = node;
  });
  return found;
}

/**
 * Waits for a click on a field.
 *
 * @param host the inspector: clicks on it do not count
 * @param picked called with the gate and the path; without, if nothing was picked (Escape, or a click elsewhere)
 * @returns stops waiting
 */
export function pick(host: Element, gates: readonly AnyGate[], picked: (gate?: AnyGate, path?: string) => void): () => void {
  const ended = new AbortController();
  const options = { capture: true, signal: ended.signal };
  const hold = (event: Event): void => {
    if (event.composedPath().includes(host)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    if (event.type !== 'click') return;
    ended.abort();
    for (const gate of gates) {
      const node = nodeAt(gate, event.composedPath());
      if (node) return picked(gate, node.path);
    }
    picked();
  };
  for (const type of ['pointerdown', 'mousedown', 'pointerup', 'mouseup', 'click']) window.addEventListener(type, hold, options);
  window.addEventListener(
    'keydown',
    (event) => {
      if (event.key !== 'Escape') return;
      event.preventDefault();
      event.stopImmediatePropagation();
      ended.abort();
      picked();
    },
    options,
  );
  return () => ended.abort();
}
