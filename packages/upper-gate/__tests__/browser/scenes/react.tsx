// What the tests of the React binding draw, on the server and in a browser.

import * as React from 'react';
import { startTransition, StrictMode, useEffect, useLayoutEffect, useState, type ReactNode } from 'react';
import { createRoot, hydrateRoot } from 'react-dom/client';
import type { AnyGate, Gate, Handle, Node, Row, SubmitRun } from 'upper-gate';
import { useGate, useGateField, useGateList, useGateState, useGateSummary, usePostedGate, type GateList } from 'upper-gate/react';
import { answer, book, count, draftIn, either, formData, heard, keep, lost, many, moving, nested, renders, schema, sent, type Answer } from './forms.ts';

export { connect } from 'upper-gate/react';
export { draftIn, renders, sent };

/** Draws a component in an element. */
const mounts = (Scene: () => ReactNode) => (root: Element) => createRoot(root).render(<Scene />);

function Field({ gate, of }: { readonly gate: AnyGate; readonly of: Handle }) {
  const { state, label, input, hint, messages } = useGateField(gate, of);
  count(state.path);
  return (
    <p>
      <label {...label} /> <span {...hint} /> <input {...input} /> <span {...messages} />
    </p>
  );
}

/** The rows of a list, and buttons for each. */
const rowsOf = <I extends Node>({ rows, move, remove }: GateList<I>, draw: (row: Row<I>) => ReactNode, drop = 'Remove') =>
  rows.map((row, index) => (
    <div key={row.key}>
      {draw(row)}
      <button type="button" onClick={() => move(index, index - 1)} children="Up" />
      <button type="button" onClick={() => remove(index)} children={drop} />
    </div>
  ));

function Crew({ gate }: { readonly gate: Gate<typeof schema> | Gate<typeof heard> }) {
  const list = useGateList(gate as Gate<typeof heard>, 'crew');
  count('the list');
  return (
    <fieldset>
      <span {...list.hint} />
      {rowsOf(list, (row) => (
        <Field gate={gate} of={row.handle} />
      ))}
      <span {...list.messages} />
      <button {...list.button} onClick={() => list.add()} children="Add" />
    </fieldset>
  );
}

function Summary({ gate }: { readonly gate: AnyGate }) {
  const { line, place, heading, errors, link } = useGateSummary(gate);
  return (
    <>
      <div {...line} />
      <section {...place}>
        <h2 {...heading} />
        {errors.map((error) => (
          <a key={error.key} {...link(error)} />
        ))}
      </section>
    </>
  );
}

function Status({ gate }: { readonly gate: AnyGate }) {
  const { status, errorCount } = useGateState(gate);
  return <output>{`${status} ${errorCount}`}</output>;
}

const submit = (_: unknown, { event }: SubmitRun) => book(undefined, new FormData((event as SubmitEvent).target as HTMLFormElement, (event as SubmitEvent).submitter));
const useSubmitForm = (posted: Answer | undefined, initial?: object) => usePostedGate(schema, { focus: 'summary', submit, posted, initial });
const useActionForm = (posted: Answer | undefined, initial?: object) => usePostedGate(schema, { focus: 'summary', action: book, posted, initial });
// An action needs React 19, not what stands for it.
const usePassage = 'useActionState' in React ? useActionForm : useSubmitForm;

interface FormProps {
  readonly onGate?: (gate: Gate<typeof schema>) => void;
  readonly url?: string;
  readonly posted?: Answer | undefined;
  readonly initial?: object | undefined;
}

