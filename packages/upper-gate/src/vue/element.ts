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

/** Ties an element. */
export const tieRef = (tie: (element: HTMLElement) => () => void): Ref => tieWhat(elementOf, tie);

const takesFocus = (target: unknown): target is Focusable => typeof (target as Partial<Focusable> | null)?.focus === 'function';

/** Ties what takes the focus of a field: an element, or a component, which may have none. */
export const tieControl = (tie: (target: HTMLElement | Focusable) => () => void): Ref =>
  tieWhat<unknown>(
    (target) => elementOf(target) ?? (takesFocus(target) ? target : undefined),
    (element, target) => tie((takesFocus(target) ? target : element) as HTMLElement | Focusable),
  );
