// The summary of all errors. It appears with a refusal, and goes as the errors are corrected.

import type { AnyGate } from '../gate/createGate.ts';
import { idOf, type AttributeWriter } from '../showing/attributes.ts';
import { summaryHeading, type OpenErrors, type ShownError } from '../showing/errors.ts';

/**
 * Draws a custom summary.
 *
 * @param place the element with `data-gate-summary`; it is hidden while there is no error
 * @param errors what is wrong, in document order; each has its message and can focus its field
 * @param heading how many there are, in the language of the form
 */
export type DrawSummary = (place: HTMLElement, errors: readonly ShownError[], heading: string) => void;

/** What a summary is made with. */
export interface SummaryContext {
  readonly gate: AnyGate;
  readonly place: HTMLElement;
  readonly attributes: AttributeWriter;
}

/** A summary on a page. */
export interface BoundSummary {
  /** Draws what is left of the last refusal. */
  render(left: OpenErrors): void;
  undo(): void;
}

/** Makes the summary of a form. */
export type SummaryFeature = (context: SummaryContext) => BoundSummary;

/**
 * The summary of all errors of a form, in the element with `data-gate-summary`: a heading, and a list of links to the fields;
 * or drawn your way.
 *
 * @example
 * bindForm(form, gate, { summary: errorSummary });
 * bindForm(form, gate, { summary: errorSummary((place, errors, heading) => drawMyList(place, errors)) });
 */
export function errorSummary(draw: DrawSummary): SummaryFeature;
export function errorSummary(context: SummaryContext): BoundSummary;
export function errorSummary(given: DrawSummary | SummaryContext): SummaryFeature | BoundSummary {
  return typeof given === 'function' ? (context) => new Summary(context, given) : new Summary(given, undefined);
}

class Summary implements BoundSummary {
  readonly #gate: AnyGate;
  readonly #attributes: AttributeWriter;
  readonly #place: HTMLElement;
  readonly #draw: DrawSummary | undefined;
  #drawn: OpenErrors | undefined;
  #heading = '';

  constructor({ gate, place, attributes }: SummaryContext, draw: DrawSummary | undefined) {
    this.#gate = gate;
    this.#place = place;
    this.#attributes = attributes;
    this.#draw = draw;
    attributes.set(place, 'role', 'group');
  }

  render(left: OpenErrors): void {
    // The same errors may be in another language.
    const heading = left.errors.length > 0 ? summaryHeading(this.#gate, left.errors.length) : '';
    if (left === this.#drawn && heading === this.#heading) return;
    this.#drawn = left;
    this.#heading = heading;
    this.#drawIn(this.#place, left.errors);
  }

  undo(): void {
    this.#place.replaceChildren();
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
