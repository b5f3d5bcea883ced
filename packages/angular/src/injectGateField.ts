// One field of a form, as bundles for the author's own elements.

import { isPlatformServer } from '@angular/common';
import { afterRenderEffect, computed, effect, inject, PLATFORM_ID, type Signal } from '@angular/core';
import type { AnyGate, At, Gate, Handle, Node, PathOf } from 'upper-gate';
import { type ComponentProps, type ComponentValue, type StateOf, type Ties, viewField } from 'upper-gate/binding';
import { control, plain, type ElementBundle } from './bundle.ts';
import { injectView, type Reading, valueOf } from './following.ts';

/** What a component of a kit is given: `[value]="f.value" (valueChange)="f.change($event)" (blur)="f.leave()"`. */
export interface ComponentBundle<V = unknown> extends Omit<ComponentProps, 'value'> {
  /** A number, or `null` where there is none; yes or no; a list of options; files; else a text. */
  readonly value: V;
  /** Takes the value, or an event. */
  readonly change: Ties['enter'];
  /** Notes that the user leaves the field. */
  readonly leave: Ties['leave'];
}

/** One field: its state, and bundles for each of its elements, as signals. */
export interface GateField<N extends Node = Node> {
  /** The state of the field: its `label`, `hint`, `shown` messages, `counter`, ... */
  readonly state: Signal<StateOf<N>>;
  readonly label: Signal<ElementBundle>;
  /** For an input, select or textarea. */
  readonly input: Signal<ElementBundle>;
  /** For an element around the control of a kit: it ties what takes the focus in there. */
  readonly around: Signal<ElementBundle>;
  /** For a component of a kit, in an element with `around`. */
  readonly component: Signal<ComponentBundle<ComponentValue<N>>>;
  /** For the radio or checkbox of one option. */
  readonly option: (value: string) => ElementBundle;
  /** For an `<option>` of a select. */
  readonly selectOption: (value: string) => ElementBundle;
  /** For the fieldset around radios and checkboxes. */
  readonly fieldset: Signal<ElementBundle>;
  readonly hint: Signal<ElementBundle>;
  readonly counter: Signal<ElementBundle>;
  /** For the element that holds the messages, one for each of `state().shown`. */
  readonly messages: Signal<ElementBundle>;
  /** Edits the field, as `handle.set` does. */
  readonly set: (value: unknown) => void;
}

/** The same bundle for an option as long as the field has not changed: a template would else see another one at each look. */
function byOption(make: (value: string) => ElementBundle): (value: string) => ElementBundle {
  const made = new Map<string, Signal<ElementBundle>>();
  return (value) => {
    let bundle = made.get(value);
    if (!bundle) made.set(value, (bundle = computed(() => make(value))));
    return bundle();
  };
}

/**
 * Connects a component to a field. It is checked when the field changes, and for nothing else.
 *
 * @param gate the gate of the form, or a signal of it
 * @param field its path, or a handle: in a row, `row.field('name')`; also a signal of one
 * @param options `disabled`: as in HTML, neither validated nor sent
 * @returns the state of the field, and the bundles of its elements
 *
 * @example
 * readonly vessel = injectGateField(this.booking.gate, 'vessel');
 * // <label [gate]="vessel.label()">{{ vessel.state().label }}</label> <input [gate]="vessel.input()" />
 */
export function injectGateField<N extends Node, P extends string>(
  gate: Reading<Gate<N>>,
  field: PathOf<N, P>,
  options?: { readonly disabled?: Reading<boolean> },
): GateField<At<N, P>>;
export function injectGateField<F extends Node>(
  gate: Reading<AnyGate>,
  field: Reading<Handle<F>>,
  options?: { readonly disabled?: Reading<boolean> },
): GateField<F>;
export function injectGateField(
  gate: Reading<AnyGate>,
  field: Reading<string | Handle>,
  { disabled }: { readonly disabled?: Reading<boolean> } = {},
): GateField {
  const read = injectView(gate, field, viewField);
  const isOnServer = isPlatformServer(inject(PLATFORM_ID));
  const parts = computed(() => read().parts(valueOf(disabled)));
  if (disabled !== undefined) effect((onCleanup) => onCleanup(read().disable(valueOf(disabled))));
  // Once it is drawn, it is known which of the parts are there.
  afterRenderEffect(() => read().describe());
  return {
    state: computed(() => read().now as StateOf<never>),
    label: computed(() => plain(parts().label)),
    input: computed(() => control(parts().input, parts().shows, read().ties)),
    around: computed(() => ({ attributes: {}, attach: read().ties.attach })),
    component: computed(() => {
      const { enter: change, leave } = read().ties;
      return { ...parts().component, change, leave } as ComponentBundle<never>;
    }),
    option: byOption((value) => {
      const { checked, ...attributes } = parts().option(value);
      const bundle = control(attributes, { checked }, read().tiesOf(value));
      return { ...bundle, on: { blur: bundle.on!['blur']!, change: bundle.on!['change']! } };
    }),
    // (In a browser, the select shows its value.)
    selectOption: byOption((value) => plain({ value, selected: isOnServer && parts().option(value).checked })),
    fieldset: computed(() => plain(parts().fieldset)),
    hint: computed(() => plain(parts().hint)),
    counter: computed(() => plain(parts().counter)),
    messages: computed(() => plain(parts().messages)),
    set: (value) => read().handle.set(value),
  };
}
