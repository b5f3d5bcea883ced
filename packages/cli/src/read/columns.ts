// What the columns of CSV are to a schema: fields of it, or nothing that it knows.

import { closest, distance } from 'fastest-levenshtein';
import { keysOf, pathOf, type Node } from 'upper-gate';
import { describeSchema, targetOf, type SchemaDescription } from 'upper-gate/interop';

/** The columns of a file. */
export interface Columns {
  readonly headers: readonly string[];
  /** The path of each; null for one that is left out. */
  readonly paths: readonly (string | null)[];
  readonly delimiter: string;
}

/** Columns that are no fields. */
export interface UnknownColumns {
  /** Which they are, and what is meant, probably. */
  readonly what: string;
  /** The option that takes them apart, where they were probably not taken apart. */
  readonly delimiter: string | undefined;
}

/** How many columns are named. */
const MOST_NAMED = 10;
/** What else may separate values. */
const DELIMITERS: Readonly<Record<string, string>> = { ',': "','", ';': "';'", '\t': 'tab', '|': "'|'" };

const isIndex = (key: string): boolean => /^\d+$/.test(key);

/** Whether a path leads to something in a schema. */
function leadsSomewhere(of: SchemaDescription, whole: SchemaDescription, [key, ...rest]: readonly string[]): boolean {
  if (key === undefined) return true;
  const target = targetOf(whole, of);
  if (target) return leadsSomewhere(target, whole, [key, ...rest]);
  const { fields, item, cases, traits } = of;
  const inFields = (all: SchemaDescription['fields'] = {}): boolean => Object.hasOwn(all, key) && leadsSomewhere(all[key]!, whole, rest);
  if (fields) return inFields(fields);
  if (item) return (traits.holds !== 'rows' || isIndex(key)) && leadsSomewhere(item, whole, rest);
  if (cases) return (key === of.key && rest.length === 0) || Object.values(cases).some((each) => inFields(each.fields));
  // A field that holds several values, or whatever its own kind reads.
  return traits.json === 'any' || traits.json === 'object' || (traits.json === 'array' && isIndex(key) && rest.length === 0);
}

/** What fields are called, and their paths, with `*` for rows and entries; not those of parts that lie within themselves. */
function* namesIn(of: SchemaDescription, path = ''): Iterable<readonly [name: string, path: string]> {
  const inner = (name: string): string => (path === '' ? '' : `${path}.`) + pathOf([name]);
  const { fields, item, cases, chooser, key } = of;
  for (const [name, field] of Object.entries(fields ?? {})) yield* namesIn(field, inner(name));
  if (item) yield* namesIn(item, inner('*'));
  if (chooser) yield* namesIn(chooser, inner(key!));
  for (const { fields: more } of Object.values(cases ?? {}))
    for (const [name, field] of Object.entries(more ?? {})) yield* namesIn(field, inner(name));
  if (fields || item || cases || path === '') return;
  yield [path.toLowerCase(), path];
  yield [of.label.toLowerCase(), path];
}

/** Which columns of a file are no fields of a schema; nothing if all are. */
export function unknownColumns(schema: Node, columns: Columns): UnknownColumns | undefined {
  const whole = describeSchema(schema);
  const isKnown = (path: string): boolean => leadsSomewhere(whole, whole, keysOf(path));
  const named = new Map(namesIn(whole));
  /** The path that is meant, probably: a slip, or the label. */
  const nearest = (header: string): string | undefined => {
    const given = header.toLowerCase().replace(/\.\d+(?=\.|$)/g, '.*');
    const name = named.size > 0 ? closest(given, [...named.keys()]) : '';
    return distance(given, name) <= Math.max(1, Math.floor(given.length / 3)) ? named.get(name) : undefined;
  };
  const { headers, paths, delimiter } = columns;
  const unknown = headers.filter((_, i) => paths[i] !== null && !isKnown(paths[i]!));
  if (unknown.length === 0) return undefined;
  const list = unknown.slice(0, MOST_NAMED).map((header) => {
    const meant = nearest(header);
    return `${JSON.stringify(header)}${meant === undefined ? '' : ` (${meant}?)`}`;
  });
  const more = unknown.length > MOST_NAMED ? `, and ${unknown.length - MOST_NAMED} more` : '';
  // If not one column is a field, it is more likely that they were never taken apart.
  const others = unknown.length < headers.length ? [] : Object.keys(DELIMITERS).filter((each) => each !== delimiter);
  const split = others
    .map((each) => [each, headers.join(delimiter).split(each)] as const)
    .filter(([, names]) => names.length > headers.length);
  const [best] = split.sort(([, a], [, b]) => b.filter(isKnown).length - a.filter(isKnown).length || b.length - a.length);
  return {
    what: `no field for the column${unknown.length === 1 ? '' : 's'} ${list.join(', ')}${more}`,
    delimiter: best && `--delimiter ${DELIMITERS[best[0]]!}`,
  };
}
