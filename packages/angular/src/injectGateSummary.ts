// Errors of the form as a whole: a summary of all errors, and a line for messages without another place.

import { computed, type Signal } from '@angular/core';
import type { AnyGate } from 'upper-gate';
import { linkTo, type ShownError, type SummaryFacts, viewSummary } from 'upper-gate/binding';
import { plain, type ElementBundle } from './bundle.ts';
import { injectView, type Reading } from './following.ts';

/** A summary: draw it if there are `errors`. */
export interface GateSummary {
  /** All errors after a refusal, in document order, until they are corrected. */
  readonly errors: Signal<SummaryFacts['errors']>;
  /** For the element around the summary. It takes the focus if the option `focus` of the gate is `'summary'`. */
  readonly place: Signal<ElementBundle>;
  /** For the heading, whose text is `text`. */
  readonly heading: Signal<ElementBundle>;
  /** The text of the heading. */
  readonly text: Signal<string>;
  /** For the link of an error, whose text is `error.text`. It focuses the control. */
  readonly link: (error: ShownError) => ElementBundle;
  /** For the line above the form, where you want it elsewhere than at its start. It shows findings of the form itself. */
  readonly line: Signal<ElementBundle>;
  /** The messages of that line. */
  readonly lineMessages: Signal<SummaryFacts['lineMessages']>;
}

/**
 * Connects a component to the errors of a form after a refusal.
 *
 * @param gate the gate of the form, or a signal of it
 * @returns the errors, and the bundles of the summary and the line above the form
 *
 * @example
 * readonly summary = injectGateSummary(this.booking.gate);
 * // <section [gate]="summary.place()"><h2 [gate]="summary.heading()">{{ summary.text() }}</h2> ...
 */
export function injectGateSummary(gate: Reading<AnyGate>): GateSummary {
  const read = injectView(gate, undefined, viewSummary);
  const links = new WeakMap<ShownError, ElementBundle>();
  return {
    errors: computed(() => read().now.errors),
    place: computed(() => ({ attributes: read().place, attach: read().attachPlace })),
    heading: computed(() => plain(read().heading)),
    text: computed(() => read().now.text),
    link(error) {
      let link = links.get(error);
      if (!link) links.set(error, (link = { attributes: { href: read().hrefOf(error) }, on: { click: linkTo(error) } }));
      return link;
    },
    line: computed(() => ({ attributes: read().line, attach: read().attachLine })),
    lineMessages: computed(() => read().now.lineMessages),
  };
}
