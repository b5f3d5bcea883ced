// Slips in wiring a form, in plain words with the fix. In production ./noMistakes.ts takes the place of this module.

import { warnOnce } from '#development';
import { FieldCell } from '../gate/cell.ts';
import { storeOf, type AnyGate, type Gate } from '../gate/createGate.ts';
import type { Node } from '../schema/node.ts';
import { isControl, nameOf, type Control } from '../showing/controls.ts';
import { Hooks } from './hooks.ts';

type ToldGate = AnyGate & Pick<Gate<Node>, 'on'>;

const tagOf = (element: Element): string => {
  const shown = ['id', 'name', 'type', 'for']
    .filter((name) => element.hasAttribute(name))
    .map((name) => ` ${name}="${element.getAttribute(name)!}"`);
  return `<${element.localName}${shown.join('')}>`;
};

const isLabelled = (control: Control): boolean =>
  ((control as HTMLInputElement).labels?.length ?? 0) > 0 ||
  ['aria-label', 'aria-labelledby', 'title'].some((name) => control.hasAttribute(name)) ||
  control.closest('label') !== null;

/** What is wrong with the markup of a form. */
function* markupWarnings(form: HTMLFormElement, gate: AnyGate, places: Hooks): Iterable<string> {
  const page = form.getRootNode() as ParentNode;
  const controls = [...form.elements].filter(isControl);
  for (const control of controls) {
    const name = nameOf(control);
    if ((control as HTMLInputElement).type === 'hidden' || control.hasAttribute('data-gate-ignore')) continue;
    if (name !== '' && !gate.has(name))
      yield `the control ${tagOf(control)} has no field: the schema knows no "${name}". Give the schema such a field, or the control the name of one; data-gate-ignore says that it is none of the gate's.`;
    else if (name !== '' && !isLabelled(control))
      yield `the control ${tagOf(control)} has no label: screen readers cannot name it. Give it a <label for="${control.id || 'its id'}">, or an aria-label.`;
  }
  for (const element of form.querySelectorAll('[id]')) {
    if (page.querySelectorAll(`#${CSS.escape(element.id)}`).length > 1)
      yield `the id "${element.id}" is there more than once: labels and descriptions reach the first alone. Give each element an id of its own.`;
  }
  for (const label of form.querySelectorAll<HTMLLabelElement>('label'))
    if (!label.control) yield `the label ${tagOf(label)} (${label.textContent.trim()}) has no control: give its "for" the id of one.`;
  const buttons = [...form.querySelectorAll('button')];
  const named = buttons.some((button) => button.getAttribute('type') === 'submit');
  for (const button of buttons) {
    if (!button.hasAttribute('type') && (named || buttons.filter((each) => !each.hasAttribute('type')).length > 1))
      yield `the button "${button.textContent.trim()}" has no type, so it submits the form. If it is not meant to, give it type="button"; else type="submit".`;
  }
  for (const hook of ['messages', 'hint', 'count', 'label', 'applies'] as const)
    for (const [path, element] of places.all(hook))
      if (path !== '' && !gate.has(path) && form.contains(element))
        yield `${tagOf(element)} is the place data-gate-${hook}="${path}", but the schema knows no "${path}". Correct the path, or remove the attribute.`;
}

/** What the form was refused for, and the person cannot see or mend on this page. */
function* refusalWarnings(gate: AnyGate): Iterable<string> {
  for (const cell of storeOf.get(gate)!.root.cells()) {
    if (cell.findings.length === 0 || (cell.connections?.size ?? 0) > 0) continue;
    if (cell instanceof FieldCell)
      yield `the field "${cell.path}" has rules, but no control: the person cannot fill it in. Give a control the name "${cell.path}", or connect one: gate.field("${cell.path}").connect({ element, focus }).`;
    else if (cell.parent)
      yield `the messages of "${cell.path}" have no place: they are told above the form. Give them one: <div data-gate-messages="${cell.path}"></div>.`;
  }
}

/**
 * Tells on the console what is wrong with the wiring of a form, each slip once.
 *
 * @returns ends it
 */
export function startDevWarnings(form: HTMLFormElement, gate: ToldGate): () => void {
  warnOnce(form, () => markupWarnings(form, gate, new Hooks(form)));
  const stop = gate.on('refused', () => warnOnce(form, () => refusalWarnings(gate)));
  // It makes no event: nothing would be judged.
  form.submit = () => {
    warnOnce(form, () => ['form.submit() goes round the gate: nothing is judged. Call form.requestSubmit(), or gate.submit().']);
    HTMLFormElement.prototype.submit.call(form);
  };
  return () => {
    stop();
    // Back to what all forms have.
    delete (form as Partial<HTMLFormElement>).submit;
  };
}
