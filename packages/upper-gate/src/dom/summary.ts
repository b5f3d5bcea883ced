// The summary of all errors, and the line that tells what has no other place. They come with a refusal.

import type { Gate } from '../gate/createGate.ts';
import type { Node } from '../schema/node.ts';
import { idOf, type Attributes } from '../showing/attributes.ts';
import { isReachable, shownErrors, summaryHeading, type ShownError } from '../showing/errors.ts';
import { showIn } from './places.ts';

/**
 * Draws a summary of one's own.
 *
 * @param place the element with `data-gate-summary`; it is hidden while there is no error
 * @param errors what is wrong, in document order; each knows its message, and how to focus its field
 * @param heading how many there are, in the language of the form
 */
export type DrawSummary = (place: HTMLElement, errors: readonly ShownError[], heading: string) => void;

type SummaryGate = Pick<Gate<Node>, 'state' | 'root'>;

export class Summary {
  readonly #gate: SummaryGate;
  readonly #attributes: Attributes;
  /** Where errors of the form as a whole are told. */
  readonly #line: HTMLElement;
  readonly #place: HTMLElement | null;
  readonly #draw: DrawSummary | undefined;
  /** The fields with errors that the person cannot be brought to, since the last refusal. */
  #strays = new Set<string>();
  /** Whether the form was refused, and not all of it is mended yet. */
  #refused = false;
  #drawn = '';

  constructor(gate: SummaryGate, line: HTMLElement, place: HTMLElement | null, attributes: Attributes, draw: DrawSummary | undefined) {
    this.#gate = gate;
    this.#attributes = attributes;
    this.#line = line;
    this.#place = place;
    this.#draw = draw;
    attributes.set(line, 'role', 'alert');
    for (const target of [line, place]) if (target) attributes.set(target, 'tabindex', '-1');
    if (place) attributes.set(place, 'role', 'group');
  }

  render(): void {
    const { status, submitCount } = this.#gate.state;
    if (status === 'refused') this.#refused = true;
    const errors = this.#refused ? shownErrors(this.#gate) : [];
    this.#refused = errors.length > 0;
    if (status === 'refused') {
      const lost = errors.filter(({ path, element }) => path !== '' && !isReachable(element));
      this.#strays = new Set(lost.map(({ path }) => path));
    }
    const strays = this.#place ? [] : errors.filter(({ path }) => this.#strays.has(path));
    const shown = this.#gate.root.shown;
    showIn(this.#line, [...shown, ...strays.map(({ message }) => ({ message, severity: 'error' as const }))]);
    if (this.#place) this.#drawIn(this.#place, errors, submitCount);
  }

  /** Moves the focus to the summary, or to the line where there is none. @returns whether there is anything to read */
  focus(): boolean {
    const target = [this.#place, this.#line].find((each) => each && !each.hidden && each.hasChildNodes());
    target?.focus();
    return target?.matches(':focus') ?? false;
  }

  undo(): void {
    this.#place?.replaceChildren();
    this.#line.replaceChildren();
  }

  #drawIn(place: HTMLElement, errors: readonly ShownError[], submitCount: number): void {
    const heading = summaryHeading(this.#gate, errors.length);
    const drawn = errors.length === 0 ? '' : [submitCount, heading, ...errors.map(({ path, message }) => `${path} ${message}`)].join('\n');
    if (drawn === this.#drawn && place.hidden === (drawn === '')) return;
    this.#drawn = drawn;
    this.#attributes.set(place, 'hidden', drawn === '' ? '' : null);
    if (this.#draw) this.#draw(place, errors, heading);
    else place.replaceChildren(...(errors.length === 0 ? [] : this.#listOf(place, errors, heading)));
  }

  #listOf(place: HTMLElement, errors: readonly ShownError[], heading: string): HTMLElement[] {
    const title = document.createElement('h2');
    title.textContent = heading;
    title.id = `${idOf(place, this.#attributes)}-heading`;
    this.#attributes.set(place, 'aria-labelledby', title.id);
    const list = document.createElement('ul');
    list.append(
      ...errors.map((error) => {
        const item = document.createElement('li');
        if (error.element) {
          const link = document.createElement('a');
          link.href = `#${idOf(error.element, this.#attributes)}`;
          link.textContent = error.message;
          link.addEventListener('click', (event) => {
            event.preventDefault();
            error.focus();
          });
          item.append(link);
        } else item.textContent = error.message;
        return item;
      }),
    );
    return [title, list];
  }
}
