/** @jsxImportSource solid-js */
// What the tests of the Solid binding draw, on the server and in a browser.

import { createRenderEffect, createSignal, For, on, onMount, Show, type JSX } from 'solid-js';
import { hydrate as takeOver, render } from 'solid-js/web';
import type { AnyGate, Gate, Handle, Node, Row } from 'upper-gate';
import { useGate, useGateField, useGateList, useGateState, useGateSummary, usePostedGate, type GateList } from 'upper-gate/solid';
import { answer, book, count, either, formData, heard, keep, lost, many, moving, nested, schema, type Answer } from './forms.ts';

export { connect } from 'upper-gate/solid';
export { draftIn, renders, sent } from './forms.ts';

/** Draws a component in an element. */
const mounts = (Scene: () => JSX.Element) => (root: Element) => void render(() => <Scene />, root);

/** An element for each message, with a blank between. */
const Messages = (props: { readonly shown: readonly { readonly message: string; readonly severity: string }[] }) => (
  <For each={props.shown}>
    {({ message, severity }, i) => (
      <>
        {i() > 0 && ' '}
        <span data-gate-severity={severity}>{message}</span>
      </>
    )}
  </For>
);

function Field(props: { readonly gate: AnyGate; readonly of: Handle }) {
  const field = useGateField(props.gate, () => props.of);
  createRenderEffect(() => count(field.state.path));
  return (
    <p>
      <label {...field.label}>{field.state.label}</label> <span {...field.hint}>{field.state.hint}</span> <input {...field.input} />{' '}
      <span {...field.messages}>
        <Messages shown={field.state.shown} />
      </span>
    </p>
  );
}

/** The rows of a list, and buttons for each. */
const Rows = <I extends Node>(props: { readonly list: GateList<I>; readonly drop?: string; readonly children: (row: Row<I>) => JSX.Element }) => (
  <For each={props.list.rows}>
    {(row, index) => (
      <div>
        {props.children(row)}
        <button type="button" onClick={() => props.list.move(index(), index() - 1)}>
          Up
        </button>
        <button type="button" onClick={() => props.list.remove(index())}>
          {props.drop ?? 'Remove'}
        </button>
      </div>
    )}
  </For>
);

const Adder = (props: { readonly list: GateList; readonly word?: string }) => (
  <>
    <span {...props.list.messages}>
      <Messages shown={props.list.shown} />
    </span>
    <button {...props.list.button} onClick={() => void props.list.add()}>
      {props.word ?? 'Add'}
    </button>
  </>
);

function Crew(props: { readonly gate: Gate<typeof heard> | Gate<typeof schema> }) {
  const crew = useGateList(props.gate as Gate<typeof schema>, 'crew');
  createRenderEffect(
    on(
      () => crew.rows,
      () => count('the list'),
    ),
  );
  return (
    <fieldset>
      <span {...crew.hint}>{crew.hintText}</span>
      <Rows list={crew}>{({ handle }) => <Field gate={props.gate} of={handle} />}</Rows>
      <Adder list={crew} />
    </fieldset>
  );
}

function Summary(props: { readonly gate: AnyGate }) {
  const summary = useGateSummary(props.gate);
  return (
    <>
      <div {...summary.line}>
        <Messages shown={summary.lineMessages} />
      </div>
      <section {...summary.place}>
        <h2 {...summary.heading}>{summary.text}</h2>
        <For each={summary.errors}>{(error) => <a {...summary.link(error)}>{error.message}</a>}</For>
      </section>
    </>
  );
}

export function Form(props: { readonly posted?: Answer | undefined; readonly initial?: object | undefined }) {
  const { gate, form, answer: last } = usePostedGate(schema, { focus: 'summary', action: book, posted: props.posted, initial: props.initial });
  keep(gate);
  count('the form');
  const kind = useGateField(gate, 'kind');
  const side = useGateField(gate, 'side');
  const state = useGateState(gate);
  return (
    <form {...form} action="/send" method="post" data-answer={last()?.title}>
      <Summary gate={gate} />
      <Field gate={gate} of={gate.field('name')} />
      <Field gate={gate} of={gate.field('again')} />
      <select aria-label="Kind" {...kind.input}>
        <For each={['', 'barge', 'canoe']}>{(value) => <option {...kind.selectOption(value)}>{value}</option>}</For>
      </select>
      <input aria-label="Port" {...side.option('port')} /> <input aria-label="Starboard" {...side.option('starboard')} />
      <Field gate={gate} of={gate.field('ok')} />
      <Crew gate={gate} />
      <button type="submit" name="way" value="up">
        Go
      </button>
      <output>{`${state().status} ${state().errorCount}`}</output>
    </form>
  );
}

export function hydrate(root: Element, posted?: Answer): void {
  takeOver(() => <Form posted={posted} />, root);
}

export function mount(root: Element, _strict: boolean, initial?: object): () => void {
  return render(() => <Form initial={initial} />, root);
}

