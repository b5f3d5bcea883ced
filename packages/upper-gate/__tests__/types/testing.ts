// What the types of rehearsals refuse, and what they know.

import { choice, createGate, group, list, number, required, text } from 'upper-gate';
import { rehearse, samples, type Script } from 'upper-gate/testing';
import { explain, traceGate, type Entry } from 'upper-gate/trace';

const passage = group({
  vessel: text('Vessel', required()),
  kind: choice('Kind', ['barge', 'canoe']),
  crew: list('Crew', group({ name: text('Name'), age: number('Age') })),
});

export const played = rehearse(passage, async (user, answers) => {
  await user.types('vessel', 'Otter', { pace: 100 });
  await user.enters('kind', 'barge');
  await user.enters('crew.0.age', '41');
  await user.enters('crew.0.age', 41);
  await user.adds('crew', { name: 'Ann' });
  await user.expects('', { status: 'refused' });
  user.gate.field('crew.1.name').set('Bo');
  // @ts-expect-error -- there is no such field
  await user.types('vesel', 'Otter');
  // @ts-expect-error -- no kind of boat
  await user.enters('kind', 'raft');
  // @ts-expect-error -- no list
  await user.adds('vessel');
  // @ts-expect-error -- a row has no such field
  await user.adds('crew', { rank: 1 });
  // @ts-expect-error -- a form has no such state
  await user.expects('', { status: 'done' });
  // @ts-expect-error -- an answer has no such key
  answers.rule('isKnown', [{ afterwards: 100 }]);
});

export const made = samples(passage).then(({ valid }) => {
  const vessel: string = valid[0]!.vessel;
  // @ts-expect-error -- raw values of a choice
  const kind: 'raft' = valid[0]!.kind;
  return [vessel, kind];
});

// @ts-expect-error -- a step has one verb
export const script: Script = { steps: [{ jumps: 'vessel' }] };

export function kindsOf(entry: Entry): string {
  // An entry is known by its kind.
  if (entry.kind === 'edited') return `${entry.by} ${entry.path} ${String(entry.raw)}`;
  // @ts-expect-error -- an announcement is at no path
  if (entry.kind === 'announced') return entry.path as string;
  return entry.kind;
}
export const sentences: readonly string[] = explain(traceGate(createGate(passage)), 'vessel');
