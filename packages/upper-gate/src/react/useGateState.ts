import type { AnyGate, GateState } from '../gate/gate.ts';
import { useSlice } from './useSlice.ts';

/**
 * Returns the state of the form, or what a selector picks from the gate. The component renders again only when that changes.
 *
 * @param gate the gate of the form
 * @returns the state
 *
 * @example
 * const { status, valid } = useGateState(gate);
 */
export function useGateState(gate: AnyGate): GateState;
/**
 * Returns the state of the form, or what a selector picks from the gate. The component renders again only when that changes.
 *
 * @param gate the gate of the form
 * @param select picks what the component needs
 * @param equal default: the same value, or lists of the same items
 * @returns what was picked
 *
 * @example
 * const beam = useGateState(gate, (gate) => gate.field('beam').data);
 */
export function useGateState<G extends AnyGate, T>(gate: G, select: (gate: G) => T, equal?: (a: T, b: T) => boolean): T;
export function useGateState<G extends AnyGate>(
  gate: G,
  select: (gate: G) => unknown = ({ state }) => state,
  equal?: (a: unknown, b: unknown) => boolean,
): unknown {
  return useSlice(gate, () => select(gate), equal);
}
