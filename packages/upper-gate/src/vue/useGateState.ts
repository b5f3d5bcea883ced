import type { ShallowRef } from 'vue';
import type { Gate, GateState } from '../gate/createGate.ts';
import type { Node } from '../schema/node.ts';
import { slice } from './slice.ts';

/**
 * What the form says of itself, or whatever else a selector picks, as a ref that changes only when that has become another.
 *
 * @param equal default: the same value, or lists of the same items
 *
 * @example
 * const state = useGateState(gate); // state.value.valid
 * const beam = useGateState(gate, (gate) => gate.field('beam').data);
 */
export function useGateState<N extends Node>(gate: Gate<N>): Readonly<ShallowRef<GateState>>;
export function useGateState<N extends Node, T>(
  gate: Gate<N>,
  select: (gate: Gate<N>) => T,
  equal?: (a: T, b: T) => boolean,
): Readonly<ShallowRef<T>>;
export function useGateState<N extends Node>(
  gate: Gate<N>,
  select: (gate: Gate<N>) => unknown = ({ state }) => state,
  equal?: (a: unknown, b: unknown) => boolean,
): Readonly<ShallowRef<unknown>> {
  return slice(
    (listener) => gate.subscribe(listener),
    () => select(gate),
    equal,
  );
}
