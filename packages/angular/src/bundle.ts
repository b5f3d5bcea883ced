// What goes on an element: attributes, what is called back, and what ties it to the form.

import type { Focusable, Ties } from 'upper-gate/binding';

/** What the directive `[gate]` puts on an element. */
export interface ElementBundle {
  /** Attributes of HTML. */
  readonly attributes: object;
  /** What the control shows: `value`, or `checked`. */
  readonly shows?: object;
  /** What is called back, by the name of the event. */
  readonly on?: Readonly<Record<string, (event: Event) => void>>;
  /** Ties the element, for as long as it is there. */
  readonly attach?: (element: HTMLElement & Focusable) => () => void;
}

/** A bundle without ties. */
export const plain = (attributes: object): ElementBundle => ({ attributes });

/** The bundle of a control. */
export const control = (attributes: object, shows: object, { attach, leave, enter }: Ties): ElementBundle => ({
  attributes,
  shows,
  on: { blur: leave, input: enter, change: enter },
  attach,
});
