// Validity between a field and a custom element that shows it, both ways: the element is told what was found, and what it says itself
// against what it holds counts as found. HTML's own controls are only told: what they check is for the rules of the schema to say.

import { internalsOfHandle, type Handle } from '../gate/handle.ts';
import type { BaseNode } from '../gate/node.ts';
import { incomplete } from '../messages/english.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { Order, Verdict } from '../schema/verdict.ts';
import { isCustom, type Control } from './controls.ts';
import { isEmptyRaw } from './status.ts';

/** The source of what elements say. */
const ELEMENT = {};
/** Before what rules found: where the element says so, the value is not what the user means. */
const FIRST: Order = { depth: Infinity, index: 0 };

/** What elements were told last. */
const told = new WeakMap<Control, string>();

/** As far as an element lets others see its validity: one that keeps its internals to itself still matches `:invalid`. */
type Validated = Partial<Pick<HTMLInputElement, 'validity' | 'validationMessage' | 'setCustomValidity'>>;

/** Whether an element has an error that it was not told. */
const saysItself = (control: Control): boolean => {
  const { validity, validationMessage } = control as Validated;
  return validity?.customError === true && validationMessage !== told.get(control);
};

/** Whether what an element holds is not what the user means. */
const isUnread = (control: Control, { data, raw }: BaseNode): boolean => {
  const { validity, setCustomValidity } = control as Validated;
  // (Else that is found already.)
  if (data === NO_VALUE) return false;
  return validity ? validity.badInput : !isEmptyRaw(raw) && !setCustomValidity && control.matches(':invalid');
};

const UNREAD: Verdict = { code: 'badInput', text: incomplete, wordedAs: 'incomplete' };

function saidBy(control: Control, node: BaseNode): Verdict | undefined {
  try {
    if (!saysItself(control)) return isUnread(control, node) ? UNREAD : undefined;
    const { validationMessage = '' } = control as Validated;
    return { code: 'customError', message: () => validationMessage };
  } catch {
    // (A component may throw while it is not drawn.)
    return undefined;
  }
}

/** Takes over what custom elements say against what they hold, or that they say nothing any more. */
export function hearControls(handle: Handle, controls: readonly Control[]): void {
  const { node, store } = internalsOfHandle(handle);
  const custom = controls.filter(isCustom);
  if (custom.length === 0 || node.removed) return;
  const [verdict] = custom.flatMap((control) => saidBy(control, node) ?? []);
  store.change(() => node.setVerdicts(ELEMENT, FIRST, verdict ? [{ rule: undefined, verdict }] : []));
}

/** Tells a control what was found, unless it says something itself. (A custom element may keep its validity to itself.) */
export function tellControl(control: Control, message: string): void {
  try {
    if (isCustom(control)) {
      if (saysItself(control)) return;
      told.set(control, message);
    }
    (control as Validated).setCustomValidity?.(message);
  } catch {
    // (It may throw while it is not drawn.)
  }
}

/** Forgets what custom elements said: they are no controls of the field any more. */
export function silenceControls(handle: Handle, controls: readonly Control[]): void {
  const { node, store } = internalsOfHandle(handle);
  if (controls.some(isCustom)) store.change(() => node.setVerdicts(ELEMENT, FIRST, []));
}
