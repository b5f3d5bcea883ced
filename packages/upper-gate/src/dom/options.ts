// Options that depend on other fields, on the page: those of a <select>, and a radio or box for each, made from a
// <template data-gate-options="field">.

import type { Handle } from '../gate/handle.ts';
import { hasMovingOptions } from '../showing/connect.ts';
import type { TextOptions } from '../schema/option.ts';
import { isControl, isSelect, writeControls } from '../showing/controls.ts';
import { hasFocus } from '../showing/page.ts';
import { setText } from '../showing/messages.ts';
import { handleAt } from '../showing/variants.ts';
import { all, separateIds, type RowsContext } from './rows.ts';

/** Where the options of a field are drawn. */
interface Place {
  readonly handle: Handle;
  readonly unsubscribe: () => void;
}

/** The options of a form. */
interface BoundOptions {
  /** Draws options in places that have come, and leaves those that have gone. */
  sync(): void;
  undo(): void;
}

/** Makes the options of a form. */
export type OptionsFeature = (context: Omit<RowsContext, 'signal'>) => BoundOptions;

/**
 * Draws the options of fields with `choicesFrom` or `asyncChoicesFrom`: in `<select>` elements, where an option without a
 * value stays, and after a `<template data-gate-options="field">` with one element, which holds the radio or checkbox of an
 * option and an element with `data-gate-option-label`.
 *
 * @example
 * bindForm(form, gate, { options: movingOptions });
 */
export const movingOptions: OptionsFeature = ({ form, gate, changed }) => {
  const places = new Map<HTMLSelectElement | HTMLTemplateElement, Place>();
  /** The elements made here, which are removed with the binding. */
  const made = new Set<Element>();
  const bind = (element: HTMLSelectElement | HTMLTemplateElement, path: string): void => {
    const handle = handleAt(gate, path);
    if (places.get(element)?.handle === handle) return;
    places.get(element)?.unsubscribe();
    places.delete(element);
    if (!handle || !hasMovingOptions(handle)) return;
    let drawn: TextOptions | undefined;
    const draw = (): void => {
      const { options = NONE } = handle;
      if (options === drawn) return;
      drawn = options;
      if (isSelect(element)) {
        drawSelect(element, options, made);
        writeControls([element], handle.traits.holds, handle.raw);
      } else if (drawCopies(element, path, options, made)) changed();
    };
    places.set(element, { handle, unsubscribe: handle.subscribe(draw) });
    draw();
  };
  return {
    sync() {
      for (const [element, { unsubscribe }] of places)
        if (!element.isConnected) {
          unsubscribe();
          places.delete(element);
        }
      for (const element of form.elements) if (isSelect(element)) bind(element, element.name);
      for (const template of form.querySelectorAll<HTMLTemplateElement>('template[data-gate-options]'))
        bind(template, template.getAttribute('data-gate-options')!);
    },
    undo() {
      for (const { unsubscribe } of places.values()) unsubscribe();
      for (const element of made) element.remove();
    },
  };
};

const NONE: TextOptions = [];

function remove(elements: Iterable<Element>, made: Set<Element>): void {
  for (const element of elements) {
    element.remove();
    made.delete(element);
  }
}

/** Has a select offer options, behind those without a value. What is there already stays. */
function drawSelect(select: HTMLSelectElement, options: TextOptions, made: Set<Element>): void {
  const there = new Map([...select.options].filter(({ value }) => value !== '').map((option) => [option.value, option]));
  const wanted = options.map(({ value, label }) => {
    let option = there.get(value);
    if (!option) made.add((option = document.createElement('option')));
    there.delete(value);
    option.value = value;
    setText(option, label);
    return option;
  });
  remove(there.values(), made);
  wanted.forEach((option, i) => {
    if (select.options[select.options.length - wanted.length + i] !== option) select.append(option);
  });
}

let copies = 0;

/**
 * Has a copy of what a template holds for each option. What is there already stays.
 *
 * @returns whether others are there now
 */
function drawCopies(template: HTMLTemplateElement, path: string, options: TextOptions, made: Set<Element>): boolean {
  const isOurs = (element: Element): element is HTMLElement =>
    element.hasAttribute('data-gate-option') && all(element, '[name]').some((named) => named.getAttribute('name') === path);
  const there = new Map([...template.parentElement!.children].filter(isOurs).map((element) => [element.dataset['gateOption']!, element]));
  let isChanged = false;
  let before: Element = template;
  for (const { value: key, label } of options) {
    let element = there.get(key);
    there.delete(key);
    if (!element) {
      isChanged = true;
      element = (template.content.cloneNode(true) as DocumentFragment).firstElementChild as HTMLElement;
      made.add(element);
      element.dataset['gateOption'] = key;
      separateIds(element, `option-${(copies += 1)}`);
      for (const control of all(element, '*').filter(isControl)) {
        control.setAttribute('name', path);
        control.setAttribute('value', key);
      }
    }
    const place = element.querySelector('[data-gate-option-label]');
    setText(place, label);
    if (before.nextElementSibling !== element) before.after(element);
    before = element;
  }
  const hadFocus = [...there.values()].some(hasFocus);
  remove(there.values(), made);
  // The option that had the focus is gone: another takes it.
  if (hadFocus) template.nextElementSibling?.querySelector<HTMLElement>('[name]')?.focus();
  return isChanged || there.size > 0;
}
