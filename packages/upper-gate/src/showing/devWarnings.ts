// Development warnings about a form on a page, whichever binding drew it, each with its fix. A production build leaves this
// module out.

import { explain, warnOnce } from '#development';
import type { Explained } from '../development/explain.ts';
import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { isControl, isCustom, nameOf, type Control } from './controls.ts';
import { entryIn } from './focus.ts';
import { isElement, undefinedElements } from './page.ts';

/** What a warning calls an element. */
export const tagOf = (element: Element): string => {
  const shown = ['id', 'name', 'type', 'for']
    .filter((name) => element.hasAttribute(name))
    .map((name) => ` ${name}="${element.getAttribute(name)!}"`);
  return `<${element.localName}${shown.join('')}>`;
};

const hasText = ({ localName, childElementCount, textContent }: Element): boolean =>
  localName !== 'style' && childElementCount === 0 && textContent.trim() !== '';

/** Whether a custom element labels itself: by a property, its content, or text in its shadow root. */
const labelsItself = (control: Control): boolean =>
  isCustom(control) &&
  ([control.ariaLabel, (control as { readonly label?: unknown }).label, control.getAttribute('label'), control.textContent.trim()].some(
    Boolean,
  ) ||
    [...(control.shadowRoot?.querySelectorAll('*') ?? [])].some(hasText));

const isNamed = (element: HTMLElement): boolean =>
  ((element as HTMLInputElement).labels?.length ?? 0) > 0 ||
  ['aria-label', 'aria-labelledby', 'title'].some((name) => element.hasAttribute(name));

const isLabelled = (control: Control): boolean =>
  isNamed(control) ||
  labelsItself(control) ||
  isNamed(entryIn(control)) ||
  // What is hidden from screen readers stands for something that is not, such as a select of a component kit.
  control.closest('label, [aria-hidden=true]') !== null;

/** Whether an element is inside of one that is connected to a field: a component's own, which has the names that it likes. */
function isInComponent(gate: AnyGate, element: Element): boolean {
  let isInside = false;
  internalsOf(gate).store.root.forEach(({ part, connections }) => {
    if (part.traits.hasParts) return;
    for (const { element: around } of connections ?? [])
      isInside ||= around !== element && (around as Element | undefined)?.contains(element) === true;
  });
  return isInside;
}

function* controlWarnings(form: HTMLFormElement, gate: AnyGate): Iterable<Explained> {
  for (const control of [...form.elements].filter(isControl)) {
    const name = nameOf(control);
    if ((control as HTMLInputElement).type === 'hidden' || control.hasAttribute('data-gate-ignore')) continue;
    if (isInComponent(gate, control)) continue;
    if (name !== '' && !gate.has(name))
      yield explain(
        'control-without-field',
        `the control ${tagOf(control)} has no field: the schema has no "${name}". Add the field to the schema, correct the control's name, or add data-gate-ignore to ignore the control.`,
      );
    else if (name !== '' && !isLabelled(control))
      yield explain(
        'control-without-label',
        `the control ${tagOf(control)} has no label, so screen readers cannot name it. Add <label for="${control.id || 'its id'}"> or an aria-label.`,
      );
  }
}

/** Hints of fields that are on the page, and which nothing there shows. */
function* hintWarnings(form: HTMLFormElement, gate: AnyGate): Iterable<Explained> {
  const fields: BaseNode[] = [];
  internalsOf(gate).store.root.forEach((node) => node.part.hint !== undefined && fields.push(node));
  for (const { path, connections } of fields) {
    const elements = [...(connections ?? [])].flatMap(({ element }) => (element ? [element as unknown as Element] : []));
    // (An element of a kit may show it in its shadow root.)
    if (elements.length === 0 || elements.some(({ localName }) => localName.includes('-'))) continue;
    const { hint = '' } = gate.field(path);
    const roots = [form, ...elements.map((element) => element.getRootNode())];
    if (hint !== '' && !roots.some(({ textContent }) => textContent?.includes(hint)))
      yield explain(
        'hint-without-place',
        `the hint of "${path}" shows nowhere: "${hint}". Give it a place: <small data-gate-hint="${path}"></small>, or what \`hint\` of useGateField(gate, "${path}") goes on.`,
      );
  }
}

/** Elements of a kit that are no controls to a form. */
function* foreignWarnings(form: HTMLFormElement, gate: AnyGate): Iterable<Explained> {
  for (const element of form.querySelectorAll('[name]:defined')) {
    const name = element.getAttribute('name')!;
    if (!element.localName.includes('-') || isControl(element) || !gate.has(name) || gate.field(name).traits.hasParts) continue;
    if (internalsOf(gate).store.find(name)!.connections?.size) continue;
    yield explain(
      'element-not-of-the-form',
      `the element ${tagOf(element)} does not take part in forms, so its field "${name}" does not follow it. Connect it yourself:
const field = gate.field('${name}');
connect(field, { element, focus: () => element.focus() });
element.addEventListener('change', () => field.set(element.value));
element.addEventListener('focusout', () => field.leave());
field.subscribe(() => (element.value = field.raw));`,
    );
  }
}

