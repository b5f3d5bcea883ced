// The form of the scenes: the same for React and Vue.

import { boolean, choice, group, list, required, sameAs, text, variant } from 'upper-gate';

export const schema = group({
  name: text({ label: 'Name', hint: 'As painted' }, required()),
  again: text('Again'),
  kind: choice('Kind', ['barge', 'canoe'], required()),
  side: choice('Side', ['port', 'starboard']),
  ok: boolean('Fine'),
  crew: list('Crew', text('Member', required())),
}).rules({ again: sameAs('name') });

/** Two lists of one name, in an either-or. */
export const either = group({
  cargo: variant('Cargo', 'load', { goods: group({ items: list('Crates', text('Crate')) }), gravel: group({ items: list('Heaps', text('Heap')) }) }),
});

/** A form of 1,000 fields. */
export const many = group(Object.fromEntries(Array.from({ length: 1000 }, (_, i) => [`f${i}`, text(`Field ${i}`, required())])));

/** How often each component has rendered. */
export const renders: Record<string, number> = {};
export const count = (name: string): void => void (renders[name] = (renders[name] ?? 0) + 1);

/** Lets the test reach something. */
export const keep = (gate: unknown): void => void Object.assign(globalThis, { gate });
