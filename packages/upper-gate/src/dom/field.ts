// One field of a bound form: its controls, kept in step with its handle.

import { blocks } from '../schema/severity.ts';
import type { FieldState } from '../gate/fieldState.ts';
import type { Handle } from '../gate/handle.ts';
import type { AttributeWriter } from '../showing/attributes.ts';
import { offerMarkup, setDisabled, tie } from '../showing/connect.ts';
import { enter } from '../showing/entering.ts';
import { describeBy, describedOn, LIVE } from '../showing/describe.ts';
import { isRequirable, markInside } from '../showing/inside.ts';
import { areTogether } from '../showing/plan/controls.ts';
import { newPlace } from '../showing/plan/described.ts';
import { fieldStatus, isEmptyRaw, type FieldStatus } from '../showing/status.ts';
import type { Wiring } from '../showing/wiring.ts';
import {
  focusEntry,
  isCustom,
  isSelect,
  offered,
  readControls,
  sameChoice,
  sortOf,
  writeControls,
  type Control,
} from '../showing/controls.ts';
import { setText, showIn } from '../showing/messages.ts';
import { afterDrawing, isElement } from '../showing/page.ts';
import { hearControls, silenceControls, tellControl } from '../showing/validity.ts';
import { namePlace, type Hooks } from './hooks.ts';

export class BoundField {
  readonly handle: Handle;
  readonly controls: readonly Control[];
  readonly #attributes: AttributeWriter;
  readonly #link: Pick<Wiring, 'requiredWord'>;
  readonly #undo: (() => void)[] = [];
  #place: HTMLElement | null;
  /** The place, if the author made none. */
  #made: HTMLElement | undefined;
  readonly #hint: HTMLElement | null;
  readonly #label: HTMLElement | null;
  /** Where the author wants to have it counted. */
  readonly #counter: HTMLElement | null;
  /** What was drawn last, and which findings. */
  #state: FieldState | undefined;
  #shown: FieldState['shown'] | undefined;
  /** The raw value that the controls were given last. */
  #holds: unknown;
  /** What they held then: less, where they have no way to show it, as a select has none for what is no option any more. */
  #written: unknown;
  /** What the controls were marked with last, and what describes them. */
  #marks: { readonly invalid: string; readonly required: boolean; readonly says: FieldStatus; readonly message: string } | undefined;
  #filled: readonly (Element | null)[] | undefined;
  #isOver = false;
  /** The limits that the controls were given last. */
  #limits: Readonly<Record<string, string>> = {};
  /** Whether radios or checkboxes are one field together, and of checkboxes. */
  readonly #grouped: boolean;
  readonly #boxes: boolean;
  /** What is told whether the field is valid: its controls, and what stands in the form for them. */
  readonly #told: Iterable<Control>;
  /** The elements that carry the descriptions. */
  readonly #described: readonly Element[];

