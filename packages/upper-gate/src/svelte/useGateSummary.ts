// Errors of the form as a whole: a summary of all errors, and a line for messages without another place.

import { readViews, type SummaryBundles, summaryBundles, type SummaryView, viewSummary } from '../binding/index.ts';
import type { AnyGate } from '../gate/gate.ts';
import { attached, type Attached } from './attachments.ts';
import { type Reading, track, valueOf } from './following.ts';

/** A summary: draw it if there are `errors`. Its properties are reactive: don't destructure it. */
export type GateSummary = SummaryBundles<{
  readonly place: SummaryView['place'] & Attached;
  readonly link: {
    readonly href: string;
    /** Focuses the control. */
    readonly onclick: (event: Pick<Event, 'preventDefault'>) => void;
  };
  readonly line: SummaryView['line'] & Attached;
}>;

/**
 * Connects a component to the errors of a form after a refusal.
 *
 * @param gate the gate of the form, or a function that reads it from props
 * @returns the errors, and the attributes of the summary and the line above the form
 *
 * @example
 * const summary = useGateSummary(gate);
 * // <section {...summary.place}><h2 {...summary.heading}>{summary.text}</h2> ...
 */
export function useGateSummary(gate: Reading<AnyGate>): GateSummary {
  return summaryBundles(
    readViews(track, () => [valueOf(gate)], viewSummary),
    {
      place: (attributes, attach) => ({ ...attributes, ...attached(attach) }),
      link: (href, onclick) => ({ href, onclick }),
      line: (attributes, attach) => ({ ...attributes, ...attached(attach) }),
    },
  );
}
