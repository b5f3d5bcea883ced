// What a gate needs of its form element, whichever binding draws the fields: submit and reset, its state in attributes,
// a line for screen readers, and leaving a field without moving what is under the pointer.

import { DEV } from '#development';
import { startDevWarnings } from '#devWarnings';
import type { AnyGate } from '../gate/createGate.ts';
import { internalsOf, type FormLink } from '../gate/internals.ts';
import { assertUse } from '../schema/assertUse.ts';
import { AttributeWriter } from './attributes.ts';
import { formStatus, isBusy } from './status.ts';

export interface WiringHooks {
  /** The browser is about to submit: last chance to read what the controls hold. */
  readonly submits?: () => void;
  /** The browser has reset its controls, and the gate its fields. */
  readonly resets?: () => void;
}

/** The members of forms that bindings use; a control of such a name hides them. */
const USED =
  'elements append prepend contains addEventListener getRootNode querySelector querySelectorAll getElementsByTagName getAttribute setAttribute removeAttribute';

export class FormWiring implements FormLink {
  readonly #form: HTMLFormElement;
  readonly #gate: AnyGate;
  readonly #attributes: AttributeWriter;
  readonly #hooks: WiringHooks;
  readonly #live = makeLiveRegion();
  readonly #ended = new AbortController();
  readonly #unsubscribe: () => void;
  readonly #stopWarnings: () => void;
  #pointerDown = false;
  #busy = false;
  #status = '';
  #announced = '';

  constructor(form: HTMLFormElement, gate: AnyGate, hooks: WiringHooks = {}, attributes = new AttributeWriter()) {
    const hidden = USED.split(' ').find((member) => (form as unknown as Record<string, unknown>)[member] instanceof Element);
    assertUse(
      hidden === undefined,
      DEV && `A control is named "${hidden}", which hides form.${hidden}. The binding needs that. Rename the control.`,
    );
    this.#form = form;
    this.#gate = gate;
    this.#hooks = hooks;
    this.#attributes = attributes;
    attributes.set(form, 'novalidate', '');
    form.append(this.#live);
    const { signal } = this.#ended;
    form.addEventListener('submit', (event) => this.#submit(event), { signal });
    // The browser resets the controls only after this event.
    form.addEventListener('reset', () => setTimeout(() => this.#reset()), { signal });
    const root = form.getRootNode();
    root.addEventListener('pointerdown', () => (this.#pointerDown = true), { signal, capture: true });
    for (const type of ['pointerup', 'pointercancel'])
      root.addEventListener(type, () => (this.#pointerDown = false), { signal, capture: true });
    this.#unsubscribe = gate.subscribe(() => this.#render());
    this.#render();
    internalsOf(gate).form = this;
    this.#stopWarnings = startDevWarnings(form, gate);
  }

  undo(): void {
    this.#ended.abort();
    this.#unsubscribe();
    this.#stopWarnings();
    this.#live.remove();
    this.#attributes.restore();
    const internals = internalsOf(this.#gate);
    if (internals.form === this) internals.form = undefined;
  }

  /** Has screen readers say something when they have finished what they are saying. */
  announce(text: string): void {
    // Each radio of a group hears the answer to their field.
    if (text === this.#announced) return;
    this.#announced = text;
    this.#live.textContent = text;
    setTimeout(() => (this.#announced = ''));
  }

  /**
   * The person leaves a field. While the pointer is held down, that waits: a message that appears between pressing and
   * letting go may move what is being clicked on.
   */
  leaveAfterPointer(leave: () => void): void {
    if (!this.#pointerDown) return leave();
    const up = new AbortController();
    const letGo = (): void => {
      up.abort();
      setTimeout(leave);
    };
    for (const type of ['pointerup', 'pointercancel']) this.#form.getRootNode().addEventListener(type, letGo, { signal: up.signal });
  }

  #submit(event: SubmitEvent): void {
    const submitter = event.submitter as HTMLButtonElement | null;
    // The author's word that this button sends the form as it is.
    if (submitter?.formNoValidate) return;
    this.#hooks.submits?.();
    // As a browser sends the button's name and value with the form.
    if (submitter?.name && this.#gate.has(submitter.name)) this.#gate.field(submitter.name).set(submitter.value);
    void this.#gate.submit(event);
  }

  #reset(): void {
    this.#gate.reset();
    this.#hooks.resets?.();
  }

  #render(): void {
    const { state } = this.#gate;
    const busy = isBusy(state);
    const says = formStatus(state);
    // Remembered: each access to a member of a form has the browser look through all controls for one of that name.
    if (says !== this.#status) this.#attributes.set(this.#form, 'data-gate-state', says);
    this.#status = says;
    if (busy === this.#busy) return;
    this.#busy = busy;
    this.#attributes.set(this.#form, 'aria-busy', busy ? 'true' : null);
    for (const element of this.#form.elements) {
      // Not `disabled`: the button keeps the focus, and a second activation joins the submission under way.
      if ((element as HTMLButtonElement).type === 'submit') this.#attributes.set(element, 'aria-disabled', busy ? 'true' : null);
    }
  }
}

/** A line that is read out, politely, and not seen. */
function makeLiveRegion(): HTMLElement {
  const region = document.createElement('div');
  region.setAttribute('role', 'status');
  region.style.cssText = 'position:absolute;width:1px;height:1px;margin:-1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap';
  return region;
}
