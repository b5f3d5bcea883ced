// Which gate a form on the page belongs to, for who looks at the page from outside. It stands on the element, so that every copy of the
// library finds it.

import type { AnyGate } from '../gate/gate.ts';

const GATE: unique symbol = Symbol.for('upper-gate: gate of the form');
type Bound = HTMLFormElement & { [GATE]?: AnyGate | undefined };

/** Says which gate a form belongs to; `undefined`: to none any more. */
export const setGate = (form: HTMLFormElement, gate: AnyGate | undefined): void => {
  (form as Bound)[GATE] = gate;
};

/** The gate that a form belongs to. */
export const gateOfForm = (form: HTMLFormElement): AnyGate | undefined => (form as Bound)[GATE];
