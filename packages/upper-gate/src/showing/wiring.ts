// What a gate needs of its form element, whichever binding draws the fields: submit and reset, its state in attributes,
// what is announced, where the focus stays, and leaving a field without moving what is under the pointer.

import { DEV, explain } from '#development';
import { startDevWarnings } from '#devWarnings';
import type { AnyGate } from '../gate/gate.ts';
import type { Handle } from '../gate/handle.ts';
import { internalsOf, type FormLink } from '../gate/internals.ts';
import { assertUse } from '../schema/assertUse.ts';
import { required } from '../messages/english.ts';
import { formatText } from '../messages/text.ts';
import { Announcements } from './announcements.ts';
import { Announcer } from './announcer.ts';
import { AttributeWriter, idOf } from './attributes.ts';
import { FocusKeeper } from './focusKeeper.ts';
import { hasFocus } from './page.ts';
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

/** How long it may take until the line has the focus, in milliseconds. */
const LINE_DELAY = 100;

export class FormWiring implements FormLink {
  readonly #form: HTMLFormElement;
  readonly #gate: AnyGate;
  readonly #attributes: AttributeWriter;
  readonly #hooks: WiringHooks;
  readonly #announcer: Announcer;
  readonly #announcements: Announcements;
  readonly #keeper: FocusKeeper;
  #word: HTMLElement | undefined;
  readonly #ended = new AbortController();
  readonly #unsubscribe: () => void;
  readonly #stopWarnings: () => void;
  #pointerDown = false;
  #busy = false;
  #status = '';
  #lineText = '';

  constructor(form: HTMLFormElement, gate: AnyGate, hooks: WiringHooks = {}, attributes = new AttributeWriter()) {
    const hidden = USED.split(' ').find((member) => (form as unknown as Record<string, unknown>)[member] instanceof Element);
    assertUse(
      hidden === undefined,
      DEV &&
        explain(
          'control-hides-a-property',
          `A control is named "${hidden}", which hides form.${hidden}. The binding needs that. Rename the control.`,
        ),
    );
    this.#form = form;
    this.#gate = gate;
    this.#hooks = hooks;
    this.#attributes = attributes;
    attributes.set(form, 'novalidate', '');
    this.#announcer = new Announcer(form);
    this.#keeper = new FocusKeeper(form, gate);
    this.#announcements = new Announcements(gate, this.#announcer);
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
    this.#announcements.undo();
    this.#keeper.undo();
    this.#announcer.undo();
    this.#word?.remove();
    this.#attributes.restore();
    const internals = internalsOf(this.#gate);
    if (internals.form === this) internals.form = undefined;
  }

  announceLine(text: string): void {
    this.#lineText = text;
    // The line is about to take the focus, then it is read anyway.
    setTimeout(() => {
      const places = (this.#form.getRootNode() as ParentNode).querySelectorAll('[data-gate-messages=""], [data-gate-summary]');
      const isRead = [...places].some((place) => hasFocus(place) && place.textContent.includes(text));
      if (text !== '' && text === this.#lineText && !isRead && !this.#ended.signal.aborted)
        this.#announcer.say(text, () => this.#lineText === text);
    }, LINE_DELAY);
    this.#announcer.update();
  }

  get requiredId(): string {
    this.#word ??= document.createElement('span');
    this.#word.hidden = true;
    if (!this.#word.isConnected) this.#form.append(this.#word);
    this.#writeWord();
    return idOf(this.#word, this.#attributes);
  }

  #writeWord(): void {
    if (!this.#word) return;
    const { catalogue } = internalsOf(this.#gate).store;
    const text = formatText(catalogue?.['required'] ?? required, { label: '' }, catalogue);
    if (this.#word.textContent !== text) this.#word.textContent = text;
  }

  /**
   * The user leaves a field. While the pointer is down, that waits: a message that appears between pressing and
   * letting go may move what is being clicked on.
   */
  leave(field: Pick<Handle, 'path' | 'removed' | 'leave'>): void {
    // What draws the page took the focus, not the user.
    if (this.#keeper.isMoving) return;
    const leave = (): void => {
      field.leave();
      // (By now another row may stand where a removed one was.)
      if (!field.removed) this.#announcements.left(internalsOf(this.#gate).store.find(field.path));
    };
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
    this.#writeWord();
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
