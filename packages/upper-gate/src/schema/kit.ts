// What the live node of a part, and a rule in a live form, are handed: the types of what the gate gives them. They never
// import the gate, so that a form pays only for the parts and rules that it declares.

import type { Announcement } from '../messages/codes.ts';
import type { Catalogue, Text } from '../messages/text.ts';
import type { Params } from './finding.ts';
import type { RawOptions } from './option.ts';
import type { Found, Order, Reporter, Verdict } from './verdict.ts';
import type { Traits } from './traits.ts';

/** What callbacks read and whose readers run again when it changes. */
export interface Readable {
  /** The callbacks that read it when they last ran. */
  readers: Set<Watch> | undefined;
}

/** What a rule or condition of a group may read: its data, then the fields beside the one that it is on. */
export type Scopes = readonly [siblings: unknown, beside: unknown];

/** Records what a callback reads. */
export interface Recorder {
  recordRead(what: Readable): void;
}

/** One callback of the schema in one form: knows what it read, and hears when that changes. */
export interface Watch extends Recorder {
  /** What the callback is about. */
  readonly node: LiveNode;
  readonly reads: readonly Readable[];
  /** Something that was read has changed. */
  invalidate(): void;
  /** Calls the callback and records what it reads until it returns. */
  track<T>(callback: () => T): T;
  /** Forgets what was read. */
  untrack(): void;
}

/** Where the verdicts of one rule go: to its part, or to the fields that they name. */
export interface Report {
  /** How many errors it has on other nodes than its own. */
  readonly errorsElsewhere: number;
  /** Replaces what the rule reported before. */
  set(verdicts: readonly Verdict[]): void;
}

/** A report that names other fields. */
export interface NamingReport {
  /** Puts the verdicts where they belong by now: a field that they name may apply, or no longer apply. */
  place(): void;
}

/** Work that runs once in a flush, however often it was queued. */
export interface Job {
  /** Whether it runs before everything else: it decides what applies. */
  readonly isCondition?: boolean;
  isQueued: boolean;
  run(): void;
}

/** A rule of which the params, the values to choose from and what HTML can say of them are known in a live form. */
interface ShownRule extends Reporter {
  readonly attributes?: ((params: Params, traits: Traits) => Readonly<Record<string, string>>) | undefined;
  readonly options?: RawOptions | undefined;
  readonly givesOptions?: boolean | undefined;
}

/** What is said in place of `required`, which nobody could meet. */
export interface Instead {
  readonly verdict: Verdict;
  /** The field that is to be filled in first, if that is why. */
  readonly first?: LiveNode;
}

/** A rule in a live form that reads more than its own value. */
export interface LiveRule {
  readonly rule: ShownRule;
  /** The rule as it is now, where its params depend on other fields: undefined while there is none. */
  readonly now: ShownRule | undefined;
  /** Whether it requires a value now. */
  readonly requires: boolean;
  /** What is said in place of `required` while there are no options to choose from. */
  readonly instead?: Instead | undefined;
  /** Runs it in the flush under way. */
  schedule(): void;
  /** Ends what is under way, of a rule that waits for something. */
  stop?(): void;
}

/** Which nodes cannot be validated, since a fact from outside is lacking, or options have not come. */
export interface Lacking {
  /** @param by 1: it lacks one more; -1: one less */
  add(node: LiveNode, by: 1 | -1): void;
  /** Whether a node itself lacks something. */
  isAt(node: LiveNode): boolean;
  /** Whether it does, or anything below it. */
  isBelow(node: LiveNode): boolean;
}

/** An async rule in a live form. */
export interface AsyncRunner {
  readonly rule: Reporter;
  /** Whether it has an answer to the current value. */
  readonly isAnswered: boolean;
  readonly report: Report;
  /** Ends the wait or the run, and drops the answer. */
  cancel(): void;
  /** Something further in was edited: the pause begins anew, if there is one. */
  delay(): void;
  /** The same, and forgets the answers that were kept. */
  forget(): void;
  /** Starts, waits, recalls an answer or stops, as the part is now; `event` is the rank of what happened. */
  update(event: number): void;
}

