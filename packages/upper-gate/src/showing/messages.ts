// Texts on a page, always inserted as text.

import type { LineMessage } from './plan/line.ts';
import { messageTag } from './plan/messages.ts';

/**
 * Shows findings in a place: an element for each, with a blank between, so that they read apart.
 *
 * @returns whether others stood there
 */
export function showIn(place: HTMLElement, findings: readonly LineMessage[]): boolean {
  if (findings.length === 0 && !place.firstChild) return false;
  const shown = place.children;
  const same =
    shown.length === findings.length &&
    findings.every(
      ({ message, severity }, i) => shown[i]!.textContent === message && shown[i]!.getAttribute('data-gate-severity') === severity,
    );
  if (same) return false;
  const tag = messageTag(place.localName);
  // (One at a time: browsers take twice as long for `replaceChildren`.)
  while (place.firstChild) place.firstChild.remove();
  for (const { message, severity } of findings) {
    const element = document.createElement(tag);
    element.setAttribute('data-gate-severity', severity);
    element.textContent = message;
    if (tag === 'span' && place.hasChildNodes()) place.append(' ');
    place.append(element);
  }
  return true;
}

/** Sets a text where it is another one. */
export function setText(element: Element | null, text: string): void {
  if (element && element.textContent !== text) element.textContent = text;
}
