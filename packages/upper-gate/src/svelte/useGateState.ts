import { readViews, viewOf } from '../binding/index.ts';
import type { AnyGate, GateState } from '../gate/gate.ts';
import { type Reading, track, valueOf } from './following.ts';

/**
 * Returns the state of the form, or what a selector picks from the gate, as an object whose `current` changes only when that does.
 *
 * @param gate the gate of the form, or a function that reads it from props
 * @returns the state, in `current`
 *
 * @example
 * const state = useGateState(gate); // state.current.valid
 */
export function useGateState(gate: Reading<AnyGate>): { readonly current: GateState };
/**
 * Returns the state of the form, or what a selector picks from the gate, as an object whose `current` changes only when that does.
 *
 * @param gate the gate of the form, or a function that reads it from props
 * @param select picks what the component needs
 * @param equal default: the same value, or lists of the same items
 * @returns what was picked, in `current`
 *
 * @example
 * const beam = useGateState(gate, (gate) => gate.field('beam').data);
 */
export function useGateState<G extends AnyGate, T>(
  gate: Reading<G>,
  select: (gate: G) => T,
  equal?: (a: T, b: T) => boolean,
): { readonly current: T };
export function useGateState<G extends AnyGate>(
  gate: Reading<G>,
  select: (gate: G) => unknown = ({ state }) => state,
  equal?: (a: unknown, b: unknown) => boolean,
): { readonly current: unknown } {
  const read = readViews(
    track,
    () => [valueOf(gate)],
    (now) => viewOf(now, () => select(now), equal),
  );
  return {
    get current() {
      return read().now;
    },
  };
}
