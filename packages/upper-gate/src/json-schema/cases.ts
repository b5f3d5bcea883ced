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
  for (const { schema, at } of reader.gather([place])) {
    const { properties, required } = schema;
    for (const [key, value] of Object.entries(isObject(properties) ? properties : {})) {
      // (What is referred to is looked at only where it may tell branches apart.)
      const isReferred = isObject(value) && value['$ref'] !== undefined && isList(required) && required.includes(key);
      const said = isReferred ? reader.gather([{ schema: value, at: under(at, 'properties', key) }]).map((bag) => bag.schema) : [value];
      const constant = said.map(constantIn).find((each) => each !== undefined);
      if (constant !== undefined) constants.set(key, constant);
    }
  }
  return constants;
}

/** The only text that a schema accepts. */
function constantIn(schema: unknown): string | undefined {
  if (!isObject(schema)) return undefined;
  const { const: constant, enum: values } = schema;
  const only: unknown = constant ?? (isList(values) && values.length === 1 ? values[0] : undefined);
  return typeof only === 'string' ? only : undefined;
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
    throw new Inexpressible(bag.at, '"oneOf" can be read if all branches have the same property with a different constant text in each.');
  const branches = places.map((place, i) => {
    const value = constants[i]!.get(key)!;
    const title = isObject(place.schema) ? place.schema['title'] : undefined;
    return { value, title: typeof title === 'string' ? title : value, place };
  });
  return { key, branches };
}
