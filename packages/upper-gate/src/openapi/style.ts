// How values are written into addresses, headers and form bodies: the styles of OpenAPI, which are those of RFC 6570.

import type { Json } from '../schema/json.ts';
import { isObject, type JsonObject } from '../json-schema/document.ts';

/** What the description of a parameter, or of a part of a body, says of how it is written. */
export interface Written {
  readonly style: string;
  readonly explode: boolean;
}

/** One name in a query or a form body: its value, in pieces that stand between a sign. */
export interface Pair {
  readonly name: string;
  readonly pieces: readonly string[];
  readonly between: string;
}

/** The signs between the entries of a list that is one value. */
const BETWEEN: Readonly<Record<string, string | undefined>> = { spaceDelimited: ' ', pipeDelimited: '|' };

const isList = (value: Json): value is readonly Json[] => Array.isArray(value);

/** A single value as text; what is in it, as JSON. */
export const textOf = (value: Json): string => (value === null ? '' : typeof value === 'object' ? JSON.stringify(value) : String(value));

/** The names and values of an object in one list: `k, v, k2, v2`. */
const flat = (value: JsonObject): readonly string[] =>
  Object.entries(value as Record<string, Json>).flatMap(([key, each]) => [key, textOf(each)]);

/** A value by its way: `berth[side]`, `berth[rows][0]`. */
function deep(name: string, value: Json): readonly Pair[] {
  if (isList(value)) return value.flatMap((each, i) => deep(`${name}[${i}]`, each));
  if (isObject(value)) return Object.entries(value as Record<string, Json>).flatMap(([key, each]) => deep(`${name}[${key}]`, each));
  return [{ name, pieces: [textOf(value)], between: '' }];
}

/** A value in a query, or in a form body. An empty list, or object, is none (RFC 6570). */
export function pairsOf(name: string, value: Json, { style, explode }: Written): readonly Pair[] {
  if (style === 'deepObject') return deep(name, value);
  const one = (key: string, each: Json): Pair => ({ name: key, pieces: [textOf(each)], between: '' });
  const between = BETWEEN[style] ?? ',';
  if (typeof value === 'object' && value !== null && Object.keys(value).length === 0) return [];
  if (isList(value)) return explode ? value.map((each) => one(name, each)) : [{ name, pieces: value.map(textOf), between }];
  if (!isObject(value)) return [one(name, value)];
  return explode
    ? Object.entries(value as Record<string, Json>).map(([key, each]) => one(key, each))
    : [{ name, pieces: flat(value), between }];
}

/** What stands before a value, between its entries where each stands by itself, and whether they are named. */
const SIMPLE = { start: '', between: ',', isNamed: false };
const IN_PATHS: Readonly<Record<string, typeof SIMPLE | undefined>> = {
  label: { start: '.', between: '.', isNamed: false },
  matrix: { start: ';', between: ';', isNamed: true },
};

/** A value in a path, or in a header. @param encode writes each piece of it */
export function pieceOf(name: string, value: Json, { style, explode }: Written, encode: (text: string) => string): string {
  const { start, between, isNamed } = IN_PATHS[style] ?? SIMPLE;
  const named = (text: string): string => (isNamed ? `${name}${text === '' ? '' : `=${text}`}` : text);
  if (isList(value)) {
    const pieces = value.map((each) => encode(textOf(each)));
    return start + (explode ? pieces.map(named).join(between) : named(pieces.join(',')));
  }
  if (!isObject(value)) return start + named(encode(textOf(value)));
  if (!explode) return start + named(flat(value).map(encode).join(','));
  return (
    start +
    Object.entries(value as Record<string, Json>)
      .map(([key, each]) => `${encode(key)}=${encode(textOf(each))}`)
      .join(between)
  );
}
