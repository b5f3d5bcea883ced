// Where messages go on the page, and putting them there. Text is always inserted as text.

import type { Finding } from '../schema/finding.ts';

/** The author's place for the messages of a field (`''`: of the form), if there is one. */
export function authorsPlace(form: HTMLFormElement, what: 'messages' | 'hint' | 'count', path: string): HTMLElement | null {
  const place = `[data-gate-${what}="${CSS.escape(path)}"]`;
  // In the form; or around it, but not in another one.
  const around = (): Iterable<HTMLElement> => (form.getRootNode() as ParentNode).querySelectorAll<HTMLElement>(place);
  return form.querySelector<HTMLElement>(place) ?? [...around()].find((element) => !element.closest('form')) ?? null;
}

/** Makes a place for the messages of a field: after its control, or after the legend of its group of radios. */
export function makePlace(path: string, last: Element, fieldset: Element | null): HTMLElement {
  const place = document.createElement('div');
  place.dataset['gateMessages'] = path;
  const legend = fieldset?.querySelector('legend');
  if (fieldset) fieldset.insertBefore(place, legend?.nextSibling ?? fieldset.firstChild);
  // A control within its label: messages in there would become part of the label.
  else (last.closest('label') ?? last).after(place);
  return place;
}

/** Shows findings in a place: an element for each. @returns whether that changed anything */
export function showIn(place: HTMLElement, findings: readonly Finding[]): boolean {
  const shown = [...place.children] as HTMLElement[];
  const same =
    shown.length === findings.length &&
    findings.every(({ message, severity }, i) => shown[i]!.textContent === message && shown[i]!.dataset['gateSeverity'] === severity);
  if (same) return false;
  const tag = /^[UO]L$/.test(place.tagName) ? 'li' : place.tagName === 'DIV' ? 'div' : 'span';
  place.replaceChildren(
    ...findings.map(({ message, severity }) => {
      const element = document.createElement(tag);
      element.dataset['gateSeverity'] = severity;
      element.textContent = message;
      return element;
    }),
  );
  return true;
}

/** A line that is read out, politely, and not seen. */
export function makeLiveRegion(): HTMLElement {
  const region = document.createElement('div');
  region.setAttribute('role', 'status');
  region.style.cssText = 'position:absolute;width:1px;height:1px;margin:-1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap';
  return region;
}
