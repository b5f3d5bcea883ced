// The summary of all errors, and the line for messages without another place. They appear with a refusal.

import type { AnyGate } from '../gate/createGate.ts';
import { idOf, type AttributeWriter } from '../showing/attributes.ts';
import { followRefusals, summaryHeading, lineMessages, type OpenErrors, type ShownError } from '../showing/errors.ts';
import { focusFilled } from '../showing/focus.ts';
import { showIn } from './hooks.ts';

/**
 * Draws a custom summary.
 *
 * @param place the element with `data-gate-summary`; it is hidden while there is no error
 * @param errors what is wrong, in document order; each knows its message, and how to focus its field
 * @param heading how many there are, in the language of the form
 */
export type DrawSummary = (place: HTMLElement, errors: readonly ShownError[], heading: string) => void;

export class Summary {
  readonly #gate: AnyGate;
  readonly #attributes: AttributeWriter;
  /** Where errors of the form as a whole appear. */
  readonly #line: HTMLElement;
  readonly #place: HTMLElement | null;
  readonly #draw: DrawSummary | undefined;
  readonly #left: () => OpenErrors;
  #drawn: OpenErrors | undefined;
  #heading = '';

  constructor(gate: AnyGate, line: HTMLElement, place: HTMLElement | null, attributes: AttributeWriter, draw: DrawSummary | undefined) {
    this.#gate = gate;
    this.#attributes = attributes;
    this.#line = line;
    this.#place = place;
    this.#draw = draw;
    this.#left = followRefusals(gate);
    attributes.set(line, 'role', 'alert');
    for (const target of [line, place]) if (target) attributes.set(target, 'tabindex', '-1');
    if (place) attributes.set(place, 'role', 'group');
  }

  render(): void {
    const left = this.#left();
    showIn(this.#line, lineMessages(this.#gate, left, this.#place !== null));
    // The same errors may be in another language.
    const heading = this.#place && left.errors.length > 0 ? summaryHeading(this.#gate, left.errors.length) : '';
    if (!this.#place || (left === this.#drawn && heading === this.#heading)) return;
    this.#drawn = left;
    this.#heading = heading;
    this.#drawIn(this.#place, left.errors);
  }

  /** Moves the focus to the summary, or to the line without a summary. @returns whether there is anything to read */
  focus(): boolean {
    return focusFilled(this.#place, this.#line);
  }

  undo(): void {
    this.#place?.replaceChildren();
    this.#line.replaceChildren();
  }

  #drawIn(place: HTMLElement, errors: readonly ShownError[]): void {
    this.#attributes.set(place, 'hidden', errors.length === 0 ? '' : null);
    if (this.#draw) this.#draw(place, errors, this.#heading);
    else place.replaceChildren(...(errors.length === 0 ? [] : this.#listOf(place, errors)));
  }

  #listOf(place: HTMLElement, errors: readonly ShownError[]): HTMLElement[] {
    const title = document.createElement('h2');
    title.textContent = this.#heading;
    title.id = `${idOf(place, this.#attributes)}-heading`;
    this.#attributes.set(place, 'aria-labelledby', title.id);
    const list = document.createElement('ul');
    list.append(
      ...errors.map((error) => {
        const item = document.createElement('li');
        if (error.element) {
          const link = document.createElement('a');
          link.href = `#${idOf(error.element, this.#attributes)}`;
          link.textContent = error.text;
          link.addEventListener('click', (event) => {
            event.preventDefault();
            error.focus();
          });
          item.append(link);
        } else item.textContent = error.text;
        return item;
      }),
    );
    return [title, list];
  }
}
