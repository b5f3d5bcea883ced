// The hooks where there is no DOM: on a server, and where React draws something else than HTML.

import { expect, test } from '@jest/globals';
import { createElement } from 'react';
import { renderToString } from 'react-dom/server';
import { createGate, group, required, text } from 'upper-gate';
import { attach, describeField, leave, partsOf, rawIn, setDisabled } from 'upper-gate/binding';
import { useGate as useReactGate, useGateField as useReactField } from 'upper-gate/react';
import { useGate, useGateField } from 'upper-gate/vue';
import { createSSRApp, h } from 'vue';
import { renderToString as renderVue } from 'vue/server-renderer';

const passage = group({ vessel: text('Vessel', required()) });

test('ids begin with what the author says, so that roots and apps of one page do not share any', async () => {
  const InReact = ({ idPrefix }: { readonly idPrefix?: string }) => {
    const { gate } = useReactGate(passage, idPrefix === undefined ? {} : { idPrefix });
    return createElement('input', useReactField(gate, 'vessel').input as object);
  };
  const setup = (options: object) => () => {
    const field = useGateField(useGate(passage, options).gate, 'vessel');
    return () => h('input', field.input);
  };
  const inVue = (options: object) => renderVue(createSSRApp({ setup: setup(options) }));
  const idIn = (html: string) => /id="([^"]*)"/.exec(html)![1];
  expect(idIn(renderToString(createElement(InReact, { idPrefix: 'booking' })))).toBe('booking-vessel');
  expect(idIn(await inVue({ idPrefix: 'booking' }))).toBe('booking-vessel');
  expect(idIn(await inVue({}))).toBe(idIn(await inVue({})));
});

test('what the hooks do to an element works with anything that takes the focus', async () => {
  expect(typeof document).toBe('undefined');
  const gate = createGate(passage);
  const vessel = gate.field('vessel');
  let focused = 0;
  const undo = attach(gate, vessel, { focus: () => void (focused += 1) });
  describeField(gate, vessel);
  leave(gate, vessel, { target: 17, relatedTarget: null });
  expect(vessel.shown).toHaveLength(1);
  await gate.submit();
  expect([focused, vessel.focus()]).toEqual([1, true]);
  vessel.set(rawIn(vessel, 'Otter') as string);
  expect(partsOf(gate, vessel, vessel.state, undefined).component).toMatchObject({ value: 'Otter', required: true, 'aria-invalid': false });
  setDisabled(vessel, true);
  undo();
  leave(gate, vessel);
  expect([vessel.applies, vessel.focus()]).toEqual([false, false]);
});
