import type { RefCallback } from 'react';

const refs = new WeakMap<object, RefCallback<never>>();

/** A ref that ties what it is given for as long as that is there: the same for the same tie, else React would tie anew at each render. */
export function refOf<E>(tie: (element: E) => () => void): RefCallback<E> {
  const known = refs.get(tie);
  if (known) return known;
  let undo: (() => void) | undefined;
  const ref: RefCallback<E> = (element) => {
    undo?.();
    undo = element === null ? undefined : tie(element);
  };
  refs.set(tie, ref);
  return ref;
}
