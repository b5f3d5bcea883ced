// What frameworks put on an element of a field: attributes as data, and what is done once the element is there.

import { blocks } from '../schema/severity.ts';
import type { DataSoFar, FieldState } from '../gate/fieldState.ts';
import type { FileLike } from '../schema/files.ts';
import type { Node, RAW } from '../schema/node.ts';
import { internalsOfHandle, type Handle } from '../gate/handle.ts';
import { internalsOf } from '../gate/internals.ts';
import {
  areOne,
  controlsWith,
  focusEntry,
  isControl,
  isCustom,
  isFilled,
  isNative,
  markupValue,
  readControls,
  sameChoice,
  showNone,
  sortOf,
  type Control,
} from './controls.ts';
import { UNREADABLE_INPUT } from '../schema/noValue.ts';
import { tie } from './connect.ts';
import { describedOn } from './describe.ts';
import { asUser, enter } from './entering.ts';
import { focusIn } from './focus.ts';
import { describe, markInside } from './inside.ts';
import { placesOf, whenLeft } from './leaving.ts';
import { elementOf, hasFocus, isElement } from './page.ts';
import { hearControls, silenceControls, tellControl } from './validity.ts';
import { areTogether } from './plan/controls.ts';
import { idFrom } from './plan/ids.ts';
import { fieldStatus, isEmptyRaw, type FieldStatus } from './status.ts';

/** The attributes of a control. */
export interface ControlAttributes {
  readonly id: string;
  readonly name: string;
  readonly required: boolean;
  /** Only if the component says whether it is disabled. */
  readonly disabled?: boolean;
  readonly 'aria-describedby'?: string;
  /** Present even without an error: custom validity alone would read as invalid from the start. */
  readonly 'aria-invalid': boolean;
  readonly 'data-gate-state': FieldStatus;
}

/** Further attributes of an input, select or textarea. */
export interface ControlValue {
  /**
   * For kinds with a special control: `'checkbox'`, `'date'`, `'file'`, ... Not for numbers, so that no text is lost that a
   * browser cannot read.
   */
  readonly type?: string;
  readonly multiple?: boolean;
  readonly value?: string;
  readonly checked?: boolean;
}

/** Limits that depend on other fields, as far as HTML has attributes for them. */
export interface LimitAttributes {
  readonly min?: string;
  readonly max?: string;
  readonly step?: string;
  readonly minlength?: string;
}

/** The props of a component that calls back with values, beside its callbacks. */
export interface ComponentProps extends Pick<ControlAttributes, 'id' | 'required' | 'disabled' | 'aria-describedby' | 'aria-invalid'> {
  /** A number, or `null` where there is none; yes or no; a list of options; files; else a text. */
  readonly value: unknown;
}

/** The type of what a component shows, for a field with some data. */
export type ComponentValue<N extends Node> =
  NonNullable<DataSoFar<N>> extends infer D
    ? [D] extends [never]
      ? unknown
      : [D] extends [number]
        ? number | null
        : [D] extends [boolean | string | readonly unknown[]]
          ? Wide<D>
          : [D] extends [FileLike]
            ? D | null
            : N[typeof RAW]
    : never;
/** Texts of any kind may be shown while they are typed. */
type Wide<D> = D extends string ? string : D extends boolean ? boolean : D;

/** The attributes of the radio or checkbox of one option. */
export interface OptionAttributes extends ControlAttributes {
  readonly type: string;
  readonly value: string;
  readonly checked: boolean;
}

/** The attributes of the fieldset around radios or checkboxes. */
export interface FieldsetAttributes {
  readonly 'aria-describedby'?: string;
  readonly 'data-gate-state': FieldStatus;
  readonly 'data-gate-required': string | undefined;
}

/** The ids of the elements of a field. */
export type FieldIds = Readonly<Record<'id' | 'hint' | 'counter' | 'messages' | 'label', string>>;

/**
 * Returns the ids of the elements of a field.
 *
 * @param gate the gate of the form
 * @param path the path of the field
 * @returns the ids of its control, label, hint, counter and messages
 */
export function idsOf(gate: object, path: string): FieldIds {
  const id = idFrom(internalsOf(gate).idPrefix, path);
  return { id, hint: `${id}-hint`, counter: `${id}-count`, messages: `${id}-messages`, label: `${id}-label` };
}

