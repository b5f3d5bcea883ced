// Wiring a plain form to a gate, by the names of its controls.

import type { Gate } from '../gate/createGate.ts';
import type { Handle } from '../gate/handle.ts';
import type { Node } from '../schema/node.ts';
import { Attributes } from './attributes.ts';
import { isControl, isEmptyRaw, isFilled, readControls, type Control } from './controls.ts';
import { BoundField } from './field.ts';
import { authorsPlace, makeLiveRegion, showIn } from './messages.ts';

/**
 * Wires a form to a gate: each control to the field of its `name`. The author's markup stays as it is, but for ARIA
 * attributes, `data-gate-state`, and a place for messages where there is none (`data-gate-messages="field"`).
 *
 * @param form its controls' names are paths of the gate's schema; others are left alone
 * @param gate the live controller
 * @returns undoes everything
 *
 * @example
 * const unbind = bindForm(document.querySelector('form')!, createGate(passage, { submit: send }));
 */
export function bindForm<N extends Node>(form: HTMLFormElement, gate: Gate<N>): () => void {
  const binding = new Binding(form, gate);
  return () => binding.undo();
}

type AnyGate = Pick<Gate<Node>, 'state' | 'root' | 'has' | 'batch' | 'submit' | 'subscribe' | 'reset'> & { field(path: string): Handle };

class Binding {
  readonly #form: HTMLFormElement;
  readonly #gate: AnyGate;
  readonly #attributes = new Attributes();
  readonly #fields = new Map<string, BoundField>();
  readonly #live = makeLiveRegion();
  readonly #ended = new AbortController();
  readonly #undo: (() => void)[] = [];
  /** Where findings on the form as a whole are shown. */
  #place: HTMLElement;
  #pointerDown = false;
  #busy = false;

  constructor(form: HTMLFormElement, gate: AnyGate) {
    this.#form = form;
    this.#gate = gate;
    this.#attributes.set(form, 'novalidate', '');
    this.#place = authorsPlace(form, 'messages', '') ?? this.#makePlace();
    this.#attributes.set(this.#place, 'role', 'alert');
    this.#attributes.set(this.#place, 'tabindex', '-1');
    form.append(this.#live);
    gate.batch(() => this.#bindControls());
    this.#listen();
    this.#undo.push(
      gate.root.connect({ focus: () => this.#focusPlace() }),
      gate.subscribe(() => this.#render()),
    );
    this.#render();
  }

  undo(): void {
    this.#ended.abort();
    this.#undo.forEach((undo) => undo());
    for (const field of this.#fields.values()) field.undo();
    this.#live.remove();
    this.#attributes.restore();
  }

  #bindControls(): void {
    const byName = new Map<string, Control[]>();
    for (const element of this.#form.elements) {
      if (!isControl(element) || element.name === '') continue;
      const controls = byName.get(element.name) ?? [];
      controls.push(element);
      byName.set(element.name, controls);
    }
    const announce = (text: string): void => {
      this.#live.textContent = text;
    };
    for (const [name, controls] of byName) {
      if (!this.#gate.has(name)) continue;
      const handle = this.#gate.field(name);
      // What the browser restored, or the person typed before the script ran, is kept: as an edit.
      const holds = readControls(controls, handle.kind);
      if (controls.some(isFilled) || (!handle.dirty && isEmptyRaw(handle.raw) && !isEmptyRaw(holds))) handle.set(holds);
      this.#fields.set(name, new BoundField(this.#form, controls, handle, this.#attributes, announce));
    }
  }

  /**
   * Listens where the form stands, not on the form: controls may belong to it from outside (`form="id"`), or come later.
   */
  #listen(): void {
    const { signal } = this.#ended;
    const root = this.#form.getRootNode();
    const changed = (event: Event): void => {
      // Text that is still being composed is no value yet.
      if (!(event as InputEvent).isComposing) this.#fieldOf(event.target)?.read();
    };
    for (const type of ['input', 'change', 'compositionend']) root.addEventListener(type, changed, { signal });
    root.addEventListener('focusout', (event) => this.#left(event as FocusEvent), { signal });
    // A message that appears between pressing and letting go of the pointer may move what is being clicked on.
    root.addEventListener('pointerdown', () => (this.#pointerDown = true), { signal, capture: true });
    for (const type of ['pointerup', 'pointercancel'])
      root.addEventListener(type, () => (this.#pointerDown = false), { signal, capture: true });
    const observer = new MutationObserver(() => this.#gate.batch(() => this.#fields.forEach((field) => field.noteDisabled())));
    observer.observe(root, { subtree: true, attributes: true, attributeFilter: ['disabled'] });
    this.#undo.push(() => observer.disconnect());
    this.#form.addEventListener('submit', (event) => this.#submit(event), { signal });
    // The browser resets the controls only after this event.
    this.#form.addEventListener('reset', () => setTimeout(() => this.#reset()), { signal });
  }

  #reset(): void {
    this.#gate.reset();
    for (const field of this.#fields.values()) field.render();
  }

  #fieldOf(target: EventTarget | null): BoundField | undefined {
    return isControl(target) && target.form === this.#form ? this.#fields.get(target.name) : undefined;
  }

  #left({ target, relatedTarget }: FocusEvent): void {
    const field = this.#fieldOf(target);
    if (!field || field.controls.includes(relatedTarget as Control)) return;
    // Half a date makes no `input` event; on leaving, it tells.
    field.read();
    const leave = (): void => field.handle.blur();
    if (!this.#pointerDown) return leave();
    const up = new AbortController();
    const letGo = (): void => {
      up.abort();
      setTimeout(leave);
    };
    for (const type of ['pointerup', 'pointercancel']) this.#form.getRootNode().addEventListener(type, letGo, { signal: up.signal });
  }

  #submit(event: SubmitEvent): void {
    // The author's word that this button sends the form as it is.
    if ((event.submitter as HTMLButtonElement | null)?.formNoValidate) return;
    this.#fieldOf((this.#form.getRootNode() as Document | ShadowRoot).activeElement)?.read();
    void this.#gate.submit(event);
  }

  #render(): void {
    const { status, pending, errorCount } = this.#gate.state;
    showIn(this.#place, this.#gate.root.shown);
    const busy = status === 'checking' || status === 'sending';
    const says = busy || pending ? 'pending' : status === 'refused' && errorCount > 0 ? 'error' : status === 'accepted' ? 'valid' : 'idle';
    this.#attributes.set(this.#form, 'data-gate-state', says);
    if (busy === this.#busy) return;
    this.#busy = busy;
    this.#attributes.set(this.#form, 'aria-busy', busy ? 'true' : null);
    for (const element of this.#form.elements) {
      // Not `disabled`: the button keeps the focus, and a second activation joins the submission under way.
      if ((element as HTMLButtonElement).type === 'submit') this.#attributes.set(element, 'aria-disabled', busy ? 'true' : null);
    }
  }

  #makePlace(): HTMLElement {
    const place = document.createElement('div');
    place.dataset['gateMessages'] = '';
    this.#form.prepend(place);
    this.#undo.push(() => place.remove());
    return place;
  }

  #focusPlace(): boolean {
    if (this.#gate.root.shown.length === 0) return false;
    this.#place.focus();
    return this.#place.matches(':focus');
  }
}
