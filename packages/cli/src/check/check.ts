// Validating the records of files while they are read.

import { availableParallelism } from 'node:os';
import { hasAsyncRules, type ValueSource } from 'upper-gate';
import { Failure } from '../failure.ts';
import type { Judge } from '../read/csv.ts';
import { dataFiles, recordsOf, type DataFile, type ReadOptions } from '../read/formats.ts';
import type { Progress } from '../report/progress.ts';
import type { Report } from '../report/report.ts';
import type { Loaded } from '../schema.ts';
import { batchValidator, type Leniency } from './batch.ts';
import { Threads } from './threads.ts';
import type { WorkerSetup } from './worker.ts';

export interface CheckOptions extends ReadOptions, Leniency {
  /** How JSON holds values. Default: `'json'` for a schema that came as a document. */
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
  const { ofRecords: schema } = loaded;
  const files = await dataFiles(paths, options);
  progress.start(files.map(({ size }) => size));
  const isAsync = hasAsyncRules(schema) && options.async !== 'skip';
  const { workers = isAsync ? 1 : Math.min(2, availableParallelism()) } = options;
  const threads = new Threads(batchValidator(loaded, setup.style, options), workers, setup, report);
  const onUnknown: Judge['onUnknown'] = ({ what, delimiter }, name) => {
    const apart = delimiter === undefined ? undefined : `If the file has another delimiter, add ${delimiter}.`;
    if (options.unknown === 'refuse')
      throw new Failure(`${name} has ${what}. ${apart ?? 'Map them to paths, or to null, with --columns.'}`);
    report.note(`${name} has ${what}; not checked. ${apart ?? 'Map them with --columns, or have them refused with --unknown refuse.'}`);
  };
  try {
    for (const file of files) {
      // CSV holds texts alone, as forms do.
      const source = file.format === 'csv' ? 'form' : (options.source ?? 'json');
      await checkFile({ file, source, asOne: schema.traits.holds === 'rows', judge: { schema, onUnknown } }, threads, progress);
    }
  } finally {
    threads.close();
  }
}

/** What is read of a file, and how. */
interface Reading {
  readonly file: DataFile;
  readonly source: ValueSource;
  readonly asOne: boolean;
  readonly judge: Judge;
}

async function checkFile({ file, source, asOne, judge }: Reading, threads: Threads, progress: Progress): Promise<void> {
  const batches = recordsOf(file, asOne, (bytes) => progress.add(bytes), judge)[Symbol.asyncIterator]();
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
