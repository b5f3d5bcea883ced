// The errors of a form as a whole, as a component follows them: a summary, and the line above the form.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import { idsOf } from '../showing/bundle.ts';
import { followErrors, type ShownError } from '../showing/errors.ts';
import { drawLine, drawSummary, lineMessages } from '../showing/ownPlaces.ts';
import type { LineMessage } from '../showing/plan/line.ts';
import { summaryHeading } from '../showing/words.ts';
import { sameFacts, type View, viewOf } from './view.ts';

/** What a component shows of the errors of a form. */
export interface SummaryFacts {
  /** All errors after a refusal, in document order, until they are corrected. */
  readonly errors: readonly ShownError[];
  /** The text of the heading. */
  readonly text: string;
  /** The messages of the line above the form. */
  readonly lineMessages: readonly LineMessage[];
}

/** The errors of a form, as a component follows them. */
export interface SummaryView extends View<SummaryFacts> {
  /** The attributes of the element around the summary, under the names that HTML gives them. */
  readonly place: {
    readonly role: 'group';
    readonly tabindex: -1;
    /** Without script, it takes the focus after a refusal. */
    readonly autofocus: boolean;
    readonly 'aria-labelledby': string;
    readonly hidden: boolean;
  };
  /** Says that an element is the summary. It takes the focus if the option `focus` of the gate is `'summary'`. */
  readonly attachPlace: (element: HTMLElement) => () => void;
  /** The attributes of its heading. */
  readonly heading: { readonly id: string };
  /**
   * Returns the address of an error, for a link.
   *
   * @param error one of the errors
   */
  readonly hrefOf: (error: ShownError) => string;
  /** The attributes of the line above the form. */
  readonly line: { readonly tabindex: -1; readonly 'data-gate-messages': '' };
  /** Says that an element is that line. */
  readonly attachLine: (element: HTMLElement) => () => void;
}

/**
 * Follows the errors of a form after a refusal.
 *
 * @param gate the gate of the form
 * @returns the view
 *
 * @example
 * const summary = viewSummary(gate);
 * for (const error of summary.now.errors) console.log(summary.hrefOf(error), error.text);
 */
export function viewSummary(gate: AnyGate): SummaryView {
  const follow = followErrors(gate);
  const facts = viewOf(
    gate,
    (): SummaryFacts => {
      const errors = follow();
      return { errors, text: summaryHeading(gate, errors), lineMessages: lineMessages(gate) };
    },
    sameFacts,
  );
  const heading = { id: `${internalsOf(gate).idPrefix}-heading` };
  return {
    subscribe: facts.subscribe,
    get now() {
      return facts.now;
    },
    get place() {
      const isEmpty = facts.now.errors.length === 0;
      return { role: 'group', tabindex: -1, autofocus: !isEmpty, 'aria-labelledby': heading.id, hidden: isEmpty } as const;
    },
    attachPlace: (element) => drawSummary(gate, element, follow),
    heading,
    hrefOf: ({ element, path }) => `#${element?.id ?? idsOf(gate, path).id}`,
    line: { tabindex: -1, 'data-gate-messages': '' },
    attachLine: (element) => drawLine(gate, element),
  };
}
