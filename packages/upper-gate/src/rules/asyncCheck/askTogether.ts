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
  readonly answers: Promise<ReadonlyMap<V, CheckResult>>;
  /** Adds a value, unless it is there. @param signal aborted when its answer is not needed any longer */
  readonly join: (value: V, signal: AbortSignal) => void;
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
    /** How many wait for the answer to each value. */
    const waiting = new Map<V, number>();
    const wanted = (): readonly V[] => [...waiting].flatMap(([value, many]) => (many > 0 ? [value] : []));
    const controller = new AbortController();
    let isStarted = false;
    // Whatever starts at this moment joins: rules of many rows are started by as many timers.
    const start = async (): Promise<ReadonlyMap<V, CheckResult>> => {
      await new Promise<void>((resolve) => setTimeout(() => resolve()));
      batches.delete(form);
      isStarted = true;
      const values = wanted();
      const answers: unknown = values.length > 0 ? await ask(values, { signal: controller.signal }) : [];
      if (Array.isArray(answers) && answers.length === values.length)
        return new Map(values.map((value, i) => [value, answers[i] as CheckResult]));
      throw new TypeError(DEV ? explained(`askTogether() asked about ${values.length} values, and wants an answer for each.`) : WRONG_USE);
    };
    const answers = start();
    // (Whoever waits for an answer hears what went wrong; perhaps nobody does any more.)
    answers.catch(() => undefined);
    return {
      answers,
      join(value, signal) {
        waiting.set(value, (waiting.get(value) ?? 0) + 1);
        signal.addEventListener('abort', () => {
          waiting.set(value, waiting.get(value)! - 1);
          if (isStarted && wanted().length === 0) controller.abort(signal.reason);
        });
      },
    };
  };

  const together = async (value: V, run: AsyncCheckRun<unknown>): Promise<CheckResult> => {
    const form = run[FORM] ?? together;
    const batch = batches.get(form) ?? begin(form);
    batches.set(form, batch);
    batch.join(value, run.signal);
    return (await batch.answers).get(value);
  };
  return Object.assign(together, { [TOGETHER]: true });
}
