import { useCallback, useRef, useSyncExternalStore } from 'react';
import { sameSlice } from '../binding/index.ts';
import type { AnyGate, GateState } from '../gate/gate.ts';

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
  equal: (a: unknown, b: unknown) => boolean = sameSlice,
): unknown {
  const last = useRef<{ readonly value: unknown } | undefined>(undefined);
  const subscribe = useCallback((listener: () => void) => gate.subscribe(listener), [gate]);
  // (Not a view: the selector may be another at each render.)
  const get = (): unknown => {
    const value = select(gate);
    if (!last.current || !equal(last.current.value, value)) last.current = { value };
    return last.current.value;
  };
  return useSyncExternalStore(subscribe, get, get);
}
