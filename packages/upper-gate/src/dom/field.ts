// One field of a bound form: its controls, kept in step with its handle.

import type { Handle } from '../gate/handle.ts';
import { idOf, type Attributes } from './attributes.ts';
import { isEmptyRaw, isGroup, readControls, writeControls, type Control } from './controls.ts';
import { authorsPlace, makePlace, showIn } from './messages.ts';

/** What `data-gate-state` says of a field. */
type FieldSays = 'idle' | 'pending' | 'error' | 'warning' | 'notice' | 'valid';

export class BoundField {
  readonly handle: Handle;
  readonly controls: readonly Control[];
  readonly #attributes: Attributes;
  readonly #announce: (text: string) => void;
  readonly #undo: (() => void)[] = [];
  #place: HTMLElement | null;
  readonly #hint: HTMLElement | null;
  /** Where the author wants to have it counted. */
  readonly #counter: HTMLElement | null;
  #pending = false;

  constructor(
    form: HTMLFormElement,
    controls: readonly Control[],
    handle: Handle,
    attributes: Attributes,
    announce: (text: string) => void,
  ) {
    this.controls = controls;
    this.handle = handle;
    this.#attributes = attributes;
    this.#announce = announce;
    this.#place = authorsPlace(form, 'messages', handle.path);
    this.#counter = authorsPlace(form, 'count', handle.path);
    const hint = authorsPlace(form, 'hint', handle.path);
    this.#hint = hint;
    if (hint && hint.textContent.trim() === '' && handle.hint !== undefined) {
      hint.textContent = handle.hint;
      this.#undo.push(() => (hint.textContent = ''));
    }
    this.#undo.push(
      handle.connect({ element: controls[0], focus: () => this.#focus() }),
      handle.subscribe(() => this.render()),
    );
    this.noteDisabled();
    this.render();
  }

  /** As in HTML: a disabled control is neither judged nor sent. Fieldsets count. */
  noteDisabled(): void {
    this.handle.setDisabled(this.controls.every((control) => control.matches(':disabled')));
  }

  /** The person has changed the control. */
  read(): void {
    this.handle.set(readControls(this.controls, this.handle.kind));
  }

  undo(): void {
    this.#undo.forEach((undo) => undo());
    for (const control of this.controls) control.setCustomValidity('');
  }

  /** Brings the page in line with the handle. */
  render(): void {
    const { handle, controls } = this;
    const { raw, shown, errors, pending, required, counter } = handle.state;
    writeControls(controls, handle.kind, raw);
    if (this.#counter && this.#counter.textContent !== counter) this.#counter.textContent = counter ?? '';
    if (this.#place === null && shown.length > 0) this.#makePlace();
    const changed = this.#place !== null && showIn(this.#place, shown);
    const invalid = shown.some(({ severity }) => severity === 'error');
    const message = errors[0]?.message ?? '';
    for (const control of controls) {
      this.#attributes.set(control, 'aria-invalid', invalid ? 'true' : null);
      // Native attribute: assistive technology, styles and the browser's own marks know it.
      // (Each box of a group would have to be ticked.)
      if (!(this.#grouped && control.type === 'checkbox')) this.#attributes.set(control, 'required', required ? '' : null);
      this.#attributes.set(control, 'data-gate-state', this.#says());
      if (control.validationMessage !== message) control.setCustomValidity(message);
    }
    // Of a group, one must be chosen: a mark for styles, where no control can carry it.
    if (this.#grouped) this.#attributes.set(this.#described, 'data-gate-required', required ? '' : null);
    this.#describe();
    // An answer from the network comes when the person is elsewhere on the page: it is told, once.
    if (this.#pending && !pending && changed && shown.length > 0) this.#announce(shown.map((finding) => finding.message).join(' '));
    this.#pending = pending;
  }

  #says(): FieldSays {
    const { shown, pending, touched, valid, raw } = this.handle.state;
    if (pending) return 'pending';
    for (const severity of ['error', 'warning', 'notice'] as const)
      if (shown.some((finding) => finding.severity === severity)) return severity;
    return touched && valid && !isEmptyRaw(raw) ? 'valid' : 'idle';
  }

  get #grouped(): boolean {
    return isGroup(this.controls, this.handle.kind);
  }

  /** The element that carries the descriptions: for groups of radios or checkboxes, their fieldset. */
  get #described(): Element {
    const first = this.controls[0]!;
    return (this.#grouped && first.closest('fieldset')) || first;
  }

  #describe(): void {
    const described = this.#described;
    const ids = [
      this.#attributes.authored(described, 'aria-describedby'),
      this.#hint && idOf(this.#hint, this.#attributes),
      this.#counter && idOf(this.#counter, this.#attributes),
      this.#place && this.#place.childElementCount > 0 && idOf(this.#place, this.#attributes),
    ].filter(Boolean);
    this.#attributes.set(described, 'aria-describedby', ids.length > 0 ? ids.join(' ') : null);
  }

  #makePlace(): void {
    const last = this.controls.at(-1)!;
    const place = makePlace(this.handle.path, last, this.#grouped ? last.closest('fieldset') : null);
    this.#place = place;
    this.#undo.push(() => place.remove());
  }

  #focus(): boolean {
    const focusable = this.controls.filter(({ disabled }) => !disabled);
    const control = focusable.find((one) => this.#grouped && (one as HTMLInputElement).checked) ?? focusable[0];
    control?.focus();
    return control !== undefined && control.matches(':focus');
  }
}
