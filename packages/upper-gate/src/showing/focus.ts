// Moving the focus to an element, or into it: to what takes it in a component, through its shadow roots.

import { activeIn, afterDrawing, hasFocus, isSeen, openAround } from './page.ts';

const FOCUSABLE = ':is(input, select, textarea, button, [contenteditable], [tabindex], a[href]):not(:disabled, [type=hidden])';

/**
 * Focuses the first of some elements that is visible and has text.
 *
 * @param elements the candidates, in the order of preference
 * @returns whether there is one
 */
export function focusFilled(...elements: readonly (HTMLElement | null | undefined)[]): boolean {
  const target = elements.find((each) => each && each.textContent !== '' && isSeen(each));
  target?.focus();
  return target !== undefined;
}

/** All elements below a node, also in shadow roots. */
function* elementsIn(root: ParentNode): Iterable<HTMLElement> {
  for (const element of root.querySelectorAll<HTMLElement>('*')) {
    yield element;
    if (element.shadowRoot) yield* elementsIn(element.shadowRoot);
  }
}

const isTabbable = ({ tabIndex }: HTMLElement): boolean => tabIndex >= 0;
/** What can take the focus in an element; not what only stands for something else there (`aria-hidden`). */
const focusableIn = (element: HTMLElement): readonly HTMLElement[] =>
  [element.shadowRoot, element]
    .flatMap((root) => (root ? [...elementsIn(root)] : []))
    .filter((each) => each.matches(FOCUSABLE) && !each.closest('[aria-hidden=true]'));

/** The element that takes the focus for a component: itself, or the first in it that the user can reach with the keyboard. */
export const entryIn = (element: HTMLElement): HTMLElement =>
  isTabbable(element) ? element : (focusableIn(element).find(isTabbable) ?? element);

/**
 * Focuses an element, or what takes the focus in it: a component's own control, before an element that only a script can focus.
 *
 * @param opens whether to open closed parts of the page around it
 * @returns whether it could, or does once the component is there
 */
export function focusIn(element: HTMLElement, opens = false): boolean {
  if (opens) openAround(element);
  return focusNow(element) || (isAwaited(element) && focusLater(element));
}

function focusNow(element: HTMLElement): boolean {
  const inside = focusableIn(element);
  const isFrame = element.hasAttribute('tabindex') && !isTabbable(element);
  return [...(isFrame ? [] : [element]), ...inside.filter(isTabbable), element, ...inside].some(take);
}

/** Has an element take the focus. (A component may throw while it is not drawn.) @returns whether it did */
function take(element: HTMLElement): boolean {
  try {
    element.focus();
  } catch {
    return false;
  }
  return hasFocus(element);
}

/** Whether a custom element can be used, but has not been defined or drawn yet. */
const isAwaited = (element: HTMLElement): boolean =>
  element.localName.includes('-') &&
  (element.matches(':not(:defined)') || element.shadowRoot?.childElementCount === 0) &&
  isSeen(element) &&
  !element.matches(':disabled');

/** Focuses an element once it is drawn, unless the user goes on meanwhile. */
function focusLater(element: HTMLElement): true {
  const { ownerDocument } = element;
  const before = activeIn(ownerDocument);
  afterDrawing(() => activeIn(ownerDocument) !== before || focusNow(element));
  return true;
}
