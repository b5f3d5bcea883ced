// Validating lines in several threads: this one, and others that load the schema again.

import { Worker } from 'node:worker_threads';
import { ended, Failure, firstLine } from '../failure.ts';
import type { Lines } from '../read/records.ts';
import type { Outcome, Receiver } from '../report/outcome.ts';
import type { Batch, ValidateBatch } from './batch.ts';
import type { Task, WorkerSetup } from './worker.ts';

/** How many batches wait for another thread at most: enough that it need not wait for this one. */
const WAITING = 4;
/** How many bytes of lines to read before other threads start: what is validated while they load the schema. */
const WORTHWHILE = 2_000_000;

/** What a batch comes to, once it is known. */
interface Job {
  outcome?: Outcome;
  readonly done: Promise<Outcome>;
}

/** Another thread. It answers in the order in which it was given batches. */
class Thread {
  readonly #worker: Worker;
  #isReady = false;
  readonly #waiting: { resolve: (outcome: Outcome) => void; reject: (error: Error) => void }[] = [];
  #broken: Error | undefined;

  constructor(setup: WorkerSetup) {
    this.#worker = new Worker(new URL('./worker.js', import.meta.url), { workerData: setup });
    this.#worker.on('message', (outcome: Outcome | 'ready') => {
      if (outcome === 'ready') this.#isReady = true;
      else this.#waiting.shift()?.resolve(outcome);
    });
    this.#worker.on('error', (error) => this.#break(new Failure(`A module threw while validating: ${firstLine(error)}.`)));
    this.#worker.on('exit', () => this.#break(new Failure(ended('validating'))));
  }

  get isFree(): boolean {
    if (this.#broken) throw this.#broken;
    return this.#isReady && this.#waiting.length < WAITING;
  }

  run(task: Task): Promise<Outcome> {
    return new Promise((resolve, reject) => {
      this.#waiting.push({ resolve, reject });
      // The bytes move over; they are not copied.
      this.#worker.postMessage(task, [task.batch.records.bytes.buffer as ArrayBuffer]);
    });
  }

  close(): void {
    this.#worker.removeAllListeners();
    void this.#worker.terminate();
  }

  #break(error: Error): void {
    this.#broken ??= error;
    for (const { reject } of this.#waiting.splice(0)) reject(this.#broken);
  }
}

/** Validates batches in threads, and hands on what they came to in the order of the batches. */
export class Threads {
  readonly #own: ValidateBatch;
  readonly #count: number;
  readonly #setup: WorkerSetup;
  readonly #receiver: Receiver;
  readonly #others: Thread[] = [];
  readonly #jobs: Job[] = [];
  #bytes = 0;

  /** @param own validates in this thread @param count how many threads, this one among them */
  constructor(own: ValidateBatch, count: number, setup: WorkerSetup, receiver: Receiver) {
    this.#own = own;
    this.#count = count;
    this.#setup = setup;
    this.#receiver = receiver;
  }

  /** Takes a batch. */
  async add(batch: Batch): Promise<void> {
    this.#jobs.push(await this.#start(batch));
    await this.#handOn(2 * WAITING * this.#count);
  }

  /** Waits for what is still to come. */
  async finish(): Promise<void> {
    await this.#handOn(0);
  }

  close(): void {
    for (const thread of this.#others) thread.close();
  }

  async #start({ records, ...rest }: Batch): Promise<Job> {
    const { room } = this.#receiver;
    if ('bytes' in records) {
      const other = this.#otherFor(records);
      if (other) return jobOf(other.run({ batch: { ...rest, records }, room }));
    }
    const outcome = await this.#own({ records, ...rest }, room);
    return { outcome, done: Promise.resolve(outcome) };
  }

  #otherFor({ bytes }: Lines): Thread | undefined {
    this.#bytes += bytes.length;
    if (this.#bytes > WORTHWHILE) while (this.#others.length < this.#count - 1) this.#others.push(new Thread(this.#setup));
    return this.#others.find((thread) => thread.isFree);
  }

  /** @param most how many may stay, whose turn has not come */
  async #handOn(most: number): Promise<void> {
    while (this.#jobs.length > most || this.#jobs[0]?.outcome !== undefined) await this.#receiver.take(await this.#jobs.shift()!.done);
  }
}

function jobOf(done: Promise<Outcome>): Job {
  const job: Job = { done };
  // An error is for whoever waits.
  done.then(
    (outcome) => (job.outcome = outcome),
    () => undefined,
  );
  return job;
}
