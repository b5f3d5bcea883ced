import { useRef, useSyncExternalStore } from 'react';
import { sameSlice } from '../showing/sameSlice.ts';

/** Reads a store, and renders again only when what is picked from it has become another. */
export function useSlice<T>(subscribe: (listener: () => void) => () => void, pick: () => T, equal: (a: T, b: T) => boolean = sameSlice): T {
  const last = useRef<{ readonly value: T } | undefined>(undefined);
  const get = (): T => {
    const value = pick();
    if (!last.current || !equal(last.current.value, value)) last.current = { value };
    return last.current.value;
  };
  return useSyncExternalStore(subscribe, get, get);
}
