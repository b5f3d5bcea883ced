// What ties elements to a form: refs, which a spread takes along.

import { createEffect, getOwner, onCleanup, runWithOwner, sharedConfig, untrack } from 'solid-js';

/** A function that Solid calls with the element. */
export type Ref = (element: HTMLElement) => void;
/** What ties an element. */
type Tie = (element: HTMLElement) => () => void;

const refs = new WeakMap<Tie, Ref>();
/** What each element is tied by. */
const ties = new WeakMap<Element, { readonly tie: Tie; undo: () => void }>();

/**
 * Ties an element as long as it is there. (Solid calls the ref of a spread again whenever something in that has changed, and with nothing as
 * the element goes: it is there as long as the owner of the effect that calls.)
 *
 * @param isInForm whether it is tied at once, so that it can be focused as soon as it is there; a form is on the page first
 */
export function refOf(tie: Tie, isInForm = true): Ref {
  let ref = refs.get(tie);
  if (!ref) {
    ref = (element) => {
      const tied = ties.get(element);
      if (tied?.tie === tie) return;
      tied?.undo();
      const now = { tie, undo: (): void => undefined };
      ties.set(element, now);
      runWithOwner(getOwner()?.owner ?? null, () => {
        onCleanup(() => {
          now.undo();
          if (ties.get(element) === now) ties.delete(element);
        });
        const start = (): void => {
          if (ties.get(element) === now) now.undo = untrack(() => tie(element));
        };
        // What the user typed before the script ran changes what other components show: not while Solid takes over their elements.
        if (isInForm && !sharedConfig.context) start();
        else createEffect(start);
      });
    };
    refs.set(tie, ref);
  }
  return ref;
}
