// One field of a form, as attributes to spread on the author's own elements.

import { createEffect, onCleanup } from 'solid-js';
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
import { type Reading, useTracking, valueOf } from './following.ts';
import { type Ref, refOf } from './refOf.ts';

/** What ties an element to a field. */
interface Tied {
  /** Lets the field focus the element. */
  readonly ref: Ref;
  /** Notes that the user leaves the field. */
  readonly 'on:blur': (event?: Leaving) => void;
}

/** Attributes for an input, select or textarea, or for any component that passes them on to one: `<input {...field.input}>`. */
export interface InputBundle extends ControlAttributes, ControlValue, LimitAttributes, Tied {
  /** Takes an event, or the value itself. */
  readonly 'on:input': (change: unknown) => void;
  /** Takes an event, or the value itself. */
  readonly 'on:change': (change: unknown) => void;
}

/** Props for a component that calls back with values: `<Slider {...field.component} />`. */
export interface ComponentBundle<V = unknown> extends Omit<ComponentProps, 'value'> {
  readonly ref: Ref;
  /** Notes that the user leaves the field. */
  readonly onBlur: Tied['on:blur'];
  /** A number, or `null` where there is none; yes or no; a list of options; files; else a text. */
  readonly value: V;
  /** Takes the value, or an event. */
  readonly onChange: (value: unknown) => void;
}

/** Attributes for the radio or checkbox of one option. */
export interface OptionBundle extends OptionAttributes, Tied {
  /** Takes over the choice. */
  readonly 'on:change': () => void;
}

/** One field: its state, and attributes for each of its elements. Its properties are reactive: don't destructure it. */
export type GateField<N extends Node = Node> = FieldBundles<
  N,
  { readonly input: InputBundle; readonly component: ComponentBundle<ComponentValue<N>>; readonly option: OptionBundle }
>;

/**
 * Connects a component to a field. What reads the field is drawn again when that changes, and for nothing else: a component of Solid runs once.
 *
 * @param gate the gate of the form, or an accessor of it
 * @param field its path, or a handle: in a row, `row.field('name')`; also an accessor of one
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
  const read = readViews(useTracking(), () => [valueOf(gate), valueOf(field)], viewField);
  if (disabled !== undefined) createEffect(() => onCleanup(read().disable(valueOf(disabled))));
  // Once it is drawn, it is known which of the parts are there.
  createEffect(() => read().describe());
  const tied = ({ attach, leave }: Ties) => ({ ref: refOf(attach), 'on:blur': leave });
  return fieldBundles(read, {
    // (Of several, the options say which are chosen.)
    input: (attributes, shows, ties) => ({
      ...attributes,
      ...(!Array.isArray(shows.value) && shows),
      ...tied(ties),
      'on:input': ties.enter,
      'on:change': ties.enter,
    }),
    component: (props, ties) => ({ ...props, ref: refOf(ties.attach), onBlur: ties.leave, onChange: ties.enter }),
    option: (attributes, ties) => ({ ...attributes, ...tied(ties), 'on:change': ties.enter }),
    disabled: () => valueOf(disabled),
    selects: true,
  });
}
