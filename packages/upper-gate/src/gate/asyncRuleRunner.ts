// One async rule on one field of a form: idle -> waiting (for a pause in typing) -> running -> settled. Any change of the
// value, or of what the run has read by then, sends it back to idle at once, so that at most one run is in flight and no
// late answer counts.

import type { AnyRule, Verdict } from '../schema/rule.ts';
import { WAITING } from '../schema/noValue.ts';
import { runAsyncRule, type Reply } from '../evaluate/asyncRule.ts';
import type { Order } from '../evaluate/order.ts';
import { FieldCell, ListCell, type AsyncRunner, type Cell } from './cell.ts';
import { rank, stageOf } from './stage.ts';
import { Watch, type Readable, type Recorder } from './tracking.ts';

/** An answer, and what it was given to. */
interface Kept {
  readonly value: unknown;
  /** What the rule read, and what it saw there. */
  readonly reads: readonly (readonly [cell: Cell, saw: unknown])[];
  readonly verdicts: readonly Verdict[];
}

/** What a rule sees of a cell that it reads, to compare later. Of a list never the same: its rows may be others. */
const sightOf = (cell: Cell): unknown =>
  cell instanceof FieldCell ? (cell.ownApplies ? cell.data : undefined) : cell instanceof ListCell ? {} : cell.ownApplies;

export class AsyncRuleRunner extends Watch implements AsyncRunner {
  readonly #cell: Cell;
  /** The group that the rule may read. */
  readonly #scope: Cell;
  readonly #rule: AnyRule;
  readonly #order: Order;
  #state: 'idle' | 'waiting' | 'running' | 'settled' = 'idle';
  #timer: unknown;
  #controller: AbortController | undefined;
  /** Whether it settled with an answer; otherwise the next submit runs the rule again. */
  #answered = false;
  /** Newest last. */
  #kept: Kept[] = [];

  constructor(cell: Cell, scope: Cell, rule: AnyRule, order: Order) {
    super();
    this.#cell = cell;
    this.#scope = scope;
    this.#rule = rule;
    this.#order = order;
  }

  invalidate(): void {
    this.cancel();
    this.#cell.store.updateAsync(this.#cell, 0);
  }

  /** The value has changed or is gone: ends the wait or the run, and drops the answer. */
  cancel(): void {
    if (this.#state === 'idle') return;
    clearTimeout(this.#timer);
    this.#controller?.abort();
    this.#settle('idle', undefined);
  }

  /** Forgets the answers too. */
  forget(): void {
    this.cancel();
    this.#kept = [];
  }

  /** Follows the field on an event of a rank: starts a run, waits, uses a kept answer, or stops. */
  update(event: number): void {
    if (!this.#due()) {
      this.cancel();
      return;
    }
    if (this.#state === 'running' || event < stageOf(this.#rule, this.#cell.store.on)) return;
    const atOnce = event > 0 || this.#rule.async!.debounce <= 0;
    if (this.#state === 'settled' && (this.#answered || event < rank('submit'))) return;
    if (this.#state === 'waiting') {
      if (atOnce) this.#start();
      return;
    }
    const kept = this.#recall();
    if (kept) {
      this.#answered = true;
      this.#settle('settled', kept.verdicts);
    } else if (atOnce) {
      this.#start();
    } else {
      this.#timer = setTimeout(() => this.#cell.store.batch(() => this.#start()), this.#rule.async!.debounce);
      this.#settle('waiting', undefined);
    }
  }

  #value(): unknown {
    try {
      return this.#cell.readForRule();
    } catch (error) {
      if (error === WAITING) return undefined;
      throw error;
    }
  }

  /** Whether there is something to run on: a value that applies, and that the sync rules have found no error in. */
  #due(): boolean {
    const cell = this.#cell;
    return cell.asyncEnabled && cell.applies && cell.syncValid && this.#value() !== undefined && !cell.skipsRules;
  }

  #recall(): Kept | undefined {
    const value = this.#value();
    const at = this.#kept.findIndex(
      (kept) => Object.is(kept.value, value) && kept.reads.every(([cell, saw]) => Object.is(sightOf(cell), saw)),
    );
    if (at < 0) return undefined;
    const [kept] = this.#kept.splice(at, 1);
    this.#kept.push(kept!);
    return kept;
  }

  #start(): void {
    clearTimeout(this.#timer);
    const value = this.#value();
    const controller = new AbortController();
    this.#controller = controller;
    this.#settle('running', undefined);
    this.untrack();
    // The siblings belong to this run: what it reads after an `await` counts too, until the run ends.
    const run: Recorder = {
      recordRead: (cell: Readable) => {
        if (controller === this.#controller) this.recordRead(cell);
      },
    };
    const seen = this.#cell === this.#scope ? this.#cell.readForRule(run) : value;
    void runAsyncRule(this.#rule, seen, this.#scope.readForRule(run), false, controller).then((reply) => {
      if (controller !== this.#controller) return;
      const reads = (this.reads as Cell[]).map((cell) => [cell, sightOf(cell)] as const);
      this.#cell.store.batch(() => this.#conclude(reply, { value, reads, verdicts: reply.verdicts }));
    });
  }

  #conclude({ verdicts, answered, error }: Reply, kept: Kept): void {
    const { store } = this.#cell;
    if (answered) {
      this.#kept.push(kept);
      if (this.#kept.length > this.#rule.async!.cache) this.#kept.shift();
    }
    if (error !== undefined) store.fault(error, this.#cell, this.#rule.name);
    this.#answered = answered;
    this.#settle('settled', verdicts);
  }

  #settle(state: 'idle' | 'waiting' | 'running' | 'settled', verdicts: readonly Verdict[] | undefined): void {
    const pending = (of: typeof state): number => (of === 'waiting' || of === 'running' ? 1 : 0);
    const by = pending(state) - pending(this.#state);
    this.#state = state;
    if (pending(state) === 0) this.#controller = undefined;
    this.#cell.setVerdicts(
      this,
      this.#order,
      (verdicts ?? []).map((verdict) => ({ rule: this.#rule, verdict })),
    );
    if (by !== 0) this.#cell.count('pending', by);
  }
}
