// How data travel: as JSON to a server, into patches, drafts and files, and back. Most data are JSON already. A kind whose data
// JSON cannot hold, or are made from those of another kind, says what stands for them.

import { isUnreadable, isField, type FieldPart, type Unreadable } from './field.ts';
import { isJson, isPlain, type Json } from './json.ts';
import type { DATA, Node, RAW } from './node.ts';
import { partOf, type Part } from './part.ts';
import { atOnce, isObjectLike } from './safeAccess.ts';
import { sameValue } from './sameValue.ts';

/** How the data of a field travel, where they are no JSON, such as a `Date`, or JSON of another shape. */
export interface Travelling<T> {
  /** Writes data as JSON. Default: as they are. */
  readonly toJson?: (data: T) => Json;
  /** Makes data of JSON that anybody may have sent: `unreadable()` for what is none. Default: what reads back equal. */
  readonly fromJson?: (json: Json) => T | Unreadable;
}

/** The same number but for rounding, or the same value. */
const isSame = (a: unknown, b: unknown): boolean =>
  typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) <= 1e-9 * Math.max(Math.abs(a), Math.abs(b)) : sameValue(a, b);

/**
 * Reads JSON as data, by what comes back of it: what a control would hold of the data must read as the same.
 *
 * @param there reads what a control would hold of the data
 * @param bad what it returns for JSON that reads as something else
 * @throws TypeError where data are no JSON, and nothing says what stands for them
 */
export function readBack(json: unknown, there: (data: unknown) => unknown, bad: Unreadable): unknown {
  const data = atOnce(there(json));
  if (isUnreadable(data) || isSame(data, json)) return data;
  // An empty text is no value, as everywhere; nothing else gets lost.
  if (data === undefined) return json === '' ? data : bad;
  if (isJson(data)) return bad;
  throw new TypeError(noJson('the field', data));
}

/** What an error says of data that JSON cannot hold. (What is entered decides whether there are such: production builds say it, too.) */
function noJson(what: string, data: unknown): string {
  const is = isObjectLike(data) ? `a ${data.constructor.name}` : typeof data === 'number' ? String(data) : `a ${typeof data}`;
  return `${what} holds ${is}, which JSON cannot hold. Give its kind toJson and fromJson, or leave it out; send a file by itself.`;
}

/** Makes something else of each field of a value; what is of no part stays. */
function eachField(part: Part | undefined, value: unknown, make: (part: FieldPart, value: unknown) => unknown): unknown {
  if (part === undefined || value === undefined) return value;
  if (part.row) return eachField(part.row(), value, make);
  if (isField(part)) return make(part, value);
  if (Array.isArray(value))
    return value.map((each: unknown, i) => {
      const row = part.locate?.(String(i))?.part;
      // (A row without a choice is there all the same.)
      return each === undefined && row?.traits.holds === 'cases' ? {} : eachField(row, each, make);
    });
  if (!isPlain(value)) return value;
  return Object.fromEntries(Object.keys(value).map((key) => [key, eachField(part.locate?.(key, value)?.part, value[key], make)]));
}

/** Data as they travel, where their kinds say so. What JSON cannot hold stays as it is. */
export const travelling = (whole: Part, data: unknown): unknown =>
  eachField(whole, data, ({ spec: { writeJson }, emptyData }, each) => (writeJson && each !== emptyData ? atOnce(writeJson(each)) : each));

/** The data that values read as, which are data or what controls hold; what cannot be read stays as it is. */
export const readAs = (whole: Part, values: unknown): unknown =>
  eachField(whole, values, ({ spec: { read, write } }, each) => {
    const data = atOnce(read(write ? write(each, 'en') : each, 'en'));
    return isUnreadable(data) ? each : data;
  });

/**
 * A value as JSON holds it: keys without a value are left out.
 *
 * @param keys on the way to it
 * @throws TypeError for what JSON cannot hold: it names the path
 */
export function asJson(value: unknown, keys: readonly string[] = []): Json {
  if (value === null || typeof value === 'string' || typeof value === 'boolean') return value;
  if (typeof value === 'number' && Number.isFinite(value)) return value;
  if (Array.isArray(value)) return value.map((each, i) => (each === undefined ? null : asJson(each, [...keys, String(i)])));
  if (isPlain(value))
    return Object.fromEntries(
      Object.entries(value).flatMap(([key, each]) => (each === undefined ? [] : [[key, asJson(each, [...keys, key])]])),
    );
  throw new TypeError(noJson(`"${keys.join('.')}"`, value));
}

/**
 * Returns data as JSON, as `source: 'json'` reads them back: for the body of a request, or a file. Keys without a value are left out.
 *
 * @param schema the schema
 * @param data what a validation or a form yielded
 * @returns a value for `JSON.stringify`
 * @throws TypeError for data that JSON cannot hold, and whose kind has no `toJson`: it names the path
 *
 * @example
 * const sold = mapped(date('Sold'), { to: (day) => new Date(day), from: (at) => at.toISOString().slice(0, 10), toJson: (at) => at.getTime() });
 * JSON.stringify(jsonOf(group({ sold }), { sold: new Date(0) })); // {"sold":0}
 */
export const jsonOf = <N extends Node>(schema: N, data: N[typeof DATA]): Json => asJson(travelling(partOf(schema), data) ?? null);

/** The data that JSON stands for; JSON as it is where it is none. */
export function dataIn(part: Part, json: unknown): unknown {
  const data = json !== undefined && isField(part) && part.spec.readJson ? atOnce(part.spec.readJson(json)) : json;
  return isUnreadable(data) ? json : data;
}

/** What a form takes for the JSON of a field: what its control holds, or data, where a language decides how they are written. */
function held(part: FieldPart, json: unknown): unknown {
  const { readJson, write, writeData = write, translate, mapped } = part.spec;
  if (json === undefined || json === null || !readJson) return json;
  const data = atOnce(readJson(json));
  // (What cannot be read, a form shows as it came.)
  if (isUnreadable(data)) return json;
  // (What a language decides is written by the form; only where mapped data could be taken for what is typed, it cannot know.)
  const isClear = !mapped || typeof data !== typeof part.emptyRaw;
  return data === undefined || !writeData || (translate && isClear) ? data : atOnce(writeData(data, 'en'));
}

/** Values of JSON as a form takes them. */
export const heldIn = (whole: Part | undefined, json: unknown): unknown => eachField(whole, json, held);

/**
 * Returns data that came as JSON, such as what a server has stored, as the values of a form: for `initial`, `rebase`, `set` and
 * `markSaved`. (These take data and what controls hold, told apart by type; JSON of a `Date` is a text like the control's.)
 *
 * @param schema the schema
 * @param json what `jsonOf` has written, parsed
 * @returns the values
 *
 * @example
 * const bill = group({ toll: mapped(number('Toll (€)'), { to: (euros) => euros * 100, from: (cents) => cents / 100 }) });
 * createGate(bill, { initial: valuesOf(bill, JSON.parse('{"toll":250}')) }).field('toll').raw; // '2.5'
 */
export const valuesOf = <N extends Node>(schema: N, json: unknown): N[typeof RAW] => heldIn(partOf(schema), json);
