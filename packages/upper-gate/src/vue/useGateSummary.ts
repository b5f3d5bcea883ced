// Errors of the form as a whole: a summary of all errors, and a line for messages without another place.

import {
  drawLine,
  drawSummary,
  followErrors,
  idPrefixOf,
  lineMessages,
  type LineMessage,
  type ShownError,
  summaryHeading,
} from '../binding/index.ts';
import type { AnyGate } from '../gate/gate.ts';
import { tieRef, type Ref } from './element.ts';
import { slice } from './slice.ts';

/** A summary: draw it if there are `errors`. A reactive object: don't destructure it. */
export interface GateSummary {
  /** All errors after a refusal, in document order, until they are corrected. */
  readonly errors: readonly ShownError[];
  /** Attributes for the element around the summary. It takes the focus if the option `focus` of the gate is `'summary'`. */
  readonly place: {
    readonly ref: Ref;
    readonly role: 'group';
    readonly tabindex: -1;
    /** Without script, it takes the focus after a refusal. */
    readonly autofocus: boolean;
    readonly 'aria-labelledby': string;
    readonly hidden: boolean;
  };
  /** Attributes for the heading, whose text is `text`. */
  readonly heading: { readonly id: string };
  /** The text of the heading. */
  readonly text: string;
  /** Attributes for the link of an error, whose text is `error.text`. */
  readonly link: (error: ShownError) => {
    readonly href: string;
    /** Focuses the control. */
    readonly onClick: (event: Event) => void;
  };
  /** Attributes for the line above the form, where you want it elsewhere than at its start. It shows findings of the form itself. */
  readonly line: { readonly ref: Ref; readonly tabindex: -1; readonly 'data-gate-messages': '' };
  /** The messages of that line. */
  readonly lineMessages: readonly LineMessage[];
}

/**
 * Connects a component to the errors of a form after a refusal.
 *
 * @param gate the gate of the form
 * @returns the errors, and the attributes of the summary and the line above the form
 *
 * @example
 * const summary = useGateSummary(gate);
 * // <section v-bind="summary.place"><h2 v-bind="summary.heading">{{ summary.text }}</h2> ...
 */
export function useGateSummary(gate: AnyGate): GateSummary {
  const follow = followErrors(gate);
  const left = slice(gate, follow);
  const text = slice(gate, () => summaryHeading(gate, follow()));
  const inLine = slice(gate, lineMessages);
  const placeRef = tieRef((element) => drawSummary(gate, element, follow));
  const lineRef = tieRef((element) => drawLine(gate, element));
  const id = `${idPrefixOf(gate)}-heading`;
  return {
    get errors() {
      return left.value;
    },
    get place() {
      const hidden = left.value.length === 0;
      return { ref: placeRef, role: 'group', tabindex: -1, autofocus: !hidden, 'aria-labelledby': id, hidden } as const;
    },
    heading: { id },
    get text() {
      return text.value;
    },
    link: (error) => ({
      href: `#${error.element?.id ?? `${idPrefixOf(gate)}-${error.path}`}`,
      onClick: (event) => {
        event.preventDefault();
        error.focus();
      },
    }),
    line: { ref: lineRef, tabindex: -1, 'data-gate-messages': '' },
    get lineMessages() {
      return inLine.value;
    },
  };
}
