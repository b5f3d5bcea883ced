// What the tests of the example of an own binding draw: that of the documentation, for lit-html.

import { html, nothing, render } from 'lit-html';
import { createGate, type AnyGate, type Handle } from 'upper-gate';
import { field, followForm, form, list, messagesOf, summary, type LitList } from '../../../../../docs/own-binding/gateLit.ts';
import { answer, book, count, draftIn, either, formData, heard, keep, lost, many, moving, nested, renders, schema, sent } from './forms.ts';

export { connect } from 'upper-gate/binding';
export { draftIn, renders, sent };

const draws = (root: Element, view: unknown): void => void render(view, root as HTMLElement);

const plainField = (gate: AnyGate, of: Handle | string) =>
  field(gate, of, ({ state, label, input, hint, messages }) => {
    count(state.path);
    return html`<p><label ${label}>${state.label}</label> <span ${hint}>${state.hint}</span> <input ${input} /> <span ${messages}>${messagesOf(state.shown)}</span></p>`;
  });

/** The rows of a list, and buttons for each. */
const rowsOf = ({ rows, move, remove }: LitList, draw: Parameters<LitList['rows']>[0], drop = 'Remove') =>
  rows(
    (row, i) =>
      html`<div>
        ${draw(row, i)}
        <button type="button" @click=${() => move(i, i - 1)}>Up</button>
        <button type="button" @click=${() => remove(i)}>${drop}</button>
      </div>`,
  );
const adder = ({ messages, shown, button }: LitList, word = 'Add') => html`<span ${messages}>${messagesOf(shown)}</span><button ${button}>${word}</button>`;

export function mount(root: Element, _strict: boolean, initial?: object): () => void {
  const gate = createGate(schema, {
    initial,
    focus: 'summary',
    submit: (_, { event }) => book(undefined, new FormData(root.querySelector('form')!, (event as SubmitEvent).submitter)),
  });
  keep(gate);
  draws(
    root,
    html`<form ${form(gate)}>
      ${summary(
        gate,
        ({ errors, text, place, heading, link }) =>
          html`<section ${place}>
            <h2 ${heading}>${text}</h2>
            ${errors.map((error) => html`<a ${link(error)}>${error.message}</a>`)}
          </section>`,
      )}
      ${plainField(gate, 'name')}${plainField(gate, 'again')}
      ${field(
        gate,
        'kind',
        ({ input }) =>
          html`<select aria-label="Kind" ${input}>
            ${['', 'barge', 'canoe'].map((kind) => html`<option>${kind}</option>`)}
          </select>`,
      )}
      ${field(gate, 'side', ({ option }) => html`<input aria-label="Port" ${option('port')} /> <input aria-label="Starboard" ${option('starboard')} />`)} ${plainField(gate, 'ok')}
      ${list(gate, 'crew', (crew) => html`<fieldset>${rowsOf(crew, ({ handle }) => plainField(gate, handle))}${adder(crew)}</fieldset>`)}
      <button type="submit" name="way" value="up">Go</button>
      ${followForm(
        gate,
        () => gate.state,
        () => html`<output>${gate.state.status} ${gate.state.errorCount}</output>`,
      )}
    </form>`,
  );
  return () => {
    draws(root, nothing);
    root.replaceChildren();
  };
}

export function mountEither(root: Element): void {
  const gate = createGate(either);
  keep(gate);
  draws(
    root,
    html`<form ${form(gate)}>${list(gate, 'cargo.items', ({ label, length, button }) => html`<output>${label} ${length}</output><button ${button}>Add</button>`)}</form>`,
  );
}

export function mountNested(root: Element): void {
  const gate = createGate(nested);
  keep(gate);
  const jobsOf = (of: Handle) => list(gate, of, (jobs) => html`${rowsOf(jobs, ({ handle }) => plainField(gate, handle), 'Drop')}${adder(jobs, 'Job')}`);
  const members = (crew: LitList) => rowsOf(crew, (row) => html`${plainField(gate, row.field('name' as never))}${jobsOf(row.field('jobs' as never))}`);
  const add = (crew: LitList) => html`<button type="button" @click=${() => crew.add()}>Add</button>`;
  draws(root, html`<form ${form(gate)}>${plainField(gate, 'vessel')}${list(gate, 'crew', (crew) => html`${members(crew)}${add(crew)}`)}<button>Go</button></form>`);
}

