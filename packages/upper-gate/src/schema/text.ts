// Text: what most controls hold.

import { makeField, UNREADABLE, type Field, type Marks, type Optional, type RulesFor } from './field.ts';
import { isWellFormed } from './wellFormed.ts';
import type { FieldSettings, LabelOr } from './node.ts';
import { toSettings } from './part.ts';

/** The settings of `text`. */
export interface TextSettings extends FieldSettings<string> {
  /** Whether white space around the text is removed before validation. Default true. The control keeps what was typed. */
  readonly trim?: boolean;
  /** Converts the letters to one case before the text is validated. */
  readonly case?: 'upper' | 'lower';
  /**
   * Whether NUL and halves of surrogate pairs are `badInput`: no keyboard types them, and most databases refuse them. Default
   * true.
   */
  readonly wellFormed?: boolean;
}

const TRAITS = { holds: 'value', json: 'string', measures: 'text' } as const;

/**
 * Whether a text is short, printable ASCII without a blank at its ends, as most texts are. Such a text needs no further
 * reading (bench: P1).
 */
function isPlain(text: string): boolean {
  const { length } = text;
  if (length > 40 || !(text.charCodeAt(0) > 32 && text.charCodeAt(length - 1) > 32)) return false;
  for (let i = 0; i < length; i += 1) {
    const code = text.charCodeAt(i);
    if (code < 32 || code > 126) return false;
  }
  return true;
}

/**
 * Makes a field for text. An empty text is no value: its data is `undefined`, never `''`.
 *
 * @param settings its label, or label and settings
 * @param rules in the order in which they report
 * @returns the field
 *
 * @example
 * text('Vessel name', required(), length({ min: 2, max: 40 }))
 * text({ label: 'Registration', case: 'upper' }, pattern(/^[A-Z]{2}-\d{4}$/, 'Two letters, a dash, four digits'))
 */
export function text<M extends Marks = []>(
  settings: LabelOr<TextSettings>,
  ...rules: RulesFor<string, M>
): Field<Optional<string, M>, string> {
  const { trim = true, case: letters, wellFormed = true, inJson } = toSettings(settings);
  const read = (raw: unknown): unknown => {
    if (typeof raw !== 'string') return raw === undefined || raw === null ? undefined : UNREADABLE;
    if (letters === undefined && isPlain(raw)) return raw;
    if (wellFormed && !isWellFormed(raw)) return UNREADABLE;
    const value = trim ? raw.trim() : raw;
    if (value === '') return undefined;
    return letters === undefined ? value : letters === 'upper' ? value.toUpperCase() : value.toLowerCase();
  };
  const readJson = inJson?.empty === 'value' ? (raw: unknown): unknown => (raw === '' ? raw : read(raw)) : undefined;
  return makeField(
    { name: 'text', traits: TRAITS, read, ...(readJson && { readJson }), details: { trim, case: letters, wellFormed } },
    settings,
    rules,
  );
}
