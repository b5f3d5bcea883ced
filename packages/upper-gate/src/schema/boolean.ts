// Yes or no.

import { FieldPart, UNREADABLE, type Field, type RulesFor } from './field.ts';
import type { Settings } from './node.ts';

const YES: readonly unknown[] = [true, 'true', 'on'];
const NO: readonly unknown[] = [false, 'false', '', undefined, null];

const read = (raw: unknown): unknown => (YES.includes(raw) ? true : NO.includes(raw) ? false : UNREADABLE);

/**
 * A field that is ticked or not. Its data is always a boolean. As in HTML, `required()` means that it must be ticked.
 *
 * @example
 * boolean('Call me back')
 * boolean('I have read the by-laws', required())
 */
export function boolean<Q extends string = never>(settings: string | Settings, ...rules: RulesFor<boolean, Q>): Field<boolean, boolean> {
  // What cannot be read stays as it came, so that it is told and not taken for "no".
  const write = (value: unknown): unknown => {
    const data = read(value);
    return data === UNREADABLE ? value : data;
  };
  return new FieldPart({ name: 'boolean', read, write, blank: false, empty: false }, settings, rules) as never;
}
