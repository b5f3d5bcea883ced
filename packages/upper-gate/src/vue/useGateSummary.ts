// Errors of the form as a whole: a summary of all errors, and a line for messages without another place.

import { nextTick, onScopeDispose, watch } from 'vue';
import {
  announceLine,
  connect,
  focusFilled,
  followRefusals,
  idPrefixOf,
  lineMessages,
  type ShownError,
  summaryHeading,
  textOf,
} from '../binding/index.ts';
import type { AnyGate } from '../gate/gate.ts';
import type { Finding } from '../schema/finding.ts';
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
  /** Attributes for the line above the form, which shows findings of the form itself. Every form needs one. */
  readonly line: { readonly ref: Ref; readonly tabindex: -1; readonly 'data-gate-messages': '' };
  /** The messages of that line. */
  readonly lineMessages: readonly Pick<Finding, 'message' | 'severity'>[];
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
  const follow = followRefusals(gate);
  const left = slice(gate, follow);
  const text = slice(gate, () => summaryHeading(gate, follow().errors.length));
  let place: HTMLElement | undefined;
  let line: HTMLElement | undefined;
  const drawings = {
    subscribe: (listener: () => void) =>
      gate.subscribe(() => {
        listener();
        // A field that is only drawn now shows its messages itself.
        if (follow().unreachable.length > 0) void nextTick(listener);
      }),
  };
  const inLine = slice(drawings, () => lineMessages(gate, follow(), place !== undefined));
  watch(
    () => textOf(inLine.value),
    (text) => announceLine(gate, text),
    { flush: 'post' },
  );
  const focus = (): boolean => focusFilled(place, line);
  onScopeDispose(
    connect(gate.root, {
      focus: () => {
        // What there is to read may only be drawn by then.
        if (!focus()) void nextTick(focus);
        return true;
      },
    }),
  );
  const placeRef = tieRef((element) => {
    place = element;
    return () => (place = undefined);
  });
  const lineRef = tieRef((element) => {
    line = element;
    return () => (line = undefined);
  });
  const id = `${idPrefixOf(gate)}-heading`;
  return {
    get errors() {
      return left.value.errors;
    },
    get place() {
      return { ref: placeRef, role: 'group', tabindex: -1, 'aria-labelledby': id, hidden: left.value.errors.length === 0 } as const;
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
