// What a walk over a whole value yields, in schema order.

import type { Fault } from '../schema/walker.ts';
import type { Finding } from '../schema/finding.ts';
import type { Scopes } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';

/** An async rule that is still to run; it stands among the findings where its answer will stand. */
export interface PendingCheck {
  readonly path: string;
  readonly part: Part;
  readonly rule: AnyRule;
  readonly value: unknown;
  /** What it may read; nothing as long as the group around it has not been walked. */
  readonly scopes: Scopes | undefined;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** What a walk yields. */
export type Entry = Mutable<Finding> | Mutable<PendingCheck> | Mutable<Fault>;

export const isPendingCheck = (entry: Entry): entry is Mutable<PendingCheck> => 'part' in entry;
export const isFault = (entry: Entry): entry is Mutable<Fault> => 'error' in entry;
export const isFinding = (entry: Entry): entry is Mutable<Finding> => 'severity' in entry;
