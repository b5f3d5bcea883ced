// The elements of a live page, as the plan asks for them.

import { isControl, nameOf, type Control } from './controls.ts';
import { describedElements, type PageElements } from './plan/described.ts';

const LIVE: PageElements<Element> = {
  groupAround: (element) => element.closest('fieldset, [role=group], [role=radiogroup]'),
  controlsIn: (element) => [...element.querySelectorAll('*')].filter(isControl),
  nameOf: (control) => nameOf(control as Control),
};

/** The elements that carry the descriptions of a field on a live page. */
export const describedOn = (controls: readonly Control[], areTogether: boolean): readonly Element[] =>
  describedElements<Element>(controls, areTogether, LIVE);
