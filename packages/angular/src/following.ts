// Angular's signals, for views.

import { isPlatformBrowser } from '@angular/common';
import { DestroyRef, inject, PLATFORM_ID, signal, untracked } from '@angular/core';
import type { AnyGate } from 'upper-gate';
import { readViews, type Source, type Tracking, type View } from 'upper-gate/binding';

/** A value, or a signal (or any function) that reads one. */
export type Reading<T> = T | (() => T);

export const valueOf = <T>(given: Reading<T>): T => (typeof given === 'function' ? (given as () => T)() : given);

/** Reads the view of what is there now: inputs of a component are not before it is drawn. @param make makes the view, of a gate and what is meant in it */
export function injectView<K, V extends Pick<View<unknown>, 'subscribe'>>(
  gate: Reading<AnyGate>,
  given: Reading<K>,
  make: (gate: AnyGate, given: K) => V,
): () => V {
  return readViews(
    injectTracking(),
    () => [valueOf(gate), valueOf(given)] as const,
    (gateNow, now) => untracked(() => make(gateNow, now)),
  );
}

/** Follows views for as long as what injects this lives. */
function injectTracking(): (subscribe: Source['subscribe']) => Tracking {
  const isInBrowser = isPlatformBrowser(inject(PLATFORM_ID));
  const undos = new Set<() => void>();
  inject(DestroyRef).onDestroy(() => undos.forEach((undo) => undo()));
  return (subscribe) => {
    const version = signal(0);
    // (On the server nothing changes between construction and rendering.)
    const undo = isInBrowser ? untracked(() => subscribe(() => version.update((now) => now + 1))) : () => undefined;
    undos.add(undo);
    return {
      read: version,
      stop() {
        undos.delete(undo);
        undo();
      },
    };
  };
}
