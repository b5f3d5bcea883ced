// A field in one form: what its control holds, and what that reads as.

import { dataRead, evaluateField, readValue, skipsRules } from '../evaluate/field.ts';
import { sameValue } from '../schema/sameValue.ts';
import { isUnreadable, type FieldPart } from '../schema/field.ts';
import type { FollowingNode, LiveNode, NodeKit, Watch } from '../schema/kit.ts';
import { NO_VALUE, WAITING } from '../schema/noValue.ts';
import { atOnce } from '../schema/safeAccess.ts';
import type { Part } from '../schema/part.ts';
import type { Found, Order, Reporter, RuleResult } from '../schema/verdict.ts';
import { BaseNode } from './node.ts';
import { come } from './timing.ts';

/** The source of what reading and the rules of a field itself find. */
const OWN = {};
/** Before all others, but for a condition that threw. */
const OWN_ORDER: Order = { depth: Infinity, index: 1 };

export class FieldNode extends BaseNode implements FollowingNode {
  readonly part: FieldPart;
  raw: unknown;
  /** The raw value that a reset leads back to. */
  initial: unknown;
  saved: unknown;
  /** What the saved value reads as. */
  savedData: unknown;
  /** What reading yielded: the value, or why there is none. */
  value: unknown;
  /** The value, or `NO_VALUE`. */
  data: unknown;
  /** Whether a value was given for it: else that of the page's markup counts. */
  isGiven: boolean;
  /** Whether its rules are running. */
  isRunning = false;
  ownWatch: Watch | undefined;

  constructor(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, part: FieldPart, initial: unknown) {
    super(kit, parent, key);
    this.part = part;
    this.isGiven = initial !== undefined;
    this.raw = this.initial = this.saved = this.begin(initial);
    this.value = readValue(part, this.raw, this);
    this.data = this.savedData = dataRead(part, this.value);
  }

  /** What it holds to begin with. */
  begin(initial: unknown): unknown {
    return initial === undefined ? this.writeData(this.defaultValue) : this.write(initial);
  }

  /** From what is known to be data to what a control can hold. */
  writeData(data: unknown): unknown {
    return this.write(data, this.part.spec.writeData);
  }

  /** From data or raw to what a control can hold. */
  write(value: unknown, how = this.part.write): unknown {
    const { part } = this;
    if (value === undefined || value === null) return part.emptyRaw;
    if (how === undefined) return value;
    try {
      const raw = atOnce(how(value, this.locale ?? 'en'));
      return raw ?? part.emptyRaw;
    } catch (error) {
      // The value is kept as it is: reading it reports what is wrong.
      this.fault(error, 'write');
      return value;
    }
  }

  override translate(before: string | undefined): void {
    this.part.spec.translate?.(this, before);
  }

  readIn(raw: unknown, locale: string | undefined): unknown {
    const value = readValue(this.part, raw, { fault: (error, rule) => this.fault(error, rule), locale });
    return isUnreadable(value) ? undefined : value;
  }

  /** Whether two raw values are the same. */
  same(a: unknown, b: unknown): boolean {
    const { part } = this;
    if (part.same === undefined) return Object.is(a, b);
    try {
      return atOnce(part.same(a, b));
    } catch (error) {
      this.fault(error, 'same');
      return false;
    }
  }

  /** Whether a raw value, or what it reads as, is the same as another. */
  readsAs(raw: unknown, data: unknown, otherRaw: unknown, otherData: unknown): boolean {
    return this.same(raw, otherRaw) || (data !== NO_VALUE && sameValue(data, otherData));
  }

  override edit(value: unknown): void {
    const { kit } = this;
    if (!kit.beginEdit(this)) return;
    try {
      const raw = this.write(value);
      this.asyncEnabled = true;
      come(this, 0);
      if (!this.same(raw, this.raw)) {
        this.noteEdit();
        this.replace(raw);
      }
    } finally {
      kit.end();
    }
  }

