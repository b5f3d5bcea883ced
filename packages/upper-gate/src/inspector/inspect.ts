// Puts the inspector on the page.

import type { AnyGate } from '../gate/gate.ts';
import { inspectorClass, NAME, type InspectorElement } from './element.ts';

/** The elements that no author has put on a page. */
const made = new WeakSet<Element>();

/** The options of `inspect`. */
export interface InspectOptions {
  /** What the form is called where there are several. Default: its number. */
  readonly name?: string;
  /** Whether the panel is open at once. Default: as it is. */
  readonly open?: boolean;
}

/** Defines the element `<upper-gate-inspector>`. Does nothing the second time. */
export function defineInspector(): void {
  if (!customElements.get(NAME)) customElements.define(NAME, inspectorClass());
}

/**
 * Shows the inspector for a form: what each field holds, its states, what was found and what of it is shown, which rules read what, what
 * is under way, why a field shows an error, and a live timeline. For development. Several forms share one inspector; it is put at the
 * end of the page, unless the page has the element `<upper-gate-inspector>`. While it is closed, nothing follows the form.
 *
 * @param gate the gate of the form; default: all forms that are bound on the page, also those that come later
 * @param options what the form is called, and whether the panel is open at once
 * @returns takes the form out of the inspector, and the inspector off the page with the last one
 *
 * @example
 * if (process.env['NODE_ENV'] !== 'production') (await import('upper-gate/inspector')).inspect(gate);
 */
export function inspect(gate?: AnyGate, { name, open }: InspectOptions = {}): () => void {
  defineInspector();
  const there = document.querySelector<InspectorElement>(NAME);
  const element = there ?? (document.createElement(NAME) as InspectorElement);
  // (Behind all that the page has, so that it is last in the order of focus.)
  if (!there) {
    made.add(element);
    document.body.append(element);
  }
  const remove = gate && element.add(gate, name);
  if (!gate) element.findsForms = true;
  if (open !== undefined) element.open = open;
  return () => {
    remove?.();
    if (!gate) element.findsForms = false;
    if (made.has(element) && element.isEmpty) element.remove();
  };
}
