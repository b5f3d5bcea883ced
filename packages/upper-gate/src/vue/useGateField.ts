// One field of a form, as attributes to bind to the author's own elements.

import { getCurrentInstance, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue';
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
import { controlRefOf, type Ref } from './element.ts';
import { useTracking } from './track.ts';

/** What ties an element to a field. */
interface Tied {
  /** Lets the field focus the element. On a component, that is its root element, or the first control in it. */
  readonly ref: Ref;
  /** Notes that the user leaves the field. */
  readonly onBlur: (event?: Leaving) => void;
}

/** Attributes for an input, select or textarea, or for any component that passes attributes on to one: `v-bind="field.input"`. */
export interface InputBundle extends ControlAttributes, ControlValue, LimitAttributes, Tied {
  /** Takes an event, or the value itself. */
  readonly onInput: (change: unknown) => void;
  /** Takes an event, or the value itself. */
  readonly onChange: (change: unknown) => void;
}

/** Props for a component with `v-model`: `<Slider v-bind="field.component" />`. */
export interface ComponentBundle<V = unknown> extends Omit<ComponentProps, 'value'>, Tied {
  /** A number, or `null` where there is none; yes or no; a list of options; files; else a text. */
  readonly modelValue: V;
  /** Takes the value, or an event. */
  readonly 'onUpdate:modelValue': (value: unknown) => void;
}

/** Attributes for the radio or checkbox of one option. */
export interface OptionBundle extends OptionAttributes, Tied {
  /** Takes over the choice. */
  readonly onChange: () => void;
}

/** One field: its state, and attributes for each of its elements. A reactive object: don't destructure it. */
export type GateField<N extends Node = Node> = FieldBundles<
  N,
  { readonly input: InputBundle; readonly component: ComponentBundle<ComponentValue<N>>; readonly option: OptionBundle }
>;

/**
 * Connects a component to a field. The component updates when the field changes, and for nothing else.
 *
 * @param gate the gate of the form
 * @param field its path, or a handle: in a row, `row.field('name')`; also a ref or getter of one
 * @param options `disabled`: as in HTML, neither validated nor sent
 * @returns the state of the field, and the attributes of its elements
 *
 * @example
 * const vessel = useGateField(gate, 'vessel');
 * // <label v-bind="vessel.label">{{ vessel.state.label }}</label> <input v-bind="vessel.input" />
 */
export function useGateField<N extends Node, P extends string>(
  gate: Gate<N>,
  field: PathOf<N, P>,
  options?: { readonly disabled?: MaybeRefOrGetter<boolean> },
): GateField<At<N, P>>;
export function useGateField<F extends Node>(
  gate: AnyGate,
  field: MaybeRefOrGetter<Handle<F>>,
  options?: { readonly disabled?: MaybeRefOrGetter<boolean> },
): GateField<F>;
export function useGateField(
  gate: AnyGate,
  field: MaybeRefOrGetter<string | Handle>,
  { disabled }: { readonly disabled?: MaybeRefOrGetter<boolean> } = {},
): GateField {
  const read = readViews(useTracking(), () => [gate, toValue(field)], viewField);
  const isServer = typeof document === 'undefined';
  if (!isServer) {
    watch([() => read().handle, () => toValue(disabled)] as const, ([, now], _, cleanUp) => cleanUp(read().disable(now)), {
      immediate: true,
    });
    // Once it is drawn, it is known which of the parts are there.
    watch(
      () => read().now,
      () => read().describe(),
      { flush: 'post' },
    );
  }

  // What the user typed before the script ran must not be overwritten when Vue takes over the server's HTML: that has the value already.
  // (Only then is there an element before the first rendering.)
  const isThere = shallowRef(getCurrentInstance()?.vnode.el == null);
  const start = (tie: () => () => void): (() => void) => {
    let undo: (() => void) | undefined;
    let gone = false;
    // Not while Vue is still taking over the page: what the user typed changes what other components show.
    if (isThere.value) undo = tie();
    queueMicrotask(() => {
      if (gone) return;
      isThere.value = true;
      // (By now it is on the page.)
      if (undo) read().describe();
      else undo = tie();
    });
    return () => {
      gone = true;
      undo?.();
    };
  };
  const tied = ({ attach, leave }: Ties): Tied => ({ ref: controlRefOf(attach, start), onBlur: leave });
  return fieldBundles(read, {
    input: (attributes, shows, ties) => ({
      ...attributes,
      ...(isThere.value && shows),
      ...tied(ties),
      onInput: ties.enter,
      onChange: ties.enter,
    }),
    component: ({ value: modelValue, ...props }, ties) => ({ ...props, modelValue, 'onUpdate:modelValue': ties.enter, ...tied(ties) }),
    option: (attributes, ties) => ({ ...attributes, ...tied(ties), onChange: ties.enter }),
    disabled: () => toValue(disabled),
    // On a server, Vue does not choose it by the value of the select.
    selects: isServer,
  });
}
