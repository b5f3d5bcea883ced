// Development warnings about the author's hooks on a plain page, each with its fix. A production build leaves this module out.

import { explain } from '#development';
import type { Explained } from '../development/explain.ts';
import type { AnyGate } from '../gate/gate.ts';
import { hasMovingOptions } from '../showing/connect.ts';
import { internalsOf } from '../gate/internals.ts';
import { partAt, type Part } from '../schema/part.ts';
import type { Holding } from '../schema/traits.ts';
import { tagOf, watchMarkup } from '../showing/devWarnings.ts';
import { controlsOf } from '../showing/standIn.ts';
import { Hooks } from './hooks.ts';

/** What the form is bound with. */
type Features = Readonly<Partial<Record<'rows' | 'options' | 'summary', unknown>>>;

/** Hooks that name what the schema does not have. */
function* pathWarnings(form: HTMLFormElement, gate: AnyGate, hooks: Hooks): Iterable<Explained> {
  for (const hook of ['messages', 'hint', 'count', 'label', 'applies', 'add'] as const)
    for (const [path, element] of hooks.all(hook)) {
      if (path === '' || !form.contains(element)) continue;
      if (!gate.has(path))
        yield explain(
          'hook-of-unknown-field',
          `${tagOf(element)} has data-gate-${hook}="${path}", but the schema has no "${path}". Correct the path or remove the attribute.`,
        );
      else if (hook === 'add' && gate.field(path).traits.holds !== 'rows')
        yield explain(
          'add-without-list',
          `${tagOf(element)} has data-gate-add="${path}", but "${path}" is not a list. Write the path of a list.`,
        );
    }
}

/** What a control of HTML holds, where it can hold nothing else. */
const heldBy = (control: HTMLInputElement): string | undefined =>
  control.type === 'checkbox'
    ? 'a tick'
    : control.type === 'file'
      ? 'files'
      : control.multiple && control.localName === 'select'
        ? 'several options'
        : undefined;
/** What a field holds, in the same words. */
const HELD: Partial<Record<Holding, readonly string[]>> = {
  flag: ['a tick'],
  file: ['files'],
  files: ['files'],
  option: ['a tick'],
  options: ['a tick', 'several options'],
};

/** Controls that cannot fill their fields. */
function* kindWarnings(form: HTMLFormElement, gate: AnyGate): Iterable<Explained> {
  for (const element of form.elements as unknown as Iterable<HTMLInputElement>) {
    const name = element.getAttribute('name') ?? '';
    // (Of several in a shadow root, the first says it for all.)
    const [control] = controlsOf(element) as readonly HTMLInputElement[];
    if (name === '' || !control || !gate.has(name)) continue;
    const { kind, traits } = gate.field(name);
    const held = heldBy(control);
    // (A kind of the author's reads what it likes.)
    const isFitting = held === undefined ? !['file', 'files'].includes(traits.holds) : (HELD[traits.holds] ?? []).includes(held);
    if (!isFitting && !(traits.json === 'any' && traits.holds === 'value') && control.type !== 'hidden')
      yield explain(
        'control-of-another-kind',
        `the control ${tagOf(control)} holds ${held ?? 'a text'}, which the field "${name}" (${kind}) cannot read. Take another control, or another kind of field.`,
      );
  }
}

/** Templates of options that have none to draw. */
function* optionWarnings(form: HTMLFormElement, gate: AnyGate): Iterable<Explained> {
  for (const template of form.querySelectorAll<HTMLTemplateElement>('template[data-gate-options]')) {
    const path = template.getAttribute('data-gate-options')!;
    if (!gate.has(path))
      yield explain(
        'hook-of-unknown-field',
        `a template has data-gate-options="${path}", but the schema has no "${path}". Correct the path.`,
      );
    else if (!hasMovingOptions(gate.field(path)))
      yield explain(
        'options-without-rule',
        `a template has data-gate-options="${path}", but no rule gives any options. Add choicesFrom(...) in rules(), or write the options into the page.`,
      );
  }
}

/** Names in the templates of rows, which are relative to the row. */
function* templateWarnings(root: ParentNode, part: Part, path: string): Iterable<Explained> {
  for (const template of root.querySelectorAll<HTMLTemplateElement>('template[data-gate-rows]')) {
    const listPath = template.getAttribute('data-gate-rows')!;
    const list = partAt(part, listPath);
    const whole = path === '' ? listPath : `${path}.${listPath}`;
    if (list?.traits.holds !== 'rows') {
      yield explain(
        'rows-without-list',
        `the template of rows names "${whole}", which is not a list of the schema. Correct data-gate-rows="${listPath}".`,
      );
      continue;
    }
    const row = partAt(list, '0')!;
    for (const element of template.content.querySelectorAll('[name]')) {
      const name = element.getAttribute('name')!;
      if (name === '' || element.hasAttribute('data-gate-ignore') || partAt(row, name) !== undefined) continue;
      yield explain(
        'names-in-a-row',
        name === whole || name.startsWith(`${whole}.`)
          ? `the name "${name}" in the template of "${whole}" repeats the path of the list. Names in a template are relative to the row: write "${name.slice(whole.length).replace(/^\.(\d+\.?)?/, '')}".`
          : `the name "${name}" in the template of "${whole}" names no field: a row has no "${name}". Correct the name, add the field to the schema, or add data-gate-ignore.`,
      );
    }
    yield* templateWarnings(template.content, row, `${whole}.0`);
  }
}

/** Markup of a feature that the form was bound without. */
function* featureWarnings(
  form: HTMLFormElement,
  gate: AnyGate,
  hooks: Hooks,
  { rows, options, summary }: Features,
): Iterable<Explained | false> {
  yield (
    !rows &&
    form.querySelector('[data-gate-rows]') !== null &&
    explain(
      'feature-not-passed',
      'the page has a template of rows, but the form is bound without rows. Import templateRows from upper-gate/dom and write bindForm(form, gate, { rows: templateRows }).',
    )
  );
  if (!options)
    for (const element of form.querySelectorAll('select, template[data-gate-options]')) {
      const path = element.getAttribute('data-gate-options') ?? element.getAttribute('name') ?? '';
      if (path === '' || !gate.has(path) || !hasMovingOptions(gate.field(path))) continue;
      yield explain(
        'feature-not-passed',
        `the options of "${path}" depend on other fields, but the form is bound without them. Import movingOptions from upper-gate/dom and write bindForm(form, gate, { options: movingOptions }).`,
      );
    }
  yield (
    !summary &&
    hooks.find('summary', '') !== null &&
    explain(
      'feature-not-passed',
      'the page has a place for a summary, but the form is bound without one. Import errorSummary from upper-gate/dom and write bindForm(form, gate, { summary: errorSummary }).',
    )
  );
}

/**
 * Logs what is wrong with the hooks of a form, each warning once.
 *
 * @returns stops the warnings
 */
export const startHookWarnings = (form: HTMLFormElement, gate: AnyGate, has: Features): (() => void) =>
  watchMarkup(form, () => {
    const hooks = new Hooks(form);
    const { part } = internalsOf(gate).store.root;
    return [
      ...pathWarnings(form, gate, hooks),
      ...kindWarnings(form, gate),
      ...optionWarnings(form, gate),
      ...templateWarnings(form, part, ''),
      ...featureWarnings(form, gate, hooks, has),
    ];
  });
