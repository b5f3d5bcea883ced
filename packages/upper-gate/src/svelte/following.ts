// Svelte's signals, without its compiler.

import { onDestroy } from 'svelte';
import { createSubscriber } from 'svelte/reactivity';
import { toStore } from 'svelte/store';
import type { Source, Tracking } from '../binding/index.ts';

/** A value, or a function that reads it from state or props. */
export type Reading<T> = T | (() => T);

export const valueOf = <T>(given: Reading<T>): T => (typeof given === 'function' ? (given as () => T)() : given);

/** Follows a view for as long as somebody reads it. */
export const track = (subscribe: Source['subscribe']): Tracking => ({ read: createSubscriber(subscribe), stop: () => undefined });

/** Calls back with what a function reads, now and whenever that has changed, for as long as the component lives. */
export function follow<T>(read: () => T, callback: (now: T) => void): void {
  // (On the server nothing changes between setup and rendering.)
  if (typeof document !== 'undefined') onDestroy(toStore(read).subscribe(callback));
}
