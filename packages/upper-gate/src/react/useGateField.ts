// One field of a form, as attributes to spread on the author's own elements.

import { explain, warnOnce } from '#development';
import { createElement, useEffect, useMemo, useRef, useSyncExternalStore, type ReactNode, type RefCallback } from 'react';
import {
  attach,
  type ComponentProps,
  type ComponentValue,
  type ControlAttributes,
  type ControlValue,
  describeField,
  enter,
  type FieldsetAttributes,
  type Focusable,
  leave,
  type Leaving,
  type LimitAttributes,
  type OptionAttributes,
  type Parts,
  partsOf,
  rawIn,
  setDisabled,
  sourceOf,
  toggled,
} from '../binding/index.ts';
import type { AnyGate, Gate } from '../gate/gate.ts';
import type { DataSoFar, FieldState } from '../gate/fieldState.ts';
import type { Handle } from '../gate/handle.ts';
import type { Finding } from '../schema/finding.ts';
import type { Node, RAW } from '../schema/node.ts';
import type { At, PathOf } from '../schema/paths.ts';
import { tieRef } from './tieRef.ts';

/** What ties an element to a field. */
interface Ties {
  /** Lets the field focus the element. On a component, put it on its control, or on an element around it. */
  readonly ref: RefCallback<HTMLElement | Focusable>;
  /** Notes that the user leaves the field. */
  readonly onBlur: (event?: Leaving) => void;
}

/** Attributes for an input, select or textarea, or for any component with the same props. */
export interface InputBundle extends ControlAttributes, ControlValue, Omit<LimitAttributes, 'minlength'>, Ties {
  /** Takes the event of a control, or the raw value itself. */
  readonly onChange: (change: unknown) => void;
}

/** Props for a component that calls back with values: `<Slider {...field.component} />`. */
export interface ComponentBundle<V = unknown> extends ComponentProps, Ties {
  /** A number, or `null` where there is none; yes or no; a list of options; files; else a text. */
  readonly value: V;
  /** Takes the value, or an event. */
  readonly onChange: (value: unknown) => void;
}

/** Attributes for the radio or checkbox of one option. */
export interface OptionBundle extends OptionAttributes, Ties {
  /** Takes over the choice. */
  readonly onChange: () => void;
}

/** One field: its state, and attributes for each of its elements. */
export interface GateField<N extends Node = Node> {
  /** The state of the field. */
  readonly state: FieldState<DataSoFar<N>, N[typeof RAW]>;
  readonly label: { readonly id: string; readonly htmlFor: string; readonly children: string };
  readonly input: InputBundle;
  readonly component: ComponentBundle<ComponentValue<N>>;
  /** For a field with several controls: the attributes for the radio or checkbox of one option. */
  readonly option: (value: string) => OptionBundle;
  /** Attributes for the fieldset around such controls; its legend takes `label.children`. */
  readonly fieldset: FieldsetAttributes;
  readonly hint: { readonly id: string; readonly children: string | undefined };
  /** `'18 of 120'`; undefined without a rule on the length. */
  readonly counter: { readonly id: string; readonly children: string | undefined };
  /** Attributes for the element that holds the messages: a `span` for each, unless you give children. */
  readonly messages: { readonly id: string; readonly 'data-gate-messages': string; readonly children: ReactNode };
  /** Edits the field, as `handle.set` does. */
  readonly set: (value: unknown) => void;
}

/** The attributes under React's names. */
const inReact = (input: Parts['input']): object => {
  const { minlength, ...others } = input;
  return minlength === undefined ? input : { ...others, minLength: minlength };
};

/** An element for each finding, with a blank between, so that they read apart. */
export const messageElements = (findings: readonly Pick<Finding, 'message' | 'severity'>[]): ReactNode =>
  findings.flatMap(({ message, severity }, index) => [
    index > 0 && ' ',
    createElement('span', { key: index, 'data-gate-severity': severity }, message),
  ]);

/**
 * Connects a component to a field. The component renders again when the field changes, and for nothing else.
 *
 * @param gate the gate of the form
 * @param field its path, or a handle: in a row, `row.field('name')`
 * @param options `disabled`: as in HTML, neither validated nor sent
 * @returns the state of the field, and the attributes of its elements
 *
 * @example
 * const { label, input, messages } = useGateField(gate, 'vessel');
 * return <p><label {...label} /><input {...input} /><span {...messages} /></p>;
 */
export function useGateField<N extends Node, P extends string>(
  gate: Gate<N>,
  field: PathOf<N, P>,
  options?: { readonly disabled?: boolean },
): GateField<At<N, P>>;
export function useGateField<F extends Node>(gate: AnyGate, field: Handle<F>, options?: { readonly disabled?: boolean }): GateField<F>;
export function useGateField(gate: AnyGate, field: string | Handle, { disabled }: { readonly disabled?: boolean } = {}): GateField {
  const source = useMemo(() => sourceOf(gate, field), [gate, field]);
  const get = (): FieldState => source.handle.state;
  const state = useSyncExternalStore(source.subscribe, get, get);
  const { handle } = source;
  const seen = useRef({ gate, gates: 1 });
  warnOnce(useGateField, () => {
    if (seen.current.gate !== gate) seen.current = { gate, gates: seen.current.gates + 1 };
    return [
      seen.current.gates > 3 &&
        explain(
          'gate-on-every-render',
          `the form of "${handle.path}" creates a new gate on every render, so input is lost. Create the gate with useGate(), or outside the component.`,
        ),
    ];
  });
  useEffect(() => {
    if (disabled === undefined) return;
    setDisabled(handle, disabled);
    return () => setDisabled(handle, false);
  }, [handle, disabled]);

  const ties = useMemo(() => {
    const tie = (): Ties => ({
      ref: tieRef((element: HTMLElement | Focusable) => attach(gate, handle, element)),
      onBlur: (event) => leave(gate, handle, event),
    });
    const options = new Map<string, Ties>();
    return {
      input: { ...tie(), onChange: (change: unknown) => enter(handle, rawIn(handle, change)) },
      option: (value: string): Ties => {
        let ties = options.get(value);
        if (!ties) options.set(value, (ties = tie()));
        return ties;
      },
    };
  }, [gate, handle]);

  // Once it is drawn, it is known which of the parts are there.
  useEffect(() => describeField(gate, handle));

  const parts = partsOf(gate, handle, state, disabled);
  const { label, input, shows, option, fieldset, hint, counter, messages } = parts;
  return {
    state,
    label: { id: label.id, htmlFor: label.for, children: state.label },
    input: { ...inReact(input), ...shows, ...ties.input } as InputBundle,
    get component() {
      return { ...parts.component, ...ties.input };
    },
    option: (value) => {
      const attributes = option(value);
      return {
        ...attributes,
        ...ties.option(value),
        onChange: () => enter(handle, toggled(handle, value, !attributes.checked)),
      };
    },
    fieldset,
    hint: { ...hint, children: state.hint },
    counter: { ...counter, children: state.counter },
    messages: { ...messages, children: messageElements(state.shown) },
    set: (value) => handle.set(value),
  };
}
