// Words of the page that belong to no finding.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import { summary } from '../messages/english.ts';
import type { Wording } from '../messages/codes.ts';
import { formatText, type MessageParams, type Text } from '../messages/text.ts';

/** A text in the language of the form. @param english what it is where the catalogue has none */
export function wordOf(gate: object, name: Wording, english: Text, params: Partial<MessageParams> = {}): string {
  const { catalogue } = internalsOf(gate).store;
  return formatText(catalogue?.[name] ?? english, { label: '', ...params }, catalogue);
}

/**
 * Returns the heading of the list of all errors.
 *
 * @param gate the gate of the form
 * @param count how many errors there are
 * @returns the text, in the language of the form
 */
export const summaryHeading = (gate: AnyGate, count: number): string => wordOf(gate, 'summary', summary, { count });
