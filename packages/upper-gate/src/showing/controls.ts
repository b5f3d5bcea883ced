// What a form's controls hold, as raw values: reading it, and writing it back. It follows from what their field holds and from what
// they offer: HTML's own controls say what they are by their type, custom elements by their properties.

import type { Handle } from '../gate/handle.ts';
import { UNREADABLE_INPUT } from '../schema/noValue.ts';
import type { Holding } from '../schema/traits.ts';
import { focusIn } from './focus.ts';
import { isElement } from './page.ts';
import { areTogether, BUTTONS } from './plan/controls.ts';
import { isEmptyRaw } from './status.ts';

/** A form-associated custom element: it has a `value`, or `checked` or `selected`, and dispatches `input` or `change` events. */
interface CustomControl extends HTMLElement {
  readonly type?: unknown;
  readonly name?: unknown;
  value: unknown;
  checked?: unknown;
  selected?: unknown;
  /** What its markup gives it; not every such element says so. */
  readonly defaultChecked?: unknown;
  readonly defaultValue?: unknown;
  readonly form?: HTMLFormElement | null;
}

/** A control of HTML that holds a value. */
type NativeControl = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;
/** Whatever holds a value in a form. */
export type Control = NativeControl | CustomControl;

/** Whether an element is one of HTML's own controls. */
export const isNative = ({ localName }: Element): boolean => ['input', 'select', 'textarea'].includes(localName);

export const isCustom = (element: Element): boolean =>
  (element.constructor as { readonly formAssociated?: boolean }).formAssociated === true;

export const isControl = (value: unknown): value is Control =>
  isElement(value) && !BUTTONS.includes((value as HTMLInputElement).type) && (isNative(value) || isCustom(value));

export const isSelect = (control: Element): control is HTMLSelectElement => control.localName === 'select';
/** The name of a control. (By attribute for HTML's own: a control in a form may hide the property.) */
export const nameOf = (control: Control): string =>
  control.getAttribute('name') ?? (isCustom(control) && typeof control.name === 'string' ? control.name : '');
/** The form that a control belongs to; a custom element may keep that to itself. */
export const formOf = (control: Control): HTMLFormElement | null =>
  isCustom(control) ? (control.form ?? control.closest('form')) : (control as NativeControl).form;

/** The property by which a custom element says that it is ticked or chosen. */
const tickOf = (control: Control): 'checked' | 'selected' | undefined =>
  'checked' in control ? 'checked' : typeof (control as CustomControl).selected === 'boolean' ? 'selected' : undefined;
const isTicked = (control: Control): boolean => (control as CustomControl)[tickOf(control)!] === true;
const tick = (control: Control, isOn: boolean): void => {
  (control as CustomControl)[tickOf(control)!] = isOn;
};

/**
 * Whether the controls of a field are radios or boxes. Of custom elements, those that can be ticked are boxes where the field says
 * yes or no or takes several options, else radios.
 */
export function sortOf(controls: readonly Control[], holds: Holding): 'radio' | 'checkbox' | undefined {
  const [first] = controls as readonly [Control];
  const { type } = first;
  if (type === 'radio' || type === 'checkbox') return type;
  if (!isCustom(first) || tickOf(first) === undefined) return undefined;
  if (holds === 'options' || (holds === 'flag' && controls.length === 1)) return 'checkbox';
  // (One text field may be made as HTML's input is, with `checked`.)
  return controls.length > 1 || holds === 'option' ? 'radio' : undefined;
}

/** Whether controls are one field together. */
export const areOne = (controls: readonly Control[], holds: Holding): boolean => areTogether(sortOf(controls, holds), holds);

/**
 * Moves the focus to a field: of radios to the chosen one, of boxes to the first that is wrong, one that is ticked but no option, else
 * to the first that takes it.
 *
 * @returns whether it could be moved, or is waited for
 */
export function focusEntry({ traits, options }: Pick<Handle, 'traits' | 'options'>, controls: readonly Control[], opens: boolean): boolean {
  const sort = sortOf(controls, traits.holds);
  const ticked = sort ? controls.filter(isTicked) : [];
  const isWrong = ({ value }: Control): boolean => options?.some((option) => option.value === value) === false;
  const entry = ticked.find((control) => sort === 'radio' || isWrong(control));
  return [...(entry ? [entry] : []), ...controls].some((control) => focusIn(control, opens));
}

/** A radio or box of several, and the others of its form that have the same name; else the control alone. */
export function controlsWith(control: Control, holds: Holding): readonly Control[] {
  const sort = sortOf([control], holds);
  if (!areTogether(sort, holds)) return [control];
  const name = nameOf(control);
  const all = [...(formOf(control)?.elements ?? [])]
    .filter(isControl)
    .filter((each) => nameOf(each) === name && sortOf([each], holds) === sort);
  return all.length > 0 ? all : [control];
}

/** Whether it is a box that says yes or no. */
const saysYes = (sort: string, holds: Holding): boolean => sort === 'checkbox' && holds !== 'options' && holds !== 'option';

/** What radios or boxes say together: all that are ticked, yes or no, or the chosen value. */
function chosenOf(sort: string, holds: Holding, ticked: readonly Control[]): unknown {
  if (holds === 'options') return ticked.map(({ value }) => value);
  return saysYes(sort, holds) ? ticked.length > 0 : (ticked[0]?.value ?? '');
}