/** What there is to read beside a control. */
export type FieldNotes = Pick<FieldState, 'hint' | 'counter' | 'shown'>;

/** The ids of what describes a field now. @param word the id of the word "required", where the control cannot say so itself */
const describing = (ids: FieldIds, { hint, counter, shown }: FieldNotes, word?: string | false): readonly string[] =>
  [hint !== undefined && ids.hint, counter !== undefined && ids.counter, word, shown.length > 0 && ids.messages].filter(
    (id) => typeof id === 'string',
  );

/**
 * Returns what describes a field, as if all of it were drawn: `describeField` leaves out what is not.
 *
 * @param gate the gate of the form
 * @param path the path of the field
 * @param state what there is to read
 * @returns the value of `aria-describedby`
 */
export const describedBy = (gate: object, path: string, state: FieldNotes): string | undefined =>
  describing(idsOf(gate, path), state).join(' ') || undefined;

/** The elements of a field: the attributes of each, under the names that HTML gives them. */
export interface Parts {
  readonly label: { readonly id: string; readonly for: string };
  /** For an input, select or textarea. */
  readonly input: ControlAttributes & ControlValue & LimitAttributes;
  /** What the control is to show, by `value` or `checked`; nothing for files, which a script cannot set. */
  readonly shows: ControlValue;
  /** For a component that calls back with values. */
  readonly component: ComponentProps;
  /** For the radio or checkbox of one option. */
  readonly option: (value: string) => OptionAttributes;
  /** For the fieldset around radios and checkboxes. */
  readonly fieldset: FieldsetAttributes;
  readonly hint: { readonly id: string };
  readonly counter: { readonly id: string };
  readonly messages: { readonly id: string; readonly 'data-gate-messages': string };
}

/**
 * Returns the attributes of each element of a field.
 *
 * @param gate the gate of the form
 * @param handle the handle of the field
 * @param state its state
 * @param disabled whether the component disables it; undefined if it does not say
 * @returns the attributes, as plain objects; `undefined` stands for an attribute that is not there
 *
 * @example
 * const field = gate.field('vessel');
 * const { label, input, messages } = partsOf(gate, field, field.state, undefined);
 */
export function partsOf(gate: object, { traits }: Handle, state: FieldState, disabled: boolean | undefined): Parts {
  const { holds, control: type, json } = traits;
  const { path, shown, required, raw, data, attributes } = state;
  const ids = idsOf(gate, path);
  const says = fieldStatus(state);
  const ofAll = describing(ids, state).join(' ');
  const described = ofAll === '' ? {} : { 'aria-describedby': ofAll };
  const control: ControlAttributes = {
    id: ids.id,
    name: path,
    required,
    ...(disabled !== undefined && { disabled }),
    'aria-invalid': shown.some(blocks),
    'data-gate-state': says,
  };
  const text = raw === UNREADABLE_INPUT ? '' : raw;
  const isMultiple = holds === 'options';
  return {
    label: { id: ids.label, for: ids.id },
    input: {
      ...control,
      ...described,
      // (Not for numbers: no text is to be lost that a browser cannot read.)
      ...(type && type !== 'number' && { type }),
      ...((isMultiple || holds === 'files') && { multiple: true }),
      ...attributes,
    },
    shows: holds === 'flag' ? { checked: raw === true } : holds === 'file' || holds === 'files' ? {} : { value: text as string },
    // (Most fields are HTML's own controls: these objects are only made for those that ask.)
    get component() {
      return {
        id: ids.id,
        required,
        ...(disabled !== undefined && { disabled }),
        'aria-invalid': control['aria-invalid'],
        ...described,
        // (Options may be numbers.)
        value:
          holds === 'flag'
            ? raw === true
            : json === 'number'
              ? typeof data === 'number'
                ? data
                : null
              : isMultiple && Array.isArray(data)
                ? data
                : text,
      };
    },
    option: (value) => ({
      ...control,
      id: idFrom(internalsOf(gate).idPrefix, path, value),
      type: isMultiple ? 'checkbox' : 'radio',
      value,
      // Each box of a group would have to be ticked.
      required: required && !isMultiple,
      checked: Array.isArray(raw) ? raw.includes(value) : raw === value,
    }),
    fieldset: {
      ...described,
      'data-gate-state': says,
      'data-gate-required': required ? '' : undefined,
    },
    hint: { id: ids.hint },
    counter: { id: ids.counter },
    messages: { id: ids.messages, 'data-gate-messages': path },
  };
}

