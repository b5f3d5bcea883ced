// A dictionary in one form: entries that come and go by their keys.

import type { BaseNodeClass, LiveNode, NodeClass, NodeKit, Recorder } from '../kit.ts';
import { UNREADABLE } from '../field.ts';
import { NO_VALUE } from '../noValue.ts';
import type { Part } from '../part.ts';
import { removeNode } from '../removeNode.ts';
import { makeView } from '../view.ts';
import { isWellFormed } from '../wellFormed.ts';

/** What the node of a dictionary needs to know of its part. */
interface DictionaryLike extends Part {
  readonly part: Part;
}
type Entry = LiveNode<Part>;
type Values = Readonly<Record<string, unknown>>;

const objectOf = (value: unknown): Values | undefined =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Values) : undefined;

/** Makes the class of the nodes of dictionaries. */
export const dictionaryNode = (Base: BaseNodeClass<Part>): NodeClass<Part> =>
  class DictionaryNode extends Base {
    override readonly kit: NodeKit<Part>;
    override readonly part: DictionaryLike;
    override children: readonly Entry[] = [];
    /** The same by key. */
    #byKey: ReadonlyMap<string, Entry> = new Map();
    /** The values that a reset leads back to, raw or data. */
    #initial: Values;
    /** The entry that holds the saved value, by key: the entry itself, or a copy if it was removed. */
    #saved: ReadonlyMap<string, Entry>;
    /** How often entries came or went. */
    #arrangements = 0;
    #isRearranged: 0 | 1 = 0;
    /** Whether it was given keys that no entry can have. */
    #hasStrangers = false;

    constructor(kit: NodeKit<Part>, parent: Entry | undefined, key: string, part: Part, initial: unknown) {
      super(kit, parent, key);
      this.kit = kit;
      this.part = part as DictionaryLike;
      this.#initial = this.#beginning(initial);
      this.#hold(this.#entriesOf(this.#initial));
      this.#saved = this.#byKey;
    }

    #hold(entries: readonly Entry[]): void {
      this.children = entries;
      this.#byKey = new Map(entries.map((entry) => [entry.key, entry]));
    }

    #beginning(initial: unknown): Values {
      return objectOf(initial === undefined ? this.defaultValue : initial) ?? {};
    }

    #entry(key: string, value: unknown): Entry {
      return this.kit.createNode(this.part.part.rowIn?.(this) ?? this.part.part, this, key, value);
    }

    /** The entries of values. Keys that no entry can have are noted, and reported. */
    #entriesOf(values: Values): readonly Entry[] {
      const { part } = this;
      const keys = Object.keys(values);
      const found = keys.filter((key) => !isWellFormed(key)).map(() => ({ rule: undefined, verdict: UNREADABLE.verdict }));
      if (found.length > 0 || this.#hasStrangers) this.setVerdicts(part, { depth: this.depth, index: 0 }, found);
      this.#hasStrangers = found.length > 0;
      return keys.filter(isWellFormed).map((key) => this.child(key) ?? this.#entry(key, values[key]));
    }

    override child(key: string): Entry | undefined {
      return this.#byKey.get(key);
    }

    override get sight(): unknown {
      return this.#arrangements;
    }

    override get empty(): boolean {
      return this.children.length === 0;
    }

    override readForRule(by?: Recorder, from = this.depth): unknown {
      const { kit } = this;
      kit.read(this, by);
      const entries = this.#byKey;
      return makeView([...entries.keys()], (key) => kit.readNode(entries.get(key)!, by, from));
    }

    override fold(pick: (entry: Entry) => unknown): object {
      return Object.fromEntries(this.children.map((entry) => [entry.key, pick(entry)]));
    }

    override get data(): unknown {
      return this.fold(({ data, ownApplies }) => (ownApplies && data !== NO_VALUE ? data : undefined));
    }

    /** Takes other entries; those that stay keep everything. */
    #take(entries: readonly Entry[]): void {
      const { kit } = this;
      kit.onReplace?.(this, this.children);
      const stay = new Set(entries);
      const known = new Set(this.children);
      for (const entry of known) if (!stay.has(entry)) removeNode(entry);
      this.#hold(entries);
      this.#arrangements += 1;
      for (const entry of entries) {
        if (known.has(entry)) continue;
        // It is compared with what is saved under its key.
        const saved = this.#saved.get(entry.key);
        if (saved && saved !== entry) entry.markSaved(saved.saved);
        kit.start(entry);
      }
      this.#compareWithSaved();
      kit.rawChanged(this);
      kit.markChanged(this);
      this.runRules();
      kit.changed(this);
    }

    override edit(value: unknown): void {
      const values = objectOf(value);
      if (!values || !this.kit.beginEdit(this)) return;
      try {
        const before = new Set(this.children);
        const entries = this.#entriesOf(values);
        for (const entry of entries) if (before.has(entry)) entry.edit(values[entry.key]);
        if (entries.length === before.size && entries.every((entry) => before.has(entry))) return;
        this.noteEdit();
        this.asyncEnabled = true;
        this.#take(entries);
      } finally {
        this.kit.end();
      }
    }

    // Values from outside, and what counts as saved.

    override restart(initial: unknown, given: boolean, forgets: boolean): void {
      this.restartOwn();
      if (given) this.#initial = this.#beginning(initial);
      this.#take([]);
      this.#take(this.#entriesOf(this.#initial));
      if (forgets) this.#save(this.#byKey);
    }

    override rebase(value: unknown): void {
      const values = objectOf(value);
      if (!values) return;
      this.#initial = values;
      // What was removed here stays so; what was edited or came here stays, too.
      const kept = this.children.filter((entry) => !Object.hasOwn(values, entry.key) && (entry.dirty > 0 || !this.#saved.has(entry.key)));
      const wanted = Object.entries(values).filter(([key]) => !this.#saved.has(key) || this.#byKey.has(key));
      for (const [key, inner] of wanted) this.child(key)?.rebase(inner);
      const entries = [...this.#entriesOf(Object.fromEntries(wanted)), ...kept];
      const isOther = entries.length !== this.children.length || entries.some((entry) => this.child(entry.key) !== entry);
      const now = new Map(entries.map((entry) => [entry.key, entry]));
      this.#save(this.#savedOf(values, (key) => now.get(key)));
      if (!isOther) return;
      this.noteEdit(true);
      this.#take(entries);
    }

    /** The entries that hold saved values: the present ones, and a copy for each removed one. */
    #savedOf(values: Values, find: (key: string) => Entry | undefined): ReadonlyMap<string, Entry> {
      const keys = Object.keys(values).filter(isWellFormed);
      return new Map(keys.map((key) => [key, find(key) ?? this.#entry(key, values[key])]));
    }

    override matches(value: unknown): boolean {
      const values = objectOf(value) ?? {};
      return (
        Object.keys(values).length === this.children.length &&
        this.children.every((entry) => Object.hasOwn(values, entry.key) && entry.matches(values[entry.key]))
      );
    }

    override get initial(): Values {
      return this.#initial;
    }

    override get saved(): Values {
      return Object.fromEntries([...this.#saved].map(([key, entry]) => [key, entry.saved]));
    }

    override markSaved(value: unknown): void {
      const values = objectOf(value) ?? {};
      this.children.forEach((entry) => Object.hasOwn(values, entry.key) && entry.markSaved(values[entry.key]));
      this.#save(this.#savedOf(values, (key) => this.child(key)));
    }

    override accept(sent: ReadonlyMap<LiveNode, unknown>, left?: ReadonlySet<LiveNode>): void {
      const entries = (sent.get(this) ?? this.children) as readonly Entry[];
      const saved = new Map<string, Entry>();
      for (const entry of entries) {
        const before = this.#saved.get(entry.key);
        if (!left?.has(entry)) {
          entry.accept(sent, left);
          saved.set(entry.key, entry);
        } else if (before) saved.set(entry.key, before);
      }
      this.#save(saved);
    }

    override moveInitial(): void {
      this.#initial = this.saved;
      super.moveInitial();
    }

    #save(saved: ReadonlyMap<string, Entry>): void {
      this.#saved = saved;
      this.#compareWithSaved();
    }

    /** Counts whether there are other entries than the saved ones. */
    #compareWithSaved(): void {
      const isSame = this.children.length === this.#saved.size && this.children.every(({ key }) => this.#saved.has(key));
      const now = isSame ? 0 : 1;
      const by = now - this.#isRearranged;
      this.#isRearranged = now;
      if (by !== 0) this.count('dirty', by);
    }
  };
