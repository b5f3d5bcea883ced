import type { Gate, GateState } from '../gate/createGate.ts';
import type { Node } from '../schema/node.ts';
import { useSlice } from './useSlice.ts';

/**
 * What the form says of itself, or whatever else a selector picks. The component renders again only when that has become
 * another.
 *
 * @param equal default: the same value, or lists of the same items
 *
 * @example
 * const { status, valid } = useGateState(gate);
 * const beam = useGateState(gate, (gate) => gate.field('beam').data);
 */
export function useGateState<N extends Node>(gate: Gate<N>): GateState;
export function useGateState<N extends Node, T>(gate: Gate<N>, select: (gate: Gate<N>) => T, equal?: (a: T, b: T) => boolean): T;
export function useGateState<N extends Node>(
  gate: Gate<N>,
  select: (gate: Gate<N>) => unknown = ({ state }) => state,
  equal?: (a: unknown, b: unknown) => boolean,
): unknown {
  return useSlice(
    (listener) => gate.subscribe(listener),
    () => select(gate),
    equal,
  );
}
