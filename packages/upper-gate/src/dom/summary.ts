// The summary of all errors. It appears with a refusal, and goes as the errors are corrected.

import type { AnyGate } from '../gate/gate.ts';
import { idOf, type AttributeWriter } from '../showing/attributes.ts';
import { focusIn } from '../showing/focus.ts';
import { hasFocus } from '../showing/page.ts';
import { setText } from '../showing/messages.ts';
import { internalsOf } from '../gate/internals.ts';
import { followErrors, type ShownError } from '../showing/errors.ts';
import { summaryHeading } from '../showing/words.ts';

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
  undo(): void;
}

/** Makes the summary of a form. */
export type SummaryFeature = (context: SummaryContext) => BoundSummary;

/**
 * Draws a summary of all errors in the element with `data-gate-summary`: a heading and a list of links to the fields, or
 * whatever your function draws.
 *
 * @param draw draws the list your way; without it, it is a list of links
 * @returns the feature, for `bindForm`
 *
 * @example
 * bindForm(form, gate, { summary: errorSummary });
 * bindForm(form, gate, { summary: errorSummary((place, errors, heading) => drawMyList(place, errors)) });
 */
export function errorSummary(draw: DrawSummary): SummaryFeature;
/**
 * Draws the summary as a list of links.
 *
 * @param context what `bindForm` hands to its features
 * @returns the summary of that form
 */
export function errorSummary(context: SummaryContext): BoundSummary;
export function errorSummary(given: DrawSummary | SummaryContext): SummaryFeature | BoundSummary {
  return typeof given === 'function' ? (context) => new Summary(context, given) : new Summary(given, undefined);
}

class Summary implements BoundSummary {
  readonly #gate: AnyGate;
  readonly #attributes: AttributeWriter;
  readonly #place: HTMLElement;
  readonly #draw: DrawSummary | undefined;
  readonly #title = document.createElement('h2');
  readonly #list = document.createElement('ul');
  readonly #entries = new Map<string, Entry>();
  readonly #left: () => readonly ShownError[];
  readonly #unsubscribe: () => void;
  #drawn: readonly ShownError[] | undefined;
  #heading = '';

  constructor({ gate, place, attributes }: SummaryContext, draw: DrawSummary | undefined) {
    this.#gate = gate;
    this.#place = place;
    this.#attributes = attributes;
    this.#draw = draw;
    attributes.set(place, 'role', 'group');
    attributes.set(place, 'tabindex', '-1');
    this.#left = followErrors(gate);
    internalsOf(gate).places.summary = { element: place, isListing: () => this.#left().length > 0 };
    this.#unsubscribe = gate.subscribe(() => this.#render());
    this.#render();
  }

  undo(): void {
    this.#unsubscribe();
    internalsOf(this.#gate).places.summary = undefined;
    this.#place.replaceChildren();
  }

  #render(): void {
    const errors = this.#left();
    // The same errors may be in another language.
    const heading = errors.length > 0 ? summaryHeading(this.#gate, errors) : '';
    if (errors === this.#drawn && heading === this.#heading) return;
    this.#drawn = errors;
    this.#heading = heading;
    this.#drawIn(this.#place, errors);
  }

  #drawIn(place: HTMLElement, errors: readonly ShownError[]): void {
    const hadFocus = hasFocus(place);
    this.#attributes.set(place, 'hidden', errors.length === 0 ? '' : null);
    if (this.#draw) this.#draw(place, errors, this.#heading);
    else if (errors.length === 0) place.replaceChildren();
    else this.#drawList(place, errors);
    // The link that had it is gone, as its error is.
    if (hadFocus && !hasFocus(place)) focusIn(place);
  }

  /** What stays is not touched: a link may have the focus. */
  #drawList(place: HTMLElement, errors: readonly ShownError[]): void {
    const [title, list] = [this.#title, this.#list];
    if (!list.isConnected) {
      title.id = `${idOf(place, this.#attributes)}-heading`;
      this.#attributes.set(place, 'aria-labelledby', title.id);
      place.replaceChildren(title, list);
    }
    setText(title, this.#heading);
    const entries = errors.map((error) => this.#entryOf(error));
    for (const [key, entry] of this.#entries) {
      if (entries.includes(entry)) continue;
      entry.item.remove();
      this.#entries.delete(key);
    }
    entries.forEach(({ item }, i) => {
      const there = list.children[i];
      if (there !== item) list.insertBefore(item, there ?? null);
    });
  }

  #entryOf(error: ShownError): Entry {
    const { element, text } = error;
    const key = `${error.key} ${element !== undefined}`;
    let entry = this.#entries.get(key);
    if (!entry) this.#entries.set(key, (entry = makeEntry(error)));
    entry.error = error;
    if (element) entry.link!.href = `#${idOf(element, this.#attributes)}`;
    setText(entry.link ?? entry.item, text);
    return entry;
  }
}

/** An error in the list, with a link if there is something to go to. */
interface Entry {
  readonly item: HTMLElement;
  readonly link: HTMLAnchorElement | undefined;
  error: ShownError;
}

function makeEntry(error: ShownError): Entry {
  const entry: Entry = { item: document.createElement('li'), link: error.element && document.createElement('a'), error };
  if (entry.link) entry.item.append(entry.link);
  entry.link?.addEventListener('click', (event) => {
    event.preventDefault();
    entry.error.focus();
  });
  return entry;
}
