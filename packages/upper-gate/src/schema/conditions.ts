// Which fields of a group apply, when the group is judged as a whole. Conditions read siblings that may have conditions
// of their own, so they are settled on demand: reading a sibling settles it first.

import type { Source } from './siblings.ts';

/** What settling asks of the group. */
export interface Conditional {
  readonly keys: readonly string[];
  /** Whether a field's condition holds, given a view on its siblings; nothing where it has none. */
  readonly holds: (key: string, source: Source) => boolean | undefined;
  /** Judges a field that applies. */
  readonly judge: (key: string) => void;
  /** The value of a judged field; throws `WAIT` where there is none. */
  readonly read: (key: string) => unknown;
  /** Told of conditions that depend on each other in a circle; those fields apply. */
  readonly circle: (keys: readonly string[]) => void;
}

/**
 * Settles every field of a group: judges those that apply.
 *
 * @returns the fields that do not apply
 */
export function settleConditions(group: Conditional): ReadonlySet<string> {
  const off = new Set<string>();
  const judged = new Set<string>();
  const inCircle = new Set<string>();
  const underWay: string[] = [];
  const source: Source = {
    read(key) {
      settle(key);
      return off.has(key) ? undefined : group.read(key);
    },
  };
  const judge = (key: string): void => {
    if (judged.has(key)) return;
    judged.add(key);
    group.judge(key);
  };
  const settle = (key: string): void => {
    if (judged.has(key) || off.has(key)) return;
    const from = underWay.indexOf(key);
    if (from >= 0) {
      const circle = underWay.slice(from);
      if (!circle.every((member) => inCircle.has(member))) group.circle(circle);
      for (const member of circle) inCircle.add(member);
      judge(key);
      return;
    }
    underWay.push(key);
    const holds = group.holds(key, source);
    underWay.pop();
    if (holds === false && !inCircle.has(key)) off.add(key);
    else judge(key);
  };
  group.keys.forEach(settle);
  return off;
}
