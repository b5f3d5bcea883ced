// What a gate needs of its form element, whichever binding draws the fields: submit and reset, its state in attributes, the line
// above it, what is announced, where the focus stays, and leaving a field without moving what is under the pointer.

import { devAssert, explain } from '#development';
import { startDevWarnings } from '#devWarnings';
import type { AnyGate } from '../gate/gate.ts';
import { handleOf } from '../gate/handle.ts';
import { internalsOf, type FormLink, type RowNews } from '../gate/internals.ts';
import { required } from '../messages/english.ts';
import { startAnnouncements } from './announcements.ts';
import { startAnnouncer } from './announcer.ts';
import { AttributeWriter, idOf } from './attributes.ts';
import { asUser, enter } from './entering.ts';
import { startFocusKeeper } from './focusKeeper.ts';
import { startLine } from './line.ts';
import { placesOf } from './leaving.ts';
import { setGate } from './formGate.ts';
import { setText } from './messages.ts';
import { startSending } from './sending.ts';
import { isControl } from './controls.ts';
import { hasFocus, isElement } from './page.ts';
import { hearControls } from './validity.ts';
import { formStatus, isBusy } from './status.ts';
import { handleAt } from './variants.ts';
import { wordOf } from './words.ts';

/** What a binding adds to the wiring. */
export interface WiringOptions {
  /** Where the author wants the line above the form. */
  readonly line?: HTMLElement | undefined;
  readonly attributes?: AttributeWriter;
  /** The browser is about to submit: last chance to read what the controls hold. */
  readonly submits?: () => void;
  /** The browser has reset its controls, and the gate its fields. */
  readonly resets?: () => void;
}

/** A form that is wired. */
export interface Wiring extends FormLink {
  readonly requiredWord: HTMLElement;
  readonly undo: () => void;
}

const POINTER_UP = ['pointerup', 'pointercancel'];

/** Wires a form. */
export function startWiring(form: HTMLFormElement, gate: AnyGate, options: WiringOptions = {}): Wiring {
  const { attributes = new AttributeWriter() } = options;
  devAssert(() => {
    // The members of forms that bindings use; a control of such a name hides them. (Here: a production build leaves it out.)
    const used =
      'elements append prepend contains addEventListener getRootNode ownerDocument querySelector querySelectorAll getElementsByTagName getAttribute setAttribute removeAttribute';
    const hidden = used.split(' ').find((member) => isElement((form as unknown as Record<string, unknown>)[member]));
    return (
      hidden !== undefined &&
      explain(
        'control-hides-a-property',
        `A control is named "${hidden}", which hides form.${hidden}. The binding needs that. Rename the control.`,
      )
    );
  });
  const internals = internalsOf(gate);
  const { store } = internals;
  const ended = new AbortController();
  const { signal } = ended;
  const root = form.getRootNode();
  attributes.set(form, 'novalidate', '');
  const announcer = startAnnouncer(form, (text) => store.tracer?.announced(text));
  const stopKeeper = startFocusKeeper(form, gate);
  const announcements = startAnnouncements(gate, announcer);
  const line = startLine(form, gate, attributes, announcer, options.line);
  let rows: RowNews | undefined;
  let isPointerDown = false;
  let wasBusy = false;
  let status = '';
  let word: HTMLElement | undefined;

  const writeWord = (): void => word && setText(word, wordOf(gate, 'required', required));
  const render = (): void => {
    const { state } = gate;
    writeWord();
    const says = formStatus(state);
    // Remembered: each access to a member of a form has the browser look through all controls for one of that name.
    if (says !== status) attributes.set(form, 'data-gate-state', says);
    status = says;
    const busy = isBusy(state);
    if (busy === wasBusy) return;
    wasBusy = busy;
    attributes.set(form, 'aria-busy', busy ? 'true' : null);
    for (const element of form.elements) {
      // Not `disabled`: the button keeps the focus, and a second activation joins the submission under way.
      if ((element as HTMLButtonElement).type === 'submit') attributes.set(element, 'aria-disabled', busy ? 'true' : null);
    }
  };
  const sending = startSending(form, gate);
  const submit = (event: SubmitEvent): void => {
    const submitter = event.submitter as HTMLButtonElement | null;
    // The author's word that this button sends the form as it is; or it is right, and on its way.
    if (submitter?.formNoValidate || sending.isPassing) return;
    sending.submitter = submitter;
    options.submits?.();
    // What components say themselves may be another by now.
    store.root.forEach((node) => {
      const controls = [...(node.connections ?? [])].map(({ element }) => element).filter(isControl);
      if (controls.length > 0) hearControls(handleOf(store, node), controls);
    });
    // As a browser sends the button's name and value with the form.
    const named = submitter ? handleAt(gate, submitter.name) : undefined;
    if (named) enter(named, submitter!.value);
    void gate.submit(event);
  };
  const reset = (): void => {
    gate.reset();
    options.resets?.();
  };
  form.addEventListener('submit', submit, { signal });
  // The browser resets the controls only after this event.
  form.addEventListener('reset', () => setTimeout(reset), { signal });
  root.addEventListener('pointerdown', () => (isPointerDown = true), { signal, capture: true });
  for (const type of POINTER_UP) root.addEventListener(type, () => (isPointerDown = false), { signal, capture: true });
  const unsubscribe = gate.subscribe(render);
  render();

  const wiring: Wiring = {
    get lineMessages() {
      return line.messages;
    },
    isLost: line.isLost,
    get requiredWord() {
      if (!word) {
        word = document.createElement('span');
        word.hidden = true;
      }
      if (!word.isConnected) form.append(word);
      writeWord();
      idOf(word, attributes);
      return word;
    },
    followRows() {
      rows ??= internals.startRowNews?.(form, gate);
    },
    // While the pointer is down, that waits: a message that appears between pressing and letting go may move what is being
    // clicked on.
    leave(field) {
      // What draws the page took the focus, not the user.
      if (rows?.isMoving) return;
      const leave = (): void => {
        asUser(field, () => field.leave());
        // (By now another row may stand where a removed one was.)
        if (!field.removed) announcements.left(store.find(field.path));
      };
      if (!isPointerDown) return leave();
      const up = new AbortController();
      const letGo = (): void => {
        up.abort();
        // (Whoever presses a label comes back.)
        setTimeout(() => placesOf(field).some(hasFocus) || leave());
      };
      for (const type of POINTER_UP) root.addEventListener(type, letGo, { signal: up.signal });
    },
    undo() {
      ended.abort();
      for (const undo of [unsubscribe, stopWarnings, stopKeeper, announcements.undo, line.undo, announcer.undo, sending.undo]) undo();
      rows?.undo();
      word?.remove();
      attributes.restore();
      if (internals.form === wiring) internals.form = undefined;
      setGate(form, undefined);
    },
  };
  internals.form = wiring;
  setGate(form, gate);
  wiring.followRows();
  const stopWarnings = startDevWarnings(form, gate);
  return wiring;
}
