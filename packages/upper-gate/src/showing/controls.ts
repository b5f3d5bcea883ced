// What a form's controls hold, as raw values: reading it, and writing it back.

import type { Holding } from '../schema/traits.ts';
import { areTogether, BUTTONS } from './plan/controls.ts';
import { isEmptyRaw } from './status.ts';

/** A form-associated custom element: it has a `value`, and dispatches `input` or `change` events. */
interface CustomControl extends HTMLElement {
  name?: string;
  value: unknown;
  readonly form?: HTMLFormElement | null;
}

/** A control of HTML that holds a value. */
type NativeControl = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;
/** Whatever holds a value in a form. */
export type Control = NativeControl | CustomControl;

const isCustom = (element: Element): boolean => (element.constructor as { readonly formAssociated?: boolean }).formAssociated === true;

export function isControl(element: unknown): element is Control {
  return (
    (element instanceof HTMLInputElement && !BUTTONS.includes(element.type)) ||
    element instanceof HTMLSelectElement ||
    element instanceof HTMLTextAreaElement ||
    (element instanceof HTMLElement && isCustom(element))
  );
}

export const nameOf = (control: Control): string => control.getAttribute('name') ?? '';
/** The form that a control belongs to; a custom element may keep that to itself. */
export const formOf = (control: Control): HTMLFormElement | null =>
  isCustom(control) ? (control.form ?? control.closest('form')) : (control as NativeControl).form;

const isRadio = (control: Control): control is HTMLInputElement => (control as HTMLInputElement).type === 'radio';
export const isCheckbox = (control: Control): control is HTMLInputElement => (control as HTMLInputElement).type === 'checkbox';

/**
 * Where the focus goes for controls of one name: of radios to the chosen one, of boxes to the first that is wrong, one that is ticked
 * but no option, else to the first.
 *
 * @param options the values that may be chosen, where that is known
 */
export function entryOf(controls: readonly Control[], options: readonly string[] | undefined): Control {
  const chosen = controls.filter((control) => (isRadio(control) || isCheckbox(control)) && control.checked) as readonly HTMLInputElement[];
  return (isRadio(controls[0]!) ? chosen[0] : chosen.find(({ value }) => options?.includes(value) === false)) ?? controls[0]!;
}

/** A radio or box, and the others of its form that have the same name; else the control alone. */
export function controlsWith(control: Control): readonly Control[] {
  if (!isRadio(control) && !isCheckbox(control)) return [control];
  const { form, name, type } = control;
  const all = [...(form?.elements ?? [])].filter(
    (each): each is HTMLInputElement => (each as HTMLInputElement).name === name && (each as HTMLInputElement).type === type,
  );
  return all.length > 0 ? all : [control];
}

/**
 * Stands for what a control shows but does not give away: `12e` in a number control, half a date. No kind can read it.
 */
export const UNREADABLE_INPUT = '\uFFFD';

/** The raw value that the controls of one name hold, for a field that holds something. */
export function readControls(controls: readonly Control[], holds: Holding): unknown {
  const [first] = controls as readonly [Control];
  if (isRadio(first)) return (controls as readonly HTMLInputElement[]).find(({ checked }) => checked)?.value ?? '';
  if (isCheckbox(first)) {
    if (holds !== 'options') return first.checked;
    return (controls as readonly HTMLInputElement[]).filter(({ checked }) => checked).map(({ value }) => value);
  }
  if (first instanceof HTMLSelectElement && first.multiple) return [...first.selectedOptions].map(({ value }) => value);
  if (first instanceof HTMLInputElement) {
    if (first.type === 'file') {
      const files = [...(first.files ?? [])];
      return holds === 'files' ? files : (files[0] ?? null);
    }
    // What the browser cannot read, it shows as empty.
    if (first.value === '' && first.validity.badInput) return UNREADABLE_INPUT;
  }
  return first.value;
}

/** Whether two raw values are the same to a person: lists by what is in them. */
export const sameChoice = (a: unknown, b: unknown): boolean =>
  Array.isArray(a) && Array.isArray(b) ? a.length === b.length && a.every((value) => b.includes(value)) : Object.is(a, b);

/**
 * Has the controls of one name hold a raw value. What they hold already is not touched, so that the cursor stays.
 *
 * @returns what they hold then
 */
export function writeControls(controls: readonly Control[], holds: Holding, raw: unknown): unknown {
  const before = readControls(controls, holds);
  if (sameChoice(before, raw)) return before;
  const [first] = controls as readonly [Control];
  const chosen = (value: string): boolean => (Array.isArray(raw) ? raw.includes(value) : value === raw);
  if (areTogether((first as HTMLInputElement).type, holds))
    for (const control of controls as readonly HTMLInputElement[]) control.checked = chosen(control.value);
  else if (isCheckbox(first)) first.checked = raw === true;
  else if (first instanceof HTMLSelectElement && first.multiple) for (const option of first.options) option.selected = chosen(option.value);
  else if (isCustom(first)) first.value = raw;
  // A file can only be picked by the user; a script may take it away.
  else {
    first.value = raw === UNREADABLE_INPUT || (first as HTMLInputElement).type === 'file' ? '' : String(raw);
    showNone(first);
  }
  return readControls(controls, holds);
}

/** Has a select that cannot show its value, which is no option any more, show the one that asks to choose. */
export function showNone(control: Control): void {
  if (control instanceof HTMLSelectElement && control.selectedIndex < 0) control.value = '';
}

/** A copy of a control that holds what its markup says. */
function pristine<C extends NativeControl>(control: C): C {
  const form = document.createElement('form');
  const copy = control.cloneNode(true) as C;
  form.append(copy);
  // (Not `form.reset()`: the control may have that name.)
  HTMLFormElement.prototype.reset.call(form);
  return copy;
}

/** The raw value that the markup of the controls of one name gives them; nothing for custom elements, which may not say. */
export const markupValue = (controls: readonly Control[], holds: Holding): unknown =>
  controls.some(isCustom) ? undefined : readControls((controls as readonly NativeControl[]).map(pristine), holds);

/** Whether the markup gives a control a value, beyond the one that every control of its type begins with. */
export function isStated(control: Control): boolean {
  if (control instanceof HTMLSelectElement) return [...control.options].some(({ defaultSelected }) => defaultSelected);
  if (isRadio(control) || isCheckbox(control)) return control.defaultChecked;
  return control instanceof HTMLTextAreaElement ? control.defaultValue !== '' : control.hasAttribute('value');
}

/** Whether a control was filled by something else than its markup: the browser restored it, or the user was quicker. */
export function isFilled(control: Control): boolean {
  if (control instanceof HTMLSelectElement) {
    const options = [...control.options];
    if (control.multiple) return options.some(({ selected, defaultSelected }) => selected !== defaultSelected);
    const byMarkup = Math.max(
      0,
      options.findIndex(({ defaultSelected }) => defaultSelected),
    );
    return control.selectedIndex !== byMarkup;
  }
  if (isRadio(control) || isCheckbox(control)) return control.checked !== control.defaultChecked;
  if (isCustom(control)) return control.value !== control.getAttribute('value') && !isEmptyRaw(control.value ?? '');
  // These always hold a value, whatever the markup says.
  if (['range', 'color'].includes((control as HTMLInputElement).type)) return control.value !== pristine(control as HTMLInputElement).value;
  const typed = control as HTMLInputElement | HTMLTextAreaElement;
  return typed.value !== typed.defaultValue || (typed.value === '' && typed.validity.badInput);
}
