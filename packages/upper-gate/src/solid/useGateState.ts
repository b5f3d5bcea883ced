import type { Accessor } from 'solid-js';
import { readViews, viewOf } from '../binding/index.ts';
import type { AnyGate, GateState } from '../gate/gate.ts';
import { type Reading, useTracking, valueOf } from './following.ts';

/**
 * Returns the state of the form, or what a selector picks from the gate, as an accessor.
 *
 * @param gate the gate of the form, or an accessor of it
 * @returns an accessor of the state
 *
 * @example
 * const state = useGateState(gate); // state().valid
 */
export function useGateState(gate: Reading<AnyGate>): Accessor<GateState>;
/**
 * Returns the state of the form, or what a selector picks from the gate, as an accessor.
 *
 * @param gate the gate of the form, or an accessor of it
 * @param select picks what the component needs
 * @param equal default: the same value, or lists of the same items
 * @returns an accessor of what was picked
 *
 * @example
 * const beam = useGateState(gate, (gate) => gate.field('beam').data);
 */
export function useGateState<G extends AnyGate, T>(gate: Reading<G>, select: (gate: G) => T, equal?: (a: T, b: T) => boolean): Accessor<T>;
export function useGateState<G extends AnyGate>(
  gate: Reading<G>,
  select: (gate: G) => unknown = ({ state }) => state,
  equal?: (a: unknown, b: unknown) => boolean,
): Accessor<unknown> {
  const read = readViews(
    useTracking(),
    () => [valueOf(gate)],
    (now) => viewOf(now, () => select(now), equal),
  );
  return () => read().now;
}
