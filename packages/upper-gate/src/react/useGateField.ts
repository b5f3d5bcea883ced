// One field of a form, as attributes to spread on the author's own elements.

import { explain, warnOnce } from '#development';
import { createElement, useEffect, useMemo, useRef, type ReactNode, type RefCallback } from 'react';
import {
  type ComponentProps,
  type ComponentValue,
  type ControlAttributes,
  type ControlValue,
  type FieldsetAttributes,
  type Focusable,
  type Leaving,
  type LimitAttributes,
  type OptionAttributes,
  type Ties,
  viewField,
} from '../binding/index.ts';
import type { AnyGate, Gate } from '../gate/gate.ts';
import type { DataSoFar, FieldState } from '../gate/fieldState.ts';
import type { Handle } from '../gate/handle.ts';
import type { Finding } from '../schema/finding.ts';
import type { Node, RAW } from '../schema/node.ts';
import type { At, PathOf } from '../schema/paths.ts';
import { refOf } from './refOf.ts';
import { useView } from './useView.ts';

/** What ties an element to a field. */
interface Tied {
  /** Lets the field focus the element. On a component, put it on its control, or on an element around it. */
  readonly ref: RefCallback<HTMLElement | Focusable>;
  /** Notes that the user leaves the field. */
  readonly onBlur: (event?: Leaving) => void;
}

/** Attributes for an input, select or textarea, or for any component with the same props. */
export interface InputBundle extends ControlAttributes, ControlValue, Omit<LimitAttributes, 'minlength'>, Tied {
  /** Takes the event of a control, or the raw value itself. */
  readonly onChange: (change: unknown) => void;
}

/** Props for a component that calls back with values: `<Slider {...field.component} />`. */
export interface ComponentBundle<V = unknown> extends ComponentProps, Tied {
  /** A number, or `null` where there is none; yes or no; a list of options; files; else a text. */
  readonly value: V;
  /** Takes the value, or an event. */
  readonly onChange: (value: unknown) => void;
}

/** Attributes for the radio or checkbox of one option. */
export interface OptionBundle extends OptionAttributes, Tied {
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

const tied = ({ attach, leave, enter }: Ties): Tied & { readonly onChange: Ties['enter'] } => ({
  ref: refOf(attach),
  onBlur: leave,
  onChange: enter,
});

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
  const view = useMemo(() => viewField(gate, field), [gate, field]);
  const state = useView(view);
  const { handle, ties } = view;
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
  useEffect(() => view.disable(disabled), [view, handle, disabled]);
  // Once it is drawn, it is known which of the parts are there.
  useEffect(() => view.describe());

  const parts = view.parts(disabled);
  const { minlength, ...input } = parts.input;
  return {
    state,
    label: { id: parts.label.id, htmlFor: parts.label.for, children: state.label },
    input: { ...input, ...(minlength !== undefined && { minLength: minlength }), ...parts.shows, ...tied(ties) },
    get component() {
      return { ...parts.component, ...tied(ties) };
    },
    option: (value) => ({ ...parts.option(value), ...tied(view.tiesOf(value)) }),
    fieldset: parts.fieldset,
    hint: { ...parts.hint, children: state.hint },
    counter: { ...parts.counter, children: state.counter },
    messages: { ...parts.messages, children: messageElements(state.shown) },
    set: (value) => handle.set(value),
  };
}
