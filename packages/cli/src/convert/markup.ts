// A schema as the HTML of a form, for bindForm(): a label, a control, a hint and a place for messages per field.

import type { Element, ElementContent } from 'hast';
import { format } from 'hast-util-format';
import { toHtml } from 'hast-util-to-html';
import { h } from 'hastscript';
import { pathOf } from 'upper-gate';
import { targetOf, type SchemaDescription } from 'upper-gate/interop';

/** Texts that may be longer than this get a control of several lines. */
const LONG = 120;

const join = (path: string, key: string): string => (path === '' ? '' : `${path}.`) + pathOf([key]);
const idOf = (path: string): string => path.replace(/[^\p{L}\p{N}]+/gu, '-') || 'field';

const messages = (path: string): Element => h('div', { dataGateMessages: path });
const hint = (of: SchemaDescription, path: string): Element[] => (of.hint === undefined ? [] : [h('div', { dataGateHint: path }, of.hint)]);

/** Whether an option is chosen to begin with. */
const isChosen = (of: SchemaDescription, value: unknown): boolean => [of.default].flat().includes(value);

/** @param isSure whether it applies in any case */
function control(of: SchemaDescription, path: string, isSure: boolean): Element {
  const { type, required, ...attributes } = of.attributes ?? {};
  // Without script, a field that may not apply must not be required.
  const named = { id: idOf(path), name: path, required: isSure ? required : undefined, ...attributes };
  const first = of.default;
  if (of.traits.holds === 'option') {
    const options = (of.options ?? []).map(({ value, label }) => h('option', { value, selected: isChosen(of, value) }, label));
    return h('select', named, [h('option', { value: '' }), ...options]);
  }
  if (of.traits.holds === 'flag') return h('input', { type, ...named, checked: first === true });
  const text = ['string', 'number'].includes(typeof first) ? String(first) : undefined;
  const { max } = of.rules.find(({ name }) => name === 'length')?.params ?? {};
  if (of.kind === 'anyJson' || (of.traits.measures === 'text' && typeof max === 'number' && max > LONG))
    return h('textarea', { ...named, pattern: undefined }, text);
  return h('input', { type, ...named, value: text });
}

/** The boxes of a field that takes several values. */
const boxes = (of: SchemaDescription, path: string): Element[] =>
  (of.options ?? []).map(({ value, label }) =>
    h('div', [h('label', [h('input', { type: 'checkbox', name: path, value, checked: isChosen(of, value) }), ` ${label}`])]),
  );

/** What stands around a part. */
interface Around {
  readonly whole: SchemaDescription;
  /** Whether it applies only under a condition. */
  readonly conditional?: boolean;
  /** Whether something around it applies only under a condition, or may be left out. */
  readonly isSpared?: boolean;
  /** What the rows are that it is in, the innermost last. */
  readonly rows?: readonly SchemaDescription[];
}

function fieldsOf(fields: Readonly<Record<string, SchemaDescription>>, path: string, outer: Around): ElementContent[] {
  return Object.entries(fields).map(([key, of]) =>
    part(of, join(path, key), { ...outer, conditional: outer.conditional === true || of.conditional === true }),
  );
}

function part(of: SchemaDescription, path: string, outer: Around): ElementContent {
  const { conditional = false } = outer;
  const isSpared = outer.isSpared === true || conditional || !of.always;
  if (targetOf(outer.whole, of)) return { type: 'comment', value: ` ${path}: a form within itself is drawn as deep as you want it ` };
  const { label } = of;
  // What does not apply is hidden.
  const around = conditional ? { dataGateApplies: path } : {};
  const frame = (...content: ElementContent[]): Element => h('fieldset', around, [h('legend', label), ...content]);
  if (of.fields) return frame(...fieldsOf(of.fields, path, { ...outer, conditional: false, isSpared }), messages(path));
  if (of.traits.holds === 'entries') return frame({ type: 'comment', value: ` name the controls of entries ${path}.key ` }, messages(path));
  if (of.item) return frame(...rows(of.item, path, label, outer), messages(path));
  if (of.traits.holds === 'options') return frame(...hint(of, path), ...boxes(of, path), messages(path));
  if (of.cases) {
    const inner = Object.fromEntries(Object.values(of.cases).flatMap(({ fields = {} }) => Object.entries(fields)));
    return frame(
      part(of.chooser!, join(path, of.key!), { ...outer, conditional: false, isSpared }),
      ...fieldsOf(inner, path, { ...outer, conditional: true }),
    );
  }
  const input = control(of, path, !conditional && outer.isSpared !== true);
  const labelled =
    of.traits.holds === 'flag' ? [h('label', [input, ` ${label}`])] : [h('label', { htmlFor: idOf(path) }, label), ' ', input];
  return h('div', around, [...labelled, ...hint(of, path), messages(path)]);
}

/** The rows of a list: a template, in which names are relative to the row. One of the rows that it is in itself is empty. */
function rows(given: SchemaDescription, path: string, label: string, { whole, rows: outer = [] }: Around): ElementContent[] {
  const item = targetOf(whole, given) ?? given;
  const add = h('button', { type: 'button', dataGateAdd: path }, 'Add');
  if (outer.at(-1) === item) return [h('template', { dataGateRows: path }), add];
  if (outer.includes(item)) return [part(given, path, { whole })];
  const inner: Around = { whole, rows: [...outer, item] };
  const content = item.fields ? fieldsOf(item.fields, '', inner) : [part(item, '', inner)];
  const remove = h('button', { type: 'button', dataGateRemove: true }, 'Remove');
  const template = h('template', { dataGateRows: path });
  template.content = {
    type: 'root',
    children: [h('fieldset', [h('legend', [`${label}\u00A0`, h('span', { dataGateNumber: true })]), ...content, remove])],
  };
  format(template.content);
  return [template, add];
}

const hasFiles = ({ traits, fields = {}, cases = {}, item }: SchemaDescription): boolean =>
  traits.holds === 'file' ||
  traits.holds === 'files' ||
  [...Object.values(fields), ...Object.values(cases), ...(item ? [item] : [])].some(hasFiles);

/**
 * The HTML of a form: a place to begin at.
 *
 * @param description of a group
 */
export function toMarkup(description: SchemaDescription): string {
  const form = h('form', { method: 'post', encType: hasFiles(description) ? 'multipart/form-data' : undefined }, [
    h('div', { dataGateSummary: true }),
    ...fieldsOf(description.fields ?? {}, '', { whole: description }),
    messages(''),
    h('button', { type: 'submit' }, 'Send'),
  ]);
  const tree = { type: 'root' as const, children: [form] };
  format(tree);
  return `${toHtml(tree).trim()}\n`;
}
