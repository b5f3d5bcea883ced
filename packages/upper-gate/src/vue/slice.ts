import { getCurrentScope, onScopeDispose, shallowRef, type ShallowRef } from 'vue';
import { sameSlice } from '../binding/index.ts';

/** Follows a store in a ref, which changes only when what is picked from the store has become another. */
export function slice<T>(
  subscribe: (listener: () => void) => () => void,
  pick: () => T,
  equal: (a: T, b: T) => boolean = sameSlice,
): Readonly<ShallowRef<T>> {
  const value = shallowRef(pick()) as ShallowRef<T>;
  // On the server nothing changes between setup and rendering, and nobody would end the subscription.
  if (typeof document !== 'undefined') {
    const unsubscribe = subscribe(() => {
      const now = pick();
      if (!equal(value.value, now)) value.value = now;
    });
    if (getCurrentScope()) onScopeDispose(unsubscribe);
  }
  return value;
}