/** Mistakes, one of which arrives later. */
export const mountSloppy = mounts(() => {
  const { gate, form } = useGate(schema);
  const [arrived, arrive] = createSignal(false);
  return (
    <form {...form}>
      <Field gate={gate} of={gate.field('name')} />
      <input name="typo" />
      <Show when={arrived()}>
        <input name="later" />
      </Show>
      <button onClick={() => arrive(true)}>plus</button>
      <input type="submit" />
    </form>
  );
});

export const mountMoving = mounts(() => {
  const { gate, form } = useGate(moving);
  keep(gate);
  onMount(() => void gate.field('day').focus());
  const selects = [useGateField(gate, 'harbour'), useGateField(gate, 'berth')];
  const groups = [useGateField(gate, 'side'), useGateField(gate, 'kit')];
  const day = useGateField(gate, 'day');
  return (
    <form {...form}>
      <For each={selects}>
        {(field) => (
          <p>
            <label {...field.label}>{field.state.label}</label>
            <select {...field.input}>
              <option value="">Choose</option>
              <For each={field.state.options}>{(option) => <option {...field.selectOption(option.value)}>{option.label}</option>}</For>
            </select>
          </p>
        )}
      </For>
      <For each={groups}>
        {(field) => (
          <fieldset {...field.fieldset}>
            <legend>{field.state.label}</legend>
            <For each={field.state.options}>
              {(each) => (
                <label>
                  <input {...field.option(each.value)} /> {each.label}
                </label>
              )}
            </For>
          </fieldset>
        )}
      </For>
      <label {...day.label}>{day.state.label}</label> <input {...day.input} /> <i {...day.hint}>{day.state.hint}</i>
      <button>Go</button>
    </form>
  );
});

export const mountEither = mounts(() => {
  const { gate, form } = useGate(either);
  keep(gate);
  const list = useGateList(gate, 'cargo.items');
  return (
    <form {...form}>
      <output>{`${list.label} ${list.rows.length}`}</output>
      <button {...list.button} onClick={() => void list.add()}>
        Add
      </button>
    </form>
  );
});

function Member(props: { readonly gate: AnyGate; readonly of: Row<typeof nested.fields.crew.item> }) {
  const jobs = useGateList(props.gate, () => props.of.field('jobs'));
  return (
    <>
      <Field gate={props.gate} of={props.of.field('name')} />
      <Rows list={jobs} drop="Drop">
        {({ handle }) => <Field gate={props.gate} of={handle} />}
      </Rows>
      <Adder list={jobs} word="Job" />
    </>
  );
}

export const mountNested = mounts(() => {
  const { gate, form } = useGate(nested);
  keep(gate);
  const crew = useGateList(gate, 'crew');
  return (
    <form {...form}>
      <Field gate={gate} of={gate.field('vessel')} />
      <Rows list={crew}>{(of) => <Member gate={gate} of={of} />}</Rows>
      <button type="button" onClick={() => void crew.add()}>
        Add
      </button>
      <button>Go</button>
    </form>
  );
});

/** A required field has no control, one is hidden, and nothing of the form as a whole is drawn. */
export const mountLost = mounts(() => {
  const { gate, form } = useGate(lost, { submit: answer });
  keep(gate);
  const again = useGateField(gate, 'again');
  const { input } = again;
  return (
    <form {...form}>
      <Field gate={gate} of={gate.field('name')} />
      <input {...input} aria-label="Again" hidden />
      <button>Go</button>
    </form>
  );
});

export const mountMany = mounts(() => {
  const { gate, form } = useGate(many);
  keep(gate);
  count('the form');
  return (
    <form {...form}>
      <For each={Object.keys(many.fields)}>{(name) => <Field gate={gate} of={gate.field(name as never)} />}</For>
    </form>
  );
});

function Options(props: { readonly gate: Gate<typeof heard>; readonly name: 'kit' | 'side' | 'way'; readonly values: readonly string[] }) {
  const field = useGateField(props.gate, props.name);
  return (
    <>
      <span {...field.hint}>{field.state.hint}</span>
      <For each={props.values}>
        {(value) => (
          <label>
            <input {...field.option(value)} /> {value}
          </label>
        )}
      </For>
      <span {...field.messages}>
        <Messages shown={field.state.shown} />
      </span>
    </>
  );
}

export const mountHeard = mounts(() => {
  const { gate, form } = useGate(heard, { submit: (data) => book(undefined, formData(data)) });
  keep(gate);
  const kit = useGateField(gate, 'kit');
  const tug = useGateField(gate, 'tug');
  return (
    <form {...form}>
      <Field gate={gate} of={gate.field('name')} />
      <Field gate={gate} of={gate.field('code')} />
      <fieldset {...kit.fieldset}>
        <legend>Kit</legend>
        <Options gate={gate} name="kit" values={['horn', 'lights']} />
      </fieldset>
      <fieldset>
        <legend>Course</legend>
        <Options gate={gate} name="side" values={['port', 'starboard']} />
        <Options gate={gate} name="way" values={['up', 'down']} />
      </fieldset>
      <Show when={tug.state.applies}>
        <p>
          <label {...tug.label}>{tug.state.label}</label> <input {...tug.input} />
        </p>
      </Show>
      <Crew gate={gate} />
      <button>Go</button>
      <button type="reset">Reset</button>
    </form>
  );
});
