// Errors of the form as a whole: a summary of all errors, and a line for messages without another place.

import { useMemo, type ReactNode, type RefCallback } from 'react';
import { linkTo, type ShownError, viewSummary } from '../binding/index.ts';
import type { AnyGate } from '../gate/gate.ts';
import { messageElements } from './useGateField.ts';
import { refOf } from './refOf.ts';
import { useView } from './useView.ts';

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
  const view = useMemo(() => viewSummary(gate), [gate]);
  const { errors, text, lineMessages } = useView(view);
  const { tabindex: tabIndex, autofocus: autoFocus, ...place } = view.place;
  return {
    errors,
    place: { ...place, tabIndex, autoFocus, ref: refOf(view.attachPlace) },
    heading: { ...view.heading, children: text },
    link: (error) => ({ href: view.hrefOf(error), onClick: linkTo(error), children: error.text }),
    line: { tabIndex, 'data-gate-messages': '', ref: refOf(view.attachLine), children: messageElements(lineMessages) },
  };
}
