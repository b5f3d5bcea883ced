// Any value that JSON can hold: what no schema describes.

import { badJson } from '../messages/englishEnter.ts';
import { makeField, unreadableAs, type Field, type Marks, type Optional, type RulesFor } from './field.ts';
import type { FieldSettings, LabelOr } from './node.ts';
import { isWellFormed } from './text.ts';

/** A value that JSON can hold. */
export type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };

const bad = /* @__PURE__ */ unreadableAs(badJson);

/** How deep it may lie; deeper values are taken for an attack on the stack. */
const DEEPEST = 100;

/** Whether JSON can hold a value, and nothing in it harms what it is copied into. */
function isJson(value: unknown, depth = 0): value is Json {
  if (value === null || typeof value === 'boolean') return true;
  if (typeof value === 'number') return Number.isFinite(value);
  if (typeof value === 'string') return isWellFormed(value);
  if (typeof value !== 'object' || depth === DEEPEST) return false;
  if (Array.isArray(value)) return value.every((each) => isJson(each, depth + 1));
  return Object.entries(value).every(([key, each]) => key !== '__proto__' && isWellFormed(key) && isJson(each, depth + 1));
}

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
  const write = (value: unknown): unknown => (typeof value === 'string' ? value : JSON.stringify(value, null, 2));
  return makeField({ name: 'anyJson', traits: { holds: 'value', json: 'any' }, read, readJson, write }, settings, rules);
}
