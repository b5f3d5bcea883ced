// One request for the values of many fields: what a register with a bulk interface needs.

import { DEV, explained } from '#development';
import { WRONG_USE } from '../../schema/brand.ts';
import { FORM, TOGETHER, type AsyncCheckRun } from '../../schema/rule.ts';
import type { CheckResult } from '../crossField/check.ts';

/** What the function of `askTogether` gets beside the values. */
export interface TogetherRun {
  /** Aborted when none of the answers is needed any longer. */
  readonly signal: AbortSignal;
}

/** Values of one form that are asked about together. */
interface Batch<V> {
  readonly values: V[];
  /** The answers, by the position of the value. */
  readonly answers: Promise<readonly CheckResult[]>;
  readonly join: (signal: AbortSignal) => void;
}

/**
 * Makes a function for `asyncCheck` that asks about many values at once: those of all rows, or of several fields with this rule, that need
 * an answer at the same moment, such as at submit. Values of different forms, or of different calls of `validateAsync`, are never mixed.
 *
 * @param ask gets the values, each once, and `{ signal }`; resolves to an answer for each, in their order: what `check` returns
 * @returns the function; fields that are to be asked about together share it
 *
 * @example
 * const onRegister = askTogether(async (numbers: readonly string[], { signal }) => {
 *   const reply = await fetch('/register', { method: 'POST', body: JSON.stringify(numbers), signal });
 *   const known: string[] = await reply.json();
 *   return numbers.map((number) => known.includes(number) || 'This number is not on the register');
 * });
 * list('Seals', text('Seal', asyncCheck(onRegister, { debounce: 400 })))
 */
export function askTogether<V>(
  ask: (values: readonly V[], run: TogetherRun) => Promise<readonly CheckResult[]>,
): (value: V, run: AsyncCheckRun<unknown>) => Promise<CheckResult> {
  const batches = new WeakMap<object, Batch<V>>();

  const begin = (form: object): Batch<V> => {
    const values: V[] = [];
    const controller = new AbortController();
    let waiting = 0;
    // Whatever starts at this moment joins: rules of many rows are started by as many timers.
    const start = async (): Promise<readonly CheckResult[]> => {
      await new Promise<void>((resolve) => setTimeout(() => resolve()));
      batches.delete(form);
      controller.signal.throwIfAborted();
      const answers: unknown = await ask(values, { signal: controller.signal });
      if (Array.isArray(answers) && answers.length === values.length) return answers as readonly CheckResult[];
      throw new TypeError(DEV ? explained(`askTogether() asked about ${values.length} values, and wants an answer for each.`) : WRONG_USE);
    };
    const batch: Batch<V> = {
      values,
      answers: start(),
      join(signal) {
        waiting += 1;
        signal.addEventListener('abort', () => {
          waiting -= 1;
          if (waiting === 0) controller.abort(signal.reason);
        });
      },
    };
    // (Whoever waits for an answer hears what went wrong; perhaps nobody does any more.)
    batch.answers.catch(() => undefined);
    return batch;
  };

  const together = async (value: V, run: AsyncCheckRun<unknown>): Promise<CheckResult> => {
    const form = run[FORM] ?? together;
    const batch = batches.get(form) ?? begin(form);
    batches.set(form, batch);
    const known = batch.values.indexOf(value);
    const at = known < 0 ? batch.values.push(value) - 1 : known;
    batch.join(run.signal);
    return (await batch.answers)[at];
  };
  return Object.assign(together, { [TOGETHER]: true });
}
