// A form that says all in HTML needs no schema: it is read from its controls.

import { fileType } from '../rules/files.ts';
import { length } from '../rules/length.ts';
import { required } from '../rules/required.ts';
import { check } from '../rules/crossField/check.ts';
import { boolean } from '../schema/boolean.ts';
import { choice, choices } from '../schema/choice.ts';
import { color } from '../schema/color.ts';
import { custom } from '../schema/custom.ts';
import { file, files } from '../schema/files.ts';
import { group, type Fields, type Group } from '../schema/group.ts';
import { list } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import { number } from '../schema/number.ts';
import { range } from '../rules/range.ts';
import type { Mark, Rule } from '../schema/rule.ts';
import { text } from '../schema/text.ts';
import { fieldFromAttributes, type FieldFromAttributesOptions } from '../html/fieldFromAttributes.ts';
import { type Control, isControl, isSelect, nameOf, sortOf } from '../showing/controls.ts';

/** The options of `schemaFromForm`. */
export type SchemaFromFormOptions = Pick<FieldFromAttributesOptions, 'rules'>;

/** How the page calls a control: its legend if it is one of several, its label, its name. */
function labelOf(controls: readonly Control[]): string {
  const [control] = controls as readonly [HTMLInputElement];
  const legend = controls.length > 1 ? control.closest('fieldset')?.querySelector('legend') : undefined;
  const label = legend ?? control.labels?.[0];
  return label?.textContent.trim() || control.getAttribute('aria-label') || control.getAttribute('title') || nameOf(control);
}

/** Without `disabled`: the binding follows it, and a control may be enabled later. */
const attributesOf = (element: Element): Record<string, string> =>
  Object.fromEntries([...element.attributes].flatMap(({ name, value }) => (name === 'disabled' ? [] : [[name, value]])));

/** HTML bars inputs of every type that are read-only from validation; selects have no such attribute. */
const isReadOnly = (control: Element): boolean => control.localName === 'input' && control.hasAttribute('readonly');
const isRequired = (control: Element): boolean => control.hasAttribute('required') && !isReadOnly(control);

/** As in HTML, each box of a group that is `required` has to be ticked. */
function requiredBoxes(controls: readonly Control[]): Rule<readonly string[], unknown, Mark>[] {
  const wanted = controls.filter(isRequired).map((control) => (control as HTMLInputElement).value);
  const isTicked = (ticked: readonly string[]): boolean => wanted.every((value) => ticked.includes(value));
  return wanted.length === 0 ? [] : [required(), check(isTicked, { code: 'valueMissing' })];
}

/** The field of the controls of one name. */
function fieldOf(controls: readonly Control[], options: SchemaFromFormOptions): Node {
  const [control] = controls as readonly [HTMLInputElement];
  const label = labelOf(controls);
  const requiredRules = controls.some(isRequired) ? [required()] : [];
  const values = controls.map((each) => (each as HTMLInputElement).value);
  const sort = sortOf(controls, controls.length > 1 ? 'options' : 'flag');
  if (sort === 'radio') return choice(label, values, ...requiredRules);
  if (sort === 'checkbox')
    return controls.length > 1 ? choices(label, values, ...requiredBoxes(controls)) : boolean(label, ...requiredRules);
  if (isSelect(control)) {
    const select = control as unknown as HTMLSelectElement;
    const options = [...select.options].map(({ value }) => value).filter((value) => value !== '' || select.multiple);
    // A script may fill it later: then any value is taken.
    if (options.length === 0)
      return select.multiple
        ? custom(label, { read: (raw: unknown) => (Array.isArray(raw) && raw.length > 0 ? raw : undefined), empty: [] }, ...requiredRules)
        : text({ label, trim: false }, ...requiredRules);
    return select.multiple ? choices(label, options, ...requiredRules) : choice(label, options, ...requiredRules);
  }
  if (control.type === 'file') {
    const accept = control.accept === '' ? [] : [fileType(control.accept)];
    return control.multiple ? files(label, ...requiredRules, ...accept) : file(label, ...requiredRules, ...accept);
  }
  if (control.type === 'color') return color(label);
  if (control.type === 'hidden') return text(label);
  const attributes = { ...attributesOf(control), 'aria-label': label };
  // It always has a value on its steps; limits that contradict each other do not count.
  if (control.type === 'range') {
    const [min, max] = [Number(control.min || 0), Number(control.max || 100)];
    return number(label, ...(min <= max && !isReadOnly(control) ? [range({ min, max })] : []));
  }
  // The page's own markup is trusted as its script is; the browser runs its patterns anyway, or ignores them.
  return fieldFromAttributes(attributes, control.localName === 'textarea' ? 'textarea' : 'input', {
    ...options,
    trustPatterns: true,
    invalidPatterns: 'ignore',
  });
}

/** Fields by name, put into one another by the dots in their names. */
function nest(byName: ReadonlyMap<string, Node>): Group<Fields> {
  const fields: Record<string, Node> = {};
  const inner = new Map<string, Map<string, Node>>();
  for (const [name, field] of byName) {
    const dot = name.indexOf('.');
    if (dot < 0) fields[name] = field;
    else {
      const key = name.slice(0, dot);
      const fieldsThere = inner.get(key) ?? new Map<string, Node>();
      inner.set(key, fieldsThere.set(name.slice(dot + 1), field));
    }
  }
  for (const [key, names] of inner) if (!(key in fields)) fields[key] = nest(names);
  return group(fields);
}

function read(root: ParentNode, controls: Iterable<Element>, options: SchemaFromFormOptions): Group<Fields> {
  const byName = new Map<string, Control[]>();
  for (const element of controls) {
    // Rows that are drawn already belong to the list of their template.
    if (!isControl(element) || nameOf(element) === '' || element.closest('[data-gate-row]')) continue;
    byName.set(nameOf(element), [...(byName.get(nameOf(element)) ?? []), element]);
  }
  const nodes = new Map<string, Node>([...byName].map(([name, all]) => [name, fieldOf(all, options)]));
  for (const template of root.querySelectorAll<HTMLTemplateElement>('template[data-gate-rows]')) {
    const path = template.getAttribute('data-gate-rows')!;
    const { content } = template;
    const inside = content.querySelectorAll('input, select, textarea');
    const whole = inside.length === 1 && inside[0]!.getAttribute('name') === '';
    const row = whole ? fieldOf([inside[0] as Control], options) : read(content, inside, options);
    const { gateMin, gateMax } = template.dataset;
    const limits = { ...(gateMin && { min: Number(gateMin) }), ...(gateMax && { max: Number(gateMax) }) };
    nodes.set(path, list(template.getAttribute('aria-label') ?? path, row, ...(gateMin || gateMax ? [length(limits)] : [])));
  }
  return nest(nodes);
}

/**
 * Reads the schema of a form from its HTML: the constraint attributes of its controls, by name. Dots in names make groups;
 * `<template data-gate-rows="crew">` makes a list.
 *
 * @param form the form element
 * @param options your own rules, which attributes may name
 * @returns a group, to extend or to add clauses to; the types of its fields are known only at run time
 *
 * @example
 * const form = document.querySelector('form')!;
 * bindForm(form, createGate(schemaFromForm(form), { submit: () => form.submit() }));
 */
export const schemaFromForm = (form: HTMLFormElement, options: SchemaFromFormOptions = {}): Group<Fields> =>
  read(form, form.elements, options);
