// Which fields of a group apply, when the group is judged as a whole. Conditions read siblings that may have conditions
// of their own, so they are settled on demand: reading a sibling settles it first.

import type { Source } from './siblings.ts';

/** What settling asks of a group. */
export interface Conditional {
  readonly keys: readonly string[];
  /** Whether a field's condition holds, given its siblings; true where it has none. */
  holds(key: string, siblings: Source): boolean;
  /** Judges a field that applies. */
  judgeKey(key: string): void;
  /** The value of a judged field; throws `WAIT` where there is none. */
  read(key: string): unknown;
  /** Told of conditions that depend on each other in a circle; those fields apply. */
  circle(keys: readonly string[]): void;
}

/**
 * Settles every field of a group: judges those that apply.
 *
 * @returns the fields that do not apply
 */
export function settleConditions(group: Conditional): ReadonlySet<string> {
  const off = new Set<string>();
  const judged = new Set<string>();
  const circular = new Set<string>();
  const underWay: string[] = [];
  const judge = (key: string): void => {
    if (!judged.has(key)) group.judgeKey(key);
    judged.add(key);
  };
  const settle = (key: string): void => {
    if (judged.has(key) || off.has(key)) return;
    const from = underWay.indexOf(key);
    if (from >= 0) {
      const circle = underWay.slice(from);
      if (!circular.has(key)) group.circle(circle);
      circle.forEach((member) => circular.add(member));
      judge(key);
      return;
    }
    underWay.push(key);
    const holds = group.holds(key, {
      read(sibling) {
        settle(sibling);
        return off.has(sibling) ? undefined : group.read(sibling);
      },
    });
    underWay.pop();
    if (holds || circular.has(key)) judge(key);
    else off.add(key);
  };
  group.keys.forEach(settle);
  return off;
}
