import type { ComponentPublicInstance } from 'vue';

/** A function that Vue calls with the element, or the component, when it is there, and with `null` when it goes. */
export type Ref = (target: Element | ComponentPublicInstance | null) => void;

/** Ties an element for as long as it is there. */
export function tieRef(tie: (element: HTMLElement) => () => void): Ref {
  let tied: HTMLElement | undefined;
  let undo: (() => void) | undefined;
  return (target) => {
    const element = target && '$el' in target ? (target.$el as unknown) : target;
    if (element === tied) return;
    undo?.();
    tied = element instanceof HTMLElement ? element : undefined;
    undo = tied && tie(tied);
  };
}