export function Form({ onGate, url, posted, initial }: FormProps) {
  count('the form');
  const { gate, form, answer: last } = usePassage(posted, initial);
  onGate?.(gate);
  const kind = useGateField(gate, 'kind');
  const side = useGateField(gate, 'side');
  return (
    <form data-answer={last?.title} {...form} {...(url && { action: url, method: 'post' })}>
      <Summary gate={gate} />
      <Field gate={gate} of={gate.field('name')} />
      <Field gate={gate} of={gate.field('again')} />
      <select aria-label="Kind" {...kind.input}>
        <option value="" />
        <option value="barge">barge</option>
        <option value="canoe">canoe</option>
      </select>
      <input aria-label="Port" {...side.option('port')} /> <input aria-label="Starboard" {...side.option('starboard')} />
      <Field gate={gate} of={gate.field('ok')} />
      <Crew gate={gate} />
      <button type="submit" name="way" value="up">
        Go
      </button>
      <Status gate={gate} />
    </form>
  );
}

/** Takes over what the server has drawn. */
export function hydrate(root: Element, posted?: Answer): void {
  hydrateRoot(root, <Form onGate={keep} url="/send" posted={posted} />, { onRecoverableError: (error) => console.error(error) });
}

export function mount(root: Element, strict: boolean, initial?: object): () => void {
  const app = createRoot(root);
  const form = <Form onGate={keep} initial={initial} />;
  app.render(strict ? <StrictMode>{form}</StrictMode> : form);
  return () => app.unmount();
}

function Action() {
  return <form {...useActionForm(undefined).form} />;
}

export const mountAction = mounts(Action);

function Either() {
  const { gate, form } = useGate(either);
  keep(gate);
  const { label, rows, add, button } = useGateList(gate, 'cargo.items');
  return (
    <form {...form}>
      <output>{`${label} ${rows.length}`}</output>
      <button {...button} onClick={() => add()}>
        Add
      </button>
    </form>
  );
}

function Moving() {
  const { gate, form } = useGate(moving);
  keep(gate);
  useEffect(() => void gate.field('day').focus(), [gate]);
  const [harbour, berth, side, kit, day] = [
    useGateField(gate, 'harbour'),
    useGateField(gate, 'berth'),
    useGateField(gate, 'side'),
    useGateField(gate, 'kit'),
    useGateField(gate, 'day'),
  ];
  return (
    <form {...form}>
      {[harbour, berth].map(({ label, input, state }) => (
        <p key={state.path}>
          <label {...label} />
          <select {...input}>
            <option value="">Choose</option>
            {state.options?.map((option) => (
              <option key={option.value} value={option.value}>
                {option.label}
              </option>
            ))}
          </select>
        </p>
      ))}
      {[side, kit].map(({ label, fieldset, option, state }) => (
        <fieldset {...fieldset} key={state.path}>
          <legend>{label.children}</legend>
          {state.options?.map((each) => (
            <label key={each.value}>
              <input {...option(each.value)} /> {each.label}
            </label>
          ))}
        </fieldset>
      ))}
      <label {...day.label} /> <input {...day.input} /> <i {...day.hint} />
      <button>Go</button>
    </form>
  );
}

export const mountMoving = mounts(Moving);

export const mountEither = mounts(Either);

/** A required field has no control, one is hidden, and nothing of the form as a whole is drawn. */
function Lost() {
  const { gate, form } = useGate(lost, { submit: answer });
  keep(gate);
  const { input } = useGateField(gate, 'again');
  return (
    <form {...form}>
      <Field gate={gate} of={gate.field('name')} />
      <input {...input} aria-label="Again" hidden />
      <button>Go</button>
    </form>
  );
}

/** Mistakes, one of which arrives later. */
function Sloppy() {
  const { gate, form } = useGate(schema);
  const [arrived, arrive] = useState(false);
  return (
    <form {...form}>
      <Field gate={gate} of={gate.field('name')} />
      <input name="typo" />
      {arrived && <input name="later" />}
      <button onClick={() => arrive(true)}>plus</button>
      <input type="submit" />
    </form>
  );
}

export const mountSloppy = mounts(Sloppy);

export const mountLost = mounts(Lost);

