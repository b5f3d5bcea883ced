// When the user leaves a field: once the focus is neither in one of its elements nor in what one of them has opened elsewhere.

import { internalsOfHandle, type Handle } from '../gate/handle.ts';
import { maybeLeft } from '../gate/maybeLeft.ts';
import { controlsWith, isControl, isNative } from './controls.ts';
import { isMovedByProgram } from './focusOrder.ts';
import { activeIn, isElement } from './page.ts';

/** What opens for a control, elsewhere on the page. (Not what a control shows further down, such as more fields.) */
const POPUP = 'dialog, [popover], [role=dialog], [role=listbox], [role=grid], [role=tree], [role=menu]';

/** How long what closes may take to give the focus back, in milliseconds. */
const CLOSING = 100;

/** The elements of a field: what is connected to it, and the radios or boxes that belong to that. */
export const placesOf = (handle: Handle): readonly HTMLElement[] =>
  [...(internalsOfHandle(handle).node.connections ?? [])]
    .map(({ element }): unknown => element)
    .filter(isElement)
    .flatMap<HTMLElement>((element) => (isControl(element) ? controlsWith(element, handle.traits.holds) : [element]));

const idsIn = (element: Element, name: string): readonly string[] => element.getAttribute(name)?.split(/\s+/) ?? [];

/** Whether a pop-up belongs to one of some elements: something in there says so, or names it. */
function isOwned(popup: Element, places: readonly Element[]): boolean {
  const inside = places.flatMap((place) => [place, ...place.querySelectorAll('[id], [aria-controls], [aria-owns]')]);
  const labels = idsIn(popup, 'aria-labelledby');
  return inside.some(
    (each) =>
      (popup.id !== '' && ['aria-controls', 'aria-owns'].some((name) => idsIn(each, name).includes(popup.id))) ||
      (each.id !== '' && labels.includes(each.id)),
  );
}

/** Where the focus is, seen from some elements: in one of them, in something that belongs to one, or neither. */
function whereIs(focused: unknown, places: readonly Element[]): 'inside' | 'owned' | 'elsewhere' {
  if (!isElement(focused)) return 'elsewhere';
  let isInPopup = false;
  for (let at: Node | null | undefined = focused; at; at = at.parentNode ?? (at as Partial<ShadowRoot>).host) {
    if (places.includes(at as Element)) return 'inside';
    isInPopup ||= isElement(at) && at.matches(POPUP) && isOwned(at, places);
  }
  return isInPopup ? 'owned' : 'elsewhere';
}

/**
 * Calls back when the focus has left a field: at once, or after it has left what the field has opened.
 *
 * @param handle the handle of the field
 * @param places its elements
 * @param next what gets the focus
 */
export function whenLeft(handle: Handle, places: readonly Element[], next: unknown, left: () => void): void {
  if (isMovedByProgram()) return;
  const { node } = internalsOfHandle(handle);
  const page = places[0]?.ownerDocument;
  // (Without a page, whoever calls knows.)
  if (!page) left();
  else if (!next && !places.every(isNative)) {
    // What closes in a component, or for it, gives the focus back, but not at once.
    maybeLeft.add(node);
    setTimeout(() => maybeLeft.delete(node) && whenLeft(handle, places, activeIn(page), left), CLOSING);
  } else if (whereIs(next, places) === 'elsewhere') left();
  else if (whereIs(next, places) === 'owned')
    page.addEventListener('focusout', ({ relatedTarget }) => whenLeft(handle, places, relatedTarget, left), { once: true });
}
