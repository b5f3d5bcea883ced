// Errors of the form as a whole: a summary of all errors, and a line for messages without another place.

import { useMemo, type ReactNode, type RefCallback } from 'react';
import { drawLine, drawSummary, followErrors, idPrefixOf, lineMessages, type ShownError, summaryHeading } from '../binding/index.ts';
import type { AnyGate } from '../gate/gate.ts';
import { messageElements } from './useGateField.ts';
import { tieRef } from './tieRef.ts';
import { useSlice } from './useSlice.ts';

/** A summary: draw it if there are `errors`. */
export interface GateSummary {
  /** All errors after a refusal, in document order, until they are corrected. */
  readonly errors: readonly ShownError[];
  /** Attributes for the element around the summary. It takes the focus if the option `focus` of the gate is `'summary'`. */
  readonly place: {
    readonly ref: RefCallback<HTMLElement>;
    readonly role: 'group';
    readonly tabIndex: -1;
    /** Without script, it takes the focus after a refusal. */
    readonly autoFocus: boolean;
    readonly 'aria-labelledby': string;
    readonly hidden: boolean;
  };
  readonly heading: { readonly id: string; readonly children: string };
  /** Attributes for the link of an error. */
  readonly link: (error: ShownError) => {
    readonly href: string;
    /** Focuses the control. */
    readonly onClick: (event: { preventDefault(): void }) => void;
    readonly children: string;
  };
  /** Attributes for the line above the form, where you want it elsewhere than at its start. It shows findings of the form itself. */
  readonly line: {
    readonly ref: RefCallback<HTMLElement>;
    readonly tabIndex: -1;
    readonly 'data-gate-messages': '';
    readonly children: ReactNode;
  };
}

/**
 * Connects a component to the errors of a form after a refusal.
 *
 * @param gate the gate of the form
 * @returns the errors, and the attributes of the summary and the line above the form
 *
 * @example
 * const { line, place, heading, errors, link } = useGateSummary(gate);
 * return <><div {...line} /><section {...place}><h2 {...heading} />{errors.map((error) => <a key={error.key} {...link(error)} />)}</section></>;
 */
export function useGateSummary(gate: AnyGate): GateSummary {
  const { left, refs } = useMemo(() => {
    const left = followErrors(gate);
    return {
      left,
      refs: {
        place: tieRef((element: HTMLElement) => drawSummary(gate, element, left)),
        line: tieRef((element: HTMLElement) => drawLine(gate, element)),
      },
    };
  }, [gate]);
  const errors = useSlice(gate, left);
  const heading = useSlice(gate, () => summaryHeading(gate, left()));
  const inLine = useSlice(gate, () => lineMessages(gate));
  const id = `${idPrefixOf(gate)}-heading`;
  return {
    errors,
    place: {
      ref: refs.place,
      role: 'group',
      tabIndex: -1,
      autoFocus: errors.length > 0,
      'aria-labelledby': id,
      hidden: errors.length === 0,
    },
    heading: { id, children: heading },
    link: (error) => ({
      href: `#${error.element?.id ?? `${idPrefixOf(gate)}-${error.path}`}`,
      onClick: (event) => {
        event.preventDefault();
        error.focus();
      },
      children: error.text,
    }),
    line: {
      ref: refs.line,
      tabIndex: -1,
      'data-gate-messages': '',
      children: messageElements(inLine),
    },
  };
}