function* referenceWarnings(form: HTMLFormElement, gate: AnyGate): Iterable<Explained> {
  const ids = new Map<string, number>();
  for (const { id } of (form.getRootNode() as ParentNode).querySelectorAll('[id]')) ids.set(id, (ids.get(id) ?? 0) + 1);
  for (const element of form.querySelectorAll('[id]')) {
    if (ids.get(element.id)! > 1)
      yield explain(
        'duplicate-id',
        `the id "${element.id}" is used more than once, so labels and descriptions only reach the first element. Give each element a unique id; forms of several roots or apps another idPrefix each: useGate(schema, { idPrefix: 'booking' }).`,
      );
  }
  for (const label of form.querySelectorAll<HTMLLabelElement>('label'))
    if (!label.control && !isInComponent(gate, label))
      yield explain(
        'label-without-control',
        `the label ${tagOf(label)} (${label.textContent.trim()}) has no control. Set its "for" to the id of a control.`,
      );
}

/** A button without a type submits: of one beside another button that does, that is rarely meant. */
function* buttonWarnings(form: HTMLFormElement): Iterable<Explained> {
  const buttons = [...form.elements].filter(({ localName }) => localName === 'button');
  const typeless = buttons.filter((button) => !button.hasAttribute('type'));
  const submitters = buttons.filter((button) => button.getAttribute('type') === 'submit');
  const inputs = [...form.elements].filter((element) => element.localName === 'input' && (element as HTMLInputElement).type === 'submit');
  // (An image is no element of its form.)
  const images = form.querySelectorAll('input[type=image]');
  if (typeless.length + submitters.length + inputs.length + images.length < 2) return;
  for (const button of typeless)
    yield explain(
      'button-without-type',
      `the button "${button.textContent.trim()}" has no type, so it submits the form. Add type="button", or type="submit" if it is meant to.`,
    );
}

/** Errors that stopped the submission, and that the user cannot see or correct on this page. */
function* refusalWarnings(gate: AnyGate): Iterable<Explained> {
  const nodes: BaseNode[] = [];
  internalsOf(gate).store.root.forEach((node) => nodes.push(node));
  for (const { path, part, parent, findings, connections } of nodes) {
    if (findings.length === 0 || (connections?.size ?? 0) > 0) continue;
    if (!part.traits.hasParts)
      yield explain(
        'error-without-control',
        `the field "${path}" has an error but no control, so the user cannot correct it. Give a control the name "${path}", draw one with useGateField(gate, "${path}"), or connect one: connect(gate.field("${path}"), { element, focus }).`,
      );
    else if (parent)
      yield explain(
        'messages-without-place',
        `the messages of "${path}" have no place, so they appear above the form. Add one: <div data-gate-messages="${path}"></div>.`,
      );
  }
}

/** Milliseconds that a page has to show the fields of a refusal. */
const TIME_TO_SHOW = 300;

/** Elements about whose arrival there may be something to say. */
const RELEVANT = 'input, select, textarea, button, label, template, [name], [id], [data-gate-add], [data-gate-applies]';

/**
 * Logs what is wrong with the markup of a form, each warning once: now, and again after elements have come.
 *
 * @returns stops the warnings
 */
export function watchMarkup(form: HTMLFormElement, warnings: () => Iterable<Explained | false>): () => void {
  let stopped = false;
  const check = (): void => {
    if (!stopped) warnOnce(form, warnings);
  };
  let timer: ReturnType<typeof setTimeout> | undefined;
  // Not before the binding has drawn what it draws.
  queueMicrotask(check);
  const isRelevant = (node: globalThis.Node): boolean =>
    isElement(node) && (node.matches(RELEVANT) || node.querySelector(RELEVANT) !== null);
  const observer = new MutationObserver((records) => {
    if (!records.some(({ addedNodes }) => [...addedNodes].some(isRelevant))) return;
    clearTimeout(timer);
    // What comes in several steps is looked at once.
    timer = setTimeout(check);
  });
  observer.observe(form.getRootNode(), { subtree: true, childList: true });
  for (const { localName } of undefinedElements(form)) void customElements.whenDefined(localName).then(() => setTimeout(check));
  return () => {
    stopped = true;
    observer.disconnect();
    clearTimeout(timer);
  };
}

/**
 * Logs what is wrong with the wiring of a form, each warning once.
 *
 * @returns stops the warnings
 */
export function startDevWarnings(form: HTMLFormElement, gate: AnyGate): () => void {
  const stopWatching = watchMarkup(form, () => [
    ...controlWarnings(form, gate),
    ...foreignWarnings(form, gate),
    ...hintWarnings(form, gate),
    ...referenceWarnings(form, gate),
    ...buttonWarnings(form),
  ]);
  let { status } = gate.state;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const stopListening = gate.subscribe(() => {
    const before = status;
    ({ status } = gate.state);
    if (status !== 'refused' || before === status) return;
    clearTimeout(timer);
    // A form in steps goes to the step of the error meanwhile.
    timer = setTimeout(() => warnOnce(form, () => refusalWarnings(gate)), TIME_TO_SHOW);
  });
  return () => {
    stopWatching();
    stopListening();
    clearTimeout(timer);
  };
}
