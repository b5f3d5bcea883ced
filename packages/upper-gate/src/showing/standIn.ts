// Elements that stand in a form for the controls in their shadow root, which no form sees. (By a symbol of all copies of the library.)

import { isControl, type Control } from './controls.ts';

export const FIELD_ROOT: unique symbol = Symbol.for('upper-gate: shadow root of the field');

/** An element that stands in a form for the controls in its shadow root: it has their name, and sends what they hold. */
export interface StandIn extends HTMLElement {
  readonly [FIELD_ROOT]: ShadowRoot | null;
}

/** The shadow root whose controls an element stands for, be it closed. */
export const fieldRootOf = (element: Element): ShadowRoot | null => (element as Partial<StandIn>)[FIELD_ROOT] ?? null;

/** The controls that an element of a form stands for; else itself. */
export const controlsOf = (element: Element): readonly Control[] =>
  FIELD_ROOT in element ? [...(fieldRootOf(element)?.querySelectorAll('*') ?? [])].filter(isControl) : [element as Control];

/** What stands in the form for a control: mostly itself. */
export function standInOf(control: Control): Control {
  const root = control.getRootNode();
  const host = (root as Partial<ShadowRoot>).host as Control | undefined;
  return host && fieldRootOf(host) === root ? host : control;
}
