import { useSyncExternalStore } from 'react';
import type { View } from '../binding/index.ts';

/** Reads a view, and renders again when it has become another. @param view the same object at each render: another one is a new subscription */
export function useView<T>(view: View<T>): T {
  const get = (): T => view.now;
  return useSyncExternalStore(view.subscribe, get, get);
}
