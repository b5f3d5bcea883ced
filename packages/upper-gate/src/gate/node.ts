// The live form is a tree of nodes: one for each part of the schema, and for each row of a list. What every node has is
// here: its place, what is counted over it and everything below, how far events have come, and what was found. What it
// holds is a matter of its kind: ./fieldNode.ts, ./groupNode.ts, and beside the declarations of lists and variants.

import { skipsRules } from '../evaluate/field.ts';
import { BLUR, rank } from '../evaluate/stage.ts';
import { NOT_TAKEN } from '../schema/applying.ts';
import { join, type Finding } from '../schema/finding.ts';
import type { AsyncRunner, Job, LiveNode, LiveRule, NamingReport, NodeKit, Recorder, Watch } from '../schema/kit.ts';
import type { Part, Reach } from '../schema/part.ts';
import type { Found, Order, Reporter } from '../schema/verdict.ts';
import { NodeFindings } from './findings.ts';

/** What is needed of an element, to tell where it stands. */
export interface Placed {
  compareDocumentPosition(other: never): number;
  getRootNode?(): unknown;
}

/** How to move the focus to a field. `element` places it in document order. */
export interface Connection {
  /**
   * Moves the focus there. If `opens` is true, it opens closed parts of the page around it. Returns `false` if the focus could
   * not move.
   */
  readonly focus?: (opens: boolean) => unknown;
  readonly element?: Placed | undefined;
  /**
   * Shows the field, or a group around it: opens a tab or a dialog. Returns `false` if there was nothing to open, or a promise if
   * the page has to load it. If that fails, the errors there are shown above the form.
   */
  readonly show?: () => unknown;
}

/** What a clause says about a part, and the node of the group that it is a clause of. */
interface ScopedReach {
  readonly scope: BaseNode;
  readonly reach: Reach;
}

const NOTHING: readonly never[] = [];

/** What clauses say of a part in a node, those of the innermost group first. @param name by what name they know it */
function reachesOn(parent: BaseNode, name: string): readonly ScopedReach[] {
  const own = parent.part.clauses?.reaches ?? NOTHING;
  if (own.length + parent.reaches.length === 0) return NOTHING;
  return [...own.map((reach) => ({ scope: parent, reach })), ...parent.reaches].flatMap(({ scope, reach }): readonly ScopedReach[] => {
    const inner = reach.below.get(name);
    return inner ? [{ scope, reach: inner }] : NOTHING;
  });
}

export abstract class BaseNode implements LiveNode<Part> {
  abstract readonly part: Part;
  readonly kit: NodeKit<Part>;
  readonly parent: BaseNode | undefined;
  readonly depth: number;
  name: string | number;
  /** What the clauses of groups around it say of it, and of what is in it. */
  readonly reaches: readonly ScopedReach[];
  readonly children: readonly BaseNode[] = NOTHING;

  errors = 0;
  found = 0;
  pending = 0;
  dirty = 0;
  touched = 0;
  listening = 0;

  /** Whether its conditions hold. */
  conditionHolds = true;
  /** As in HTML: neither validated nor sent. */
  disabled = false;
  ownApplies = true;
  takenAt = NOT_TAKEN;
  applies: boolean;
  /** A row that is in the form no more. */
  removed = false;
  /** What decides whether it applies. */
  condition: Job | undefined;

  /** Whether the user has left the field. */
  visited = false;
  /** How far events have come here: rules of later ones have not run. 0 change, 1 blur, 2 submit. */
  stage = 0;
  /** Whether the findings here may be shown. */
  revealed = false;
  asyncEnabled = false;
  /** Whether `pass` (0) or `fail` (1) was emitted last. */
  lastVerdict: 0 | 1 | undefined;
  /** The flush in which a change here was noted last. */
  changedIn = 0;

  readers: Set<Watch> | undefined;
  liveRules: LiveRule[] | undefined;
  asyncRunners: AsyncRunner[] | undefined;
  namingReports: Set<NamingReport> | undefined;

  listeners: Set<() => void> | undefined;
  connections: Set<Connection> | undefined;
  /** The handle that was given out. */
  handle: unknown;
  /** The snapshot that was given out; dropped at every change here or below. */
  snapshot: unknown;

