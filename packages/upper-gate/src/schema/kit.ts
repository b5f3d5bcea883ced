// What a part of a schema is handed where it brings behaviour of its own: how a whole value of it is walked.

import type { NO_VALUE } from './noValue.ts';
import type { Part } from './part.ts';
import type { AnyRule, Verdict } from './rule.ts';

/** What a part is handed to walk a whole value of it. */
export interface Walker {
  /** Walks a part under a key; its findings get the key before their paths. @returns its data, or `NO_VALUE` */
  child(part: Part, raw: unknown, key: string | number): unknown;
  /** Walks a part in place of this one, at the same path. @param known a key that belongs to the value beside those of the part */
  instead(part: Part, raw: unknown, known?: string): unknown;
  /** Runs the rules of this part on its data as a whole. */
  rules(part: Part, data: unknown): void;
  /** Reports that this part has no data of its type. */
  reject(part: Part, verdict?: Verdict, rule?: AnyRule): typeof NO_VALUE;
  /** How many values without data there were so far. */
  readonly missing: number;
  /** Marks data in which values are missing, so that callbacks which read one of those wait. @param before `missing` before it was built */
  close(data: object, before: number): void;
  /** How deep the walk is in parts that lie within themselves. */
  depth: number;
}
