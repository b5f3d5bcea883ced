// An either-or in one form: the field that chooses, and a group for each of its values, of which one applies.

import { BESIDE } from '../finding.ts';
import { createWatch } from '../../evaluate/tracking.ts';
import { NOT_TAKEN, setApplies } from '../applying.ts';
import type { BaseNodeClass, Job, LiveNode, NodeClass, NodeKit, Recorder } from '../kit.ts';
import { NO_VALUE } from '../noValue.ts';
import type { Part } from '../part.ts';
import { ownValue } from '../safeAccess.ts';
import { makeView } from '../view.ts';

/** What a variant node needs to know of its part. */
interface VariantLike extends Part {
  readonly key: string;
  readonly chooser: Part;
  readonly cases: Readonly<Record<string, Part & { readonly keys: readonly string[] }>>;
}
type Child = LiveNode<Part>;

/** What a callback sees of a variant: the fields of the case that was chosen, beside the choice. */
export const seenVariant = (key: string, value: unknown, names: readonly string[], readField: (name: string) => unknown): object =>
  makeView([key, ...names], (name) => (name === key ? value : readField(name)));

/** Makes a node apply only while a function holds. */
function applyWhile(node: Child, kit: NodeKit<Part>, holds: () => boolean): void {
  const watch = createWatch(node, () => kit.schedule(condition));
  const condition: Job = {
    isCondition: true,
    isQueued: false,
    run: () => (node.removed ? watch.untrack() : setApplies(node, watch.track(holds), node.disabled, NOT_TAKEN)),
  };
  node.condition = condition;
  kit.schedule(condition);
}

/** Makes the class of variant nodes. */
export const variantNode = (Base: BaseNodeClass<Part>): NodeClass<Part> =>
  class VariantNode extends Base {
    override readonly kit: NodeKit<Part>;
    override readonly part: VariantLike;
    /** The field that chooses, then a group for each case. */
    override readonly children: readonly Child[];
    readonly #values: readonly string[];

    constructor(kit: NodeKit<Part>, parent: Child | undefined, key: string, part: Part, initial: unknown) {
      super(kit, parent, key);
      this.kit = kit;
      this.part = part as VariantLike;
      const { key: name, chooser, cases } = this.part;
      this.#values = Object.keys(cases);
      const choosing = kit.createNode(chooser, this, name, ownValue(initial, name));
      this.children = [choosing, ...Object.entries(cases).map(([value, group]) => kit.createNode(group, this, BESIDE, initial, value))];
      this.#values.forEach((value, i) =>
        applyWhile(this.children[i + 1]!, kit, () => {
          kit.read(choosing);
          return choosing.data === value;
        }),
      );
    }

    get #chooser(): Child {
      return this.children[0]!;
    }

    /** The group that was chosen. */
    get #chosen(): Child | undefined {
      const at = this.#values.indexOf(String(this.#chooser.data));
      return at < 0 ? undefined : this.children[at + 1];
    }

    override child(key: string): Child | undefined {
      if (key === this.part.key) return this.#chooser;
      const cases = this.children.slice(1);
      return this.#chosen?.child(key) ?? cases.map((group) => group.child(key)).find(Boolean);
    }

    override readForRule(by?: Recorder, from = this.depth): unknown {
      const { key, cases } = this.part;
      const value = this.kit.readNode(this.#chooser, by, from);
      if (value === undefined) return undefined;
      const group = this.#chosen!;
      return seenVariant(key, value, cases[value as string]!.keys, (name) => this.kit.readNode(group.child(name)!, by, from));
    }

    override get empty(): boolean {
      return this.#chooser.empty;
    }

    override get skipsRules(): boolean {
      return this.empty;
    }

    override get required(): boolean {
      return this.#chooser.required;
    }

    override fold(pick: (child: Child) => unknown): object {
      const value = pick(this.#chooser);
      // What is picked is not always of now: the case that counts as saved is that of the saved choice.
      const at = this.#values.indexOf(String(value));
      return { [this.part.key]: value, ...(at >= 0 && (this.children[at + 1]!.fold(pick) as object)) };
    }

    override get data(): unknown {
      const { data } = this.#chooser;
      return data === NO_VALUE || data === undefined ? data : { [this.part.key]: data, ...(this.#chosen!.data as object) };
    }

    override edit(value: unknown): void {
      if (typeof value !== 'object' || value === null) return;
      const { key } = this.part;
      this.kit.batch(() => {
        // The field that chooses goes first: the others are those of what it chose.
        if (Object.hasOwn(value, key)) this.#chooser.edit(ownValue(value, key));
        super.edit(value);
      });
    }

    override matches(value: unknown): boolean {
      return this.#chooser.matches(ownValue(value, this.part.key)) && (this.#chosen?.matches(value) ?? true);
    }
  };
