// Which elements describe a field, and which element they are for.

import { isControl, nameOf, type Control } from './controls.ts';

/**
 * The elements that carry the descriptions of a field: its control; of radios or boxes that are one field together, what is
 * around them, or each of them where that holds other fields too.
 */
export function describedElements(controls: readonly Control[], grouped: boolean): readonly Element[] {
  const [first] = controls;
  if (!first || !grouped) return controls.slice(0, 1);
  const around = first.closest('fieldset, [role=group], [role=radiogroup]');
  const isTheirs = (element: Element): boolean =>
    controls.includes(element as Control) || !isControl(element) || nameOf(element) === nameOf(first);
  const isOwn = around && controls.every((control) => around.contains(control)) && [...around.querySelectorAll('*')].every(isTheirs);
  return isOwn ? [around] : controls;
}
