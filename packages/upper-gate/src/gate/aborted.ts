// Waiting for something that may be aborted.

/** Rejects as soon as the signal is aborted, so that a function that does not heed it holds nothing up. */
export const aborted = (signal: AbortSignal): Promise<never> =>
  new Promise((_, reject) => {
    if (signal.aborted) reject(signal.reason);
    signal.addEventListener('abort', () => reject(signal.reason));
  });
