// What the tests of the plain binding draw, on the server and in a browser: the form of React and Vue, as a page.

import { createGate, type AnyGate } from 'upper-gate';
import { bindForm, errorSummary, movingOptions, templateRows } from 'upper-gate/dom';
import { answer, book, draftIn, either, formData, heard, keep, lost, many, moving, nested, schema, sent } from './forms.ts';

export { connect } from 'upper-gate/dom';
export { draftIn, sent };

/** How forms are bound. */
export const by = { bind: bindForm };

const field = (name: string, attributes = ''): string =>
  `<p><label for="f-${name}">${name}</label> <small data-gate-hint="${name}"></small> <input id="f-${name}" name="${name}" ${attributes}> <span data-gate-messages="${name}"></span></p>`;

const SUMMARY = '<div data-gate-messages></div><section data-gate-summary hidden></section>';

export const draw = (): string => `<form action="/send" method="post">${SUMMARY}
  ${field('name', 'required')}${field('again')}
  <select name="kind" aria-label="Kind" required><option></option><option>barge</option><option>canoe</option></select>
  <input type="radio" name="side" value="port" aria-label="Port"> <input type="radio" name="side" value="starboard" aria-label="Starboard">
  ${field('ok', 'type="checkbox"')}
  <fieldset>
    <template data-gate-rows="crew"><div><input name="" aria-label="Member" required> <span data-gate-messages=""></span><button type="button" data-gate-remove>Remove</button></div></template>
    <span data-gate-messages="crew"></span>
    <button type="button" data-gate-add="crew">Add</button>
  </fieldset>
  <button type="submit" name="way" value="up">Go</button>
  <output></output></form>`;

const FEATURES = { rows: templateRows, options: movingOptions, summary: errorSummary };

/** Shows something of the gate, and what becomes of it. */
function follow(root: Element, gate: AnyGate, read: () => string): void {
  const render = (): void => void (root.querySelector('output')!.textContent = read());
  render();
  gate.subscribe(render);
}

function bind(root: Element, initial?: object): () => void {
  const gate = createGate(schema, {
    initial,
    focus: 'summary',
    submit: (_, { event }) => book(undefined, new FormData(root.querySelector('form')!, (event as SubmitEvent).submitter)),
  });
  keep(gate);
  follow(root, gate, () => `${gate.state.status} ${gate.state.errorCount}`);
  return by.bind(root.querySelector('form')!, gate, FEATURES);
}

export const hydrate = (root: Element): unknown => bind(root);

export function mount(root: Element, _strict: boolean, initial?: object): () => void {
  root.innerHTML = draw();
  const undo = bind(root, initial);
  return () => {
    undo();
    root.replaceChildren();
  };
}

export function mountEither(root: Element): void {
  root.innerHTML = `<form><template data-gate-rows="cargo.items"><p><input name="" aria-label="Item"></p></template>
    <button type="button" data-gate-add="cargo.items">Add</button><output></output></form>`;
  const gate = createGate(either);
  keep(gate);
  by.bind(root.querySelector('form')!, gate, FEATURES);
  const items = () => gate.list('cargo.items' as never);
  follow(root, gate, () => `${gate.field('cargo.items' as never).label} ${items().length}`);
}

export function mountNested(root: Element): void {
  root.innerHTML = `<form><input name="vessel" aria-label="Vessel"><template data-gate-rows="crew"><div><input name="name" aria-label="Name">
      <template data-gate-rows="jobs"><p><input name="" aria-label="Job"><button type="button" data-gate-remove>Drop</button></p></template>
      <span data-gate-messages="jobs"></span><button type="button" data-gate-add="jobs">Job</button><button type="button" data-gate-remove>Remove</button></div></template>
    <button type="button" data-gate-add="crew">Add</button><button type="submit">Go</button></form>`;
  const gate = createGate(nested);
  keep(gate);
  by.bind(root.querySelector('form')!, gate, FEATURES);
}

export function mountMoving(root: Element): void {
  root.innerHTML = `<form><select name="harbour" aria-label="Harbour"><option value=""></option><option>Oster</option><option>Wester</option></select>
    <select name="berth" aria-label="Berth"><option value="">Choose</option></select>
    <fieldset><legend>Side</legend><template data-gate-options="side"><label><input type="radio" name="side"> <span data-gate-option-label></span></label></template></fieldset>
    <fieldset><legend>Kit</legend><template data-gate-options="kit"><label><input type="checkbox" name="kit"> <span data-gate-option-label></span></label></template></fieldset>
    <input type="date" name="day" aria-label="Day"><i data-gate-hint="day"></i><button>Go</button></form>`;
  const gate = createGate(moving);
  keep(gate);
  by.bind(root.querySelector('form')!, gate, FEATURES);
  gate.field('day').focus();
}

export function mountLost(root: Element): void {
  root.innerHTML = `<form>${field('name')}${field('again', 'hidden')}<button>Go</button></form>`;
  const gate = createGate(lost, { submit: answer });
  keep(gate);
  by.bind(root.querySelector('form')!, gate);
}

export function mountSloppy(root: Element): void {
  root.innerHTML = `<form>${field('name')}<input name="typo"><button>plus</button><input type="submit"></form>`;
  const form = root.querySelector('form')!;
  by.bind(form, createGate(schema));
  form.querySelector('button')!.addEventListener('click', () => form.insertAdjacentHTML('beforeend', '<input name="later">'));
}

export function mountMany(root: Element): void {
  root.innerHTML = `<form>${Object.keys(many.fields)
    .map((name) => field(name))
    .join('')}</form>`;
  const gate = createGate(many);
  keep(gate);
  by.bind(root.querySelector('form')!, gate);
}

const radios = (name: string, values: readonly string[], type = 'radio'): string =>
  values.map((value) => `<label><input type="${type}" name="${name}" value="${value}"> ${value}</label>`).join('');

export function mountHeard(root: Element): void {
  root.innerHTML = `<form><div data-gate-messages></div>
    <p><label for="name">Name</label> <span data-gate-hint="name"></span> <input id="name" name="name"> <span data-gate-messages="name"></span></p>
    ${field('code')}
    <fieldset><legend>Kit</legend><span data-gate-hint="kit">One at least</span>${radios('kit', ['horn', 'lights'], 'checkbox')}<span data-gate-messages="kit"></span></fieldset>
    <fieldset><legend>Course</legend>${radios('side', ['port', 'starboard'])}<span data-gate-messages="side"></span>${radios('way', ['up', 'down'])}</fieldset>
    <p data-gate-applies="tug"><label for="tug">Tug</label> <input id="tug" name="tug"></p>
    <fieldset><legend>Crew</legend><span data-gate-hint="crew"></span>
      <template data-gate-rows="crew"><div><input name="" aria-label="Member"><button type="button" data-gate-move="up">Up</button><button type="button" data-gate-remove>Remove</button></div></template>
      <span data-gate-messages="crew"></span><button type="button" data-gate-add="crew">Add</button></fieldset>
    <button>Go</button><button type="reset">Reset</button></form>`;
  const gate = createGate(heard, { submit: (data) => book(undefined, formData(data)) });
  keep(gate);
  by.bind(root.querySelector('form')!, gate, FEATURES);
}
