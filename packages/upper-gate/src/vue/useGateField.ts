// One field of a form, as attributes to bind to the author's own elements.

import { computed, getCurrentInstance, onScopeDispose, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue';
import {
  attach,
  type ComponentProps,
  type ComponentValue,
  type ControlAttributes,
  type ControlValue,
  describeField,
  enter,
  type FieldsetAttributes,
  leave,
  type Leaving,
  type LimitAttributes,
  type OptionAttributes,
  partsOf,
  rawIn,
  setDisabled,
  toggled,
} from '../binding/index.ts';
import type { AnyGate, Gate } from '../gate/gate.ts';
import type { DataSoFar, FieldState } from '../gate/fieldState.ts';
import type { Handle } from '../gate/handle.ts';
import type { Node, RAW } from '../schema/node.ts';
import type { At, PathOf } from '../schema/paths.ts';
import { tieControl, type Ref } from './element.ts';
import { followHandle } from './followHandle.ts';
import { slice } from './slice.ts';

/** What ties an element to a field. */
interface Ties {
  /** Lets the field focus the element. On a component, that is its root element, or the first control in it. */
  readonly ref: Ref;
  /** Notes that the user leaves the field. */
  readonly onBlur: (event?: Leaving) => void;
}

/** Attributes for an input, select or textarea, or for any component that passes attributes on to one: `v-bind="field.input"`. */
export interface InputBundle extends ControlAttributes, ControlValue, LimitAttributes, Ties {
  /** Takes an event, or the value itself. */
  readonly onInput: (change: unknown) => void;
  /** Takes an event, or the value itself. */
  readonly onChange: (change: unknown) => void;
}

/** Props for a component with `v-model`: `<Slider v-bind="field.component" />`. */
export interface ComponentBundle<V = unknown> extends Omit<ComponentProps, 'value'>, Ties {
  /** A number, or `null` where there is none; yes or no; a list of options; files; else a text. */
  readonly modelValue: V;
  /** Takes the value, or an event. */
  readonly 'onUpdate:modelValue': (value: unknown) => void;
}

/** Attributes for the radio or checkbox of one option. */
export interface OptionBundle extends OptionAttributes, Ties {
  /** Takes over the choice. */
  readonly onChange: () => void;
}

/** One field: its state, and attributes for each of its elements. A reactive object: don't destructure it. */
export interface GateField<N extends Node = Node> {
  /** The state of the field: its `label`, `hint`, `shown` messages, `counter`, ... */
  readonly state: FieldState<DataSoFar<N>, N[typeof RAW]>;
  /** What the control holds; for `v-model`. */
  raw: unknown;
  readonly label: { readonly id: string; readonly for: string };
  readonly input: InputBundle;
  readonly component: ComponentBundle<ComponentValue<N>>;
  /** For a field with several controls: the attributes for the radio or checkbox of one option. */
  readonly option: (value: string) => OptionBundle;
  /** Attributes for an `<option>` of a select. On a server, Vue does not choose it by the value of the select. */
  readonly selectOption: (value: string) => { readonly value: string; readonly selected?: boolean };
  /** Attributes for the fieldset around such controls. */
  readonly fieldset: FieldsetAttributes;
  readonly hint: { readonly id: string };
  readonly counter: { readonly id: string };
  /** Attributes for the element that holds the messages, one for each of `state.shown`. */
  readonly messages: { readonly id: string; readonly 'data-gate-messages': string };
}

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
  options: { readonly disabled?: MaybeRefOrGetter<boolean> } = {},
): GateField {
  const handle = followHandle(gate, field);
  const state = slice(handle, (now) => now.state, Object.is);
  if (typeof document !== 'undefined') {
    watch(
      () => toValue(options.disabled),
      (disabled) => disabled !== undefined && setDisabled(handle.value, disabled),
      { immediate: true },
    );
    onScopeDispose(() => options.disabled !== undefined && setDisabled(handle.value, false));
  }

  // Once it is drawn, it is known which of the parts are there.
  if (typeof document !== 'undefined') watch(state, () => describeField(gate, handle.value), { flush: 'post' });

  // What the user typed before the script ran must not be overwritten when Vue takes over the server's HTML: that has the value already.
  // (Only then is there an element before the first rendering.)
  const isThere = shallowRef(getCurrentInstance()?.vnode.el == null);
  const ties = computed(() => {
    const of = handle.value;
    const tie = (): Ties => ({
      ref: tieControl((target) => {
        let undo: (() => void) | undefined;
        let gone = false;
        // Not while Vue is still taking over the page: what the user typed changes what other components show.
        if (isThere.value) undo = attach(gate, of, target);
        queueMicrotask(() => {
          if (gone) return;
          isThere.value = true;
          // (By now it is on the page.)
          if (undo) describeField(gate, of);
          else undo = attach(gate, of, target);
        });
        return () => {
          gone = true;
          undo?.();
        };
      }),
      onBlur: (event) => leave(gate, of, event),
    });
    const change = (given: unknown): void => enter(of, rawIn(of, given));
    const options = new Map<string, Ties>();
    return {
      input: { ...tie(), onInput: change, onChange: change },
      option(value: string): Ties {
        let ties = options.get(value);
        if (!ties) options.set(value, (ties = tie()));
        return ties;
      },
    };
  });
  const parts = computed(() => partsOf(gate, handle.value, state.value, toValue(options.disabled)));
  return {
    get state() {
      return state.value;
    },
    get raw() {
      return state.value.raw;
    },
    set raw(raw) {
      enter(handle.value, raw);
    },
    get label() {
      return parts.value.label;
    },
    get input() {
      const { input, shows } = parts.value;
      return { ...input, ...(isThere.value && shows), ...ties.value.input } as InputBundle;
    },
    get component() {
      const { value: modelValue, ...component } = parts.value.component;
      const { ref, onBlur, onChange } = ties.value.input;
      return { ...component, modelValue, 'onUpdate:modelValue': onChange, ref, onBlur } as ComponentBundle<never>;
    },
    option(value) {
      const attributes = parts.value.option(value);
      const { value: of } = handle;
      return { ...attributes, ...ties.value.option(value), onChange: () => enter(of, toggled(of, value, !attributes.checked)) };
    },
    selectOption: (value) => (typeof document === 'undefined' ? { value, selected: parts.value.option(value).checked } : { value }),
    get fieldset() {
      return parts.value.fieldset;
    },
    get hint() {
      return parts.value.hint;
    },
    get counter() {
      return parts.value.counter;
    },
    get messages() {
      return parts.value.messages;
    },
  };
}
