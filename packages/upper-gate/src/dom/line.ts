// The line above the form: what is wrong with the form as a whole, and errors whose controls cannot take the focus.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { AttributeWriter } from '../showing/attributes.ts';
import { followRefusals, lineMessages, textOf } from '../showing/errors.ts';
import { focusFilled } from '../showing/focus.ts';
import { showIn } from './hooks.ts';
import type { BoundSummary } from './summary.ts';

export class FormLine {
  readonly #gate: AnyGate;
  readonly #line: HTMLElement;
  readonly #summary: BoundSummary | undefined;
  readonly #place: HTMLElement | undefined;
  readonly #left: ReturnType<typeof followRefusals>;

  /** @param place where the summary is, if there is one: it lists the errors of the fields then */
  constructor(gate: AnyGate, line: HTMLElement, attributes: AttributeWriter, summary?: BoundSummary, place?: HTMLElement) {
    this.#gate = gate;
    this.#line = line;
    this.#summary = summary;
    this.#place = place;
    this.#left = followRefusals(gate);
    for (const target of [line, place]) if (target) attributes.set(target, 'tabindex', '-1');
  }

  render(): void {
    const left = this.#left();
    const messages = lineMessages(this.#gate, left, this.#summary !== undefined);
    if (showIn(this.#line, messages)) internalsOf(this.#gate).form?.announceLine(textOf(messages));
    this.#summary?.render(left);
  }

  /**
   * Moves the focus to the summary, or to the line without a summary.
   *
   * @returns whether there is anything to read
   */
  focus(): boolean {
    return focusFilled(this.#place, this.#line);
  }

  undo(): void {
    this.#summary?.undo();
    this.#line.replaceChildren();
  }
}