  /** What was found here; nothing as long as nothing was. */
  held: NodeFindings | undefined;

  /** @param name by what name clauses of groups further out know it */
  constructor(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, name = key) {
    this.kit = kit;
    // (Whoever makes nodes of other kinds knows this class by what `kit.ts` says of it.)
    this.parent = parent as BaseNode | undefined;
    // A list's key stands for each of its rows.
    this.reaches =
      this.parent === undefined ? NOTHING : this.parent.rows === undefined ? reachesOn(this.parent, name) : this.parent.reaches;
    this.depth = parent === undefined ? 0 : parent.depth + 1;
    this.name = key;
    this.applies = this.parent === undefined || this.parent.applies;
    // Set here, though most stay so: nodes are alike then, and an edit of one is as fast after others have got these (bench: P14).
    this.condition = undefined;
    this.lastVerdict = undefined;
    this.readers = undefined;
    this.liveRules = undefined;
    this.asyncRunners = undefined;
    this.namingReports = undefined;
    this.listeners = undefined;
    this.connections = undefined;
    this.handle = undefined;
    this.snapshot = undefined;
    this.held = undefined;
  }

  // Its place.

  get key(): string {
    this.parent?.countRows();
    return String(this.name);
  }

  get path(): string {
    return this.parent === undefined ? '' : join(this.parent.path, this.key);
  }

  get rows(): readonly BaseNode[] | undefined {
    return undefined;
  }

  countRows(): void {
    // Only lists have rows.
  }

  abstract child(key: string): BaseNode | undefined;

  forEach(callback: (node: BaseNode) => void): void {
    callback(this);
    for (const child of this.children) child.forEach(callback);
  }

  // What it holds.

  abstract readonly raw: unknown;
  abstract readonly initial: unknown;

  abstract readonly saved: unknown;
  abstract readonly data: unknown;
  abstract readForRule(by?: Recorder, from?: number): unknown;
  abstract fold(pick: (child: BaseNode) => unknown): unknown;
  abstract edit(value: unknown): void;
  abstract restart(initial: unknown, given: boolean, forgets: boolean): void;
  abstract rebase(value: unknown): void;
  abstract holds(value: unknown): boolean;
  abstract markSaved(value: unknown): void;
  abstract accept(sent: ReadonlyMap<LiveNode, unknown>, left?: ReadonlySet<LiveNode>): void;
  abstract moveInitial(): void;

  get defaultValue(): unknown {
    const { default: standard } = this.part.settings;
    if (typeof standard !== 'function') return standard;
    try {
      return (standard as () => unknown)();
    } catch (error) {
      this.fault(error, 'default');
      return undefined;
    }
  }

  get sight(): unknown {
    return this.ownApplies;
  }

  get empty(): boolean {
    return false;
  }

  get skipsRules(): boolean {
    return skipsRules(this.part, this.children, this);
  }

  /** Reads the raw value again: a kind may read it by more than it. */
  reread(): void {
    // Only fields read.
  }

  /** The form is in another language: what is written by it is written again. @param before the language until now */
  translate(_before: string | undefined): void {
    // Only fields are written.
  }

  /** A field further in was edited. */
  rowEdited(): void {
    // Only lists compare their rows.
  }

  // Whether it applies.

  // Events.

  get revealStage(): number {
    const { reveal } = this.part.settings;
    return reveal === undefined ? this.kit.revealRank : rank(reveal);
  }

  isDue(rule: Reporter): boolean {
    return (rule.on === undefined ? this.kit.onRank : rank(rule.on)) <= this.stage;
  }

  /** Shows what is found here, from now on. */
  reveal(): void {
    if (this.revealed) return;
    this.revealed = true;
    this.kit.markChanged(this);
  }

  /** An event has come here. */
  advance(event: number): void {
    this.asyncEnabled = true;
    const before = this.stage;
    if (before < event) {
      const isLate = (rule: Reporter): boolean => !this.isDue(rule);
      const hasLate = this.part.ruleList.some(isLate) || !!this.liveRules?.some(({ rule }) => isLate(rule));
      this.stage = event;
      if (hasLate) this.runRules();
    }
    this.kit.updateAsync(this, event);
  }

