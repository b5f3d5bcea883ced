import { computed, type Signal } from '@angular/core';
import type { AnyGate, GateState } from 'upper-gate';
import { viewOf } from 'upper-gate/binding';
import { injectView, type Reading } from './following.ts';

/**
 * Returns the state of the form, or what a selector picks from the gate, as a signal that changes only when that does.
 *
 * @param gate the gate of the form, or a signal of it
 * @returns the state as a signal
 *
 * @example
 * readonly state = injectGateState(this.booking.gate); // {{ state().valid }}
 */
export function injectGateState(gate: Reading<AnyGate>): Signal<GateState>;
/**
 * Returns the state of the form, or what a selector picks from the gate, as a signal that changes only when that does.
 *
 * @param gate the gate of the form, or a signal of it
 * @param select picks what the component needs
 * @param equal default: the same value, or lists of the same items
 * @returns what was picked, as a signal
 *
 * @example
 * readonly beam = injectGateState(this.booking.gate, (gate) => gate.field('beam').data);
 */
export function injectGateState<G extends AnyGate, T>(gate: Reading<G>, select: (gate: G) => T, equal?: (a: T, b: T) => boolean): Signal<T>;
export function injectGateState<G extends AnyGate>(
  gate: Reading<G>,
  select: (gate: G) => unknown = ({ state }) => state,
  equal?: (a: unknown, b: unknown) => boolean,
): Signal<unknown> {
  const read = injectView(gate, undefined, (now) => viewOf(now, () => select(now as G), equal));
  return computed(() => read().now);
}
