// The rows of a list on the page: an element for each, made from a <template data-gate-rows="list">, or found before it.
// Names inside the template are relative to the row (`name="age"`); on the page they are whole (`crew.0.age`), so that the
// form can be sent without script.

import { devAssert } from '#development';
import type { AnyGate } from '../gate/gate.ts';
import type { Handle, ListHandle, Row } from '../gate/handle.ts';
import { nameInRow, NAMING, REFERRING } from '../html/rowAttributes.ts';
import { followRows } from '../showing/rowNews.ts';
import { handleAt } from '../showing/variants.ts';
import { setText } from '../showing/messages.ts';
import { asUser } from '../showing/entering.ts';
import { isElement } from '../showing/page.ts';

/** What a selector finds in an element, itself too. */
export const all = (element: Element, selector: string): Element[] => [
  ...(element.matches(selector) ? [element] : []),
  ...element.querySelectorAll(selector),
];

/** One row on the page. */
class RowElement {
  readonly element: HTMLElement;
  /** Whether it was on the page before: it stays there. */
  readonly wasThere: boolean;
  /** The attributes that name fields, with the names relative to the row. */
  readonly #names: (readonly [element: Element, attribute: string, relative: string])[];

  constructor(element: HTMLElement, wasThere: boolean, relative: (name: string) => string) {
    this.element = element;
    this.wasThere = wasThere;
    this.#names = NAMING.flatMap((attribute) =>
      all(element, `[${attribute}]`).map((named) => [named, attribute, relative(named.getAttribute(attribute)!)] as const),
    );
  }

  /** Names all in it after where the row stands now. */
  place(path: string, index: number): void {
    if (this.element.dataset['gateRow'] !== path) this.element.dataset['gateRow'] = path;
    for (const [element, attribute, relative] of this.#names) {
      const name = nameInRow(path, index, relative);
      // Each write of an attribute reaches mutation observers, even one that changes nothing.
      if (element.getAttribute(attribute) !== name) element.setAttribute(attribute, name);
    }
    for (const number of all(this.element, '[data-gate-number]'))
      if (number.closest('[data-gate-row]') === this.element) setText(number, String(index + 1));
  }
}

/** Makes ids unique, and what refers to them. */
export function separateIds(element: Element, key: string): void {
  const own = new Set<string>();
  for (const owner of all(element, '[id]')) {
    own.add(owner.id);
    owner.id = `${owner.id}-${key}`;
  }
  for (const attribute of REFERRING)
    for (const reference of all(element, `[${attribute}]`)) {
      const ids = reference.getAttribute(attribute)!.split(/\s+/);
      reference.setAttribute(attribute, ids.map((id) => (own.has(id) ? `${id}-${key}` : id)).join(' '));
    }
}

class BoundRows {
  readonly template: HTMLTemplateElement;
  readonly #gate: AnyGate;
  readonly #handle: Handle;
  readonly #list: ListHandle;
  readonly #changed: () => void;
  readonly #rows = new Map<Row, RowElement>();
  #order: readonly Row[] = [];
  readonly #unsubscribe: () => void;

  /**
   * @param path of the list
   * @param changed called after rows have come, gone or moved
   */
  constructor(template: HTMLTemplateElement, path: string, gate: AnyGate, changed: () => void) {
    devAssert(() => {
      const { childElementCount: count } = template.content;
      return (
        count !== 1 &&
        `<template data-gate-rows="${path}"> must contain one element, the row. It contains ${count}. Wrap them in one element.`
      );
    });
    this.template = template;
    this.#gate = gate;
    this.#handle = gate.field(path);
    this.#list = gate.list(this.#handle);
    this.#changed = changed;
    this.#adopt(path);
    this.#unsubscribe = this.#list.subscribe(() => this.render());
    this.render();
  }

  get path(): string {
    return this.template.getAttribute('data-gate-rows')!;
  }

  /** Whether the form has another list in its place: in an either-or, another case was chosen. */
  get isOver(): boolean {
    return handleAt(this.#gate, this.#handle.path) !== this.#handle;
  }

  /** Rows that the server has drawn: those that the list lacks are added to it. */
  #adopt(path: string): void {
    const drawn = [...this.template.parentElement!.children].filter(
      (element): element is HTMLElement => isElement(element) && element.dataset['gateRow'] === path,
    );
    drawn.forEach((element, index) => {
      const row = index < this.#list.length ? this.#list.row(index) : this.#list.add();
      const prefix = `${path}.${index}`;
      this.#fill(element);
      this.#rows.set(row, new RowElement(element, true, (name) => (name.startsWith(prefix) ? name.slice(prefix.length + 1) : name)));
    });
  }