/** What the node of a list has beside what every node has. */
export interface LiveRows<P = unknown> {
  readonly rows: readonly LiveNode<P>[];
  /** @throws RangeError for an index that is none */
  rowAt(index: number): LiveNode<P>;
  addRow(value: unknown, at?: number): LiveNode<P>;
  /** @throws RangeError for an index that is none */
  removeRow(index: number): void;
  /** @throws RangeError for an index that is none */
  moveRow(from: number, to: number): void;
  /** The rows as the outside sees and edits them. @param handleOf makes the handle of a node */
  rowsHandle(handleOf: (node: LiveNode<P>) => unknown, subscribe: (listener: () => void) => () => void): object;
}

/** What is counted at a node, and of everything below: errors, findings, runs under way, changed and visited fields. */
export type Count = 'errors' | 'found' | 'pending' | 'dirty' | 'touched';

/** A part of a schema in one form: a field, a group, a list, a row. `P` is the type of parts. */
export interface LiveNode<P = unknown> extends Readable, Record<Count, number> {
  readonly kit: Kit;
  readonly part: P;
  readonly parent: LiveNode<P> | undefined;
  /** How many nodes are above. */
  readonly depth: number;
  readonly children: readonly LiveNode<P>[];
  /** The rows of a list; undefined for everything else. */
  readonly rows: readonly LiveNode<P>[] | undefined;
  /** The name in the group, or the index in the list; `''` for a case of a variant, whose fields are beside its key. */
  readonly key: string;
  /** The same; of a row, the index when the rows were counted last. */
  name: string | number;
  /** Gives every row its index. */
  countRows(): void;
  readonly path: string;
  /** In the language of the form. */
  readonly label: string;
  /** Whether it applies itself: its conditions hold and it is not disabled. What is around it may still not apply. */
  ownApplies: boolean;
  /** If it does not: the depth of the group whose condition says so; the deepest one of several. */
  takenAt: number;
  /** Whether it and everything around it apply. */
  applies: boolean;
  /** Whether its conditions hold. */
  conditionHolds: boolean;
  /** As in HTML: neither validated nor sent. */
  disabled: boolean;
  /** What decides whether its conditions hold. */
  condition: Job | undefined;
  /** The reports of rules here that name other fields. */
  namingReports: Set<NamingReport> | undefined;
  /** A row, or an entry, that is in the form no more, or something in it. */
  removed: boolean;
  readonly required: boolean;
  /** Whether it counts as empty to `required`. */
  readonly empty: boolean;
  /** Whether rules that do not require a value have nothing to validate. */
  readonly skipsRules: boolean;
  /** Whether no sync rule here or below has found an error: only then async rules run. */
  readonly syncValid: boolean;
  /** Whether something happened that lets async rules run: they do not run on initial values. */
  asyncEnabled: boolean;
  /** How many listeners there are, here and below. */
  listening: number;
  /** The rules here that read other values. */
  liveRules: LiveRule[] | undefined;
  asyncRunners: AsyncRunner[] | undefined;
  /** What callbacks that read it compare later to see whether it has changed. */
  readonly sight: unknown;

  /** The data; `NO_VALUE` without data of the right type. */
  readonly data: unknown;
  readonly raw: unknown;
  /** The raw value that a reset leads back to; of a list, the rows as they were given. */
  readonly initial: unknown;
  /** What its part holds to begin with where nothing else is given. */
  readonly defaultValue: unknown;
  /** The raw value that counts as saved. */
  readonly saved: unknown;
  /** The node under a name or index. */
  child(key: string): LiveNode<P> | undefined;
  /**
   * What a callback sees; throws `WAITING` if there is no value.
   *
   * @param by records what is read; default: the callback under way
   * @param from the depth of the group that declares the callback; default: that of the node. What was taken away from further
   *   out has that callback wait: its types know nothing of it
   */
  readForRule(by?: Recorder, from?: number): unknown;
  /** Builds a value of the shape of the part from what `pick` returns for each child. */
  fold(pick: (child: LiveNode<P>) => unknown): unknown;
  /** Edits it: takes what controls hold, or data. */
  edit(value: unknown): void;
  /** Starts over with the initial value, or with another. @param forgets whether that counts as saved, too */
  restart(initial: unknown, given: boolean, forgets: boolean): void;
  /** Takes over a value from outside, where nothing was edited. */
  rebase(value: unknown): void;
  /** Whether what it holds reads as a value does. */
  matches(value: unknown): boolean;
  /** Counts a value as saved. */
  markSaved(value: unknown): void;
  /**
   * Counts what was sent as saved.
   *
   * @param sent what nodes held when it was sent, of those that were edited since
   * @param left what was not sent, and stays as it was saved
   */
  accept(sent: ReadonlyMap<LiveNode, unknown>, left?: ReadonlySet<LiveNode>): void;
  /** Has resets lead back to what counts as saved. */
  moveInitial(): void;
  /** Calls back for it and for everything below. */
  forEach(callback: (node: LiveNode<P>) => void): void;

