// What a component follows: a part of a form as it is now, and word of when that has become another.

import { sameSlice } from '../showing/sameSlice.ts';

/** What can be followed: a gate, a handle. */
export interface Source {
  subscribe(listener: () => void): () => void;
}

/** A part of a form as it is now. */
export interface View<T> {
  /** The same value until it has become another. */
  readonly now: T;
  /**
   * Calls back when it has become another.
   *
   * @param listener is called after each change
   * @returns undoes it
   */
  readonly subscribe: (listener: () => void) => () => void;
}

/**
 * Follows what is picked from a gate or a handle.
 *
 * @param source the gate or handle
 * @param pick reads it
 * @param equal when it counts as the same; default: the same value, or lists of the same items
 * @returns the view
 *
 * @example
 * const { now, subscribe } = viewOf(gate, () => gate.state.valid);
 */
export function viewOf<T>(source: Source, pick: () => T, equal: (a: T, b: T) => boolean = sameSlice): View<T> {
  let last: { readonly value: T } | undefined;
  const read = (): T => {
    const value = pick();
    if (!last || !equal(last.value, value)) last = { value };
    return last.value;
  };
  return {
    get now() {
      return read();
    },
    subscribe(listener) {
      let told = read();
      return source.subscribe(() => {
        const now = read();
        if (Object.is(now, told)) return;
        told = now;
        listener();
      });
    },
  };
}

/** Whether several facts are each the same. */
export const sameFacts = <F extends object>(a: F, b: F): boolean =>
  (Object.keys(a) as (keyof F)[]).every((name) => sameSlice(a[name], b[name]));

/** How a framework with signals follows something: what reads it is read again after a change. */
export interface Tracking {
  /** To be called wherever it is read. */
  readonly read: () => unknown;
  /** Nobody reads it any more. */
  readonly stop: () => void;
}

/**
 * Reads views where a framework tracks what is read.
 *
 * @param track follows something in the framework's way
 * @param key what it is a view of: read each time, so a signal may give another
 * @param make makes the view of a key
 * @returns reads the view
 *
 * @example
 * const field = readViews(track, () => props.of, (of) => viewField(gate, of));
 */
export function readViews<K, V extends Pick<View<unknown>, 'subscribe'>>(
  track: (subscribe: View<unknown>['subscribe']) => Tracking,
  key: () => K,
  make: (key: K) => V,
): () => V {
  let current: { readonly key: K; readonly view: V; readonly tracking: Tracking } | undefined;
  return () => {
    const now = key();
    if (!current || current.key !== now) {
      current?.tracking.stop();
      const view = make(now);
      current = { key: now, view, tracking: track(view.subscribe) };
    }
    current.tracking.read();
    return current.view;
  };
}
