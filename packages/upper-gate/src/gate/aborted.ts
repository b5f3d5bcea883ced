// Waiting for something that may be aborted, or never ends.

import type { FormClock } from '../schema/kit.ts';

/** Rejects as soon as the signal is aborted, so that a function that does not heed it holds nothing up. */
export const aborted = (signal: AbortSignal): Promise<never> =>
  new Promise((_, reject) => {
    if (signal.aborted) reject(signal.reason);
    signal.addEventListener('abort', () => reject(signal.reason));
  });

/** How long reading an answer may take, in milliseconds. */
const READING = 30_000;

/** What comes of reading an answer. @throws (rejects with) Error when that takes too long, or what the signal is aborted with */
export async function inTime<T>(clock: FormClock, reading: Promise<T>, signal: AbortSignal): Promise<T> {
  let timer: unknown;
  const isUp = new Promise<never>((_, reject) => {
    timer = clock.setTimeout(() => reject(new Error(`The answer could not be read within ${READING / 1000} s.`)), READING);
  });
  try {
    return await Promise.race([reading, isUp, aborted(signal)]);
  } finally {
    clock.clearTimeout(timer);
  }
}
