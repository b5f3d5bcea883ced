// Any value that JSON can hold: what no schema describes.

import { badJson } from '../messages/englishEnter.ts';
import { makeField, unreadableAs, type Field, type Marks, type Optional, type RulesFor } from './field.ts';
import type { FieldSettings, LabelOr } from './node.ts';
import { isJson, type Json } from './json.ts';

const bad = /* @__PURE__ */ unreadableAs(badJson);

const readJson = (value: unknown): unknown => (value === undefined ? undefined : isJson(value) ? value : bad);

function read(raw: unknown): unknown {
  if (raw === null) return undefined;
  if (typeof raw !== 'string') return readJson(raw);
  if (raw.trim() === '') return undefined;
  try {
    return readJson(JSON.parse(raw));
  } catch {
    return bad;
  }
}

/**
 * Makes a field for any value that JSON can hold, at most 100 levels deep. Its control, a `<textarea>`, holds it as text; a
 * text that is given to a form is read as JSON, too. With `source: 'json'` it is the value itself, including `null`.
 *
 * @param settings its label, or label and settings
 * @param rules the rules of the field, in the order in which they report
 * @returns the field
 *
 * @example
 * anyJson('Equipment') // data: { horn: true, lights: [1, 2] }
 */
export function anyJson<M extends Marks = []>(
  settings: LabelOr<FieldSettings<Json>>,
  ...rules: RulesFor<Json, M>
): Field<Optional<Json, M>, string> {
  const writeData = (data: unknown): unknown => JSON.stringify(data, null, 2);
  const write = (value: unknown): unknown => (typeof value === 'string' ? value : writeData(value));
  return makeField({ name: 'anyJson', traits: { holds: 'value', json: 'any' }, read, readJson, write, writeData }, settings, rules);
}
