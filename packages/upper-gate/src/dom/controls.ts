// What a form's controls hold, as raw values: reading it, and writing it back.

/** A control that holds a value. */
export type Control = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;

/** Inputs that are buttons; they hold nothing that a person fills in. */
const BUTTONS = ['submit', 'reset', 'button', 'image'];

export function isControl(element: EventTarget | null): element is Control {
  return (
    (element instanceof HTMLInputElement && !BUTTONS.includes(element.type)) ||
    element instanceof HTMLSelectElement ||
    element instanceof HTMLTextAreaElement
  );
}

const isRadio = (control: Control): control is HTMLInputElement => control.type === 'radio';
const isCheckbox = (control: Control): control is HTMLInputElement => control.type === 'checkbox';

/** Whether controls of one name are one field together: radios, or the checkboxes of a field that takes several values. */
export const isGroup = (controls: readonly Control[], kind: string): boolean =>
  isRadio(controls[0]!) || (kind === 'choices' && isCheckbox(controls[0]!));

/**
 * Stands for what a control shows but does not give away: `12e` in a number control, half a date. No kind can read it.
 */
export const ILLEGIBLE = '\uFFFD';

/** The raw value that the controls of one name hold, for a field of a kind. */
export function readControls(controls: readonly Control[], kind: string): unknown {
  const [first] = controls as readonly [Control];
  if (isRadio(first)) return (controls as readonly HTMLInputElement[]).find(({ checked }) => checked)?.value ?? '';
  if (isCheckbox(first)) {
    if (kind !== 'choices') return first.checked;
    return (controls as readonly HTMLInputElement[]).filter(({ checked }) => checked).map(({ value }) => value);
  }
  if (first instanceof HTMLSelectElement && first.multiple) return [...first.selectedOptions].map(({ value }) => value);
  if (first instanceof HTMLInputElement && first.type === 'file') {
    const files = [...(first.files ?? [])];
    return kind === 'files' ? files : (files[0] ?? null);
  }
  return first.validity.badInput ? ILLEGIBLE : first.value;
}

/** Whether two raw values are the same to a person: lists by what is in them. */
const same = (a: unknown, b: unknown): boolean =>
  Array.isArray(a) && Array.isArray(b) ? a.length === b.length && a.every((value) => b.includes(value)) : Object.is(a, b);

/** Whether a raw value is that of an empty control. */
export const isEmptyRaw = (raw: unknown): boolean =>
  raw === '' || raw === false || raw === null || (Array.isArray(raw) && raw.length === 0);

/** Has the controls of one name hold a raw value. What they hold already is not touched, so that the cursor stays. */
export function writeControls(controls: readonly Control[], kind: string, raw: unknown): void {
  if (same(readControls(controls, kind), raw)) return;
  const [first] = controls as readonly [Control];
  const chosen = (value: string): boolean => (Array.isArray(raw) ? raw.includes(value) : value === raw);
  if (isGroup(controls, kind)) for (const control of controls as readonly HTMLInputElement[]) control.checked = chosen(control.value);
  else if (isCheckbox(first)) first.checked = raw === true;
  else if (first instanceof HTMLSelectElement && first.multiple) for (const option of first.options) option.selected = chosen(option.value);
  // A file can only be picked by the person; a script may take it away.
  else first.value = raw === ILLEGIBLE || first.type === 'file' ? '' : String(raw);
}

/** Whether a control was filled by something else than its markup: the browser restored it, or the person was quicker. */
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
  return isRadio(control) || isCheckbox(control)
    ? control.checked !== control.defaultChecked
    : control.value !== control.defaultValue || control.validity.badInput;
}
