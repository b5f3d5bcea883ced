// What the tests of the Vue binding draw, on the server and in a browser.

import type { AnyGate, Gate, Handle, Node, Row } from 'upper-gate';
import { useGate, useGateField, useGateList, useGateState, useGateSummary, usePostedGate, type GateList } from 'upper-gate/vue';
import { createApp, createSSRApp, defineComponent, Fragment, h, KeepAlive, onMounted, ref, type Component, type VNode } from 'vue';
import { answer, book, count, draftIn, either, formData, heard, keep, lost, many, moving, nested, renders, schema, sent, type Answer } from './forms.ts';

export { connect } from 'upper-gate/vue';
export { draftIn, renders, sent };
type FormGate = Gate<typeof schema>;

/** An element for each message, with a blank between. */
const messageNodes = (shown: readonly { readonly message: string; readonly severity: string }[]) =>
  shown.flatMap(({ message, severity }, i) => [i > 0 && ' ', h('span', { 'data-gate-severity': severity }, message)]);

/** Draws a component in an element. */
const mounts = (setup: () => () => VNode) => (root: Element) => void createApp(defineComponent(setup)).mount(root);

const Field = defineComponent(
  (props: { gate: AnyGate; of: Handle }) => {
    const field = useGateField(props.gate, () => props.of);
    return () => {
      const { state, label, hint, input, messages } = field;
      count(state.path);
      return h('p', [h('label', label, state.label), h('span', hint, state.hint), h('input', input), h('span', messages, messageNodes(state.shown))]);
    };
  },
  { props: ['gate', 'of'] },
);

/** The rows of a list, and buttons for each. */
const rowsOf = <I extends Node>(list: GateList<I>, draw: (row: Row<I>) => VNode, drop = 'Remove') =>
  list.rows.map((row, index) =>
    h('div', { key: row.key }, [
      draw(row),
      h('button', { type: 'button', onClick: () => list.move(index, index - 1) }, 'Up'),
      h('button', { type: 'button', onClick: () => list.remove(index) }, drop),
    ]),
  );
const adder = (list: GateList, word = 'Add') => [h('span', list.messages, messageNodes(list.shown)), h('button', { ...list.button, onClick: () => list.add() }, word)];

const Crew = defineComponent(
  (props: { gate: FormGate | Gate<typeof heard> }) => {
    const crew = useGateList(props.gate as FormGate, 'crew');
    return () => {
      count('the list');
      return h('fieldset', [h('span', crew.hint, crew.hintText), ...rowsOf(crew, ({ handle }) => h(Field, { gate: props.gate, of: handle })), ...adder(crew)]);
    };
  },
  { props: ['gate'] },
);

const Summary = defineComponent(
  (props: { gate: AnyGate }) => {
    const summary = useGateSummary(props.gate);
    return () =>
      h(Fragment, [
        h('div', summary.line, messageNodes(summary.lineMessages)),
        h('section', summary.place, [h('h2', summary.heading, summary.text), summary.errors.map((error) => h('a', summary.link(error), error.message))]),
      ]);
  },
  { props: ['gate'] },
);

const Status = defineComponent(
  (props: { gate: AnyGate }) => {
    const state = useGateState(props.gate);
    return () => h('output', `${state.value.status} ${state.value.errorCount}`);
  },
  { props: ['gate'] },
);

export const Form: Component = defineComponent(
  (props: { readonly posted?: Answer; readonly initial?: object }) => {
    const { gate, form, answer: last } = usePostedGate(schema, { focus: 'summary', action: book, posted: props.posted, initial: props.initial });
    keep(gate);
    const kind = useGateField(gate, 'kind');
    const side = useGateField(gate, 'side');
    return () => {
      count('the form');
      return h('form', { ...form, action: '/send', method: 'post', 'data-answer': last.value?.title }, [
        h(Summary, { gate }),
        h(Field, { gate, of: gate.field('name') }),
        h(Field, { gate, of: gate.field('again') }),
        h(
          'select',
          { 'aria-label': 'Kind', ...kind.input },
          ['', 'barge', 'canoe'].map((value) => h('option', kind.selectOption(value), value)),
        ),
        h('input', { 'aria-label': 'Port', ...side.option('port') }),
        h('input', { 'aria-label': 'Starboard', ...side.option('starboard') }),
        h(Field, { gate, of: gate.field('ok') }),
        h(Crew, { gate }),
        h('button', { type: 'submit', name: 'way', value: 'up' }, 'Go'),
        h(Status, { gate }),
      ]);
    };
  },
  { props: ['posted', 'initial'] },
);

export function hydrate(root: Element, posted?: Answer): void {
  createSSRApp(Form, { posted }).mount(root);
}

export function mount(root: Element, _strict: boolean, initial?: object): () => void {
  const app = createApp(Form, { initial });
  app.mount(root);
  return () => app.unmount();
}

/** The form on one of two pages, kept alive while the other is shown. */
export function mountKeptAlive(root: Element): void {
  const shown = ref(true);
  Object.assign(globalThis, { shown });
  createApp(() => h(KeepAlive, () => (shown.value ? h(Form) : h({ render: () => h('p', 'Elsewhere') })))).mount(root);
}

