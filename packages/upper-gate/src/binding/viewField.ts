// One field as a component follows it: its state, and what goes on each of its elements.

import type { AnyGate } from '../gate/gate.ts';
import type { FieldState } from '../gate/fieldState.ts';
import type { Handle } from '../gate/handle.ts';
import { attach, describeField, leave, type Focusable, type Leaving, type Parts, partsOf, rawIn, toggled } from '../showing/bundle.ts';
import { setDisabled } from '../showing/connect.ts';
import { enter } from '../showing/entering.ts';
import { sourceOf } from '../showing/variants.ts';
import type { View } from './view.ts';

/** What a control is given beside its attributes: the same functions as long as the field is the same. */
export interface Ties {
  /**
   * Ties the control to the field, for as long as it is there.
   *
   * @param target the element, or what a component hands out in its place
   * @returns undoes it
   */
  readonly attach: (target: HTMLElement | Focusable) => () => void;
  /**
   * Notes that the user leaves the control.
   *
   * @param event the blur event; without one, the present focus decides
   */
  readonly leave: (event?: Leaving) => void;
  /**
   * Takes what the control holds now.
   *
   * @param given an event of a control, a made-up event of a kit, or the value itself
   */
  readonly enter: (given?: unknown) => void;
}

/** One field, as a component follows it. */
export interface FieldView extends View<FieldState> {
  readonly handle: Handle;
  /**
   * Returns the attributes of each of its elements, under the names that HTML gives them.
   *
   * @param disabled whether the component disables it; undefined if it does not say
   */
  readonly parts: (disabled?: boolean) => Parts;
  /** The ties of its control. */
  readonly ties: Ties;
  /**
   * Returns the ties of the radio or checkbox of one option.
   *
   * @param value the value of the option
   */
  readonly tiesOf: (value: string) => Ties;
  /** Describes its elements by what is on the page. To be called after each drawing. */
  readonly describe: () => void;
  /**
   * Disables the field, as in HTML.
   *
   * @param disabled whether it is disabled; undefined if the component does not say
   * @returns undoes it
   */
  readonly disable: (disabled: boolean | undefined) => () => void;
}

/**
 * Follows a field.
 *
 * @param gate the gate of the form
 * @param field its path, or its handle; where a path leads may depend on what is chosen above it
 * @returns the view
 * @throws TypeError if the form has no such field
 *
 * @example
 * const field = viewField(gate, 'vessel');
 * field.subscribe(() => console.log(field.now.shown, field.parts().input));
 */
export function viewField(gate: AnyGate, field: string | Handle): FieldView {
  const source = sourceOf(gate, field);
  let tied: { readonly handle: Handle; readonly ties: Ties; readonly options: Map<string, Ties> } | undefined;
  let drawn: { readonly state: FieldState; readonly disabled: boolean | undefined; readonly parts: Parts } | undefined;

  const tiesTo = (handle: Handle, take: (given: unknown) => void): Ties => ({
    attach: (target) => attach(gate, handle, target),
    leave: (event) => leave(gate, handle, event),
    enter: take,
  });
  /** What the controls of the present field are given. */
  const present = (): NonNullable<typeof tied> => {
    const { handle } = source;
    if (!tied || tied.handle !== handle)
      tied = { handle, ties: tiesTo(handle, (given) => enter(handle, rawIn(handle, given))), options: new Map() };
    return tied;
  };
  return {
    subscribe: source.subscribe,
    get handle() {
      return source.handle;
    },
    get now() {
      return source.handle.state;
    },
    parts(disabled) {
      const { handle } = source;
      const { state } = handle;
      if (drawn?.state !== state || drawn.disabled !== disabled) drawn = { state, disabled, parts: partsOf(gate, handle, state, disabled) };
      return drawn.parts;
    },
    get ties() {
      return present().ties;
    },
    tiesOf(value) {
      const { handle, options } = present();
      let ties = options.get(value);
      if (!ties) {
        const isTicked = (): boolean => (Array.isArray(handle.raw) ? handle.raw.includes(value) : handle.raw === value);
        options.set(value, (ties = tiesTo(handle, () => enter(handle, toggled(handle, value, !isTicked())))));
      }
      return ties;
    },
    describe: () => describeField(gate, source.handle),
    disable(disabled) {
      const { handle } = source;
      if (disabled === undefined) return () => undefined;
      setDisabled(handle, disabled);
      return () => setDisabled(handle, false);
    },
  };
}
