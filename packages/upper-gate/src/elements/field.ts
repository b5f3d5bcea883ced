// A field whose controls are in a shadow root. No form sees these: the element stands for them, so that they are named, sent, disabled,
// reset and restored with the form.

import { isNative, isSelect, type Control } from '../showing/controls.ts';
import { isEmptyRaw } from '../showing/status.ts';
import { controlsOf, FIELD_ROOT, type StandIn } from '../showing/standIn.ts';
import { PageElement } from './page.ts';

/** What a control adds to the data of its form, as HTML says it ("constructing entry lists"); a custom element, its value. */
function entriesOf(control: Control): readonly (string | File)[] {
  const { type, checked, files, value } = control as HTMLInputElement;
  if (isSelect(control)) return [...control.selectedOptions].map((option) => option.value);
  if (!isNative(control))
    return [value as unknown]
      .flat()
      .flatMap((each): (string | File)[] => (each instanceof File ? [each] : isEmptyRaw(each ?? '') ? [] : [String(each)]));
  if (type === 'file') return files?.length ? [...files] : [new File([], '')];
  return checked || !isBox(control) ? [value] : [];
}

const isBox = ({ type }: Control): boolean => type === 'checkbox' || type === 'radio';

/**
 * `<upper-gate-field name="vessel">`: stands in a form for the controls in its shadow root, declarative or made by a script, open or closed.
 * What has the hooks of a field in there (`data-gate-messages`, `data-gate-hint`, ...) needs no path. It is bound where its form is.
 *
 * @example
 * class VesselField extends FieldElement {
 *   constructor() {
 *     super();
 *     this.attachShadow({ mode: 'open' }).append(document.querySelector<HTMLTemplateElement>('#vessel-field')!.content.cloneNode(true));
 *   }
 * }
 * customElements.define('vessel-field', VesselField); // <vessel-field name="vessel"></vessel-field>
 */
export class FieldElement extends PageElement implements StandIn {
  static readonly formAssociated: boolean = true;
  readonly #internals = this.attachInternals();
  #form: AbortController | undefined;
  /** The controls that were disabled with this element. */
  readonly #disabled = new Set<Element>();

  constructor() {
    super();
    for (const type of ['input', 'change']) this.addEventListener(type, () => this.#keep());
  }

  /** The form that it belongs to. */
  get form(): HTMLFormElement | null {
    return this.#internals.form;
  }
  /** Whether its field is valid, as forms and styles see it: `:invalid`. */
  get validity(): ValidityState {
    return this.#internals.validity;
  }
  /** What is wrong with its field. */
  get validationMessage(): string {
    return this.#internals.validationMessage;
  }
  /** Where its controls are. */
  get [FIELD_ROOT](): ShadowRoot | null {
    return this.#internals.shadowRoot;
  }

  /**
   * Says what is wrong with its field, for `:invalid` and `form.checkValidity()`.
   *
   * @param message what is wrong; `''` for nothing
   */
  setCustomValidity(message: string): void {
    this.#internals.setValidity(message === '' ? {} : { customError: true }, message, controlsOf(this)[0]);
  }

  /**
   * Called by the browser: joins the data of its form.
   *
   * @param form the form, or `null` where it belongs to none
   */
  formAssociatedCallback(form: HTMLFormElement | null): void {
    this.#form?.abort();
    this.#form = new AbortController();
    form?.addEventListener('formdata', ({ formData }) => this.#send(formData), { signal: this.#form.signal });
  }

  /**
   * Called by the browser: its controls are disabled with it.
   *
   * @param disabled whether it is disabled, by itself or with a fieldset
   */
  formDisabledCallback(disabled: boolean): void {
    for (const control of disabled ? controlsOf(this) : this.#disabled) {
      if (disabled && control.hasAttribute('disabled')) continue;
      control.toggleAttribute('disabled', disabled);
      this.#disabled.add(control);
    }
    if (!disabled) this.#disabled.clear();
  }

  /**
   * Called by the browser: it shows the page again, and what the user had typed.
   *
   * @param state what the controls held
   */
  formStateRestoreCallback(state: unknown): void {
    if (!(state instanceof FormData)) return;
    for (const [i, control] of controlsOf(this).entries()) {
      const held = state.getAll(String(i));
      if (isSelect(control)) for (const option of control.options) option.selected = held.includes(option.value);
      else if (isBox(control)) (control as HTMLInputElement).checked = held.length > 0;
      // (No script can pick a file.)
      else if (control.type !== 'file') control.value = held[0];
    }
    controlsOf(this)[0]?.dispatchEvent(new InputEvent('input', { bubbles: true, composed: true }));
  }

  /** Has the browser keep what the user typed, for when it shows the page again. */
  #keep(): void {
    const state = new FormData();
    for (const [i, control] of controlsOf(this).entries()) for (const entry of entriesOf(control)) state.append(String(i), entry);
    // (What is sent is added to the data of the form, since a script may change it at any time.)
    this.#internals.setFormValue(null, state);
  }

  #send(data: FormData): void {
    const name = this.getAttribute('name') ?? '';
    if (name === '' || this.matches(':disabled')) return;
    for (const entry of controlsOf(this).flatMap(entriesOf)) data.append(name, entry);
  }
}
