// Moving the focus to an element, or into it.

import { hasFocus, isSeen, openAround } from './page.ts';

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

/**
 * Focuses an element, or the first in it that takes the focus: a component's own control, also in its shadow root.
 *
 * @param opens whether to open closed parts of the page around it
 * @returns whether it could
 */
export function focusIn(element: HTMLElement, opens = false): boolean {
  if (opens) openAround(element);
  const inside = [element.shadowRoot, element].flatMap((root) => [...(root?.querySelectorAll<HTMLElement>(FOCUSABLE) ?? [])]);
  for (const target of [element, ...inside]) {
    target.focus();
    if (hasFocus(target)) return true;
  }
  return false;
}
