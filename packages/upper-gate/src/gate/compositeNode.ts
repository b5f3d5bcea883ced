// A node that holds its value in others: what groups, lists and variants have in common.

import { BESIDE } from '../schema/finding.ts';
import type { LiveNode } from '../schema/kit.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { BaseNode } from './node.ts';

export abstract class CompositeNode extends BaseNode {
  get raw(): unknown {
    return this.fold((child) => child.raw);
  }

  get initial(): unknown {
    return this.fold((child) => child.initial);
  }

  get saved(): unknown {
    return this.fold((child) => child.saved);
  }

  edit(value: unknown): void {
    if (typeof value !== 'object' || value === null || !this.kit.beginEdit(this)) return;
    try {
      for (const [key, inner] of Object.entries(value)) this.child(key)?.edit(inner);
    } finally {
      this.kit.end();
    }
  }

  restart(initial: unknown, given: boolean, forgets: boolean): void {
    this.restartOwn();
    for (const child of this.children) child.restart(valueOf(child, initial), given, forgets);
    this.runRules();
  }

  rebase(value: unknown): void {
    for (const child of this.children) {
      const inner = valueOf(child, value);
      // What is not named stays.
      if (inner !== undefined) child.rebase(inner);
    }
  }

  matches(value: unknown): boolean {
    return this.children.every((child) => !child.ownApplies || child.matches(valueOf(child, value)));
  }

  markSaved(value: unknown): void {
    for (const child of this.children) child.markSaved(valueOf(child, value));
  }

  accept(sent: ReadonlyMap<LiveNode, unknown>, left?: ReadonlySet<LiveNode>): void {
    for (const child of this.children) if (!left?.has(child)) child.accept(sent, left);
  }

  moveInitial(): void {
    for (const child of this.children) child.moveInitial();
  }
}

/** What a value of a part holds for one of its children. The fields of a variant's case are beside its key. */
const valueOf = (child: LiveNode, value: unknown): unknown => (child.key === BESIDE ? value : ownValue(value, child.key));

/** The data of a node within the data around it: undefined if it does not apply, or has no data of its type. */
export function plainData(node: LiveNode): unknown {
  if (!node.ownApplies) return undefined;
  const { data } = node;
  return data === NO_VALUE ? undefined : data;
}
