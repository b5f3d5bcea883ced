// Development warnings about the wiring of a form, each with its fix. A production build leaves this module out.

import { warnOnce } from '#development';
import type { AnyGate, Gate } from '../gate/createGate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { Node } from '../schema/node.ts';
import { isControl, nameOf, type Control } from '../showing/controls.ts';
import { Hooks } from './hooks.ts';

type WatchedGate = AnyGate & Pick<Gate<Node>, 'on'>;

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
      yield `the control ${tagOf(control)} has no field: the schema has no "${name}". Add the field to the schema, correct the control's name, or add data-gate-ignore to ignore the control.`;
    else if (name !== '' && !isLabelled(control))
      yield `the control ${tagOf(control)} has no label, so screen readers cannot name it. Add <label for="${control.id || 'its id'}"> or an aria-label.`;
  }
  const ids = new Map<string, number>();
  for (const { id } of page.querySelectorAll('[id]')) ids.set(id, (ids.get(id) ?? 0) + 1);
  for (const element of form.querySelectorAll('[id]')) {
    if (ids.get(element.id)! > 1)
      yield `the id "${element.id}" is used more than once, so labels and descriptions only reach the first element. Give each element a unique id.`;
  }
  for (const label of form.querySelectorAll<HTMLLabelElement>('label'))
    if (!label.control)
      yield `the label ${tagOf(label)} (${label.textContent.trim()}) has no control. Set its "for" to the id of a control.`;
  const buttons = [...form.querySelectorAll('button')];
  const named = buttons.some((button) => button.getAttribute('type') === 'submit');
  for (const button of buttons) {
    if (!button.hasAttribute('type') && (named || buttons.filter((each) => !each.hasAttribute('type')).length > 1))
      yield `the button "${button.textContent.trim()}" has no type, so it submits the form. Add type="button", or type="submit" if it is meant to.`;
  }
  for (const hook of ['messages', 'hint', 'count', 'label', 'applies'] as const)
    for (const [path, element] of places.all(hook))
      if (path !== '' && !gate.has(path) && form.contains(element))
        yield `${tagOf(element)} has data-gate-${hook}="${path}", but the schema has no "${path}". Correct the path or remove the attribute.`;
}

/** What only some forms need, and whether the binding of a form has it. */
interface BoundFeatures {
  readonly rows: boolean;
  readonly summary: boolean;
}

/** Markup of a feature that the form was bound without. */
function* featureWarnings(form: HTMLFormElement, { rows, summary }: BoundFeatures): Iterable<string | false> {
  yield (
    !rows &&
    form.querySelector('[data-gate-rows]') !== null &&
    'the page has a template of rows, but the form is bound without rows. Import templateRows from upper-gate/dom and write bindForm(form, gate, { rows: templateRows }).'
  );
  yield (
    !summary &&
    new Hooks(form).find('summary', '') !== null &&
    'the page has a place for a summary, but the form is bound without one. Import errorSummary from upper-gate/dom and write bindForm(form, gate, { summary: errorSummary }).'
  );
}

/** Errors that stopped the submission, and that the user cannot see or correct on this page. */
function* refusalWarnings(gate: AnyGate): Iterable<string> {
  const nodes: BaseNode[] = [];
  internalsOf(gate).store.root.forEach((node) => nodes.push(node));
  for (const { path, part, parent, findings, connections } of nodes) {
    if (findings.length === 0 || (connections?.size ?? 0) > 0) continue;
    if (part.isLeaf)
      yield `the field "${path}" has an error but no control, so the user cannot correct it. Give a control the name "${path}", or connect one: gate.field("${path}").connect({ element, focus }).`;
    else if (parent)
      yield `the messages of "${path}" have no place, so they appear above the form. Add one: <div data-gate-messages="${path}"></div>.`;
  }
}

/**
 * Logs what is wrong with the wiring of a form, each warning once.
 *
 * @returns stops the warnings
 */
export function startDevWarnings(form: HTMLFormElement, gate: WatchedGate, has: BoundFeatures): () => void {
  warnOnce(form, () => [...markupWarnings(form, gate, new Hooks(form)), ...featureWarnings(form, has)]);
  const stop = gate.on('refused', () => warnOnce(form, () => refusalWarnings(gate)));
  // It dispatches no submit event, so nothing would be validated.
  form.submit = () => {
    warnOnce(form, () => ['form.submit() bypasses validation. Call form.requestSubmit() instead.']);
    HTMLFormElement.prototype.submit.call(form);
  };
  return () => {
    stop();
    // Back to what all forms have.
    delete (form as Partial<HTMLFormElement>).submit;
  };
}
