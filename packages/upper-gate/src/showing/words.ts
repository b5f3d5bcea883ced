// Words of the page that belong to no finding.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { Finding } from '../schema/finding.ts';
import type { Wording } from '../messages/codes.ts';
import { headingOf } from './plan/heading.ts';
import { formatText, type MessageParams, type Text } from '../messages/text.ts';

/** A text in the language of the form. @param english what it is where the catalogue has none */
export function wordOf(gate: object, name: Wording, english: Text, params: Partial<MessageParams> = {}): string {
  const { catalogue } = internalsOf(gate).store;
  return formatText(catalogue?.[name] ?? english, { label: '', locale: catalogue?.locale ?? 'en', ...params }, catalogue);
}

/**
 * Returns the heading of the list of all errors.
 *
 * @param gate the gate of the form
 * @param errors what the list holds
 * @returns the text, in the language of the form: how many there are to mend, or that something could not be checked
 */
export const summaryHeading = (gate: AnyGate, errors: readonly Pick<Finding, 'code'>[]): string =>
  headingOf(errors, internalsOf(gate).store.catalogue);
