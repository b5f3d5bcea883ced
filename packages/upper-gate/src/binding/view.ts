// What a component follows: a part of a form as it is now, and word of when that has become another.

import { sameSlice } from '../showing/sameSlice.ts';

/** What can be followed: a gate, a handle. */
export interface Source {
  /**
   * Calls back after each change.
   *
   * @param listener is called after each change
   * @returns undoes it
   */
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
 * @param given what it is a view of: read each time, so signals may give others
 * @param make makes the view of that
 * @returns reads the view
 *
 * @example
 * const track = (subscribe: View<unknown>['subscribe']) => ({ read: () => undefined, stop: subscribe(() => console.log('changed')) });
 * const field = readViews(track, () => [gate, gate.field('vessel')], viewField);
 * console.log(field().now.shown);
 */
export function readViews<K extends readonly unknown[], V extends Pick<View<unknown>, 'subscribe'>>(
  track: (subscribe: View<unknown>['subscribe']) => Tracking,
  given: () => readonly [...K],
  make: (...given: K) => V,
): () => V {
  let current: { readonly given: readonly unknown[]; readonly view: V; readonly tracking: Tracking } | undefined;
  return () => {
    const now = given();
    if (!current || now.some((each, i) => each !== current!.given[i])) {
      current?.tracking.stop();
      const view = make(...now);
      current = { given: now, view, tracking: track(view.subscribe) };
    }
    current.tracking.read();
    return current.view;
  };
}