export function mountMoving(root: Element): void {
  const gate = createGate(moving);
  keep(gate);
  const select = (path: string) =>
    field(
      gate,
      path,
      ({ label, input, state }) =>
        html`<p>
          <label ${label}>${state.label}</label
          ><select ${input}>
            <option value="">Choose</option>
            ${(state.options ?? []).map((each) => html`<option value=${each.value}>${each.label}</option>`)}
          </select>
        </p>`,
    );
  const boxes = (path: string) =>
    field(
      gate,
      path,
      ({ fieldset, option, state }) =>
        html`<fieldset ${fieldset}>
          <legend>${state.label}</legend>
          ${(state.options ?? []).map((each) => html`<label><input ${option(each.value)} />${each.label}</label>`)}
        </fieldset>`,
    );
  const day = field(gate, 'day', ({ label, input, hint, state }) => html`<label ${label}>${state.label}</label> <input ${input} /> <i ${hint}>${state.hint}</i>`);
  draws(root, html`<form ${form(gate)}>${select('harbour')}${select('berth')}${boxes('side')}${boxes('kit')}${day}<button>Go</button></form>`);
}

export function mountLost(root: Element): void {
  const gate = createGate(lost, { submit: answer });
  keep(gate);
  draws(
    root,
    html`<form ${form(gate)}>${plainField(gate, 'name')}${field(gate, 'again', ({ input }) => html`<input aria-label="Again" hidden ${input} />`)}<button>Go</button></form>`,
  );
}

export function mountSloppy(root: Element): void {
  const gate = createGate(schema);
  const arrive = () => root.querySelector('form')!.insertAdjacentHTML('beforeend', '<input name="later">');
  draws(root, html`<form ${form(gate)}>${plainField(gate, 'name')}<input name="typo" /><button @click=${arrive}>plus</button><input type="submit" /></form>`);
}

export function mountMany(root: Element): void {
  const gate = createGate(many);
  keep(gate);
  draws(root, html`<form ${form(gate)}>${Object.keys(many.fields).map((name) => plainField(gate, name))}</form>`);
}

export function mountHeard(root: Element): void {
  const gate = createGate(heard, { submit: (data) => book(undefined, formData(data)) });
  keep(gate);
  const options = (path: string, values: readonly string[]) =>
    field(
      gate,
      path,
      ({ hint, option, messages, state }) =>
        html`<span ${hint}>${state.hint}</span>${values.map((value) => html`<label><input ${option(value)} /> ${value}</label>`)}<span ${messages}
            >${messagesOf(state.shown)}</span
          >`,
    );
  draws(
    root,
    html`<form ${form(gate)}>
      ${plainField(gate, 'name')}${plainField(gate, 'code')}
      ${field(
        gate,
        'kit',
        ({ fieldset }) =>
          html`<fieldset ${fieldset}>
            <legend>Kit</legend>
            ${options('kit', ['horn', 'lights'])}
          </fieldset>`,
      )}
      <fieldset>
        <legend>Course</legend>
        ${options('side', ['port', 'starboard'])}${options('way', ['up', 'down'])}
      </fieldset>
      ${field(gate, 'tug', ({ state, label, input }) => (state.applies ? html`<p><label ${label}>${state.label}</label> <input ${input} /></p>` : nothing))}
      ${list(
        gate,
        'crew',
        (crew) =>
          html`<fieldset>
            <legend>Crew</legend>
            <span ${crew.hint}>${crew.hintText}</span>${rowsOf(crew, ({ handle }) => plainField(gate, handle))}${adder(crew)}
          </fieldset>`,
      )}
      <button>Go</button><button type="reset">Reset</button>
    </form>`,
  );
}
