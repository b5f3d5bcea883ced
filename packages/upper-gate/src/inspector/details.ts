// What is known of the chosen field.

import { button, h } from './draw.ts';
import type { Details, FindingRow, RuleRow } from './model.ts';

const list = (title: string, items: readonly Node[], none: string): readonly Node[] => [
  h('h3', {}, title),
  items.length > 0 ? h('ul', {}, ...items) : h('p', { class: 'faint' }, none),
];

/** Paths that lead to their fields. */
const links = (paths: readonly string[], choose: (path: string) => void): readonly Node[] =>
  paths.flatMap((path, i) => [
    document.createTextNode(i === 0 ? '' : ', '),
    path.startsWith('the ') ? document.createTextNode(path) : button(path, { class: 'link' }, () => choose(path)),
  ]);

const finding = ({ severity, code, message, by, isShown }: FindingRow): Node =>
  h(
    'li',
    { 'data-severity': severity },
    h('strong', {}, `${severity} ${code}`),
    ` ${isShown ? 'shown' : 'not shown'}, from ${by}: `,
    message ?? '(private)',
  );

const rule = ({ name, reads, came }: RuleRow, choose: (path: string) => void): Node =>
  h(
    'li',
    {},
    h('strong', {}, name),
    came === undefined ? '' : ` ${came}`,
    ...(reads.length > 0 ? ['; reads ', ...links(reads, choose)] : []),
  );

/** Draws the details. @param choose leads to another field @param show moves the focus on the page to the field */
export function drawDetails(element: HTMLElement, details: Details | undefined, choose: (path: string) => void, show: () => void): void {
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
      rules.map((each) => rule(each, choose)),
      'None.',
    ),
    h('p', {}, 'Reads: ', ...(reads.length > 0 ? links(reads, choose) : ['nothing'])),
    h('p', {}, 'Read by: ', ...(readBy.length > 0 ? links(readBy, choose) : ['nobody'])),
    path === '' ? '' : button('Go to the field on the page', {}, show),
  );
}
