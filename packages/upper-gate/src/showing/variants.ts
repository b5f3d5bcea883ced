// Paths that lead through an either-or: which field they name depends on what is chosen there.

import type { Handle } from '../gate/handle.ts';

export interface Finder {
  has(path: string): boolean;
  field(path: string): Handle;
}

/** The field at a path; nothing for a row that the list of the case that is chosen now does not have. */
const find = (gate: Finder, path: string): Handle | undefined => (gate.has(path) ? gate.field(path) : undefined);

/** The either-or parts above a path. */
function variantsAbove(gate: Finder, path: string): readonly Handle[] {
  const found: Handle[] = [];
  for (let end = path.indexOf('.'); end >= 0; end = path.indexOf('.', end + 1)) {
    const handle = gate.field(path.slice(0, end));
    if (handle.traits.holds === 'cases') found.push(handle);
  }
  return found;
}

/**
 * Calls back after each change of the field at a path, and when the path leads to another field.
 *
 * @param gate the gate of the form
 * @param path the path
 * @param listener is called after each change
 * @returns undoes it
 */
export function subscribePath(gate: Finder, path: string, listener: () => void): () => void {
  let undo: (() => void) | undefined = gate.field(path).subscribe(listener);
  const stop = followPath(gate, path, () => {
    undo?.();
    undo = find(gate, path)?.subscribe(listener);
    listener();
  });
  return () => {
    stop?.();
    undo?.();
  };
}

/**
 * Calls back when a path may lead to another field.
 *
 * @param gate the gate of the form
 * @param path the path
 * @param listener is called when the path may name another field
 * @returns undoes it; nothing where the path names the same field always
 */
export function followPath(gate: Finder, path: string, listener: () => void): (() => void) | undefined {
  const variants = variantsAbove(gate, path);
  if (variants.length === 0) return undefined;
  let field = find(gate, path);
  const undo = variants.map((variant) =>
    variant.subscribe(() => {
      if (variant.removed) return;
      const now = find(gate, path);
      if (now === field) return;
      field = now;
      listener();
    }),
  );
  return () => undo.forEach((each) => each());
}