/**
 * Returns the raw value in whatever a component passes to `onChange`: an event of a control, a made-up event of a kit, or the
 * value itself.
 *
 * @param handle the handle of the field
 * @param given what the component passes
 * @returns the raw value; `null` for what says that there is none
 */
export function rawIn({ traits }: Pick<Handle, 'traits'>, given: unknown): unknown {
  let value = given;
  if (typeof given === 'object' && given !== null && 'target' in given) {
    const { target } = given;
    if (isControl(target)) return readControls([target], traits.holds);
    const made = target as { readonly value?: unknown; readonly checked?: unknown } | null;
    value = traits.holds === 'flag' && typeof made?.checked === 'boolean' ? made.checked : made?.value;
  }
  return Number.isNaN(value) ? null : value;
}

/**
 * Returns the raw value of a field after one of its options was ticked or unticked, in the order of the options.
 *
 * @param handle the handle of the field
 * @param option the value of the option
 * @param checked whether it is ticked now
 * @returns the raw value of the field
 */
export function toggled({ raw, options = [] }: Pick<Handle, 'raw' | 'options'>, option: string, checked: boolean): unknown {
  if (!Array.isArray(raw)) return option;
  const ticked = new Set<unknown>(checked ? [...(raw as unknown[]), option] : (raw as unknown[]).filter((each) => each !== option));
  const known = options.map(({ value }) => value).filter((value) => ticked.delete(value));
  return [...known, ...ticked];
}

/** The raw value of a field with what one of its controls holds. */
function rawWith(handle: Handle, control: Control): unknown {
  const { holds } = handle.traits;
  const now = readControls([control], holds);
  if (!areOne([control], holds)) return now;
  if (Array.isArray(now)) return toggled(handle, control.value as string, now.length > 0);
  return now === '' ? handle.raw : now;
}

/** Whether the user was quicker than the script: what the server drew for the field is in the markup, and something else in the control. */
function isEarly(control: Control, { traits, raw }: Handle): boolean {
  const { holds } = traits;
  if (isCustom(control) || !isFilled(control, holds)) return false;
  const drawn = markupValue([control], holds);
  if (!areOne([control], holds)) return sameChoice(drawn, raw) || (isEmptyRaw(drawn) && isEmptyRaw(raw));
  const { value } = control;
  return sameChoice(drawn, Array.isArray(raw) ? raw.filter((each) => each === value) : raw === value ? value : '');
}

/** What a component may pass as its ref, in place of an element. */
export interface Focusable {
  /** Takes the focus. */
  focus(): void;
  /** Its element, which says where it stands on the page. */
  readonly nativeElement?: Element | null;
}

/** How an element tells that the focus leaves it. */
export interface Leaving {
  readonly target: unknown;
  /** What gets the focus next. */
  readonly relatedTarget?: unknown;
  /** The element that was listened to, such as one around several controls. */
  readonly currentTarget?: unknown;
}

/**
 * Notes that the user leaves a field, unless the focus stays in one of its elements, or goes to what one of them has opened: then once it
 * leaves that.
 *
 * @param gate the gate of the form
 * @param handle the handle of the field
 * @param event the blur event; without one, the present focus decides
 */
export function leave(gate: object, handle: Handle, event?: Leaving): void {
  const places = [...placesOf(handle), ...[event?.target, event?.currentTarget].filter(isElement)];
  const next = event ? event.relatedTarget : places[0]?.ownerDocument.activeElement;
  // Half a date dispatches no event, so it is read when the user leaves.
  const control = event?.target;
  if (isControl(control) && readControls([control], handle.traits.holds) === UNREADABLE_INPUT) enter(handle, UNREADABLE_INPUT);
  whenLeft(handle, places, next, () => {
    const { form } = internalsOf(gate);
    if (form) form.leave(handle);
    else asUser(handle, () => handle.leave());
  });
}

