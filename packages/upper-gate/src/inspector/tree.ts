// The tree of fields: one row for each, of which one has the tab stop; arrows lead to the others.

import { button, h } from './draw.ts';
import type { TreeRow } from './model.ts';

const textOf = ({ label, path, kind, raw, states, found, shown }: TreeRow): readonly (readonly [part: string, text: string])[] => [
  ['label', label],
  ['path', path === '' ? kind : `${path} · ${kind}`],
  ['raw', raw ?? ''],
  ['states', states.join(', ')],
  ['found', found === 0 ? '' : `${found} found, ${shown} shown`],
];

export interface Tree {
  readonly element: HTMLElement;
  /** @param selected the path of the row that is chosen */
  draw(rows: readonly TreeRow[], selected: string): void;
}

/** @param choose called with the path of a row that is chosen */
export function createTree(choose: (path: string) => void): Tree {
  const element = h('ul', { class: 'tree', 'aria-label': 'Fields' });
  const items = new Map<string, HTMLLIElement>();
  const buttons = (): readonly HTMLButtonElement[] => [...element.querySelectorAll('button')];
  element.addEventListener('keydown', (event) => {
    const all = buttons();
    const at = all.indexOf(event.target as HTMLButtonElement);
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: all.length - 1 }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    all[Math.max(0, Math.min(all.length - 1, to))]?.focus();
  });
  const make = (path: string): HTMLLIElement => {
    const row = button('', { class: 'row' }, () => choose(path));
    row.append(...['label', 'path', 'raw', 'states', 'found'].map((part) => h('span', { class: part })));
    return h('li', {}, row);
  };
  return {
    element,
    draw(rows, selected) {
      const due = new Set(rows.map(({ path }) => path));
      for (const [path, item] of items)
        if (!due.has(path)) {
          item.remove();
          items.delete(path);
        }
      let before: Element | null = null;
      const isThere = due.has(selected);
      rows.forEach((row, index) => {
        const item = items.get(row.path) ?? make(row.path);
        items.set(row.path, item);
        const following: Element | null = before ? before.nextElementSibling : element.firstElementChild;
        if (following !== item) element.insertBefore(item, following);
        before = item;
        const line = item.firstElementChild as HTMLButtonElement;
        const isSelected = row.path === selected;
        line.tabIndex = isSelected || (!isThere && index === 0) ? 0 : -1;
        line.setAttribute('aria-current', String(isSelected));
        line.dataset['severity'] = row.severity ?? '';
        line.classList.toggle('off', row.states.includes('does not apply'));
        line.style.setProperty('--depth', String(row.depth));
        textOf(row).forEach(([, text], i) => {
          const part = line.children[i] as HTMLElement;
          if (part.textContent !== text) part.textContent = text;
          part.hidden = text === '';
        });
      });
    },
  };
}
