// Moving the focus to an element, or into it.

const FOCUSABLE = ':is(input, select, textarea, button, [contenteditable], [tabindex], a[href]):not(:disabled, [type=hidden])';

/** Focuses an element, or the first in it that takes the focus: a component's own control. @returns whether it could */
export function focusIn(element: HTMLElement): boolean {
  for (const target of [element, ...element.querySelectorAll<HTMLElement>(FOCUSABLE)]) {
    target.focus();
    if (target.matches(':focus, :focus-within')) return true;
  }
  return false;
}
