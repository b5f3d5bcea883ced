// Another thread that validates: it loads the schema, says 'ready', and answers each batch with its outcome, in order.

import { parentPort, workerData } from 'node:worker_threads';
import { loadSchema, type SchemaOptions } from '../schema.ts';
import type { Lines } from '../read/records.ts';
import type { ReportStyle } from '../report/collect.ts';
import { batchValidator, type Batch, type Leniency } from './batch.ts';

/** What a thread needs to begin. */
export interface WorkerSetup {
  readonly schema: string;
  readonly options: SchemaOptions & Leniency;
  readonly style: ReportStyle;
}

/** A batch, and how many findings the report still takes. */
export interface Task {
  readonly batch: Batch & { readonly records: Lines };
  readonly room: number;
}

const { schema, options, style } = workerData as WorkerSetup;
const port = parentPort!;
const validate = batchValidator(await loadSchema(schema, options), style, options);
let last = Promise.resolve();
port.on('message', ({ batch, room }: Task) => {
  last = last.then(async () => port.postMessage(await validate(batch, room)));
});
port.postMessage('ready');
