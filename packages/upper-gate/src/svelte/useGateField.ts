// One field of a form, as attributes to spread on the author's own elements.

import { onDestroy } from 'svelte';
import {
  type ComponentProps,
  type ComponentValue,
  type ControlAttributes,
  type ControlValue,
  type FieldBundles,
  fieldBundles,
  type Leaving,
  type LimitAttributes,
  type OptionAttributes,
  readViews,
  type Ties,
  viewField,
} from '../binding/index.ts';
import type { AnyGate, Gate } from '../gate/gate.ts';
import type { Handle } from '../gate/handle.ts';
import type { Node } from '../schema/node.ts';
import type { At, PathOf } from '../schema/paths.ts';
import { attached, type Attached } from './attachments.ts';
import { follow, type Reading, track, valueOf } from './following.ts';
import { useThere } from './takingOver.ts';

/** What ties an element to a field. */
interface Tied extends Attached {
  /** Notes that the user leaves the field. */
  readonly onblur: (event?: Leaving) => void;
}

/** Attributes for an input, select or textarea, or for any component that passes them on to one: `<input {...field.input}>`. */
export interface InputBundle extends ControlAttributes, ControlValue, Omit<LimitAttributes, 'minlength'>, Tied {
  readonly minlength?: number;
  /** Takes an event, or the value itself. */
  readonly oninput: (change: unknown) => void;
  /** Takes an event, or the value itself. */
  readonly onchange: (change: unknown) => void;
}

/** Props for a component that calls back with values: `<Slider {...field.component} />`. */
export interface ComponentBundle<V = unknown> extends Omit<ComponentProps, 'value'>, Tied {
  /** A number, or `null` where there is none; yes or no; a list of options; files; else a text. */
  readonly value: V;
  /** Takes the value, or an event. */
  readonly onchange: (value: unknown) => void;
}

/** Attributes for the radio or checkbox of one option. */
export interface OptionBundle extends OptionAttributes, Tied {
  /** Takes over the choice. */
  readonly onchange: () => void;
}

/** One field: its state, and attributes for each of its elements. Its properties are reactive: don't destructure it. */
export type GateField<N extends Node = Node> = FieldBundles<
  N,
  { readonly input: InputBundle; readonly component: ComponentBundle<ComponentValue<N>>; readonly option: OptionBundle }
>;

/**
 * Connects a component to a field. What reads the field is drawn again when that changes, and for nothing else.
 *
 * @param gate the gate of the form, or a function that reads it from props
 * @param field its path, or a handle: in a row, `row.field('name')`; also a function that reads one from props
 * @param options `disabled`: as in HTML, neither validated nor sent
 * @returns the state of the field, and the attributes of its elements
 *
 * @example
 * const vessel = useGateField(gate, 'vessel');
 * // <label {...vessel.label}>{vessel.state.label}</label> <input {...vessel.input} />
 */
export function useGateField<N extends Node, P extends string>(
  gate: Reading<Gate<N>>,
  field: PathOf<N, P>,
  options?: { readonly disabled?: Reading<boolean> },
): GateField<At<N, P>>;
export function useGateField<F extends Node>(
  gate: Reading<AnyGate>,
  field: Reading<Handle<F>>,
  options?: { readonly disabled?: Reading<boolean> },
): GateField<F>;
export function useGateField(
  gate: Reading<AnyGate>,
  field: Reading<string | Handle>,
  { disabled }: { readonly disabled?: Reading<boolean> } = {},
): GateField {
  const read = readViews(track, () => [valueOf(gate), valueOf(field)], viewField);
  if (disabled !== undefined) {
    let undo: (() => void) | undefined;
    follow(
      () => [read().handle, valueOf(disabled)] as const,
      ([, now]) => {
        undo?.();
        undo = read().disable(now);
      },
    );
    onDestroy(() => undo?.());
  }
  const isThere = useThere(gate);
  const tied = ({ attach, leave }: Ties): Tied => ({ ...attached(attach, read()), onblur: leave });
  return fieldBundles(read, {
    input: ({ minlength, ...attributes }, shows, ties) => ({
      ...attributes,
      ...(minlength !== undefined && { minlength: Number(minlength) }),
      ...(isThere() ? shows : { defaultValue: shows.value, defaultChecked: shows.checked }),
      ...tied(ties),
      oninput: ties.enter,
      onchange: ties.enter,
    }),
    component: (props, ties) => ({ ...props, ...tied(ties), onchange: ties.enter }),
    option: ({ checked, ...attributes }, ties) =>
      ({ ...attributes, ...(isThere() ? { checked } : { defaultChecked: checked }), ...tied(ties), onchange: ties.enter }) as OptionBundle,
    disabled: () => valueOf(disabled),
    selects: false,
  });
}
