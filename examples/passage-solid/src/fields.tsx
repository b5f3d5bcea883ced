/** @jsxImportSource solid-js */
// The parts that the booking is made of: each is drawn again for its own field alone.

import type { Word } from 'lock-passage/words';
import { createContext, For, Match, Show, splitProps, Switch, useContext, type JSX } from 'solid-js';
import type { AnyGate, Finding, Handle } from 'upper-gate';
import { useGateField } from 'upper-gate/solid';

/** The texts of the page around the form, in the current language. */
export const Say = createContext<(word: Word, values?: Readonly<Record<string, string>>) => string>((word) => word);
export const useSay = () => useContext(Say);

interface FieldProps {
  readonly gate: AnyGate;
  /** The handle of the field. */
  readonly of: Handle;
}

export const Messages = (props: { readonly shown: readonly Pick<Finding, 'message' | 'severity'>[] }) => (
  <For each={props.shown}>{({ message, severity }) => <span data-gate-severity={severity}>{message}</span>}</For>
);

/** A label, a control and messages. Further attributes go to the control. */
export function Field(
  props: FieldProps & {
    readonly as?: 'select' | 'textarea';
    readonly layout?: string;
    readonly children?: JSX.Element;
    readonly [attribute: string]: unknown;
  },
) {
  const [own, attributes] = splitProps(props, ['gate', 'of', 'as', 'layout', 'children']);
  const field = useGateField(
    () => own.gate,
    () => own.of,
  );
  return (
    <p class={`field ${own.layout ?? ''}`}>
      <label {...field.label}>{field.state.label}</label>
      <Show when={field.state.hint}>
        <span class="hint" {...field.hint}>
          {field.state.hint}
        </span>
      </Show>
      <Switch fallback={<input {...field.input} {...attributes} />}>
        <Match when={own.as === 'select'}>
          <select {...field.input} {...attributes}>
            <option value="">{own.children}</option>
            <For each={own.of.options}>{({ value }) => <Option field={field} value={value} />}</For>
          </select>
        </Match>
        <Match when={own.as === 'textarea'}>
          <textarea {...field.input} {...attributes} />
          <span class="hint count" {...field.counter}>
            {field.state.counter}
          </span>
        </Match>
      </Switch>
      <span class="messages" {...field.messages}>
        <Messages shown={field.state.shown} />
      </span>
    </p>
  );
}

/** An option of a select says itself whether it is chosen. */
function Option(props: { readonly field: Pick<ReturnType<typeof useGateField>, 'selectOption'>; readonly value: string }) {
  const say = useSay();
  return <option {...props.field.selectOption(props.value)}>{say(props.value as Word)}</option>;
}

/** Radios or checkboxes of one field. */
export function Choices(props: FieldProps & { readonly valueToo?: boolean }) {
  const say = useSay();
  const field = useGateField(
    () => props.gate,
    () => props.of,
  );
  return (
    <fieldset class="field wide choices" {...field.fieldset}>
      <legend>{field.state.label}</legend>
      <Show when={field.state.hint}>
        <span class="hint" {...field.hint}>
          {field.state.hint}
        </span>
      </Show>
      <span class="options">
        <For each={props.of.options}>
          {({ value }) => (
            <label>
              <input {...field.option(value)} /> {props.valueToo && <b>{value} </b>}
              {say(value as Word)}
            </label>
          )}
        </For>
      </span>
      <span class="messages" {...field.messages}>
        <Messages shown={field.state.shown} />
      </span>
    </fieldset>
  );
}

/** A box to tick, within its label. */
export function Tick(props: FieldProps & { readonly plain?: boolean }) {
  const field = useGateField(
    () => props.gate,
    () => props.of,
  );
  return (
    <p class={`field ${props.plain ? 'wide' : 'tick'}`}>
      <label classList={{ plain: props.plain ?? false }}>
        <input {...field.input} /> {field.state.label}
      </label>
      <span class="messages" {...field.messages}>
        <Messages shown={field.state.shown} />
      </span>
    </p>
  );
}

/** A part of the form under a heading. */
export function Card(props: { readonly title: Word; readonly children: JSX.Element }) {
  const say = useSay();
  return (
    <fieldset class="card">
      <legend>{say(props.title)}</legend>
      <div class="grid">{props.children}</div>
    </fieldset>
  );
}
