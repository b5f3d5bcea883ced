// What is known of the chosen field.

import { button, h } from './draw.ts';
import type { Details, FindingRow, RuleRow } from './model.ts';

const list = (title: string, items: readonly Node[], none: string): readonly Node[] => [
  h('h3', {}, title),
  items.length > 0 ? h('ul', {}, ...items) : h('p', { class: 'faint' }, none),
];

/** Where details lead. */
export interface Leads {
  /** Whether the form has a field at a path: what is read may be a fact from outside, too. */
  readonly has: (path: string) => boolean;
  /** Leads to another field. */
  readonly choose: (path: string) => void;
  /** Moves the focus on the page to the field. */
  readonly show: () => void;
}

/** Paths that lead to their fields. */
const links = (paths: readonly string[], { has, choose }: Leads): readonly Node[] =>
  paths.flatMap((path, i) => [
    document.createTextNode(i === 0 ? '' : ', '),
    has(path) ? button(path, { class: 'link' }, () => choose(path)) : document.createTextNode(path),
  ]);

const finding = ({ severity, code, message, by, isShown }: FindingRow): Node =>
  h(
    'li',
    { 'data-severity': severity },
    h('strong', {}, `${severity} ${code}`),
    ` ${isShown ? 'shown' : 'not shown'}, from ${by}: `,
    message ?? '(private)',
  );

const rule = ({ name, reads, came }: RuleRow, leads: Leads): Node =>
  h(
    'li',
    {},
    h('strong', {}, name),
    came === undefined ? '' : ` ${came}`,
    ...(reads.length > 0 ? ['; reads ', ...links(reads, leads)] : []),
  );

/** Draws the details. */
export function drawDetails(element: HTMLElement, details: Details | undefined, leads: Leads): void {
  if (!details) return element.replaceChildren(h('p', { class: 'faint' }, 'The form has this field no more.'));
  const { path, label, kind, values, states, findings, rules, reads, readBy, why } = details;
  element.replaceChildren(
    h('h2', {}, label),
    h('p', { class: 'faint' }, path === '' ? kind : `${path} · ${kind}`),
    h(
      'dl',
      {},
      ...values.flatMap(([name, value]) => [h('dt', {}, name), h('dd', {}, value)]),
      h('dt', {}, 'states'),
      h('dd', {}, states.join(', ')),
    ),
    ...list(
      'Why',
      why.map((sentence) => h('li', {}, sentence)),
      'Nothing to say.',
    ),
    ...list('Findings', findings.map(finding), 'None.'),
    ...list(
      'Rules',
      rules.map((each) => rule(each, leads)),
      'None.',
    ),
    h('p', {}, 'Reads: ', ...(reads.length > 0 ? links(reads, leads) : ['nothing'])),
    h('p', {}, 'Read by: ', ...(readBy.length > 0 ? links(readBy, leads) : ['nobody'])),
    path === '' ? '' : button('Go to the field on the page', {}, () => leads.show()),
  );
}