  /** Rows within rows: an empty template in a row stands for that of the row itself. */
  #fill(row: HTMLElement): void {
    for (const inner of row.querySelectorAll<HTMLTemplateElement>('template[data-gate-rows]'))
      if (inner.content.childElementCount === 0) inner.content.append(this.template.content.cloneNode(true));
  }

  render(): void {
    const rows = this.#list.rows;
    if (rows.length === this.#order.length && rows.every((row, i) => row === this.#order[i])) return;
    const stay = new Set(rows);
    const gone = this.#order.filter((row) => !stay.has(row)).map((row) => [row, this.#rows.get(row)!] as const);
    // Noted first: an element that holds the focus dispatches events as it goes, and what they lead to may draw the rows.
    this.#order = rows;
    for (const [row] of gone) this.#rows.delete(row);
    for (const [, { element }] of gone) element.remove();
    const { activeElement } = this.template.getRootNode() as Document | ShadowRoot;
    let next: Element = this.template;
    for (let index = rows.length - 1; index >= 0; index -= 1) {
      const drawn = this.#draw(rows[index]!);
      drawn.place(this.path, index);
      // An element that is moved loses the focus, so the others move around the one that holds it.
      if (drawn.element.nextElementSibling !== next && !drawn.element.contains(activeElement)) next.before(drawn.element);
      next = drawn.element;
    }
    this.#changed();
  }

  #draw(row: Row): RowElement {
    let drawn = this.#rows.get(row);
    if (!drawn) {
      const element = (this.template.content.cloneNode(true) as DocumentFragment).firstElementChild as HTMLElement;
      separateIds(element, row.key);
      this.#fill(element);
      this.#rows.set(row, (drawn = new RowElement(element, false, (name) => name)));
    }
    return drawn;
  }

  /** Whether an element is one of the rows. */
  has(element: Element): boolean {
    return this.#indexOf(element) >= 0;
  }

  #indexOf(element: Element): number {
    return this.#order.findIndex((row) => this.#rows.get(row)!.element === element);
  }

  /** Does what a button asks for: adds a row, or removes the one it is in, or moves that up or down. */
  act(button: Element, element: Element | null): void {
    asUser(this.#handle, () => this.#follow(button, element));
  }

  #follow(button: Element, element: Element | null): void {
    if (!element) {
      this.#list.add();
      return;
    }
    const index = this.#indexOf(element);
    const direction = button.getAttribute('data-gate-move');
    const to = index + (direction === 'up' ? -1 : 1);
    if (direction === null) this.#list.remove(index);
    else if (to >= 0 && to < this.#order.length) this.#list.move(index, to);
  }

  /** The list itself was moved: it is in a row of another list. */
  rename(): void {
    this.#order.forEach((row, index) => this.#rows.get(row)!.place(this.path, index));
  }

  undo(): void {
    this.#unsubscribe();
    const { isOver } = this;
    // Rows that were on the page before stay there, but for those of another list.
    for (const { element, wasThere } of this.#rows.values()) if (!wasThere || isOver) element.remove();
  }
}

/** What rows are bound with. */
export interface RowsContext {
  readonly form: HTMLFormElement;
  readonly gate: AnyGate;
  /** Ends with the binding. */
  readonly signal: AbortSignal;
  /** Called after rows have come, gone or moved. */
  readonly changed: () => void;
}

/** The rows of a form. */
interface BoundTemplates {
  /** Binds templates that have come, and drops those that have gone. */
  sync(): void;
  undo(): void;
}

/** Makes the rows of a form. */
export type RowsFeature = (context: RowsContext) => BoundTemplates;

/**
 * Draws the rows of lists from `<template data-gate-rows="list">`, and connects the buttons that add, remove and move them. An
 * empty template within a row stands for the template of that row, for rows within rows.
 *
 * @example
 * bindForm(form, gate, { rows: templateRows });
 */
export const templateRows: RowsFeature = ({ form, gate, signal, changed }) => {
  followRows(gate);
  const lists = new Map<HTMLTemplateElement, BoundRows>();
  const clicked = (event: Event): void => {
    const button = (event.target as Element).closest('[data-gate-add], [data-gate-remove], [data-gate-move]');
    // Another form may have a list of the same name.
    const owner = button?.closest('form');
    if (!button || (owner && owner !== form)) return;
    const added = button.getAttribute('data-gate-add');
    // The innermost one: a row may hold rows of another list.
    const row = button.closest('[data-gate-row]');
    const rows = [...lists.values()].find((each) => (added === null ? row !== null && each.has(row) : each.path === added));
    if (!rows) return;
    // Such a button never submits, whatever its type.
    event.preventDefault();
    rows.act(button, added === null ? row : null);
  };
  form.getRootNode().addEventListener('click', clicked, { signal });
  return {
    sync() {
      for (const [template, rows] of lists) {
        if (template.isConnected && !rows.isOver) continue;
        rows.undo();
        lists.delete(template);
      }
      // Rows may bring templates with them.
      for (let found = true; found;) {
        found = false;
        for (const template of form.querySelectorAll<HTMLTemplateElement>('template[data-gate-rows]')) {
          const bound = lists.get(template);
          if (bound) {
            bound.rename();
            continue;
          }
          const path = template.getAttribute('data-gate-rows')!;
          lists.set(template, new BoundRows(template, path, gate, changed));
          found = true;
        }
      }
    },
    undo() {
      for (const rows of lists.values()) rows.undo();
    },
  };
};
