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

/** A control that is one of several of the same name, of which one is picked. */
export const isRadio = (control: Control): control is HTMLInputElement => control.type === 'radio';
const isCheckbox = (control: Control): control is HTMLInputElement => control.type === 'checkbox';

/**
 * Stands for what a control shows but does not give away: `12e` in a number control, half a date. No kind can read it.
 */
export const ILLEGIBLE = '\uFFFD';

/** The raw value that the controls of one name hold. */
export function readControls(controls: readonly Control[]): unknown {
  const [first] = controls as readonly [Control];
  if (isRadio(first)) return (controls as readonly HTMLInputElement[]).find(({ checked }) => checked)?.value ?? '';
  if (isCheckbox(first)) return first.checked;
  return first.validity.badInput ? ILLEGIBLE : first.value;
}

/** Has the controls of one name hold a raw value. What they hold already is not touched, so that the cursor stays. */
export function writeControls(controls: readonly Control[], raw: unknown): void {
  if (Object.is(readControls(controls), raw)) return;
  const [first] = controls as readonly [Control];
  if (isRadio(first)) {
    for (const radio of controls as readonly HTMLInputElement[]) radio.checked = radio.value === raw;
  } else if (isCheckbox(first)) {
    first.checked = raw === true;
  } else {
    first.value = raw === ILLEGIBLE ? '' : String(raw);
  }
}

/** Whether a control was filled by something else than its markup: the browser restored it, or the person was quicker. */
export function isFilled(control: Control): boolean {
  if (control instanceof HTMLSelectElement) {
    const options = [...control.options];
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
