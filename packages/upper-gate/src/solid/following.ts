// Solid's signals, for views.

import { createRenderEffect, createSignal, on, onCleanup } from 'solid-js';
import { isServer } from 'solid-js/web';
import type { Source, Tracking } from '../binding/index.ts';

/** A value, or an accessor of it. */
export type Reading<T> = T | (() => T);

export const valueOf = <T>(given: Reading<T>): T => (typeof given === 'function' ? (given as () => T)() : given);

/** Follows views for as long as the present owner lives. */
export function useTracking(): (subscribe: Source['subscribe']) => Tracking {
  const undos = new Set<() => void>();
  onCleanup(() => undos.forEach((undo) => undo()));
  return (subscribe) => {
    const [read, changed] = createSignal(undefined, { equals: false });
    // (On the server nothing changes between setup and rendering.)
    const undo = isServer ? () => undefined : subscribe(() => changed());
    undos.add(undo);
    return {
      read,
      stop() {
        undos.delete(undo);
        undo();
      },
    };
  };
}

/** Calls back when what is read has become another, for as long as the present owner lives. */
export const follow = <T>(read: () => T, callback: (now: T, before: T | undefined) => void): void =>
  createRenderEffect(on(read, (now, before) => now !== before && callback(now, before), { defer: true }));
