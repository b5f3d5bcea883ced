// Several may follow one form, as a trace and an inspector do: the store has one hook, which calls them all.

import type { FormStore } from '../gate/store.ts';
import type { Tracer } from '../schema/kit.ts';

/** (On the store, so that two copies of the library do not drive each other out.) */
const FOLLOWING: unique symbol = Symbol.for('upper-gate: followed by');

type Followed = FormStore & { [FOLLOWING]?: Set<Tracer> | undefined };

/** A tracer that calls several. */
const together = (all: ReadonlySet<Tracer>): Tracer =>
  new Proxy({} as Tracer, {
    get:
      (_, name: keyof Tracer) =>
      (...args: readonly unknown[]) => {
        for (const each of all) (each[name] as (...args: readonly unknown[]) => void)(...args);
      },
  });

/** Has a tracer follow a form, beside others. @returns undoes it */
export function follow(store: FormStore, tracer: Tracer): () => void {
  const all = ((store as Followed)[FOLLOWING] ??= new Set());
  const settle = (): void => {
    const [only, ...more] = all;
    store.tracer = more.length > 0 ? together(all) : only;
  };
  all.add(tracer);
  settle();
  return () => {
    all.delete(tracer);
    settle();
  };
}
