// What the tests of the example of an own binding draw: that of the documentation, for lit-html.

import { html, nothing, render } from 'lit-html';
import { createGate, type AnyGate, type Handle } from 'upper-gate';
import { field, followForm, form, list, messagesOf, summary, type LitField, type LitList, type LitSummary } from '../../../../../docs/own-binding/gateLit.ts';
import { answer, book, count, draftIn, either, formData, heard, keep, lost, many, moving, nested, renders, schema, sent } from './forms.ts';

export { connect } from 'upper-gate/binding';
export { draftIn, renders, sent };

/** Draws a form. */
function show(root: Element, gate: AnyGate, ...parts: unknown[]): void {
  keep(gate);
  render(html`<form ${form(gate)}>${parts}</form>`, root as HTMLElement);
}
const GO = html`<button>Go</button>`;

const plainField = (gate: AnyGate, of: Handle | string) =>
  field(gate, of, ({ state, label, input, hint, messages }) => {
    count(state.path);
    return html`<p><label ${label}>${state.label}</label> <span ${hint}>${state.hint}</span> <input ${input} /> <span ${messages}>${messagesOf(state.shown)}</span></p>`;
  });

/** The rows of a list, and buttons for each. */
const rowsOf = ({ rows, move, remove }: LitList, draw: Parameters<LitList['rows']>[0], drop = 'Remove') => {
  const button = (act: () => void, word: string) => html`<button type="button" @click=${act}>${word}</button>`;
  return rows((row, i) => html`<div>${draw(row, i)} ${button(() => move(i, i - 1), 'Up')} ${button(() => remove(i), drop)}</div>`);
};
const adder = ({ messages, shown, button }: LitList, word = 'Add') => html`<span ${messages}>${messagesOf(shown)}</span><button ${button}>${word}</button>`;
const crewOf = (gate: AnyGate) => {
  const member = ({ handle }: { readonly handle: Handle }) => plainField(gate, handle);
  return list(gate, 'crew', (crew) => html`<fieldset><span ${crew.hint}>${crew.hintText}</span>${rowsOf(crew, member)}${adder(crew)}</fieldset>`);
};

export function mount(root: Element, _strict: boolean, initial?: object): () => void {
  const gate = createGate(schema, {
    initial,
    focus: 'summary',
    submit: (_, { event }) => book(undefined, new FormData(root.querySelector('form')!, (event as SubmitEvent).submitter)),
  });
  const links = ({ errors, link }: LitSummary) => errors.map((error) => html`<a ${link(error)}>${error.message}</a>`);
  const section = (drawn: LitSummary) =>
    html`<section ${drawn.place}>
      <h2 ${drawn.heading}>${drawn.text}</h2>
      ${links(drawn)}
    </section>`;
  const kinds = ['', 'barge', 'canoe'].map((kind) => html`<option>${kind}</option>`);
  // (As a property: Firefox replaces what is in an <output> when the form is reset, also where there is no default value.)
  const state = () => html`<output .textContent=${`${gate.state.status} ${gate.state.errorCount}`}></output>`;
  show(
    root,
    gate,
    [summary(gate, section), plainField(gate, 'name'), plainField(gate, 'again')],
    field(
      gate,
      'kind',
      ({ input }) =>
        html`<select aria-label="Kind" ${input}>
          ${kinds}
        </select>`,
    ),
    field(gate, 'side', ({ option }) => html`<input aria-label="Port" ${option('port')} /> <input aria-label="Starboard" ${option('starboard')} />`),
    [plainField(gate, 'ok'), crewOf(gate), html`<button type="submit" name="way" value="up">Go</button>`],
    followForm(gate, () => gate.state, state),
  );
  return () => {
    render(nothing, root as HTMLElement);
    root.replaceChildren();
  };
}

export function mountEither(root: Element): void {
  const gate = createGate(either);
  show(
    root,
    gate,
    list(gate, 'cargo.items', ({ label, length, button }) => html`<output>${label} ${length}</output><button ${button}>Add</button>`),
  );
}

