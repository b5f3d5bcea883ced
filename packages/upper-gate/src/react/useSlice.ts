import { useCallback, useRef, useSyncExternalStore } from 'react';
import { sameSlice } from '../binding/index.ts';

/** What can be followed: a gate, a handle. */
export interface Source {
  subscribe(listener: () => void): () => void;
}

/**
 * Reads a store, and renders again only when what is picked from it has become another.
 *
 * @param source the same object at each render: another one is a new subscription
 */
export function useSlice<T>(source: Source, pick: () => T, equal: (a: T, b: T) => boolean = sameSlice): T {
  const last = useRef<{ readonly value: T } | undefined>(undefined);
  const subscribe = useCallback((listener: () => void) => source.subscribe(listener), [source]);
  const get = (): T => {
    const value = pick();
    if (!last.current || !equal(last.current.value, value)) last.current = { value };
    return last.current.value;
  };
  return useSyncExternalStore(subscribe, get, get);
}
