// Validating the records of files while they are read.

import { availableParallelism } from 'node:os';
import { hasAsyncRules, type ValueSource } from 'upper-gate';
import { dataFiles, recordsOf, type DataFile, type ReadOptions } from '../read/formats.ts';
import type { Progress } from '../report/progress.ts';
import type { Report } from '../report/report.ts';
import type { Loaded } from '../schema.ts';
import { batchValidator } from './batch.ts';
import { Threads } from './threads.ts';
import type { WorkerSetup } from './worker.ts';

export interface CheckOptions extends ReadOptions {
  /** How JSON holds values. Default: `'json'` for a schema that came as a JSON Schema document. */
  readonly source?: ValueSource;
  /** How many threads validate lines. Default: two, where there are two processors and no async rules. */
  readonly workers?: number;
}

/**
 * Validates the records of files.
 *
 * @param paths `-` is standard input
 * @param setup for further threads
 * @throws Failure for a file that cannot be read
 */
export async function checkFiles(
  loaded: Loaded,
  paths: readonly string[],
  options: CheckOptions,
  setup: WorkerSetup,
  report: Report,
  progress: Progress,
): Promise<void> {
  const { schema } = loaded;
  const files = await dataFiles(paths, options);
  progress.start(files.map(({ size }) => size));
  const { workers = hasAsyncRules(schema) ? 1 : Math.min(2, availableParallelism()) } = options;
  const threads = new Threads(batchValidator(loaded, setup.style), workers, setup, report);
  try {
    for (const file of files) {
      // CSV holds texts alone, as forms do.
      const source = file.format === 'csv' ? 'form' : (options.source ?? 'json');
      await checkFile(file, source, schema.traits.holds === 'rows', threads, progress);
    }
  } finally {
    threads.close();
  }
}

async function checkFile(file: DataFile, source: ValueSource, asOne: boolean, threads: Threads, progress: Progress): Promise<void> {
  const batches = recordsOf(file, asOne, (bytes) => progress.add(bytes))[Symbol.asyncIterator]();
  for (;;) {
    let next: Awaited<ReturnType<typeof batches.next>>;
    try {
      next = await batches.next();
    } catch (error) {
      // What was read before counts.
      await threads.finish();
      throw error;
    }
    if (next.done) break;
    await threads.add({ file: file.name, source, records: next.value });
  }
  await threads.finish();
}