export function mountNested(root: Element): void {
  const gate = createGate(nested);
  const jobsOf = (of: Handle) => list(gate, of, (jobs) => html`${rowsOf(jobs, ({ handle }) => plainField(gate, handle), 'Drop')}${adder(jobs, 'Job')}`);
  const members = (crew: LitList) => rowsOf(crew, (row) => html`${plainField(gate, row.field('name' as never))}${jobsOf(row.field('jobs' as never))}`);
  const add = (crew: LitList) => html`<button type="button" @click=${() => crew.add()}>Add</button>`;
  show(
    root,
    gate,
    plainField(gate, 'vessel'),
    list(gate, 'crew', (crew) => html`${members(crew)}${add(crew)}`),
    GO,
  );
}

export function mountMoving(root: Element): void {
  const gate = createGate(moving);
  const optionsIn = ({ state }: LitField) => (state.options ?? []).map((each) => html`<option value=${each.value}>${each.label}</option>`);
  const boxesIn = ({ state, option }: LitField) => (state.options ?? []).map((each) => html`<label><input ${option(each.value)} />${each.label}</label>`);
  const choose = html`<option value="">Choose</option>`;
  const select = (of: LitField) =>
    html`<p>
      <label ${of.label}>${of.state.label}</label
      ><select ${of.input}>
        ${choose}${optionsIn(of)}
      </select>
    </p>`;
  const boxes = (of: LitField) =>
    html`<fieldset ${of.fieldset}>
      <legend>${of.state.label}</legend>
      ${boxesIn(of)}
    </fieldset>`;
  const day = field(gate, 'day', ({ label, input, hint, state }) => html`<label ${label}>${state.label}</label> <input ${input} /> <i ${hint}>${state.hint}</i>`);
  show(root, gate, field(gate, 'harbour', select), field(gate, 'berth', select), field(gate, 'side', boxes), field(gate, 'kit', boxes), day, GO);
  setTimeout(() => gate.field('day').focus());
}

export function mountLost(root: Element): void {
  const gate = createGate(lost, { submit: answer });
  show(
    root,
    gate,
    plainField(gate, 'name'),
    field(gate, 'again', ({ input }) => html`<input aria-label="Again" hidden ${input} />`),
    GO,
  );
}

export function mountSloppy(root: Element): void {
  const gate = createGate(schema);
  const arrive = () => root.querySelector('form')!.insertAdjacentHTML('beforeend', '<input name="later">');
  show(root, gate, plainField(gate, 'name'), html`<input name="typo" /><button @click=${arrive}>plus</button><input type="submit" />`);
}

export function mountMany(root: Element): void {
  const gate = createGate(many);
  show(root, gate, ...Object.keys(many.fields).map((name) => plainField(gate, name)));
}

export function mountHeard(root: Element): void {
  const gate = createGate(heard, { submit: (data) => book(undefined, formData(data)) });
  const ticks = ({ option }: LitField, values: readonly string[]) => values.map((value) => html`<label><input ${option(value)} /> ${value}</label>`);
  const options = (path: string, values: readonly string[]) => {
    const draw = (of: LitField) => html`<span ${of.hint}>${of.state.hint}</span>${ticks(of, values)}<span ${of.messages}>${messagesOf(of.state.shown)}</span>`;
    return field(gate, path, draw);
  };
  const tug = ({ state, label, input }: LitField) => (state.applies ? html`<p><label ${label}>${state.label}</label> <input ${input} /></p>` : nothing);
  show(
    root,
    gate,
    [plainField(gate, 'name'), plainField(gate, 'code')],
    field(
      gate,
      'kit',
      ({ fieldset }) =>
        html`<fieldset ${fieldset}>
          <legend>Kit</legend>
          ${options('kit', ['horn', 'lights'])}
        </fieldset>`,
    ),
    html`<fieldset>
      <legend>Course</legend>
      ${options('side', ['port', 'starboard'])}${options('way', ['up', 'down'])}
    </fieldset>`,
    [field(gate, 'tug', tug), crewOf(gate), GO, html`<button type="reset">Reset</button>`],
  );
}
