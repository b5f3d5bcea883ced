// Errors of the form as a whole: a summary of all errors, and a line for messages without another place.

import { readViews, type SummaryBundles, summaryBundles, type SummaryView, viewSummary } from '../binding/index.ts';
import type { AnyGate } from '../gate/gate.ts';
import { type Ref, refOf } from './element.ts';
import { useTracking } from './track.ts';

/** A summary: draw it if there are `errors`. A reactive object: don't destructure it. */
export type GateSummary = SummaryBundles<{
  readonly place: SummaryView['place'] & { readonly ref: Ref };
  readonly link: {
    readonly href: string;
    /** Focuses the control. */
    readonly onClick: (event: Pick<Event, 'preventDefault'>) => void;
  };
  readonly line: SummaryView['line'] & { readonly ref: Ref };
}>;

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
  return summaryBundles(
    readViews(useTracking(), () => [gate], viewSummary),
    {
      place: (attributes, attach) => ({ ...attributes, ref: refOf(attach) }),
      link: (href, onClick) => ({ href, onClick }),
      line: (attributes, attach) => ({ ...attributes, ref: refOf(attach) }),
    },
  );
}
