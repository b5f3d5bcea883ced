// Taking over what a server has drawn: what the user typed before the script ran must not be overwritten.

import { onMount } from 'svelte';
import { createSubscriber } from 'svelte/reactivity';
import { idPrefixOf } from '../binding/index.ts';

/** The forms that a server has drawn, until they are there. */
const drawn = new WeakSet<object>();

/** Looks whether the page has the elements of a form before its component has drawn any. */
export function noteDrawn(gate: object): void {
  if (typeof document === 'undefined' || !document.querySelector(`[id^="${CSS.escape(idPrefixOf(gate))}-"]`)) return;
  drawn.add(gate);
  onMount(() => void drawn.delete(gate));
}

/** Returns whether the elements of a component hold what the form says: not while Svelte takes them over. To be read where they are drawn. */
export function useThere(gate: object): () => boolean {
  if (!drawn.has(gate)) return () => true;
  let isThere = false;
  let tell: (() => void) | undefined;
  const follow = createSubscriber((update) => {
    tell = update;
    return () => (tell = undefined);
  });
  onMount(() => {
    isThere = true;
    tell?.();
  });
  return () => {
    follow();
    return isThere;
  };
}