  /** The user has left the field: the groups around it were left, too. */
  leave(): void {
    if (!this.kit.beginEdit(this)) return;
    try {
      if (!this.visited) this.count(0, 0, 0, 0, 1);
      this.visited = true;
      if (this.revealStage <= BLUR) this.reveal();
      this.advance(BLUR);
      for (let at = this.parent; at !== undefined; at = at.parent) at.advance(BLUR);
    } finally {
      this.kit.end();
    }
  }

  noteEdit(isRebase = false): void {
    const { kit } = this;
    kit.noteEdit(isRebase);
    if (!kit.isFollowed) return;
    this.outdate();
    // The groups around it have changed too.
    for (let at = this.parent; at !== undefined; at = at.parent) at.outdate();
  }

  /** What was added, and what async rules said, was about another value. */
  outdate(): void {
    this.held?.clearAdded();
    if (this.asyncRunners === undefined) return;
    this.asyncEnabled = true;
    this.kit.updateAsync(this, 0);
  }

  restartOwn(): void {
    if (this.visited) this.count(0, 0, 0, 0, -1);
    this.visited = false;
    this.stage = 0;
    this.revealed = false;
    this.asyncEnabled = false;
    this.lastVerdict = undefined;
    this.asyncRunners?.forEach((runner) => runner.forget());
    this.held?.clearAdded();
    this.kit.markChanged(this);
  }

  // Rules.

  get locale(): string | undefined {
    return this.kit.catalogue?.locale;
  }

  get now(): () => Date {
    return this.kit.now;
  }

  fault(error: unknown, rule: string): void {
    this.kit.fault(error, this, rule);
  }

  get required(): boolean {
    return this.liveRules?.some(({ requires }) => requires) ?? false;
  }

  runRules(): void {
    this.liveRules?.forEach((rule) => rule.schedule());
  }

  /** It does not apply any more: nothing is found, and nothing asked. */
  stopRules(): void {
    this.held?.clear();
    this.asyncRunners?.forEach((runner) => runner.cancel());
    this.liveRules?.forEach((rule) => rule.schedule());
  }

  get syncValid(): boolean {
    const { held, errors, asyncRunners } = this;
    const below = errors - (held?.errors.length ?? 0);
    const elsewhere = asyncRunners?.reduce((sum, { report }) => sum + report.errorsElsewhere, 0) ?? 0;
    return below <= elsewhere && !held?.hasSyncErrors;
  }

  /** Whether every rule here has run on the current value. */
  get validated(): boolean {
    return (
      this.part.ruleList.every((rule) => rule.async !== undefined || this.isDue(rule)) &&
      (this.liveRules?.every(({ rule }) => this.isDue(rule)) ?? true) &&
      (this.asyncRunners?.every(({ isAnswered }) => isAnswered || this.skipsRules) ?? true)
    );
  }

  // Findings.

  /** The findings here, in the order of the rules, then what was added. */
  get findings(): readonly Finding[] {
    return this.held?.findings ?? NOTHING;
  }

  setVerdicts(source: object, order: Order, found: readonly Found[]): void {
    if (this.removed || (this.held === undefined && found.length === 0)) return;
    this.hold().set(source, order, found);
  }

  /** What holds the findings here. Most nodes need none. */
  hold(): NodeFindings {
    return (this.held ??= new NodeFindings(this));
  }

  reword(): void {
    if (this.held?.reword()) this.kit.markChanged(this);
  }

  /** Changes what is counted, here and in everything around. */
  count(errors: number, found: number, pending: number, dirty: number, touched: number): void {
    if (this.removed) return;
    addCounts(this, errors, found, pending, dirty, touched);
    this.kit.markChanged(this);
  }
}

/** Changes what is counted, at a node and in everything around. */
function addCounts(node: BaseNode, errors: number, found: number, pending: number, dirty: number, touched: number): void {
  for (let at: BaseNode | undefined = node; at !== undefined; at = at.parent) {
    at.errors += errors;
    at.found += found;
    at.pending += pending;
    at.dirty += dirty;
    at.touched += touched;
  }
}
