// A plain, a React and a Vue form as an application's tests drive them, in a page that is no browser.

import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { act, createElement } from 'react';
import { createRoot } from 'react-dom/client';
import { check, context, createGate, group, list, required, text, validate, type AnyGate } from 'upper-gate';
import { attach, partsOf, rawIn, toggled, wireForm, drawLine } from 'upper-gate/binding';
import { bindForm, errorSummary, schemaFromForm, templateRows } from 'upper-gate/dom';
import { useGate as useReactGate, useGateField as useReactField, useGateSummary as useReactSummary } from 'upper-gate/react';
import { useGate, useGateField, useGateSummary } from 'upper-gate/vue';
import { createApp, defineComponent, h, nextTick, reactive, ref, shallowRef } from 'vue';

const schema = group({ vessel: text('Vessel', required()), crew: list('Crew', group({ name: text('Name', required()) })) });

const mounts: Record<string, (root: HTMLElement) => () => void> = {
  plain(root) {
    root.innerHTML = `<form><label>Vessel <input name="vessel"></label><p data-gate-messages="vessel"></p><x-y></x-y><button>Go</button>
      <template data-gate-rows="crew"><div><input id="n" name="name" aria-label="Name"><p data-gate-messages="name"></p></div></template></form>`;
    return bindForm(root.querySelector('form')!, createGate(schema, { initial: { crew: [{ name: 'Ann' }] } }), { rows: templateRows, summary: errorSummary });
  },
  'a custom binding'(root) {
    const gate = createGate(schema);
    const field = gate.field('vessel');
    root.innerHTML = '<form><input aria-label="Vessel"><p data-gate-messages="vessel"></p></form>';
    const [form, input, messages] = ['form', 'input', 'p'].map((name) => root.querySelector(name)!) as [HTMLFormElement, HTMLInputElement, HTMLElement];
    input.addEventListener('input', (event) => field.set(rawIn(field, event) as string));
    const draw = () => {
      const { input: control } = partsOf(gate, field, field.state, undefined);
      for (const [name, value] of Object.entries(control)) {
        input.removeAttribute(name);
        if (value !== undefined && value !== false) input.setAttribute(name, String(value));
      }
      messages.replaceChildren(...field.shown.map(({ message }) => message));
    };
    draw();
    const undo = [field.subscribe(draw), attach(gate, field, input), wireForm(form, gate)];
    return () => undo.forEach((each) => each());
  },
  React(root) {
    function Form() {
      const { gate, form } = useReactGate(schema);
      const { input, messages } = useReactField(gate, 'vessel');
      const { line } = useReactSummary(gate);
      return createElement(
        'form',
        form,
        createElement('p', line),
        createElement('input', { ...input, 'aria-label': 'Vessel' }),
        createElement('p', messages),
        createElement('button', null, 'Go'),
      );
    }
    const app = createRoot(root);
    act(() => app.render(createElement(Form)));
    return () => act(() => app.unmount());
  },
  Vue(root) {
    const Form = defineComponent(() => {
      const { gate, form } = useGate(schema);
      const field = useGateField(gate, 'vessel');
      const summary = useGateSummary(gate);
      const shown = () => field.state.shown.map(({ message }) => h('span', message));
      return () => h('form', form, [h('p', summary.line), h('input', { ...field.input, 'aria-label': 'Vessel' }), h('p', field.messages, shown()), h('button', 'Go')]);
    });
    const app = createApp(Form);
    app.mount(root);
    return () => app.unmount();
  },
};