  /** Takes another raw value, whoever gives it. */
  replace(raw: unknown): void {
    const { kit, data: before } = this;
    kit.onReplace?.(this, this.raw);
    this.raw = raw;
    this.readRaw();
    kit.markChanged(this);
    this.asyncRunners?.forEach((runner) => runner.cancel());
    this.runRules();
    if (!Object.is(before, this.data)) kit.changed(this);
    kit.rawChanged(this);
  }

  /** Reads the raw value, and counts whether it is another than the saved one. */
  readRaw(): void {
    this.value = readValue(this.part, this.raw, this);
    this.data = dataRead(this.part, this.value);
    const dirty = this.readsAs(this.raw, this.data, this.saved, this.savedData) ? 0 : 1;
    if (dirty !== this.dirty) this.count('dirty', dirty - this.dirty);
  }

  override restart(initial: unknown, given: boolean, forgets: boolean): void {
    this.restartOwn();
    if (given) this.isGiven = initial !== undefined;
    if (given || (!this.isGiven && this.part.settings.default !== undefined)) this.initial = this.begin(initial);
    if (forgets) this.markSaved(this.initial);
    this.replace(this.initial);
  }

  override rebase(value: unknown): void {
    const edited = this.dirty > 0;
    this.isGiven = true;
    this.initial = this.write(value);
    this.markSaved(this.initial);
    if (edited || this.dirty === 0) return;
    this.noteEdit(true);
    this.replace(this.initial);
  }

  override matches(value: unknown): boolean {
    const raw = this.write(value);
    return this.readsAs(this.raw, this.data, raw, dataRead(this.part, readValue(this.part, raw, this)));
  }

  override markSaved(value: unknown): void {
    this.setSaved(this.write(value));
    this.readRaw();
  }

  /** Sets the saved value. The caller then compares the present one with it. */
  setSaved(raw: unknown): void {
    this.saved = raw;
    this.savedData = dataRead(this.part, readValue(this.part, raw, this));
  }

  override accept(sent: ReadonlyMap<LiveNode, unknown>): void {
    this.markSaved(sent.has(this) ? sent.get(this) : this.raw);
  }

  override moveInitial(): void {
    this.initial = this.saved;
    this.isGiven = true;
  }

  override runRules(): void {
    if (this.isRunning) {
      // A rule edits its own field: the rules run again when they are through.
      this.kit.start(this);
      return;
    }
    if (this.applies) {
      this.isRunning = true;
      try {
        const found = this.part.follow === undefined ? evaluateField(this.part, this.value, this) : this.#follow();
        this.kit.tracer?.ranAll(this, found);
        if (found.length > 0 || this.verdicts !== undefined) this.setVerdicts(OWN, OWN_ORDER, found);
      } finally {
        this.isRunning = false;
      }
    }
    if (this.liveRules !== undefined) super.runRules();
  }

  /** Runs its rules, and follows what they read. (Apart from its caller: a function that captures variables is slower on each call.) */
  #follow(): readonly Found[] {
    return this.part.follow!(this, () => evaluateField(this.part, this.value, this));
  }

  get ran(): ((rule: Reporter, result: RuleResult) => void) | undefined {
    const { tracer } = this.kit;
    return tracer && ((rule, result) => tracer.ranOwn(this, rule, result));
  }

  override stopRules(): void {
    this.ownWatch?.untrack();
    super.stopRules();
  }

  override reread(): void {
    const { data } = this;
    this.readRaw();
    if (sameValue(data, this.data)) this.data = data;
    else {
      this.kit.markChanged(this);
      this.kit.changed(this);
    }
  }

  override get sight(): unknown {
    return this.ownApplies ? this.data : undefined;
  }

  override get empty(): boolean {
    return this.data !== NO_VALUE && this.part.isEmpty(this.data);
  }

  override get skipsRules(): boolean {
    return skipsRules(this.part, this.data, this);
  }

  override get required(): boolean {
    return (this.part.mandatory && this.applies === this.isOffered) || super.required;
  }

  readForRule(): unknown {
    if (this.data === NO_VALUE) throw WAITING;
    return this.data;
  }

  child(): undefined {
    return undefined;
  }

  fold(): undefined {
    return undefined;
  }
}
