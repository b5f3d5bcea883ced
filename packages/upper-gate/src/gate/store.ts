// The store of a live form: the queues of what is to run after an edit, and the flush that runs it. An operation (an edit,
// a batch of edits) queues; when the outermost one is over, conditions run first, then the rules of new nodes, then rules
// that read several fields, then async rules are brought in line. Then observers and listeners are called, once each. What
// they edit in turn is flushed at once and told of in another round.

import { keysOf } from '../schema/finding.ts';
import { LONGEST_TIMER } from '../evaluate/timers.ts';
import type { Fault } from '../schema/walker.ts';
import { rank, SUBMIT } from '../evaluate/stage.ts';
import type { Catalogue } from '../messages/text.ts';
import { swapSource } from '../schema/context/running.ts';
import type {
  Actor,
  AnswerAsync,
  FormClock,
  Job,
  Lacking,
  LiveFacts,
  LiveNode,
  NodeKit,
  Operation,
  Readable,
  Recorder,
  RowChange,
  Token,
  Tracer,
  Watch,
} from '../schema/kit.ts';
import { WAITING } from '../schema/noValue.ts';
import type { Part } from '../schema/part.ts';
import type { Stage } from '../schema/verdict.ts';
import { createNode } from './createNode.ts';
import { EditLimit } from './editLimit.ts';
import { CompositeNode } from './compositeNode.ts';
import type { BaseNode } from './node.ts';
import { come } from './timing.ts';

/** What a page does for a form: it comes with the bindings. */
export interface PageLink {
  /** Moves the focus to a field. @returns whether it could be moved */
  focusNode(node: BaseNode): boolean;
  /** Moves the focus to the first field with an error. @returns whether it could be moved */
  focusFirstError(node: BaseNode): boolean;
  /** Moves the focus where the form wants it after a refusal. */
  followRefusal(root: BaseNode, focus: FocusOnRefusal): void;
}

/** Where the focus moves on a refusal: to the first invalid control, to the summary, or nowhere. */
export type FocusOnRefusal = 'first' | 'summary' | 'none';

/** Called at the end of each operation. */
export type Observer = (operation: Operation<BaseNode>) => void;

/** What no state tells once an operation is over. */
type OperationRecord = { -readonly [K in keyof Omit<Operation<BaseNode>, 'nodes' | 'rows' | 'hasNewValues'>]: Operation[K] } & {
  rows: RowChange<BaseNode>[];
};

const newRecord = (): OperationRecord => ({ isEdited: false, isRebased: false, isReset: false, rows: [] });

export class FormStore implements NodeKit<Part> {
  readonly onRank: number;
  readonly revealRank: number;
  readonly clock: FormClock;
  readonly now: () => Date;
  catalogue: Catalogue | undefined;
  root!: BaseNode;
  rawFollowers = 0;
  rowsMade = 0;
  isFollowed = false;
  lackingNodes: Lacking | undefined;
  /** Set as soon as something of the form is on a page. */
  page: PageLink | undefined;
  /**
   * Has the browser send the form, if that says where it goes; set by what wires the form. Ends once the request has gone out and the page
   * is still there.
   */
  sendForm: ((event: unknown, signal: AbortSignal) => Promise<void> | undefined) | undefined;
  /** Whether the browser is sending the form: the page goes, and nothing is lost. */
  isPosting = false;
  say: NodeKit<Part>['say'];
  interrupted: NodeKit<Part>['interrupted'];
  onReplace: NodeKit<Part>['onReplace'];
  isDisposed = false;
  /** Whoever follows the form, and who edits: for that. */
  tracer: Tracer | undefined;
  actor: Actor = 'program';
  readonly answerAsync: AnswerAsync | undefined;
  /** Whether of each field one finding is shown at a time. */
  showsFirst = false;
  /** The facts from outside, once there are any. */
  #context: LiveFacts | undefined;
  /** The submission, which every form has: told of each edit by the user or the program, and at the end of each operation, before the observers. */
  onEdit: (() => void) | undefined;
  afterOperation: (() => void) | undefined;
  /** The one hook for those who follow the form: events, drafts, bindings. Called before the listeners. */
  #observers: readonly Observer[] = [];
  #record = newRecord();
  recorder: Recorder | undefined;
  readonly #onFault: (fault: Fault) => unknown;
  #depth = 0;
  readonly #limit = new EditLimit();
  #isCallingBack = false;
  /** Whether anything is queued. */
  #isQueued = false;
  #flushes = 1;
  readonly #conditions = new Set<Job>();
  readonly #jobs = new Set<Job>();
  /** New nodes, to be validated as soon as it is known which of them apply. */
  readonly #fresh = new Set<BaseNode>();
  /** Nodes whose async rules are to be brought in line, with the rank of the event. */
  readonly #asyncUpdates = new Map<BaseNode, number>();
  #changed: BaseNode[] = [];

