// Descriptions and states for the element inside a component that takes the focus, since assistive technology reads those. Ids do not
// reach into a shadow root; references to elements do, where the browser has them.

import type { Holding } from '../schema/traits.ts';
import { isCustom, isNative } from './controls.ts';
import { entryIn } from './focus.ts';
import { afterDrawing } from './page.ts';

/** The roles that may be required (WAI-ARIA 1.2, `aria-required`). */
const REQUIRABLE = /^(checkbox|combobox|gridcell|listbox|radiogroup|searchbox|spinbutton|switch|textbox|tree)$/;
/** Whether an element with an explicit role may be required. */
export const isRequirable = (element: Element): boolean => REQUIRABLE.test(element.getAttribute('role') ?? '');

/** Whether one of HTML's own controls may be required, and is not yet. */
const isRequirableByHtml = (element: HTMLElement): boolean => {
  const { type, required } = element as HTMLInputElement;
  return isNative(element) && !['radio', 'range', 'color', 'file'].includes(type) && !required;
};

/** What there is to say of a field. */
export interface Marks {
  readonly invalid: boolean;
  readonly required: boolean;
  /** The ids that we use for the field: those of its parts that are not on the page are taken away. */
  readonly ids?: readonly string[];
  /** What describes it, as far as that is on the page. */
  readonly described: readonly Element[];
}

/** What was added to what describes an element: the rest is the author's, or the component's. */
const added = new WeakMap<Element, readonly Element[]>();

/** Elements that were marked, and whether as required. */
const marked = new WeakMap<Element, boolean>();

/** Has elements describe an element: by ids, or by references where it is in a shadow root, and they are not. */
export function describe(element: Element, { ids = [], described }: Pick<Marks, 'ids' | 'described'>): void {
  const before = added.get(element) ?? [];
  const others = [...described, ...before];
  // (Most often there was nothing, and is nothing.)
  if (others.length === 0 && !element.hasAttribute('aria-describedby')) return;
  added.set(element, described);
  const root = element.getRootNode();
  if (others.some((other) => other.isConnected && other.getRootNode() !== root)) {
    if (!('ariaDescribedByElements' in element)) return;
    const say = (): boolean => {
      const own = (element.ariaDescribedByElements ?? []).filter((each) => !before.includes(each) && !described.includes(each));
      if (added.get(element) === described) element.ariaDescribedByElements = [...own, ...described];
      return false;
    };
    say();
    // (A component may pass on what its own attribute says, once it draws.)
    afterDrawing(say);
    return;
  }
  const ours = [...ids, ...before.map(({ id }) => id)];
  const own = (element.getAttribute('aria-describedby') ?? '').split(/\s+/).filter((id) => id !== '' && !ours.includes(id));
  setAttribute(element, 'aria-describedby', [...own, ...described.map(({ id }) => id)].join(' ') || null);
}

const GROUP = 'fieldset, [role=group]';
const OPTIONS = `${GROUP}, [role=radiogroup], [role=listbox]`;

/** What takes the focus in a component; where that is one of several options, what is around these. */
function entryOf(host: HTMLElement, holds: Holding): HTMLElement {
  const entry = entryIn(host);
  if (holds !== 'option' && holds !== 'options') return entry;
  // (Options may be elements of the page, and what is around them in the shadow root.)
  const around = host.shadowRoot?.querySelector<HTMLElement>(`${GROUP}, [role=radiogroup]`) ?? entry.closest<HTMLElement>(OPTIONS);
  return around && (host.contains(around) || around.getRootNode() !== host.getRootNode()) ? around : entry;
}

function setAttribute(element: Element, name: string, value: string | null): void {
  if (element.getAttribute(name) === value) return;
  if (value === null) element.removeAttribute(name);
  else element.setAttribute(name, value);
}

/**
 * Describes and marks the element inside a component that takes the focus. (The component itself is marked by its binding.)
 *
 * @param host the component
 * @param holds what its field holds
 * @param marks undefined removes what was added
 */
export function markInside(host: HTMLElement, holds: Holding, marks?: Marks): void {
  const isOwn = isNative(host);
  const entry = isOwn ? host : entryOf(host, holds);
  if (!isOwn && entry === host && isCustom(host)) return;
  const before = marked.get(entry);
  if (!marks && before === undefined) return;
  if (!entry.matches(GROUP)) setAttribute(entry, 'aria-invalid', marks ? String(marks.invalid) : null);
  // (Otherwise the attribute is the author's or the component's.)
  const isRequired = marks?.required === true && (isRequirable(entry) || isRequirableByHtml(entry));
  if (isRequired || before) setAttribute(entry, 'aria-required', isRequired ? 'true' : null);
  if (marks) marked.set(entry, isRequired);
  else marked.delete(entry);
  describe(entry, marks ?? { described: [] });
}