function Many() {
  count('the form');
  const { gate, form } = useGate(many);
  keep(gate);
  return (
    <form {...form}>
      {Object.keys(gate.root.raw as object).map((name) => (
        <Field key={name} gate={gate} of={gate.field(name as never)} />
      ))}
    </form>
  );
}

export const mountMany = mounts(Many);

/** A gate made again at each render, which is a mistake. */
function Wrong({ make }: { readonly make: () => AnyGate & { field(path: string): Handle } }): ReactNode {
  const [times, again] = useState(0);
  useGate(lost, { initial: { name: `${times}` } });
  const gate = make();
  const { input } = useGateField(gate, gate.field('name'));
  return <input {...input} onKeyDown={() => again((now) => now + 1)} />;
}

export function mountWrong(root: Element, make: () => never): void {
  createRoot(root).render(<Wrong make={make} />);
}

/** What each of two components has shown of one field, commit by commit. */
export const commits: string[] = [];

function Reader({ gate, slow }: { readonly gate: Gate<typeof schema>; readonly slow?: number }) {
  const { state } = useGateField(gate, 'name');
  for (const until = performance.now() + (slow ?? 0); performance.now() < until;);
  return <i>{state.raw}</i>;
}

/** Two readers of one field; one of them takes long, and is drawn in a transition. */
function Together() {
  const { gate, form } = useGate(schema);
  const [copies, setCopies] = useState(1);
  keep(gate);
  Object.assign(globalThis, { more: () => startTransition(() => setCopies((now) => now + 10)) });
  useLayoutEffect(() => {
    commits.push([...new Set([...document.querySelectorAll('i')].map(({ textContent }) => textContent))].join('|'));
  });
  return (
    <form {...form}>
      <Reader gate={gate} />
      {Array.from({ length: copies }, (_, i) => (
        <Reader key={i} gate={gate} slow={3} />
      ))}
    </form>
  );
}

export const mountTogether = mounts(Together);

function Member({ gate, of }: { readonly gate: Gate<typeof nested>; readonly of: Row<typeof nested.fields.crew.item> }) {
  const jobs = useGateList(gate, of.field('jobs'));
  return (
    <>
      <Field gate={gate} of={of.field('name')} />
      {rowsOf(
        jobs,
        ({ handle }) => (
          <Field gate={gate} of={handle} />
        ),
        'Drop',
      )}
      <span {...jobs.messages} />
      <button {...jobs.button} onClick={() => jobs.add()} children="Job" />
    </>
  );
}

function Nested() {
  const { gate, form } = useGate(nested);
  const crew = useGateList(gate, 'crew');
  keep(gate);
  return (
    <form {...form}>
      <Field gate={gate} of={gate.field('vessel')} />
      {rowsOf(crew, (row) => (
        <Member gate={gate} of={row} />
      ))}
      <button type="button" onClick={() => crew.add()} children="Add" />
      <button>Go</button>
    </form>
  );
}

export const mountNested = mounts(Nested);

function Options({ gate, name, values }: { readonly gate: Gate<typeof heard>; readonly name: 'kit' | 'side' | 'way'; readonly values: readonly string[] }) {
  const { hint, option, messages } = useGateField(gate, name);
  return (
    <>
      <span {...hint} />
      {values.map((value) => (
        <label key={value}>
          <input {...option(value)} /> {value}
        </label>
      ))}
      <span {...messages} />
    </>
  );
}

function Tug({ gate }: { readonly gate: Gate<typeof heard> }) {
  const { state, label, input } = useGateField(gate, 'tug');
  return state.applies ? (
    <p>
      <label {...label} /> <input {...input} />
    </p>
  ) : null;
}

function Heard() {
  const { gate, form } = useGate(heard, { submit: (data) => book(undefined, formData(data)) });
  keep(gate);
  const kit = useGateField(gate, 'kit');
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
      <Tug gate={gate} />
      <Crew gate={gate} />
      <button>Go</button>
      <button type="reset">Reset</button>
    </form>
  );
}

export const mountHeard = mounts(Heard);
