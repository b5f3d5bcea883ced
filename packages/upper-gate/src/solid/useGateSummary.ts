// Errors of the form as a whole: a summary of all errors, and a line for messages without another place.

import { readViews, type SummaryBundles, summaryBundles, type SummaryView, viewSummary } from '../binding/index.ts';
import type { AnyGate } from '../gate/gate.ts';
import { type Reading, useTracking, valueOf } from './following.ts';
import { type Ref, refOf } from './refOf.ts';

/** A summary: draw it if there are `errors`. Its properties are reactive: don't destructure it. */
export type GateSummary = SummaryBundles<{
  readonly place: SummaryView['place'] & { readonly ref: Ref };
  readonly link: {
    readonly href: string;
    /** Focuses the control. */
    readonly 'on:click': (event: Pick<Event, 'preventDefault'>) => void;
  };
  readonly line: SummaryView['line'] & { readonly ref: Ref };
}>;

/**
 * Connects a component to the errors of a form after a refusal.
 *
 * @param gate the gate of the form, or an accessor of it
 * @returns the errors, and the attributes of the summary and the line above the form
 *
 * @example
 * const summary = useGateSummary(gate);
 * // <section {...summary.place}><h2 {...summary.heading}>{summary.text}</h2> ...
 */
export function useGateSummary(gate: Reading<AnyGate>): GateSummary {
  return summaryBundles(
    readViews(useTracking(), () => [valueOf(gate)], viewSummary),
    {
      place: (attributes, attach) => ({ ...attributes, ref: refOf(attach) }),
      link: (href, follow) => ({ href, 'on:click': follow }),
      line: (attributes, attach) => ({ ...attributes, ref: refOf(attach) }),
    },
  );
}