  isDue(rule: Reporter): boolean;
  fault(error: unknown, rule: string): void;
  readonly now: () => Date;
  setVerdicts(source: object, order: Order, found: readonly Found[]): void;
  /** Writes the findings again: they are in another language, or the path has changed. */
  reword(): void;
  /** Runs the rules here. */
  runRules(): void;
  /** It does not apply any more: nothing is found, and no answer awaited. */
  stopRules(): void;
  /** Changes what is counted, here and in everything around, and notes that. */
  count(what: Count, by: number): void;
  /** Notes an edit: what was found by a server, or by async rules, was about another value. @param isRebase whether it came from outside */
  noteEdit(isRebase?: boolean): void;
  /** The raw value of it, or of something in it, has changed. */
  rawChanged(): void;
  /** Whether it is left out as long as nothing in it is filled in, and nothing is. */
  readonly isLeftOut: boolean;
  /** Clears what is known about events: not visited, nothing shown, nothing asked. */
  restartOwn(): void;
}

/** The node of a field whose rules may read facts from outside. */
export interface FollowingNode extends LiveNode {
  readonly kit: Kit & { start(node: LiveNode): void };
  /** Runs its rules again; set once one of them has read such a fact, which is rare. */
  ownWatch: Watch | undefined;
}

/** The class of the nodes of a kind of part. */
export type NodeClass<P> = new (kit: NodeKit<P>, parent: LiveNode<P> | undefined, key: string, part: P, initial: unknown) => LiveNode<P>;

/** The class that those of all other kinds extend; it has everything but the value. */
export type BaseNodeClass<P> = abstract new (kit: NodeKit<P>, parent: LiveNode<P> | undefined, key: string) => LiveNode<P>;

/** Timers and the present moment. */
export interface FormClock {
  /**
   * Returns the present moment.
   *
   * @returns the moment
   */
  now(): Date;
  /**
   * Calls back once, after a time.
   *
   * @param callback is called
   * @param milliseconds after how long
   * @returns the timer, for `clearTimeout`
   */
  setTimeout(callback: () => void, milliseconds: number): unknown;
  /**
   * Stops a timer.
   *
   * @param timer the timer
   */
  clearTimeout(timer: unknown): void;
}

/** The token of a fact from outside. */
export interface Token {
  readonly name: string;
  /** Whether it is worth something where nothing was given for it. */
  readonly hasFallback: boolean;
  readonly fallback: unknown;
  /** Makes what knows the facts of a form: only forms whose schemas read some need it. */
  attach(kit: Kit): LiveFacts;
}

/** The facts from outside of one form. */
export interface LiveFacts {
  /** What a token is worth. @throws WAITING if nothing was given for it yet @param by records it; default: the callback under way */
  read(token: Token, by?: Recorder): unknown;
  set(token: Token, value: unknown): void;
  /**
   * Has the form invalid as long as a callback waits for a fact.
   *
   * @returns whether that is another than before
   */
  settle(root: LiveNode): boolean;
}

/** Who edits, or says what is wrong: the program, the user on the page, a draft that is restored, the answer of a server. */
export type Actor = 'program' | 'page' | 'draft' | 'server';

/** How far an async rule has come in its course. */
export type AsyncState = 'idle' | 'waiting' | 'running' | 'settled';

