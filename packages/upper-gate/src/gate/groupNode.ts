// A group in one form: its fields, and the rules and conditions between them.

import type { GroupPart } from '../schema/group.ts';
import type { LiveNode, NodeKit, Recorder } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import { makeView } from '../schema/view.ts';
import { CompositeNode, plainData } from './compositeNode.ts';
import type { BaseNode } from './node.ts';

export class GroupNode extends CompositeNode {
  readonly part: GroupPart;
  override readonly children: BaseNode[] = [];
  /** What callbacks see, by the depth of the groups that declare them. */
  #views: object[] | undefined;

  constructor(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, part: GroupPart, name: string) {
    super(kit, parent, key, name);
    this.part = part;
  }

  child(key: string): BaseNode | undefined {
    return this.children[this.part.positions.get(key) ?? -1];
  }

  readForRule(by?: Recorder, from = this.depth): object {
    const view = (): object => makeView(this.part.keys, (key) => this.kit.readNode(this.child(key)!, by, from));
    return by ? view() : ((this.#views ??= [])[from] ??= view());
  }

  fold(pick: (child: BaseNode) => unknown): object {
    const { keys } = this.part;
    const value = new this.part.Data();
    for (let i = 0; i < keys.length; i += 1) value[keys[i]!] = pick(this.children[i]!);
    return value;
  }

  get data(): object {
    return this.fold(plainData);
  }
}
