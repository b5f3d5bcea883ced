import type { ComponentPublicInstance } from 'vue';
import { elementOf, type Focusable } from '../binding/index.ts';

/** A function that Vue calls with the element, or the component, when it is there, and with `null` when it goes. */
export type Ref = (target: Element | ComponentPublicInstance | null) => void;

/** Ties an element for as long as it is there; of a component, its element and what it offers. */
export function tieRef(tie: (element: HTMLElement, target: HTMLElement | Focusable) => () => void): Ref {
  let tied: HTMLElement | undefined;
  let undo: (() => void) | undefined;
  return (target) => {
    const element = elementOf(target);
    if (element === tied) return;
    undo?.();
    tied = element;
    undo = element && tie(element, target as HTMLElement | Focusable);
  };
}
