// What the types of the bindings refuse, and what they know.

import { boolean, choice, choices, createGate, file, group, list, number, recursive, required, text, type AnyGate, type Handle, type Node, type Row } from 'upper-gate';
import { same } from './same.ts';
import { useGate, useGateField, useGateList, useGateState, usePostedGate } from 'upper-gate/react';
import { useGateField as useVueField, useGateList as useVueList, usePostedGate as useVuePosted } from 'upper-gate/vue';

const passage = group({ vessel: text('Vessel', required()), kind: choice('Kind', ['barge', 'canoe']), crew: list('Crew', group({ age: number('Age') })) });

export function component(): void {
  const { gate } = useGate(passage, { submit: (data) => void (data.vessel satisfies string) });
  useGateField(gate, 'vessel').state.data satisfies string | undefined;
  useGateField(gate, 'kind').state.data satisfies 'barge' | 'canoe' | undefined;
  useGateField(gate, 'crew.0.age').state.data satisfies number | undefined;
  // @ts-expect-error -- no such field
  useGateField(gate, 'vesel');
  const { rows } = useGateList(gate, 'crew');
  useGateField(gate, rows[0]!.field('age')).state.data satisfies number | undefined;
  const nested = useGate(group({ lock: group({ gates: list('Gates', text('Gate')) }) })).gate;
  useGateList(nested, 'lock.gates').rows[0]!.handle.raw satisfies string;
  useVueList(nested, 'lock.gates').add('x');
  // @ts-expect-error -- no list
  void useGateList(gate, 'vessel').rows;
  // @ts-expect-error -- no such field of the row
  rows[0]!.field('agee');
  const outer = createGate(group({ crew: list('Crew', group({ jobs: list('Jobs', number('Job')) })) }));
  const jobs = outer.list('crew').row(0).field('jobs');
  outer.list(jobs).row(0).handle.data satisfies number | undefined;
  useGateList(outer, jobs).rows[0]!.handle.data satisfies number | undefined;
  useVueList(outer, () => jobs).rows[0]!.handle.data satisfies number | undefined;
  // @ts-expect-error -- not what a row is
  outer.list(jobs).add({ job: 1 });
  // @ts-expect-error -- no list
  void useGateList(gate, rows[0]!.field('age'));
  // @ts-expect-error -- no list
  void useVueList(gate, () => rows[0]!.field('age'));
  // @ts-expect-error -- no list
  gate.list(rows[0]!.field('age'));
  useGateState(gate, (each) => each.field('vessel').data) satisfies string | undefined;
  useGateState(gate).valid satisfies boolean;
  useGate(passage, { idPrefix: 'booking' });
  // @ts-expect-error -- the handler gets what the schema says
  useGate(passage, { submit: (data: { vessel: number }) => data });

  const posted = { raw: { vessel: 'Otter' }, findings: [] };
  usePostedGate(passage, { action: (_, data) => fetch('/bookings', { method: 'POST', body: data }), posted }).gate.state.valid satisfies boolean;
  useVuePosted(passage, { action: (_, data) => fetch('/bookings', { method: 'POST', body: data }), posted }).gate.state.valid satisfies boolean;
  usePostedGate(passage, { submit: (data) => data.vessel satisfies string, posted });
  usePostedGate(passage, { action: (before: typeof posted | undefined, data: FormData): typeof posted | undefined => (data.has('x') ? before : undefined) }).form.action satisfies (
    data: FormData,
  ) => void;
  // What the handler returns is what comes of it; what the action answers is there, also before there was script.
  void createGate(passage, { submit: async () => Promise.resolve({ berth: 7 }) })
    .submit()
    .then((outcome) => outcome.status === 'accepted' && (outcome.reply.berth satisfies number));
  useGate(passage, { submit: () => 'M-1' }).gate.on('accepted', ({ reply }) => reply satisfies string);
  createGate(passage, { submit: () => 1 }) satisfies AnyGate;
  usePostedGate(passage, { action: () => ({ berth: 7 }), posted }).answer satisfies { berth: number } | typeof posted | undefined;
  useVuePosted(passage, { action: () => Promise.resolve('M-1') }).answer.value satisfies string | undefined;
  // @ts-expect-error -- the answer may not be there yet
  useVuePosted(passage, { action: () => 'M-1' }).answer.value satisfies string;
  // @ts-expect-error -- not what the action gets
  usePostedGate(passage, { action: (before: number | undefined) => before, posted });
  // @ts-expect-error -- one or the other
  usePostedGate(passage, { action: () => undefined, submit: () => undefined });

  const held = useGate(group({ n: number('N', required()), b: boolean('B'), c: choice('C', ['x']), s: choices('S', ['x', 'y']), f: file<File>('F'), t: text('T') })).gate;
  const { component: draught } = useGateField(held, 'n');
  same<typeof draught.value, number | null>(true);
  // (For props that may be left out, and not be undefined.)
  draught satisfies { disabled?: boolean; 'aria-describedby'?: string; required: boolean };
  useGateField(held, 'b').component.value satisfies boolean;
  useGateField(held, 'c').component.value satisfies string;
  useVueField(held, 's').component.modelValue satisfies readonly ('x' | 'y')[];
  useVueField(held, 'f').component.modelValue satisfies File | null;
  useVueField(held, 't').component.modelValue satisfies string;
  // @ts-expect-error -- null is no number
  draught.value satisfies number;

  useVueField(gate, () => rows[0]!.field('age')).state.data satisfies number | undefined;
  // @ts-expect-error -- no such field
  useVueField(gate, 'vesel');
  useVueList(gate, 'crew').rows[0]!.field('age');
}

interface Lock {
  name: string;
  sides: Lock[];
}
const lock = group({
  name: text('Name', required()),
  sides: list(
    'Side locks',
    recursive((): Node<Lock> => lock),
  ),
});
const flight = createGate(lock);
/** A component for rows within rows, as deep as they are. */
export function sides(of: Row<typeof lock.fields.sides.item>): unknown {
  return useGateList(flight, of.field('sides')).rows.map((row) => [row.field('name').data satisfies string | undefined, sides(row)]);
}

/** A component for every form. */
export const field = (gate: AnyGate, of: Handle): string => useGateField(gate, of).state.label;
field(createGate(passage), createGate(passage).field('vessel'));
