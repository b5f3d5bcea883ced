// What is said about a component, said of what takes the focus in it as well: that is what assistive technology reads. A shadow root hides
// ids, so descriptions reach into one by references to elements, where the browser has them.

import type { Holding } from '../schema/traits.ts';
import { elementsIn, entryIn } from './focus.ts';

/** The roles that may be required (WAI-ARIA 1.2, `aria-required`). */
const REQUIRABLE = /^(checkbox|combobox|gridcell|listbox|radiogroup|searchbox|spinbutton|switch|textbox|tree)$/;
/** Whether an element with an explicit role may be required. */
export const isRequirable = (element: Element): boolean => REQUIRABLE.test(element.getAttribute('role') ?? '');

/** Whether one of HTML's own controls may be required, and is not yet. */
const isRequirableByHtml = ({ localName, type, required }: HTMLInputElement): boolean =>
  ['input', 'select', 'textarea'].includes(localName) && !['radio', 'range', 'color', 'file'].includes(type) && !required;

/** What there is to say of a component. */
export interface Saying {
  readonly invalid: boolean;
  readonly required: boolean;
  /** What describes it, as far as that is on the page. */
  readonly described: readonly Element[];
}

/** What was said of an element, which it takes back: the rest is the component's own. */
const said = new WeakMap<Element, readonly Element[]>();

/** What takes the focus in a component; where it has several controls for one field, the group of these. */
function entryOf(host: HTMLElement, holds: Holding): HTMLElement {
  if (holds === 'option' || holds === 'options')
    for (const root of [host.shadowRoot, host])
      for (const element of root ? elementsIn(root) : [])
        if (element.matches('fieldset, [role=group], [role=radiogroup]')) return element;
  return entryIn(host);
}

function setAttribute(element: Element, name: string, value: string | null): void {
  if (element.getAttribute(name) === value) return;
  if (value === null) element.removeAttribute(name);
  else element.setAttribute(name, value);
}

/**
 * Says of what takes the focus in a component what is said of the component.
 *
 * @param host the component
 * @param holds what its field holds
 * @param saying nothing: takes back what was said
 */
export function sayInside(host: HTMLElement, holds: Holding, saying?: Saying): void {
  const entry = entryOf(host, holds);
  const before = said.get(entry);
  if (entry === host || (!saying && !before)) return;
  const { invalid = false, required = false, described = [] } = saying ?? {};
  setAttribute(entry, 'aria-invalid', saying ? String(invalid) : null);
  if (isRequirable(entry) || isRequirableByHtml(entry as HTMLInputElement))
    setAttribute(entry, 'aria-required', required ? 'true' : null);
  said.set(entry, described);
  if (entry.getRootNode() === host.getRootNode()) {
    const ids = (entry.getAttribute('aria-describedby') ?? '').split(/\s+/).filter((id) => id !== '');
    const ours = [...(before ?? []), ...described].map(({ id }) => id);
    const now = [...ids.filter((id) => !ours.includes(id)), ...described.map(({ id }) => id)];
    setAttribute(entry, 'aria-describedby', now.join(' ') || null);
  } else if ('ariaDescribedByElements' in entry) {
    const own = (entry.ariaDescribedByElements ?? []).filter((each) => !before?.includes(each) && !described.includes(each));
    if (described.length > 0 || before?.length) entry.ariaDescribedByElements = [...own, ...described];
  }
}
