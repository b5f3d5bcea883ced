// The events of a gate, emitted so that no listener can stop anything else.

import { findingsBelow } from './findingsBelow.ts';
import { reported, type FormStore, type Observer } from './store.ts';

type Listener = (what: never) => unknown;

/** The events of one form. */
export interface Events {
  /** Listens to an event. @returns undoes it */
  readonly on: (event: string, listener: Listener) => () => void;
  /** Calls the listeners of an event; what they throw is a fault. @returns whether there are any */
  readonly emit: (event: string, what: unknown) => boolean;
}

/** Makes the events of a form. */
export function createEvents(store: FormStore): Events {
  const listeners = new Map<string, Set<Listener>>();
  let isFollowing = false;
  /** Whether something has been revealed since the start or the last reset. */
  let isRevealed = false;

  const emit = (event: string, what: unknown): boolean => {
    const heard = [...(listeners.get(event) ?? [])];
    for (const listener of heard) {
      const call = (): unknown => listener(what as never);
      if (event !== 'fault') store.guard(call, `on('${event}')`);
      else {
        // A fault in here would go to the same listener.
        reported(call, (error) => console.error("Upper Gate: on('fault'):", error));
      }
    }
    return heard.length > 0;
  };

  /** Emits `pass` and `fail` for the fields, and the form, whose verdict has changed. */
  const emitVerdicts: Observer = ({ nodes, isReset }) => {
    const { root } = store;
    // What is not awaited any more has not passed.
    if (store.isDisposed) return;
    if (isReset) isRevealed = false;
    isRevealed ||= nodes.some(({ revealed }) => revealed);
    for (const node of new Set([...nodes, root])) {
      const follows = node === root ? isRevealed : node.revealed && !node.part.traits.hasParts;
      if (!follows || !node.applies || node.pending > 0 || (node.errors === 0 && !store.isValid(node))) continue;
      const verdict = node.errors > 0 ? 1 : 0;
      if (node.lastVerdict === verdict) continue;
      node.lastVerdict = verdict;
      if (verdict === 0) emit('pass', { path: node.path });
      else emit('fail', { path: node.path, findings: findingsBelow(node) });
    }
  };

  return {
    on(event, listener) {
      const all = listeners.get(event) ?? new Set();
      listeners.set(event, all);
      // Each call counts, even with the same function. A listener that another one removes is not called any more.
      const own: Listener = (what) => (all.has(own) ? listener(what) : undefined);
      all.add(own);
      // Only where somebody listens is there anything to do about it.
      if ((event === 'pass' || event === 'fail') && !isFollowing) {
        isFollowing = true;
        store.root.forEach(({ revealed }) => (isRevealed ||= revealed));
        store.observe(emitVerdicts);
      }
      return () => all.delete(own);
    },
    emit,
  };
}
