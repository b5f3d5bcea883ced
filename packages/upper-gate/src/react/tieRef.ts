import type { RefCallback } from 'react';

/** A ref that ties what it is given for as long as that is there. */
export function tieRef<E>(tie: (element: E) => () => void): RefCallback<E> {
  let undo: (() => void) | undefined;
  return (element) => {
    undo?.();
    undo = element === null ? undefined : tie(element);
  };
}