  constructor(
    on: Stage,
    reveal: Stage,
    clock: FormClock,
    catalogue: Catalogue | undefined,
    onFault: (fault: Fault) => unknown,
    answerAsync: AnswerAsync | undefined,
  ) {
    this.onRank = rank(on);
    this.revealRank = rank(reveal);
    this.clock = {
      now: () => clock.now(),
      // What throws in a timer would end a process.
      setTimeout: (callback, milliseconds) =>
        clock.setTimeout(() => void this.guard(callback, 'timer'), Math.min(milliseconds, LONGEST_TIMER)),
      clearTimeout: (timer) => clock.clearTimeout(timer),
    };
    this.now = () => clock.now();
    this.catalogue = catalogue;
    this.#onFault = onFault;
    this.answerAsync = answerAsync;
  }

  /** Whether there is no error at a node or below, and nothing lacks a fact that its rules need. */
  isValid(node: LiveNode): boolean {
    return node.errors === 0 && !this.lackingNodes?.isBelow(node);
  }

  // What nodes and rules are made with.

  readonly BaseNode = CompositeNode;

  createNode(part: Part, parent: BaseNode | undefined, key: string, initial: unknown, name?: string): BaseNode {
    return createNode(this, parent, key, part, initial, name);
  }

  read(what: Readable, by = this.recorder): void {
    by?.recordRead(what);
  }

  changed(what: Readable): void {
    what.readers?.forEach(invalidate);
  }

  rawChanged(node: LiveNode | undefined): void {
    if (this.rawFollowers > 0) for (let at = node; at !== undefined; at = at.parent) at.rawChanged();
  }

  find(path: string, from: LiveNode = this.root): BaseNode | undefined {
    let node = from as BaseNode | undefined;
    for (const key of keysOf(path)) node = node?.child(key);
    return node;
  }

  readNode(node: LiveNode, by: Recorder | undefined, from: number): unknown {
    this.read(node, by);
    if (node.ownApplies) return node.readForRule(by, from);
    if (node.takenAt < from) throw WAITING;
    return undefined;
  }

