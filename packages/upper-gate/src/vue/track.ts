import { onScopeDispose, shallowRef } from 'vue';
import type { Source, Tracking } from '../binding/index.ts';

/** Follows views for as long as the present scope lives. */
export function useTracking(): (subscribe: Source['subscribe']) => Tracking {
  const undos = new Set<() => void>();
  onScopeDispose(() => undos.forEach((undo) => undo()));
  return (subscribe) => {
    const version = shallowRef(0);
    // On the server nothing changes between setup and rendering, and nobody would end the subscription.
    const undo = typeof document === 'undefined' ? () => undefined : subscribe(() => (version.value += 1));
    undos.add(undo);
    return {
      read: () => version.value,
      stop() {
        undos.delete(undo);
        undo();
      },
    };
  };
}
