// What the bindings with signals know and refuse: the same in each.

import { choices, createGate, file, group, list, number, required, text, type AnyGate, type Handle, type Node, type Row } from 'upper-gate';
import * as angular from 'upper-gate/angular';
import { defineForms } from 'upper-gate/elements';
import * as solid from 'upper-gate/solid';
import * as svelte from 'upper-gate/svelte';
import { same } from './same.ts';

const passage = group({ vessel: text('Vessel', required()), crew: list('Crew', group({ age: number('Age') })), kit: choices('Kit', ['horn', 'rope']), paper: file<File>('Paper') });
declare const row: Row<typeof passage.fields.crew.item>;

export function inSvelte(): void {
  const { gate, form } = svelte.useGate(passage, { submit: (data) => void (data.vessel satisfies string), messages: () => undefined });
  form satisfies svelte.Attached;
  svelte.useGateField(gate, 'vessel').state.data satisfies string | undefined;
  svelte.useGateField(
    () => gate,
    () => row.field('age'),
  ).state.data satisfies number | undefined;
  same<ReturnType<typeof age>, number | null>(true);
  svelte.useGateList(() => gate, 'crew').rows[0]!.field('age') satisfies Handle;
  svelte.useGateState(gate, (each) => each.field('vessel').data).current satisfies string | undefined;
  svelte.usePostedGate(passage, { action: () => ({ berth: 7 }) }).answer satisfies { berth: number } | undefined;
  // @ts-expect-error -- no such field
  svelte.useGateField(gate, 'vesel');
  // @ts-expect-error -- no list
  void svelte.useGateList(gate, 'vessel').rows;
  // @ts-expect-error -- one or the other
  svelte.usePostedGate(passage, { action: () => undefined, submit: () => undefined });
}
const age = () => svelte.useGateField(createGate(passage), 'crew.0.age').component.value;

export function inSolid(): void {
  const { gate } = solid.useGate(passage, { submit: (data) => void (data.vessel satisfies string) });
  solid.useGateField(() => gate, 'vessel').state.data satisfies string | undefined;
  solid.useGateField(gate, () => row.field('age')).component.value satisfies number | null;
  solid.useGateField(gate, 'kit').component.value satisfies readonly ('horn' | 'rope')[];
  solid.useGateState(gate)().valid satisfies boolean;
  solid.usePostedGate(passage, { action: () => Promise.resolve('M-1') }).answer() satisfies string | undefined;
  // @ts-expect-error -- no such field
  solid.useGateField(gate, 'vesel');
  // @ts-expect-error -- no list
  void solid.useGateList(gate, () => row.field('age')).rows;
}

export function inAngular(): void {
  const { gate, form } = angular.injectGate(passage, { submit: (data) => void (data.vessel satisfies string) });
  form satisfies angular.ElementBundle;
  angular.injectGateField(gate, 'vessel').state().data satisfies string | undefined;
  angular
    .injectGateField(
      () => gate,
      () => row.field('age'),
    )
    .state().data satisfies number | undefined;
  angular.injectGateField(gate, 'paper').component().value satisfies File | null;
  angular.injectGateList(gate, 'crew').rows()[0]!.field('age') satisfies Handle;
  angular.injectGateState(gate, (each) => each.state.status)() satisfies string;
  // @ts-expect-error -- no such field
  angular.injectGateField(gate, 'vesel');
  // @ts-expect-error -- no list
  void angular.injectGateList(gate, 'vessel').rows;
  // @ts-expect-error -- the handler gets what the schema says
  angular.injectGate(passage, { submit: (data: { vessel: number }) => data });
}

export function inElements(): void {
  defineForms({ booking: (form) => createGate(passage, { initial: { vessel: form.dataset['vessel'] ?? '' } }) satisfies AnyGate });
  // @ts-expect-error -- a function makes it: each element has a gate of its own
  defineForms({ booking: createGate(passage) });
  // @ts-expect-error -- no gate
  defineForms({ booking: () => passage satisfies Node });
}