/** Mistakes, one of which arrives later. */
const Sloppy = defineComponent(() => {
  const { gate, form } = useGate(schema);
  const arrived = ref(false);
  return () =>
    h('form', form, [
      h(Field, { gate, of: gate.field('name') }),
      h('input', { name: 'typo' }),
      arrived.value && h('input', { name: 'later' }),
      h('button', { onClick: () => (arrived.value = true) }, 'plus'),
      h('input', { type: 'submit' }),
    ]);
});

export function mountSloppy(root: Element): void {
  createApp(Sloppy).mount(root);
}

export const mountMoving = mounts(() => {
  const { gate, form } = useGate(moving);
  keep(gate);
  onMounted(() => void gate.field('day').focus());
  const selects = [useGateField(gate, 'harbour'), useGateField(gate, 'berth')];
  const groups = [useGateField(gate, 'side'), useGateField(gate, 'kit')];
  const day = useGateField(gate, 'day');
  return () =>
    h('form', form, [
      ...selects.map(({ label, input, state, selectOption }) =>
        h('p', [
          h('label', label, state.label),
          h('select', input, [h('option', { value: '' }, 'Choose'), ...(state.options ?? []).map((option) => h('option', selectOption(option.value), option.label))]),
        ]),
      ),
      ...groups.map(({ fieldset, option, state }) =>
        h('fieldset', fieldset, [h('legend', state.label), ...(state.options ?? []).map((each) => h('label', { key: each.value }, [h('input', option(each.value)), each.label]))]),
      ),
      h('label', day.label, day.state.label),
      h('input', day.input),
      h('i', day.hint, day.state.hint),
      h('button', 'Go'),
    ]);
});

export const mountEither = mounts(() => {
  const { gate, form } = useGate(either);
  keep(gate);
  const list = useGateList(gate, 'cargo.items');
  return () => h('form', form, [h('output', `${list.label} ${list.rows.length}`), h('button', { ...list.button, onClick: () => list.add() }, 'Add')]);
});

const Member = defineComponent(
  (props: { gate: AnyGate; of: Row<typeof nested.fields.crew.item> }) => {
    const jobs = useGateList(props.gate, () => props.of.field('jobs'));
    const field = (of: Handle) => h(Field, { gate: props.gate, of });
    return () => [field(props.of.field('name')), ...rowsOf(jobs, ({ handle }) => field(handle), 'Drop'), ...adder(jobs, 'Job')];
  },
  { props: ['gate', 'of'] },
);

export const mountNested = mounts(() => {
  const { gate, form } = useGate(nested);
  const crew = useGateList(gate, 'crew');
  keep(gate);
  return () =>
    h('form', form, [
      h(Field, { gate, of: gate.field('vessel') }),
      ...rowsOf(crew, (row) => h(Member, { gate, of: row })),
      h('button', { type: 'button', onClick: () => crew.add() }, 'Add'),
      h('button', 'Go'),
    ]);
});

/** A required field has no control, one is hidden, and nothing of the form as a whole is drawn. */
export const mountLost = mounts(() => {
  const { gate, form } = useGate(lost, { submit: answer });
  keep(gate);
  const { input } = useGateField(gate, 'again');
  return () => h('form', form, [h(Field, { gate, of: gate.field('name') }), h('input', { ...input, 'aria-label': 'Again', hidden: true }), h('button', 'Go')]);
});

export const mountMany = mounts(() => {
  const { gate, form } = useGate(many);
  keep(gate);
  return () => {
    count('the form');
    return h(
      'form',
      form,
      Object.keys(gate.root.raw as object).map((name) => h(Field, { key: name, gate, of: gate.field(name as never) })),
    );
  };
});

const Options = defineComponent(
  (props: { gate: Gate<typeof heard>; name: 'kit' | 'side' | 'way'; values: readonly string[] }) => {
    const field = useGateField(props.gate, props.name);
    return () => [
      h('span', field.hint, field.state.hint),
      ...props.values.map((value) => h('label', { key: value }, [h('input', field.option(value)), ` ${value}`])),
      h('span', field.messages, messageNodes(field.state.shown)),
    ];
  },
  { props: ['gate', 'name', 'values'] },
);

export const mountHeard = mounts(() => {
  const { gate, form } = useGate(heard, { submit: (data) => book(undefined, formData(data)) });
  keep(gate);
  const kit = useGateField(gate, 'kit');
  const tug = useGateField(gate, 'tug');
  return () =>
    h('form', form, [
      h(Field, { gate, of: gate.field('name') }),
      h(Field, { gate, of: gate.field('code') }),
      h('fieldset', kit.fieldset, [h('legend', 'Kit'), h(Options, { gate, name: 'kit', values: ['horn', 'lights'] })]),
      h('fieldset', [h('legend', 'Course'), h(Options, { gate, name: 'side', values: ['port', 'starboard'] }), h(Options, { gate, name: 'way', values: ['up', 'down'] })]),
      tug.state.applies && h('p', [h('label', tug.label, tug.state.label), h('input', tug.input)]),
      h(Crew, { gate }),
      h('button', 'Go'),
      h('button', { type: 'reset' }, 'Reset'),
    ]);
});
