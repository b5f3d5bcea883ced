// The elements of a live page, as the plan asks for them, and what describes them.

import { idOf, type AttributeWriter } from './attributes.ts';
import { isControl, nameOf, type Control } from './controls.ts';
import { describe } from './inside.ts';
import { describedElements, type PageElements } from './plan/described.ts';

/** The elements of a live page. */
export const LIVE: PageElements<Element> = {
  groupAround: (element) => element.closest('fieldset, [role=group], [role=radiogroup]'),
  controlsIn: (element) => [...element.querySelectorAll('*')].filter(isControl),
  nameOf: (control) => nameOf(control as Control),
  // A control within its label: messages in there would become part of the label.
  labelAround: (element) => element.closest('label'),
  legendOf: (fieldset) => fieldset.querySelector('legend'),
  isFieldset: (element) => element.localName === 'fieldset',
};

/** The elements that carry the descriptions of a field on a live page. */
export const describedOn = (controls: readonly Control[], areTogether: boolean): readonly Element[] =>
  describedElements<Element>(controls, areTogether, LIVE);

/** Has an element described by what the author said, and by others, as far as they hold something. */
export function describeBy(element: Element, others: readonly (Element | null)[], attributes: AttributeWriter): void {
  const filled = others.filter((each) => each !== null && each.hasChildNodes()) as readonly Element[];
  if (filled.some((each) => each.getRootNode() !== element.getRootNode())) return describe(element, { described: filled });
  const ids = filled.map((each) => idOf(each, attributes));
  attributes.set(element, 'aria-describedby', [attributes.authored(element, 'aria-describedby'), ...ids].filter(Boolean).join(' ') || null);
}
