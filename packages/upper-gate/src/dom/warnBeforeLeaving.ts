// A warning before the page is left with edits that nobody has saved.

import type { Gate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { Node } from '../schema/node.ts';

/**
 * Makes the browser ask before the page closes while there are unsaved edits: from the first edit until the form is accepted,
 * `keepSaved` has saved it, or its values are the initial ones again. It listens only that long, since a page with such a
 * listener cannot be kept in the back-forward cache. Leave the page after acceptance (`gate.on('accepted', ...)`), not in
 * `submit`.
 *
 * @param gate the gate of the form
 * @returns stops it; so does `gate.dispose()`
 *
 * @example
 * warnBeforeLeaving(gate);
 */
export function warnBeforeLeaving<N extends Node>(gate: Gate<N>): () => void {
  const { onDispose, store } = internalsOf(gate);
  const warn = (event: Event): void => {
    // (What the browser sends is not lost.)
    if (!store.isPosting) event.preventDefault();
  };
  const stopListening = (): void => window.removeEventListener('beforeunload', warn);
  const look = (): void => {
    if (gate.state.dirty) window.addEventListener('beforeunload', warn);
    else stopListening();
  };
  const unsubscribe = gate.subscribe(look);
  look();
  const stop = (): void => {
    unsubscribe();
    stopListening();
    onDispose.delete(stop);
  };
  onDispose.add(stop);
  return stop;
}
