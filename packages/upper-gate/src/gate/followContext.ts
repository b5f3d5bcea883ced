// A component gives its form the facts from outside at each render.

import { sameValue } from '../schema/sameValue.ts';
import { checkContext } from '../schema/context/checkContext.ts';
import type { ContextValue } from '../schema/context/context.ts';
import type { AnyGate } from './gate.ts';

/**
 * Gives a form the facts that are others than those given last; whatever read one of them runs again. A value that is made anew
 * and equals the last one is no news, else a component that shows the form could draw itself for ever.
 *
 * @param gate the form
 * @param now the facts, as the option `context` has them
 * @param before those given last
 *
 * @example
 * const deepest = context<number>('deepest');
 * followContext(gate, [deepest.of(2.5)], [deepest.of(2.1)]);
 */
export function followContext(gate: AnyGate, now: readonly ContextValue[] | undefined, before: readonly ContextValue[] | undefined): void {
  if (now === before) return;
  checkContext(now);
  gate.batch(() => {
    for (const { token, value } of now ?? []) {
      const last = before?.find((given) => given.token === token);
      if (!last || !sameValue(last.value, value)) gate.setContext<unknown>(token, value);
    }
  });
}