/**
 * Connects an element to a field: focus, leaving what is around a control, native validity. What the user typed before the script ran is
 * kept, as an edit.
 *
 * @param gate the gate of the form
 * @param handle the handle of the field
 * @param target the element, or what a component hands out in its place: something that takes the focus
 * @returns undoes it
 */
export function attach(gate: object, handle: Handle, target: HTMLElement | Focusable): () => void {
  const element = elementOf(target);
  // What a component hands out has its own way to take the focus.
  const own = element === target ? undefined : (target as Partial<Focusable>);
  const { holds, hasParts } = handle.traits;
  const control = isControl(element) ? element : undefined;
  if (control && isEarly(control, handle)) enter(handle, rawWith(handle, control));
  const hear = (): unknown => control && hearControls(handle, [control]);
  let said: string | undefined;
  // (Remembered: to ask a control what it says takes longer.)
  const follow = (): void => {
    const message = handle.errors[0]?.message ?? '';
    if (control && message !== said) tellControl(control, (said = message));
    hear();
  };
  follow();
  const focus = (opens: boolean): boolean => {
    own?.focus?.();
    if (!element || hasFocus(element)) return true;
    return control ? focusEntry(handle, controlsWith(control, holds), opens) : focusIn(element, opens);
  };
  const undo = [handle.subscribe(follow), tie(handle, { element, focus })];
  if (element && !hasParts && !(control && isNative(control))) {
    const ended = new AbortController();
    const { signal } = ended;
    element.addEventListener('focusin', () => describeField(gate, handle), { signal });
    element.addEventListener('focusout', (event) => leave(gate, handle, event), { signal });
    // (Whoever draws the page has read it by then.)
    for (const type of ['input', 'change']) element.addEventListener(type, () => queueMicrotask(hear), { signal });
    undo.push(() => {
      ended.abort();
      if (control) silenceControls(handle, [control]);
    });
  }
  describeField(gate, handle);
  return () => undo.forEach((each) => each());
}

/**
 * Describes the elements of a field by the ids of its hint, counter and messages, as far as they are on the page: what takes the focus, or
 * what is around several controls. Has a select show that its value cannot be shown. Call it after each drawing.
 *
 * @param gate the gate of the form
 * @param handle the handle of the field
 */
export function describeField(gate: object, handle: Handle): void {
  const { path, required, removed, traits, shown } = handle;
  // (By now another row may stand where a removed one was.)
  if (removed) return;
  const { connections = [] } = internalsOfHandle(handle).node;
  // (Vue attaches elements before they are on the page.)
  const elements = [...connections]
    .map(({ element }): unknown => element)
    .filter((each) => isElement(each) && each.isConnected) as HTMLElement[];
  const controls = elements.filter(isControl);
  controls.forEach(showNone);
  const sort = controls.length > 0 ? sortOf(controls, traits.holds) : undefined;
  const isGrouped = areTogether(sort, traits.holds);
  const ids = idsOf(gate, path);
  // Boxes of which one must be ticked cannot say so themselves.
  const word = required && isGrouped && sort === 'checkbox' && internalsOf(gate).form?.requiredWord.id;
  const wanted = describing(ids, handle, word);
  const invalid = shown.some(blocks);
  const marks = (element: Element) => {
    const root = element.getRootNode() as Document | ShadowRoot;
    const described = wanted.map((id) => root.getElementById(id)).filter((each) => each !== null);
    return { ids: Object.values(ids), described, invalid, required };
  };
  // A list, or a group, has no control: what takes its focus is described.
  if (traits.hasParts || isGrouped) {
    for (const element of traits.hasParts ? elements : describedOn(controls, isGrouped)) describe(element, marks(element));
    return;
  }
  // (Of several components for one field, the author describes what is around them.)
  if (elements.length > 1 && (traits.holds === 'option' || traits.holds === 'options')) return;
  for (const element of elements) {
    // (Where the attributes of the field were put on a control of HTML, it has its marks: looking at all of them takes long.)
    if (isNative(element) && element.getAttribute('aria-invalid') === String(invalid)) {
      if (wanted.length > 0 || element.hasAttribute('aria-describedby')) describe(element, marks(element));
      continue;
    }
    const its = marks(element);
    if (isCustom(element)) describe(element, its);
    markInside(element, traits.holds, its);
  }
}
