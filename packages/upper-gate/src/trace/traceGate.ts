// The trace of one gate: what happened, in order, as plain data.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import { VERSION, type Entry, type TraceData } from './entries.ts';
import { followForm } from './follow.ts';

/** The options of `traceGate`. */
export interface TraceOptions {
  /** How many entries are kept; the oldest go first. Default 10,000. */
  readonly limit?: number;
  /** Whether the data that are sent, and facts from outside, are in it too. Default: not. `private` fields never are. */
  readonly withData?: boolean;
}

/** The trace of a gate. `JSON.stringify` writes it as `TraceData`. */
export interface Trace {
  /** What happened, the oldest first. */
  readonly entries: readonly Entry[];
  /**
   * Calls back after each entry.
   *
   * @param listener gets the entry
   * @returns undoes it
   */
  subscribe(listener: (entry: Entry) => void): () => void;
  /** Stops following the gate. The entries stay. */
  stop(): void;
  /**
   * Returns the trace as data.
   *
   * @returns the version, the start, and the entries
   */
  toJSON(): TraceData;
}

const gates = new WeakMap<Trace, AnyGate>();

/** The gate of a trace; what is no trace is a gate itself. */
export const gateOf = (of: Trace | AnyGate): AnyGate => gates.get(of as Trace) ?? (of as AnyGate);

/**
 * Follows a gate: which edit ran which rule, what it read and found, why a rule did not run, what was shown, what an async rule or a
 * submission waited for. Several traces can follow one gate. A gate that nobody follows pays nothing for it.
 *
 * @param gate the gate
 * @param options how many entries are kept, and whether data are among them
 * @returns the trace
 * @throws TypeError for what is no gate
 *
 * @example
 * const trace = traceGate(gate);
 * console.log(explain(trace, 'registration').join('\n'));
 */
export function traceGate(gate: AnyGate, { limit = 10_000, withData = false }: TraceOptions = {}): Trace {
  const internals = internalsOf(gate);
  const { store, onDispose } = internals;
  const start = store.clock.now();
  const listeners = new Set<(entry: Entry) => void>();
  let entries: Entry[] = [];
  let count = 0;
  /** When it stopped. */
  let end: number | undefined;

  const passed = (): number => (end ?? store.clock.now().getTime()) - start.getTime();
  const add = (happening: object, cause: number | undefined): Entry => {
    const entry = { n: (count += 1), at: passed(), ...(cause !== undefined && { cause }), ...happening } as Entry;
    entries.push(entry);
    // (Not one by one: to take the first of a long list takes long.)
    if (entries.length >= 2 * limit) entries = entries.slice(-limit);
    for (const listener of listeners) store.guard(() => listener(entry), 'trace');
    return entry;
  };
  const kept = (): readonly Entry[] => (entries.length > limit ? entries.slice(-limit) : entries);
  const { initial, stop } = followForm(internals, { add, withData });
  onDispose.add(stop);
  const trace: Trace = {
    get entries() {
      return kept();
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    stop() {
      onDispose.delete(stop);
      end ??= store.clock.now().getTime();
      stop();
    },
    toJSON() {
      const last = kept();
      return { version: VERSION, start: start.toISOString(), length: passed(), ...initial, dropped: count - last.length, entries: last };
    },
  };
  gates.set(trace, gate);
  return trace;
}
