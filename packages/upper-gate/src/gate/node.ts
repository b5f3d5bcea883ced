// The live form is a tree of nodes: one for each part of the schema, and for each row of a list. What every node has is
// here: its place, what is counted over it and everything below, how far events have come, and what was found. What it
// holds is a matter of its kind: ./fieldNode.ts, ./groupNode.ts, and beside the declarations of lists and variants.

import { skipsRules } from '../evaluate/field.ts';
import { rank } from '../evaluate/stage.ts';
import { inLanguage } from '../messages/text.ts';
import { NOT_TAKEN, setApplies } from '../schema/applying.ts';
import { childPath, type Finding } from '../schema/finding.ts';
import { atOnce } from '../schema/safeAccess.ts';
import type { AsyncRunner, Count, Job, LiveNode, LiveRule, NamingReport, NodeKit, Recorder, Watch } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import type { Found, Order, Reporter } from '../schema/verdict.ts';
import type { Connection } from './connection.ts';
import { NodeFindings } from './findings.ts';
import { maybeLeft } from './maybeLeft.ts';
import { reachesIn, type ScopedReach } from './reaches.ts';

const NOTHING: readonly never[] = [];

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

  conditionHolds = true;
  disabled = false;
  ownApplies = true;
  takenAt = NOT_TAKEN;
  applies: boolean;
  removed = false;
  condition: Job | undefined;

  /** Whether the user has left the field. */
  visited = false;
  /** How far events have come here: rules of later ones have not run. 0 change, 1 blur, 2 submit. */
  stage = 0;
  /** Whether the findings here may be shown. */
  revealed = false;
  /** The rank of the latest event that shows findings: an edit, leaving, a submit; -1 before. */
  seen = -1;
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
  verdicts: NodeFindings | undefined;

  /** @param name by what name clauses of groups further out know it */
  constructor(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, name = key) {
    this.kit = kit;
    // (Other kinds of nodes extend this class by its types in `kit.ts`.)
    this.parent = parent as BaseNode | undefined;
    this.reaches = reachesIn(this.parent, name);
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
    this.verdicts = undefined;
  }

  // Its place.

  get key(): string {
    this.parent?.countRows();
    return String(this.name);
  }

  get label(): string {
    return inLanguage(this.part.label, this.kit.catalogue);
  }

  get path(): string {
    return this.parent === undefined ? '' : childPath(this.parent.path, this.key);
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
  abstract matches(value: unknown): boolean;
  abstract markSaved(value: unknown): void;
  abstract accept(sent: ReadonlyMap<LiveNode, unknown>, left?: ReadonlySet<LiveNode>): void;
  abstract moveInitial(): void;

  get defaultValue(): unknown {
    const { default: standard } = this.part.settings;
    if (typeof standard !== 'function') return standard;
    try {
      return atOnce((standard as () => unknown)());
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

  get isLeftOut(): boolean {
    return this.part.isLeftOut?.(this.raw) ?? false;
  }

  /** Whether it can be filled in: it applies, or would as soon as something is filled in. */
  get isOffered(): boolean {
    return this.applies || (this.conditionHolds && !this.disabled && !this.removed && this.parent?.isOffered !== false);
  }

  rawChanged(): void {
    if (this.part.isLeftOut) setApplies(this, this.conditionHolds, this.disabled);
  }

  // Events; see ./timing.ts.

  isDue(rule: Reporter): boolean {
    return (rule.on === undefined ? this.kit.onRank : rank(rule.on)) <= this.stage;
  }

  noteEdit(isRebase = false): void {
    const { kit } = this;
    kit.noteEdit(this, isRebase);
    if (!kit.isFollowed) return;
    this.outdate(false);
    // The groups around it have changed too.
    for (let at = this.parent; at !== undefined; at = at.parent) at.outdate(isRebase);
  }

  /** What was added, and what async rules said, was about another value. @param keeps what was added: it is about what the user sent */
  outdate(keeps: boolean): void {
    if (!keeps) this.verdicts?.clearAdded();
    if (this.asyncRunners === undefined) return;
    this.asyncEnabled = true;
    this.asyncRunners.forEach((runner) => runner.delay());
    this.kit.updateAsync(this, 0);
  }

  restartOwn(): void {
    this.kit.tracer?.restarted(this);
    if (this.visited) this.count('touched', -1);
    this.visited = false;
    this.stage = 0;
    this.revealed = false;
    this.seen = -1;
    maybeLeft.delete(this);
    this.asyncEnabled = false;
    this.lastVerdict = undefined;
    this.asyncRunners?.forEach((runner) => runner.forget());
    this.verdicts?.clearAdded();
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
    return this.applies === this.isOffered && (this.liveRules?.some(({ requires }) => requires) ?? false);
  }

  runRules(): void {
    this.liveRules?.forEach((rule) => rule.schedule());
  }

  stopRules(): void {
    this.verdicts?.clear();
    this.asyncRunners?.forEach((runner) => runner.cancel());
    this.liveRules?.forEach((rule) => rule.schedule());
  }

  get syncValid(): boolean {
    const { verdicts, errors, asyncRunners } = this;
    const below = errors - (verdicts?.errors.length ?? 0);
    const elsewhere = asyncRunners?.reduce((sum, { report }) => sum + report.errorsElsewhere, 0) ?? 0;
    return below <= elsewhere && !verdicts?.hasSyncErrors;
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
    return this.verdicts?.findings ?? NOTHING;
  }

  setVerdicts(source: object, order: Order, found: readonly Found[]): void {
    if (this.removed || (this.verdicts === undefined && found.length === 0)) return;
    this.ownVerdicts().set(source, order, found);
  }

  /** What holds the findings here. Most nodes need none. */
  ownVerdicts(): NodeFindings {
    return (this.verdicts ??= new NodeFindings(this));
  }

  reword(): void {
    if (this.verdicts?.reword()) this.kit.markChanged(this);
  }

  count(what: Count, by: number): void {
    if (this.removed) return;
    addCount(this, what, by);
    this.kit.markChanged(this);
  }
}

/** Changes what is counted, at a node and in everything around. */
function addCount(node: BaseNode, what: Count, by: number): void {
  for (let at: BaseNode | undefined = node; at !== undefined; at = at.parent) at[what] += by;
}