/** A rule as whoever follows a form sees it. */
export interface TracedRule extends Pick<Reporter, 'name' | 'on'> {
  /** Of an async rule: its own name, and its pause in milliseconds. */
  readonly async?: { readonly name: string | undefined; readonly debounce: number } | undefined;
  readonly author?: ((...args: never[]) => unknown) | undefined;
}

/**
 * Follows a form as things happen in it: what no state tells afterwards. See `upper-gate/trace`. What it throws is its own affair: it
 * catches everything.
 */
export interface Tracer {
  /** A node is about to hold another value. @param isRebase whether it comes from outside, and is no edit */
  edited(node: LiveNode, isRebase: boolean): void;
  rowChanged(change: RowChange): void;
  left(node: LiveNode): void;
  submitted(): void;
  /** Every callback at a node and below runs again, whatever it read. @param event the rank of what happened: 0 for the last look of a submission */
  reran(node: LiveNode, event: number, reveals: boolean): void;
  /** A node starts over, and everything below it. */
  restarted(node: LiveNode): void;
  /** One of the rules of a field itself has run. */
  ranOwn(node: LiveNode, rule: TracedRule, result: unknown): void;
  /** The rules of a field itself have had their turn. */
  ranAll(node: LiveNode, found: readonly Found[]): void;
  /** A rule that reads other values has run, or has not: then nothing was found. @param reads what it read */
  ran(node: LiveNode, rule: TracedRule, reads: readonly Readable[], found?: readonly Verdict[]): void;
  /** An async rule has come to another state. @param reads what it has read by then @param run its run, if it has one @param options what has come to choose from */
  came(
    node: LiveNode,
    rule: TracedRule,
    state: AsyncState,
    verdicts: readonly Verdict[],
    isAnswered: boolean,
    reads: readonly Readable[],
    run: object | undefined,
    options?: RawOptions,
  ): void;
  /** An async rule would run, but may not. */
  heldBack(node: LiveNode, rule: TracedRule): void;
  /** A run has got its answer when nobody waits for it any more. */
  cameLate(node: LiveNode, rule: TracedRule, run: object): void;
  /** A fact from outside is another. */
  learnt(name: string, value: unknown): void;
  focused(node: LiveNode): void;
  announced(text: string): void;
  faulted(node: LiveNode, rule: string, error: unknown): void;
}

/**
 * Answers an async rule in place of the function of its author: what it then runs. Undefined: the author's function does.
 *
 * @param recorder records what that function would have read
 */
export type AnswerAsync = (rule: TracedRule, node: LiveNode, recorder: Recorder) => ((value: unknown, run: object) => unknown) | undefined;

/** What rules need of the store of their form. */
export interface Kit {
  /** Whoever follows the form; nobody does, most of the time. */
  readonly tracer: Tracer | undefined;
  /** Answers the async rules of a rehearsed form. */
  readonly answerAsync: AnswerAsync | undefined;
  /** Whether an edit matters beyond sync rules: there are async rules, or findings that were added. */
  isFollowed: boolean;
  /** The rank of the first event at which rules run that do not say. */
  readonly onRank: number;
  readonly clock: FormClock;
  /** The present moment, for rules that depend on today's date. */
  readonly now: () => Date;
  /** The node at a path below another. */
  find(path: string, from: LiveNode): LiveNode | undefined;
  /** Runs something that may change several nodes: rules run, and listeners are called, once, after it. */
  batch<T>(operation: () => T): T;
  /** Queues work for the flush. */
  schedule(job: Job): void;
  /** Brings the async rules of a node in line with it. @param event the rank of what happened: 0 change, 1 blur, 2 submit */
  updateAsync(node: LiveNode, event: number): void;
  /** Notes that what a node shows has changed. */
  markChanged(node: LiveNode): void;
  /** Has every callback run again that read a node. */
  changed(node: Readable): void;
  /** See `LiveFacts.read`. */
  readContext(token: Token, by?: Recorder): unknown;
  /** Records what the callback under way reads. */
  recorder: Recorder | undefined;
  /** Records that a callback has read a node. @param by default: the callback under way */
  read(node: Readable, by?: Recorder): void;
  fault(error: unknown, node: LiveNode, rule: string): void;
  /** Which nodes lack a fact that their rules need; there once one does. */
  lackingNodes: Lacking | undefined;
  /**
   * Says something to whoever does not see the page; there once the form is on one.
   *
   * @param name by which a catalogue has the text
   * @param english the text where it has none
   * @param about what it is about, by its label
   * @param holds whether it is still true
   */
  say: ((name: Announcement, english: Text, about: LiveNode, holds: () => boolean, params?: object) => void) | undefined;
  /** The text for a submission that an edit has interrupted. Async rules set it: only they make a submission wait. */
  interrupted: Text | undefined;
  /**
   * Adds an observer of operations. What it throws is a fault.
   *
   * @returns removes it
   */
  observe(observer: (operation: Operation) => void): () => void;
}

