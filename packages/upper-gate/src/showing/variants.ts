// Paths that lead through an either-or: which field they name depends on what is chosen there.

import type { AnyGate } from '../gate/gate.ts';
import { handleOf, type Handle } from '../gate/handle.ts';
import { internalsOf } from '../gate/internals.ts';

/** The field at a path; nothing for an unknown one, or a row that the list of the case that is chosen now does not have. */
export function handleAt(gate: AnyGate, path: string): Handle | undefined {
  const { store } = internalsOf(gate);
  const node = path === '' ? undefined : store.find(path);
  return node && handleOf(store, node);
}

/** The either-or parts above a path. */
function variantsAbove(gate: AnyGate, path: string): readonly Handle[] {
  const found: Handle[] = [];
  for (let end = path.indexOf('.'); end >= 0; end = path.indexOf('.', end + 1)) {
    const handle = handleAt(gate, path.slice(0, end));
    if (handle?.traits.holds === 'cases') found.push(handle);
  }
  return found;
}

/**
 * Calls back when a path may lead to another field.
 *
 * @param gate the gate of the form
 * @param path the path
 * @param listener is called when the path may name another field
 * @returns undoes it; nothing where the path names the same field always
 */
export function followPath(gate: AnyGate, path: string, listener: () => void): (() => void) | undefined {
  const variants = variantsAbove(gate, path);
  if (variants.length === 0) return undefined;
  let field = handleAt(gate, path);
  const undo = variants.map((variant) =>
    variant.subscribe(() => {
      if (variant.removed) return;
      const now = handleAt(gate, path);
      if (now === field) return;
      field = now;
      listener();
    }),
  );
  return () => undo.forEach((each) => each());
}

/** A field that is followed. */
export interface FieldSource {
  /** The field, as it is now. */
  readonly handle: Handle;
  /**
   * Calls back after each change of the field, and when another one is meant.
   *
   * @param listener is called after each change
   * @returns undoes it
   */
  readonly subscribe: (listener: () => void) => () => void;
}

/**
 * Follows a field by its path or its handle. Where a path leads may depend on what is chosen above it.
 *
 * @param gate the gate of the form
 * @param field its path, or its handle
 * @returns the field as it is now, and what follows it; the same object is to be used as long as gate and field are the same
 * @throws TypeError if the form has no such field
 */
export function sourceOf(gate: AnyGate, field: string | Handle): FieldSource {
  if (typeof field !== 'string') return { handle: field, subscribe: (listener) => field.subscribe(listener) };
  let handle = gate.field(field);
  if (variantsAbove(gate, field).length === 0) return { handle, subscribe: (listener) => handle.subscribe(listener) };
  return {
    get handle() {
      return (handle = handleAt(gate, field) ?? handle);
    },
    subscribe(listener) {
      let undo: (() => void) | undefined = handleAt(gate, field)?.subscribe(listener);
      const stop = followPath(gate, field, () => {
        undo?.();
        undo = handleAt(gate, field)?.subscribe(listener);
        listener();
      });
      return () => {
        stop?.();
        undo?.();
      };
    },
  };
}
