// Yes or no.

import { makeField, UNREADABLE, type Field } from './field.ts';
import type { FieldSettings, LabelOr } from './node.ts';
import type { Mark, Rule } from './rule.ts';

const TRAITS = { holds: 'flag', json: 'boolean', control: 'checkbox' } as const;
const YES: readonly unknown[] = [true, 'true', 'on'];
const NO: readonly unknown[] = [false, 'false', '', undefined, null];

const read = (raw: unknown): unknown => (YES.includes(raw) ? true : NO.includes(raw) ? false : UNREADABLE);

// What cannot be read stays as it came, so that it is reported and not taken for "no".
const write = (value: unknown): unknown => {
  const data = read(value);
  return data === UNREADABLE ? value : data;
};

/**
 * Makes a field for a checkbox. Its data is always a boolean. As in HTML, `required()` means that it must be ticked.
 *
 * @param settings the label, or settings with a label
 * @param rules the rules of the field, in the order in which they report
 * @returns the field
 *
 * @example
 * boolean('Call me back')
 * boolean('I have read the by-laws', mustBeTrue())
 */
export function boolean(
  settings: LabelOr<FieldSettings<boolean>>,
  ...rules: readonly Rule<boolean, unknown, Mark>[]
): Field<boolean, boolean> {
  return makeField({ name: 'boolean', traits: TRAITS, read, write, emptyData: false, emptyRaw: false }, settings, rules);
}