/** The raw value that the controls of one name hold, for a field that holds something. */
export function readControls(controls: readonly Control[], holds: Holding): unknown {
  const [first] = controls as readonly [Control];
  const sort = sortOf(controls, holds);
  if (sort) return chosenOf(sort, holds, controls.filter(isTicked));
  if (isSelect(first) && first.multiple) return [...first.selectedOptions].map(({ value }) => value);
  const { type, files, value, validity } = first as Partial<HTMLInputElement>;
  if (type === 'file' && isNative(first)) return holds === 'files' ? [...(files ?? [])] : (files?.[0] ?? null);
  // What the browser, or a component, cannot read, it shows as empty.
  return isEmptyRaw(value ?? '') && validity?.badInput ? UNREADABLE_INPUT : value;
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
  const sort = sortOf(controls, holds);
  const chosen = (value: unknown): boolean => (Array.isArray(raw) ? raw.includes(value) : String(value) === String(raw));
  if (sort && saysYes(sort, holds)) tick(first, raw === true);
  else if (sort) for (const control of controls) tick(control, chosen(control.value));
  else if (isSelect(first) && first.multiple) for (const option of first.options) option.selected = chosen(option.value);
  else if (isCustom(first)) writeCustom(first as CustomControl, raw);
  // A file can only be picked by the user; a script may take it away.
  else {
    first.value = raw === UNREADABLE_INPUT || (first as HTMLInputElement).type === 'file' ? '' : String(raw);
    showNone(first);
  }
  return readControls(controls, holds);
}

/**
 * A number stays one. What holds a number always does, as a slider does, so there is no way to have it show none. An empty control is left
 * alone if there is nothing to show: null, undefined and '' may mean the same to it.
 */
function writeCustom(control: CustomControl, raw: unknown): void {
  const { value } = control;
  const isNone = isEmptyRaw(raw) || raw === UNREADABLE_INPUT;
  if (isNone && (typeof value === 'number' || isEmptyRaw(value ?? ''))) return;
  control.value = typeof value === 'number' && Number.isFinite(Number(raw)) ? Number(raw) : raw === UNREADABLE_INPUT ? '' : raw;
}

/** As much of a raw value as a select can show: what is among its options. */
export function offered(select: HTMLSelectElement, raw: unknown): unknown {
  const values = new Set<unknown>([...select.options].map(({ value }) => value));
  return Array.isArray(raw) ? raw.filter((value) => values.has(value)) : values.has(raw) ? raw : '';
}

/** Has a select that cannot show its value, which is no option any more, show the one that asks to choose. */
export function showNone(control: Control): void {
  if (isSelect(control) && control.selectedIndex < 0) control.value = '';
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

/** Whether the markup ticks a custom element; as HTML's own do, it may say so. */
const isTickedByMarkup = (control: CustomControl): boolean => Boolean(control.defaultChecked ?? control.hasAttribute(tickOf(control)!));
/** The value that the markup gives a custom element. */
const valueByMarkup = (control: CustomControl): unknown => control.defaultValue ?? control.getAttribute('value');

/** What a custom element holds, as its attribute would say it. */
const asHeld = (value: unknown): unknown => (isEmptyRaw(value ?? '') ? '' : typeof value === 'number' ? String(value) : value);

/** The raw value that the markup of the controls of one name gives them; nothing for custom elements that do not say. */
export function markupValue(controls: readonly Control[], holds: Holding): unknown {
  if (!controls.some(isCustom)) return readControls((controls as readonly NativeControl[]).map(pristine), holds);
  const custom = controls as readonly CustomControl[];
  const sort = sortOf(custom, holds);
  return sort ? chosenOf(sort, holds, custom.filter(isTickedByMarkup)) : valueByMarkup(custom[0]!);
}

/** Whether the markup gives a control a value, beyond the one that every control of its type begins with. */
export function isStated(control: Control, holds: Holding): boolean {
  if (isSelect(control)) return [...control.options].some(({ defaultSelected }) => defaultSelected);
  if (sortOf([control], holds)) return isTickedByMarkup(control as CustomControl);
  return control.localName === 'textarea' ? (control as HTMLTextAreaElement).defaultValue !== '' : control.hasAttribute('value');
}

/** Whether a control was filled by something else than its markup: the browser restored it, or the user was quicker. */
export function isFilled(control: Control, holds: Holding): boolean {
  if (isSelect(control)) {
    const options = [...control.options];
    if (control.multiple) return options.some(({ selected, defaultSelected }) => selected !== defaultSelected);
    const byMarkup = Math.max(
      0,
      options.findIndex(({ defaultSelected }) => defaultSelected),
    );
    return control.selectedIndex !== byMarkup;
  }
  if (sortOf([control], holds)) return isTicked(control) !== isTickedByMarkup(control as CustomControl);
  if (isCustom(control)) {
    const stated = asHeld(valueByMarkup(control as CustomControl));
    // A slider has a default value where the markup gives none.
    const isOwn = stated === '' && (typeof control.value === 'number' || control.getAttribute('role') === 'slider');
    return !isOwn && !sameChoice(asHeld(control.value), stated);
  }
  // These always hold a value, whatever the markup says.
  if (['range', 'color'].includes((control as HTMLInputElement).type)) return control.value !== pristine(control as HTMLInputElement).value;
  const typed = control as HTMLInputElement | HTMLTextAreaElement;
  return typed.value !== typed.defaultValue || (typed.value === '' && typed.validity.badInput);
}
