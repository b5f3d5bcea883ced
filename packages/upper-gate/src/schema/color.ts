// Colours, as HTML's control holds them.

import { badColor } from '../messages/englishEnter.ts';
import { makeField, unreadableAs, type Field, type Marks, type Optional, type RulesFor } from './field.ts';
import type { FieldSettings, LabelOr } from './node.ts';

const bad = /* @__PURE__ */ unreadableAs(badColor);

/** HTML's "valid lowercase simple color", in either case. */
const read = (raw: unknown): unknown => {
  if (raw === undefined || raw === null || raw === '') return undefined;
  return typeof raw === 'string' && /^#[\da-f]{6}$/i.test(raw.trim()) ? raw.trim().toLowerCase() : bad;
};

/**
 * Makes a field for colours: `'#14505c'`.
 *
 * @param settings the label, or settings with a label
 * @param rules the rules of the field, in the order in which they report
 * @returns the field
 *
 * @example
 * color('Colour of the hull', required())
 */
export function color<M extends Marks = []>(
  settings: LabelOr<FieldSettings<string>>,
  ...rules: RulesFor<string, M>
): Field<Optional<string, M>, string> {
  return makeField({ name: 'color', traits: { holds: 'value', json: 'string', control: 'color' }, read }, settings, rules);
}