  constructor(
    controls: readonly Control[],
    handle: Handle,
    places: Hooks,
    attributes: AttributeWriter,
    link: Pick<Wiring, 'requiredWord'>,
    told: Iterable<Control>,
  ) {
    const { path, traits } = handle;
    this.controls = controls;
    this.#told = told;
    this.handle = handle;
    this.#attributes = attributes;
    this.#link = link;
    this.#place = places.find('messages', path);
    this.#counter = places.find('count', path);
    this.#label = places.find('label', path);
    this.#hint = places.find('hint', path);
    const sort = sortOf(controls, traits.holds);
    this.#grouped = areTogether(sort, traits.holds);
    this.#boxes = sort === 'checkbox';
    this.#described = describedOn(controls, this.#grouped);
    for (const filled of [this.#hint, this.#label]) {
      const before = filled?.textContent ?? '';
      if (filled) this.#undo.push(() => (filled.textContent = before));
    }
    this.#undo.push(
      tie(handle, { element: controls[0], focus: (opens) => focusEntry(handle, controls, opens) }),
      handle.subscribe(() => this.render()),
    );
    this.noteDisabled();
    this.render();
    if (isCustom(controls[0]!)) afterDrawing(() => this.#isOver || (this.#drawn(), false));
  }

  /** As in HTML: a disabled control is neither validated nor sent. Fieldsets count. */
  noteDisabled(): void {
    setDisabled(
      this.handle,
      this.controls.every((control) => control.matches(':disabled')),
    );
  }

  /** The row that it is in may stand elsewhere by now. */
  rename(): void {
    if (this.#made) namePlace(this.#made, this.handle.path);
  }

  /** The user has changed the control. */
  read(): void {
    const { controls, handle } = this;
    const [first] = controls;
    const now = readControls(controls, handle.traits.holds);
    // What they cannot show is not lost because the user passes by. (Other options may have come since it was written.)
    const shown = isSelect(first!) ? offered(first, handle.raw) : this.#written;
    if (now !== shown && !(Array.isArray(now) && sameChoice(now, shown))) {
      this.#holds = this.#written = now;
      enter(this.handle, now);
    }
    hearControls(handle, controls);
  }

  /** The browser has reset the controls. */
  rewrite(): void {
    this.#holds = this.#state = undefined;
    this.render();
  }

  undo(): void {
    this.#undo.forEach((undo) => undo());
    silenceControls(this.handle, this.controls);
    for (const control of this.#told) tellControl(control, '');
    for (const control of this.controls) markInside(control, this.handle.traits.holds);
    this.#isOver = true;
    // Elements of removed rows would be kept in memory otherwise.
    for (const element of [...this.controls, ...this.#described]) if (!element.isConnected) this.#attributes.release(element);
  }

  /** Brings the page in line with the handle. */
  render(): void {
    const { controls, handle } = this;
    const { state } = handle;
    // Changes made before the field was bound are reported to it afterwards.
    if (state === this.#state) return;
    this.#state = state;
    const { raw, shown, errors, required, counter, hint, label, attributes } = state;
    if (raw !== this.#holds) this.#written = writeControls(controls, handle.traits.holds, raw);
    this.#holds = raw;
    setText(this.#label, label);
    if (hint !== undefined) setText(this.#hint, hint);
    if (counter !== undefined) setText(this.#counter, counter);
    if (this.#place === null && shown.length > 0) this.#makePlace();
    if (this.#place && shown !== this.#shown) showIn(this.#place, shown);
    this.#shown = shown;
    // Also where nothing is wrong: custom validity alone would read as invalid from the start.
    const invalid = String(shown.some(blocks));
    const message = errors[0]?.message ?? '';
    const says = fieldStatus(state);
    this.#mark(invalid, required, says, message);
    if (attributes !== this.#limits) this.#limit(attributes);
    this.#describe(required);
    this.markInside();
    hearControls(handle, controls);
  }

  /** A component may be drawn later than it is there, and hold something only then, as a slider does. */
  #drawn(): void {
    const { controls, handle } = this;
    const now = readControls(controls, handle.traits.holds);
    if (isEmptyRaw(handle.raw) && !isEmptyRaw(now ?? '')) offerMarkup(handle, now);
    this.markInside();
  }

  /** Describes and marks the element inside a component that takes the focus. */
  markInside(): void {
    const { controls, handle } = this;
    if (this.#grouped) return;
    const described = (this.#filled ?? []).filter(isElement);
    for (const control of controls)
      if (isCustom(control))
        markInside(control, handle.traits.holds, { invalid: handle.shown.some(blocks), required: handle.required, described });
  }

  /** Gives the controls the attributes of limits that depend on other fields. */
  #limit(now: Readonly<Record<string, string>>): void {
    for (const name of new Set([...Object.keys(this.#limits), ...Object.keys(now)]))
      for (const control of this.controls) this.#attributes.set(control, name, now[name] ?? this.#attributes.authored(control, name));
    this.#limits = now;
  }

  /** Marks the controls where a mark is another than last time: asking the page takes longer than remembering. */
  #mark(invalid: string, required: boolean, says: FieldStatus, message: string): void {
    const { controls } = this;
    const before = this.#marks;
    this.#marks = { invalid, required, says, message };
    if (before?.invalid !== invalid) for (const control of controls) this.#attributes.set(control, 'aria-invalid', invalid);
    if (before?.says !== says) for (const control of controls) this.#attributes.set(control, 'data-gate-state', says);
    if (before?.message !== message) for (const control of this.#told) tellControl(control, message);
    if (before?.required !== required) this.#markRequired(required);
  }

  #markRequired(required: boolean): void {
    for (const control of this.controls) {
      // Native attribute: assistive technology, styles and the browser's own marks know it.
      // (Each box of a group would have to be ticked.)
      if (!(this.#grouped && this.#boxes)) this.#attributes.set(control, 'required', required ? '' : null);
      this.#markRole(control, required);
    }
    // Of a group, one must be chosen: a mark for styles, where no control can carry it.
    if (this.#grouped)
      for (const element of this.#described) {
        this.#attributes.set(element, 'data-gate-required', required ? '' : null);
        this.#markRole(element, required);
      }
  }

  /** Marks an element with an explicit role as required, if that role allows it. */
  #markRole(element: Element, required: boolean): void {
    if (isRequirable(element)) this.#attributes.set(element, 'aria-required', required ? 'true' : null);
  }

  #describe(required: boolean): void {
    // Boxes of which one must be ticked cannot say so themselves.
    const word = required && this.#grouped && this.#boxes ? this.#link.requiredWord : null;
    const filled = [this.#hint, this.#counter, word, this.#place].filter((each) => each?.hasChildNodes());
    if (this.#filled && filled.length === this.#filled.length && filled.every((each, i) => each === this.#filled![i])) return;
    this.#filled = filled;
    for (const element of this.#described) describeBy(element, filled, this.#attributes);
  }

  #makePlace(): void {
    const place = document.createElement('div');
    namePlace(place, this.handle.path);
    const at = newPlace<Element>(this.controls, this.#described, LIVE);
    if ('after' in at) at.after.after(place);
    else at.in.prepend(place);
    this.#place = this.#made = place;
    this.#undo.push(() => place.remove());
  }
}
