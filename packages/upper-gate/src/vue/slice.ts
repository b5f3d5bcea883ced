import { shallowRef, toValue, watch, type MaybeRefOrGetter, type ShallowRef } from 'vue';
import { sameSlice } from '../binding/index.ts';

/** Follows a gate or a handle in a ref, which changes only when what is picked from it has become another. */
export function slice<S extends { subscribe(listener: () => void): () => void }, T>(
  source: MaybeRefOrGetter<S>,
  pick: (source: S) => T,
  equal: (a: T, b: T) => boolean = sameSlice,
): Readonly<ShallowRef<T>> {
  const value = shallowRef(pick(toValue(source))) as ShallowRef<T>;
  // On the server nothing changes between setup and rendering, and nobody would end the subscription.
  if (typeof document !== 'undefined')
    watch(
      () => toValue(source),
      (now, _, cleanUp) => {
        const take = (): void => {
          const picked = pick(now);
          if (!equal(value.value, picked)) value.value = picked;
        };
        take();
        cleanUp(now.subscribe(take));
      },
      { immediate: true, flush: 'sync' },
    );
  return value;
}