  contextOf(token: Token): LiveFacts {
    return (this.#context ??= token.attach(this));
  }

  readContext(token: Token, by?: Recorder): unknown {
    return this.contextOf(token).read(token, by);
  }

  fault(error: unknown, node: LiveNode, rule: string): void {
    const { path } = node;
    this.tracer?.faulted(node, rule, error);
    reported(
      () => this.#onFault({ error, path, rule }),
      (thrown) => console.error('Upper Gate: onFault:', thrown),
    );
  }

  /**
   * Calls a function of the author that must not get in the way of anything else.
   *
   * @returns whether it threw nothing
   */
  guard(callback: () => unknown, name: string): boolean {
    return reported(callback, (error) => this.fault(error, this.root, name));
  }

  observe(observer: Observer): () => void {
    this.#observers = [...this.#observers, observer];
    return () => {
      this.#observers = this.#observers.filter((each) => each !== observer);
    };
  }

  /** Resolves at the end of the operation after which a condition holds, or when the form is disposed of. */
  until(isOver: () => boolean): Promise<void> {
    return new Promise((resolve) => {
      const check = (): void => {
        if (!isOver() && !this.isDisposed) return;
        stop();
        resolve();
      };
      const stop = this.observe(check);
      check();
    });
  }

  /** Ends the async rules that are under way, and forgets what others have answered. */
  forgetAnswers(): void {
    this.batch(() => this.root.forEach((node) => node.asyncRunners?.forEach((runner) => runner.forget())));
  }

  /** Ends everything: nothing runs, asks or waits any more. */
  dispose(): void {
    this.isDisposed = true;
    this.forgetAnswers();
    this.batch(() => this.root.forEach((node) => node.liveRules?.forEach((rule) => rule.stop?.())));
    this.#report([]);
    this.#observers = [];
  }

  // Operations.

  batch<T>(operation: () => T): T {
    this.#depth += 1;
    try {
      return operation();
    } finally {
      this.end();
    }
  }

  /** Runs a change that the program asks for, unless the form is disposed of. */
  change(operation: () => void): void {
    if (!this.isDisposed) this.batch(operation);
  }

  beginEdit(node: LiveNode): boolean {
    if (this.isDisposed || node.removed) return false;
    if (this.#isCallingBack) {
      const { path } = node;
      if (!this.#limit.admits(path, (error) => this.fault(error, this.root, 'set'))) return false;
    } else if (this.#depth === 0) this.#limit.reset();
    this.#depth += 1;
    return true;
  }

  end(): void {
    try {
      // What callbacks queue on the way joins this flush.
      if (this.#depth === 1 && (this.#isQueued || this.#context)) this.#run();
    } finally {
      this.#depth -= 1;
    }
    if (this.#depth === 0 && this.#changed.length > 0 && !this.#isCallingBack) this.#callBack();
  }

  /** Does something for somebody other than the program. */
  actAs<T>(actor: Actor, act: () => T): T {
    const outer = this.actor;
    this.actor = actor;
    try {
      return act();
    } finally {
      this.actor = outer;
    }
  }

  /** Whether rules run, or listeners are called: an edit that is made meanwhile is one of theirs. */
  get isCallingBack(): boolean {
    return this.#isCallingBack;
  }

  /** Whether an operation is under way: what it queued has not run yet. */
  get isBusy(): boolean {
    return this.#depth > 0;
  }

  // Queues.

  schedule(job: Job): void {
    if (job.isQueued || this.isDisposed) return;
    job.isQueued = true;
    this.#isQueued = true;
    (job.isCondition ? this.#conditions : this.#jobs).add(job);
  }

  start(node: BaseNode): void {
    this.#fresh.add(node);
    this.#isQueued = true;
  }

  updateAsync(node: BaseNode, event: number): void {
    if (node.asyncRunners === undefined || this.isDisposed) return;
    this.#isQueued = true;
    this.#asyncUpdates.set(node, Math.max(event, this.#asyncUpdates.get(node) ?? 0));
  }

  markChanged(node: BaseNode): void {
    if (node.changedIn !== this.#flushes) {
      node.changedIn = this.#flushes;
      this.#changed.push(node);
    }
    // A change is one of every group around it, too.
    for (let at: BaseNode | undefined = node; at !== undefined; at = at.parent) at.snapshot = undefined;
  }

  // The record of the operation.

  noteEdit(node: LiveNode, isRebase: boolean): void {
    this.tracer?.edited(node, isRebase);
    // Values from outside are no edit of the user's: the state of the submission stays.
    if (isRebase) this.#record.isRebased = true;
    else {
      this.#record.isEdited = true;
      this.onEdit?.();
    }
  }

  noteRow(change: RowChange<BaseNode>): void {
    this.tracer?.rowChanged(change);
    this.#record.rows.push(change);
  }

  noteReset(): void {
    this.#record.isReset = true;
  }

  /**
   * Runs every sync callback below a node again, whatever it read: what it depends on beside the form may have changed.
   *
   * @param event the rank of what happened, for the async rules
   * @param reveals whether what is found is shown from now on
   */
  rerun(node: BaseNode, event: number, reveals = false): void {
    this.tracer?.reran(node, event, reveals);
    this.batch(() => {
      node.forEach((each) => {
        if (each.stage < SUBMIT) this.markChanged(each);
        each.stage = SUBMIT;
        each.asyncEnabled = true;
        if (reveals) come(each, SUBMIT);
        each.reread();
        if (each.condition) this.schedule(each.condition);
        this.updateAsync(each, event);
      });
      this.start(node);
    });
  }

  #run(): void {
    const outer = this.#isCallingBack;
    const source = swapSource(this);
    this.#isCallingBack = true;
    try {
      for (;;) {
        // What a job queues comes behind all that is queued before it.
        const condition = takeFirst(this.#conditions);
        const node = condition ? undefined : takeFirst(this.#fresh);
        const job = condition ?? (node ? undefined : takeFirst(this.#jobs));
        if (node) node.forEach(runRules);
        else if (job) {
          job.isQueued = false;
          job.run();
        } else if (this.#asyncUpdates.size > 0) {
          for (const [updated, event] of [...this.#asyncUpdates]) {
            this.#asyncUpdates.delete(updated);
            updated.asyncRunners!.forEach((runner) => runner.update(event));
          }
        } else if (!this.#context?.settle(this.root)) {
          this.#isQueued = false;
          return;
        }
      }
    } finally {
      swapSource(source);
      this.#isCallingBack = outer;
    }
  }

  /** Tells observers and listeners, until nothing changes any more. */
  #callBack(): void {
    this.#isCallingBack = true;
    try {
      while (this.#changed.length > 0) {
        this.afterOperation?.();
        const nodes = this.#changed;
        this.#flushes += 1;
        if (nodes.length === 1 && this.#observers.length + this.root.listening === 0 && this.#record.rows.length === 0) {
          // Nobody looks at it: list and record serve again (bench: P14).
          nodes.pop();
          this.#record.isEdited = this.#record.isRebased = this.#record.isReset = false;
          continue;
        }
        this.#changed = [];
        this.#report(nodes);
        if (this.root.listening > 0) this.#tell(nodes);
      }
    } finally {
      this.#isCallingBack = false;
    }
  }

  /** Hands the record of the operation to the observers. */
  #report(nodes: readonly BaseNode[]): void {
    const { isEdited, isRebased, isReset, rows } = this.#record;
    const operation = { nodes, isEdited, isRebased, isReset, hasNewValues: isEdited || isRebased || isReset, rows };
    this.#record = newRecord();
    for (const observer of this.#observers) this.guard(() => observer(operation), 'observer');
  }

  /** Calls the listeners of nodes, and of the groups around them, once each. */
  #tell(nodes: readonly BaseNode[]): void {
    const told = new Set<BaseNode>();
    const listeners: (() => void)[] = [];
    for (const node of nodes) {
      for (let at: BaseNode | undefined = node; at !== undefined && !told.has(at); at = at.parent) {
        told.add(at);
        at.listeners?.forEach((listener) => listeners.push(listener));
      }
    }
    for (const listener of listeners) this.guard(listener, 'listener');
  }
}

/**
 * Calls a function of the author; what it throws, or rejects with if it is an async one, is reported.
 *
 * @returns whether it threw nothing
 */
export function reported(callback: () => unknown, report: (error: unknown) => void): boolean {
  try {
    const result = callback();
    if (result !== undefined) Promise.resolve(result).catch(report);
    return true;
  } catch (error) {
    report(error);
    return false;
  }
}

/** Takes what has waited longest. */
function takeFirst<T>(queue: Set<T>): T | undefined {
  for (const first of queue) {
    queue.delete(first);
    return first;
  }
  return undefined;
}

const invalidate = (watch: Watch): void => watch.invalidate();
const runRules = (node: BaseNode): void => node.runRules();
