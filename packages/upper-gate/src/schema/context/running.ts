// Who runs the callback under way, and knows the facts from outside. It stands on the global object, so that two copies of
// the library share it.

import type { Token } from '../kit.ts';

/** Whoever runs callbacks: a form, or a walk over a whole value. */
export interface ContextSource {
  /** What a token is worth, in a form. @throws what ends the callback if that is not known */
  readContext?(token: Token): unknown;
  /** The facts that were given, for a whole value. */
  readonly context?: readonly { readonly token: unknown; readonly value: unknown }[] | undefined;
  /** That a fact was read which was not given, whatever became of the callback that read it. */
  lacking?: TypeError | undefined;
}

const RUNNING: unique symbol = Symbol.for('upper-gate: running');
interface Running {
  source: ContextSource | undefined;
}
let shared: Running | undefined;

/** Who runs the callback under way. */
export const running = (): Running => (shared ??= (globalThis as { [RUNNING]?: Running | undefined })[RUNNING] ??= { source: undefined });

/**
 * Says who runs the callbacks that follow.
 *
 * @returns the previous one, to restore afterwards
 */
export function swapSource(source: ContextSource | undefined): ContextSource | undefined {
  const holder = running();
  const before = holder.source;
  holder.source = source;
  return before;
}
