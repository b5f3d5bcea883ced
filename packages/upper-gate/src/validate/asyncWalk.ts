// A walk over a whole value that notes the async rules, to be run after it.

import type { Scopes } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import { readable } from '../evaluate/readable.ts';
import { isPendingCheck } from './entries.ts';
import { Walk } from './walk.ts';

export class AsyncWalk extends Walk {
  defer(rule: AnyRule, part: Part, value: unknown, scopes: Scopes | undefined): void {
    this.entries.push({ path: '', part, rule, value, scopes });
  }

  /** What the fields of a group may read is known once the group is. */
  endGroup(data: object, from: number): void {
    const pending = this.entries.slice(from).filter(isPendingCheck);
    if (pending.length === 0) return;
    const siblings = readable(this, data);
    for (const entry of pending) entry.scopes ??= [siblings, siblings];
  }
}
