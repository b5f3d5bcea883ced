import { computed, type Ref } from 'vue';
import { readViews, viewOf } from '../binding/index.ts';
import type { AnyGate, GateState } from '../gate/gate.ts';
import { useTracking } from './track.ts';

/**
 * Returns the state of the form, or what a selector picks from the gate, as a ref that changes only when that does.
 *
 * @param gate the gate of the form
 * @returns the state as a ref
 *
 * @example
 * const state = useGateState(gate); // state.value.valid
 */
export function useGateState(gate: AnyGate): Readonly<Ref<GateState>>;
/**
 * Returns the state of the form, or what a selector picks from the gate, as a ref that changes only when that does.
 *
 * @param gate the gate of the form
 * @param select picks what the component needs
 * @param equal default: the same value, or lists of the same items
 * @returns what was picked, as a ref
 *
 * @example
 * const beam = useGateState(gate, (gate) => gate.field('beam').data);
 */
export function useGateState<G extends AnyGate, T>(gate: G, select: (gate: G) => T, equal?: (a: T, b: T) => boolean): Readonly<Ref<T>>;
export function useGateState<G extends AnyGate>(
  gate: G,
  select: (gate: G) => unknown = ({ state }) => state,
  equal?: (a: unknown, b: unknown) => boolean,
): Readonly<Ref<unknown>> {
  const read = readViews(
    useTracking(),
    () => [gate],
    (now) => viewOf(now, () => select(now), equal),
  );
  return computed(() => read().now);
}
