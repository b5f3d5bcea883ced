import type { ComponentPublicInstance } from 'vue';
import { elementOf, type Focusable } from '../binding/index.ts';

/** What Vue gives to a ref: an element, a component, or `null` when it goes. */
type Target = Element | ComponentPublicInstance | null;
/** A function that Vue calls with the element, or the component, when it is there, and with `null` when it goes. */
export type Ref = (target: Target) => void;

/** Ties what is found in a target, for as long as it is there. (Vue calls with the same one at each drawing.) */
function tieWhat<T>(find: (target: Target) => T | undefined, tie: (found: T, target: Target) => () => void): Ref {
  let tied: T | undefined;
  let undo: (() => void) | undefined;
  return (target) => {
    const found = find(target);
    if (found === tied) return;
    undo?.();
    tied = found;
    undo = found && tie(found, target);
  };
}

/** What ties an element, or what a component hands out in its place. */
type Tie<E> = (target: E) => () => void;

const refs = new WeakMap<Tie<never>, Ref>();
/** The same ref for the same tie: Vue would else tie anew at each drawing. */
function remembered<E>(tie: Tie<E>, make: (tie: Tie<E>) => Ref): Ref {
  let ref = refs.get(tie);
  if (!ref) refs.set(tie, (ref = make(tie)));
  return ref;
}

/** Ties an element. */
export const refOf = (tie: Tie<HTMLElement>): Ref => remembered(tie, () => tieWhat(elementOf, tie));

const takesFocus = (target: unknown): target is Focusable => typeof (target as Partial<Focusable> | null)?.focus === 'function';

/** Ties what takes the focus of a field: an element, or a component, which may have none. @param start ties it, now or later */
export const controlRefOf = (tie: Tie<HTMLElement | Focusable>, start: (tie: () => () => void) => () => void): Ref =>
  remembered(tie, () =>
    tieWhat<unknown>(
      (target) => elementOf(target) ?? (takesFocus(target) ? target : undefined),
      (element, target) => start(() => tie((takesFocus(target) ? target : element) as HTMLElement | Focusable)),
    ),
  );