/** What nodes need of the store of their form. `P` is the type of parts. */
export interface NodeKit<P> extends Kit {
  /** The rank of the event from which findings are shown, of fields that do not say. */
  readonly revealRank: number;
  /** The language of the messages. */
  readonly catalogue: Catalogue | undefined;
  /** Notes an edit, for the record of the operation. */
  noteEdit(node: LiveNode, isRebase: boolean): void;
  /** The same for rows that came, went or moved by an edit. */
  noteRow(change: RowChange): void;
  /** There while a form is sent: told what a node held, before it holds something else. */
  readonly onReplace: ((node: LiveNode, held: unknown) => void) | undefined;
  /** The class that those of kinds of nodes extend. */
  readonly BaseNode: BaseNodeClass<P>;
  /** @param name by what name clauses of groups further out know it; default: its key */
  createNode(part: P, parent: LiveNode<P> | undefined, key: string, initial: unknown, name?: string): LiveNode<P>;
  /**
   * Begins an edit, which `end()` ends: rules run, and listeners are called, once the outermost operation is over.
   *
   * @returns whether it may be made; not when the form is disposed of, the row is removed, or callbacks edit without end
   */
  beginEdit(node: LiveNode): boolean;
  end(): void;
  /** How many nodes follow the raw values in them: lists with other rows than the saved ones, and parts that may be left out. */
  rawFollowers: number;
  /** Tells a node, and what is around it, that its raw value has changed. */
  rawChanged(node: LiveNode | undefined): void;
  /** Counts the rows that were given out. */
  rowsMade: number;
  /** Has the rules of new nodes run as soon as it is known which of them apply. */
  start(node: LiveNode): void;
  /** Reads a node for a callback: nothing if it does not apply. @param from see `LiveNode.readForRule` */
  readNode(node: LiveNode, by: Recorder | undefined, from: number): unknown;
}

/** What an edit did to a row of a list. `N` is the type of nodes. */
export type RowChange<N = LiveNode> = { readonly list: N; readonly row: N } & (
  | { readonly kind: 'added'; readonly to: number }
  | { readonly kind: 'removed'; readonly from: number }
  | { readonly kind: 'moved'; readonly from: number; readonly to: number }
);

/** What happened in one operation. Whoever follows a form gets it at the end of the operation, before listeners are called. */
export interface Operation<N = LiveNode> {
  /** What has changed, in the order in which it first did. */
  readonly nodes: readonly N[];
  /** Whether something was edited. */
  readonly isEdited: boolean;
  /** Whether values came from outside (`rebase`). */
  readonly isRebased: boolean;
  readonly isReset: boolean;
  /** Whether any of these gave the form other values. */
  readonly hasNewValues: boolean;
  /** The rows that came, went and moved by edits, in this order. */
  readonly rows: readonly RowChange<N>[];
}

/** Attaches a rule to a live form. `R` is the type of rules. @param target what it reports on @param scope what it may read */
export type AttachRule<R> = (rule: R, target: LiveNode, scope: LiveNode, order: Order) => void;

/** Says something else of a field that lacks a value, while a rule on it waits. @param reads what the rule read: the last of it is what it waits for */
export type WhileWaiting = (live: { instead?: Instead | undefined }, target: LiveNode, reads: readonly Readable[]) => void;
