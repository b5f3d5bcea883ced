// One field of a bound form: its controls, kept in step with its handle.

import { blocks } from '../schema/severity.ts';
import type { Handle } from '../gate/handle.ts';
import { idOf, type AttributeWriter } from '../showing/attributes.ts';
import { focusIn } from '../showing/focus.ts';
import { fieldStatus, announceAnswers, type FieldStatus } from '../showing/status.ts';
import { isCheckbox, isGroup, readControls, writeControls, type Control } from '../showing/controls.ts';
import { makePlace, setText, showIn, type Hooks } from './hooks.ts';

export class BoundField {
  readonly handle: Handle;
  readonly controls: readonly Control[];
  readonly #attributes: AttributeWriter;
  readonly #heard: ReturnType<typeof announceAnswers>;
  readonly #undo: (() => void)[] = [];
  #place: HTMLElement | null;
  readonly #hint: HTMLElement | null;
  readonly #label: HTMLElement | null;
  /** Where the author wants to have it counted. */
  readonly #counter: HTMLElement | null;
  /** What the controls hold, as far as is known. */
  #holds: unknown;
  /** What the controls were marked with last, and what describes them. */
  #marks = '';
  #filled: readonly (HTMLElement | null)[] | undefined;
  /** Whether radios or checkboxes are one field together. */
  readonly #grouped: boolean;
  /** The element that carries the descriptions: for groups of radios or checkboxes, their fieldset. */
  readonly #described: Element;

  constructor(controls: readonly Control[], handle: Handle, places: Hooks, attributes: AttributeWriter, announce: (text: string) => void) {
    const { path, kind } = handle;
    this.controls = controls;
    this.handle = handle;
    this.#attributes = attributes;
    this.#heard = announceAnswers(announce);
    this.#place = places.find('messages', path);
    this.#counter = places.find('count', path);
    this.#label = places.find('label', path);
    this.#hint = places.find('hint', path);
    this.#grouped = isGroup(controls, kind);
    this.#described = (this.#grouped && controls[0]!.closest('fieldset')) || controls[0]!;
    for (const filled of [this.#hint, this.#label]) {
      const before = filled?.textContent ?? '';
      if (filled) this.#undo.push(() => (filled.textContent = before));
    }
    this.#undo.push(
      handle.connect({ element: controls[0], focus: () => this.#focus() }),
      handle.subscribe(() => this.render()),
    );
    this.noteDisabled();
    this.render();
  }

  /** As in HTML: a disabled control is neither validated nor sent. Fieldsets count. */
  noteDisabled(): void {
    this.handle.setDisabled(this.controls.every((control) => control.matches(':disabled')));
  }

  /** The person has changed the control. */
  read(): void {
    this.#holds = readControls(this.controls, this.handle.kind);
    this.handle.set(this.#holds);
  }

  /** The browser has reset the controls. */
  rewrite(): void {
    this.#holds = undefined;
    this.render();
  }

  undo(): void {
    this.#undo.forEach((undo) => undo());
    for (const control of this.controls) (control as Partial<HTMLInputElement>).setCustomValidity?.('');
  }

  /** Brings the page in line with the handle. */
  render(): void {
    const { controls, handle } = this;
    const { state } = handle;
    const { raw, shown, errors, required, counter, hint, label } = state;
    if (raw !== this.#holds) writeControls(controls, handle.kind, raw);
    this.#holds = raw;
    setText(this.#label, label);
    if (hint !== undefined) setText(this.#hint, hint);
    if (counter !== undefined) setText(this.#counter, counter);
    if (this.#place === null && shown.length > 0) this.#makePlace();
    if (this.#place) showIn(this.#place, shown);
    const invalid = shown.some(blocks) ? 'true' : null;
    const message = errors[0]?.message ?? '';
    const says = fieldStatus(state);
    // Most keystrokes change none of this; asking the page takes longer than remembering.
    const marks = `${invalid} ${required} ${says} ${message}`;
    if (marks !== this.#marks) this.#mark(invalid, required, says, message);
    this.#marks = marks;
    this.#describe();
    this.#heard(state);
  }

  #mark(invalid: 'true' | null, required: boolean, says: FieldStatus, message: string): void {
    for (const control of this.controls) {
      this.#attributes.set(control, 'aria-invalid', invalid);
      // Native attribute: assistive technology, styles and the browser's own marks know it.
      // (Each box of a group would have to be ticked.)
      if (!(this.#grouped && isCheckbox(control))) this.#attributes.set(control, 'required', required ? '' : null);
      this.#attributes.set(control, 'data-gate-state', says);
      // A custom element keeps its validity to itself.
      const native = control as Partial<HTMLInputElement>;
      if (native.validationMessage !== message) native.setCustomValidity?.(message);
    }
    // Of a group, one must be chosen: a mark for styles, where no control can carry it.
    if (this.#grouped) this.#attributes.set(this.#described, 'data-gate-required', required ? '' : null);
  }

  #describe(): void {
    const filled = [this.#hint, this.#counter, this.#place].map((place) => (place?.hasChildNodes() ? place : null));
    if (this.#filled && filled.every((place, i) => place === this.#filled![i])) return;
    this.#filled = filled;
    const ids = [
      this.#attributes.authored(this.#described, 'aria-describedby'),
      ...filled.map((place) => place && idOf(place, this.#attributes)),
    ].filter(Boolean);
    this.#attributes.set(this.#described, 'aria-describedby', ids.length > 0 ? ids.join(' ') : null);
  }

  #makePlace(): void {
    const place = makePlace(this.handle.path, this.controls.at(-1)!, this.#grouped ? this.#described.closest('fieldset') : null);
    this.#place = place;
    this.#undo.push(() => place.remove());
  }

  #focus(): boolean {
    const chosen = this.#grouped ? this.controls.filter((control) => (control as HTMLInputElement).checked) : [];
    return [...chosen, ...this.controls].some(focusIn);
  }
}
