// Either-or: the branches of a `oneOf` that a constant tells apart.

import { Inexpressible, isList, isObject, under, type Keywords, type Place } from './document.ts';
import type { DocumentReader } from './reader.ts';

export interface OneOfCases {
  /** The property whose value chooses. */
  readonly key: string;
  readonly branches: readonly { readonly value: string; readonly title: string; readonly place: Place }[];
}

/** The properties of a branch that are constant texts. */
function constantsOf(reader: DocumentReader, place: Place): Map<string, string> {
  const constants = new Map<string, string>();
  for (const { schema } of reader.gather([place])) {
    const properties = isObject(schema['properties']) ? schema['properties'] : {};
    for (const [key, value] of Object.entries(properties))
      if (isObject(value) && typeof value['const'] === 'string') constants.set(key, value['const']);
  }
  return constants;
}

/** Takes the `oneOf` of an object. @throws JsonSchemaError for one whose branches nothing tells apart */
export function casesOf(reader: DocumentReader, bags: readonly Keywords[]): OneOfCases | undefined {
  const bag = bags.find((each) => each.has('oneOf'));
  if (!bag) return undefined;
  const places = (bag.takeAs('oneOf', isList, 'a list') ?? []).map((schema, i): Place => ({ schema, at: under(bag.at, 'oneOf', i) }));
  const constants = places.map((place) => constantsOf(reader, place));
  const key = [...(constants[0]?.keys() ?? [])].find((each) => {
    const values = constants.map((of) => of.get(each));
    return !values.includes(undefined) && new Set(values).size === places.length;
  });
  const choices = key === undefined ? reader.choicesOf(bag, places) : undefined;
  if (choices) {
    const branches = [...choices.byValue].map(([value, i]) => ({ value, title: value, place: places[i]! }));
    return { key: choices.key, branches };
  }
  if (key === undefined)
    throw new Inexpressible(bag.at, '"oneOf" can be read if all branches have the same property with a different "const" text in each.');
  const branches = places.map((place, i) => {
    const value = constants[i]!.get(key)!;
    const title = isObject(place.schema) ? place.schema['title'] : undefined;
    return { value, title: typeof title === 'string' ? title : value, place };
  });
  return { key, branches };
}