export function testForms(): void {
  Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true });
  const settle = async () => {
    await act(() => new Promise((resolve) => setTimeout(resolve)));
    await nextTick();
  };
  let unmount: (() => void) | undefined;
  afterEach(() => {
    unmount?.();
    document.body.replaceChildren();
  });

  describe.each(Object.entries(mounts))('%s', (_, mount) => {
    test('a refusal shows messages and moves the focus; an edit takes the message away', async () => {
      unmount = mount(document.body.appendChild(document.createElement('div')));
      await settle();
      const form = document.querySelector('form')!;
      const input = document.querySelector<HTMLInputElement>('[name=vessel]')!;
      const messages = () => document.querySelector('[data-gate-messages=vessel]')!.textContent;
      act(() => void form.dispatchEvent(new Event('submit', { bubbles: true, cancelable: true })));
      await settle();
      expect(messages()).toContain('Vessel');
      expect(document.activeElement).toBe(input);
      expect(input.getAttribute('aria-invalid')).toBe('true');
      // As a user types: through the element's own setter, as React wants it.
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(input, 'Otter');
      act(() => void input.dispatchEvent(new Event('input', { bubbles: true })));
      await settle();
      expect(messages()).toBe('');
    });
  });

  test('parts of a binding: ticked options keep the order of the options; what can only take the focus, and a control in a shadow root, do', async () => {
    const options = ['a', 'b', 'c'].map((value) => ({ value, label: value }));
    expect([toggled({ raw: ['c'], options }, 'a', true), toggled({ raw: ['a', 'c'], options }, 'a', false)]).toEqual([['a', 'c'], ['c']]);
    const host = document.body.appendChild(document.createElement('div'));
    host.attachShadow({ mode: 'open' }).append(document.createElement('input'));
    let focused = 0;
    for (const target of [host, { focus: () => (focused += 1) }]) {
      const gate = createGate(schema);
      attach(gate, gate.field('vessel'), target);
      await gate.submit();
    }
    // An element may be tied to another field later.
    const [gate, input] = [createGate(schema), document.createElement('input')];
    const undo = attach(gate, gate.field('vessel'), input);
    await gate.submit();
    undo();
    attach(createGate(schema), createGate(schema, { initial: { vessel: 'Otter' } }).field('vessel'), input);
    expect(input.validationMessage).toBe('');
    // What has the focus in a shadow root is its host to the document.
    expect([document.activeElement === host, focused]).toEqual([true, 1]);
  });

  test('facts from outside that a component gives: values that are others follow, equal ones that are made anew are no news', async () => {
    const quays = context<{ free: readonly string[] }>('quays');
    let runs = 0;
    const berth = text(
      'Berth',
      check((value: string) => (runs += 1) > 0 && quays.get().free.includes(value)),
    );
    const initial = { berth: 'B' };
    const given = shallowRef(['A']);
    const gates: AnyGate[] = [];
    const facts = () => [quays.of({ free: [...given.value] })];
    const root = createRoot(document.body.appendChild(document.createElement('div')));
    const Form = () => (gates.push(useReactGate(group({ berth }), { initial, context: facts() }).gate), null);
    const app = createApp(defineComponent(() => (gates.push(useGate(group({ berth }), { initial, context: facts }).gate), () => null)));
    app.mount(document.createElement('div'));
    for (const [free, ran] of [
      [['A'], true],
      [['A'], false],
      [['A', 'B'], true],
    ] as const) {
      runs = 0;
      given.value = [...free];
      act(() => root.render(createElement(Form)));
      await settle();
      const valid = [gates[0]!, gates.at(-1)!].map(({ state }) => state.valid);
      expect({ free, valid, ran: runs > 0 }).toEqual({ free, valid: valid.map(() => free.length > 1), ran });
    }
    app.unmount();
    act(() => root.unmount());
  });

  test('a schema of a page: each box that is required is to be ticked, by whoever validates', () => {
    document.body.innerHTML =
      '<form>' + ['a', 'b'].map((value) => `<input type="checkbox" name="kit" value="${value}" required>`).join('') + '<input type="checkbox" name="kit" value="c"></form>';
    const schema = schemaFromForm(document.querySelector('form')!);
    const codes = (kit: unknown) => validate(schema, { kit }).findings.map(({ code }) => code);
    expect([codes(['a']), codes('a'), codes(['a', 'b']), codes(['b', 'a', 'c'])]).toEqual([['valueMissing'], ['valueMissing'], [], []]);
  });

  test('a hint that nothing shows is told; what Vue has made reactive works as it is', async () => {
    const told: string[] = [];
    const warn = jest.spyOn(console, 'warn').mockImplementation((text) => void told.push(String(text)));
    const hinted = group({ vessel: text({ label: 'Vessel', hint: 'As painted' }, required()) });
    const { gate, again } = reactive({ schema: hinted, gate: createGate(hinted), again: ref(createGate(hinted)) });
    for (const shown of ['', '<small data-gate-hint="vessel"></small>', 'As painted, of course']) {
      document.body.innerHTML = `<form><label>Vessel <input name="vessel"></label>${shown}</form>`;
      const undo = bindForm(document.querySelector('form')!, createGate(reactive({ hinted }).hinted));
      await settle();
      undo();
    }
    warn.mockRestore();
    expect(told).toEqual([expect.stringContaining('the hint of "vessel" shows nowhere: "As painted"')]);
    gate.field('vessel').set('Otter');
    expect([gate.root.data, await again.submit()]).toMatchObject([{ vessel: 'Otter' }, { status: 'refused' }]);
  });

  test('the line above the form is its author’s as long as it is drawn, and is made without that', () => {
    const form = document.body.appendChild(document.createElement('form'));
    const gate = createGate(schema);
    const made = () => document.querySelector('form > [data-gate-messages=""]')?.textContent;
    const undo = wireForm(form, gate);
    gate.addFindings([{ path: '', message: 'Closed' }]);
    const told = [made()];
    const undraw = drawLine(gate, document.createElement('p'));
    told.push(made());
    undraw();
    expect([...told, made()]).toEqual(['Closed', undefined, 'Closed']);
    undo();
  });
}
