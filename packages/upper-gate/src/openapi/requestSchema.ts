// The schema of a request: its body, and its parameters, as one document that refers to the description.

import { DEEPEST, isList, isObject, tooDeep, under, type JsonObject } from '../json-schema/document.ts';
import { writingOf } from '../json-schema/kinds.ts';
import { type Resources, WHOLE } from '../json-schema/keywords/resources.ts';
import type { Body, Description, Encoding, Parameter } from './description.ts';

/** Where the document stands that refers to the description. */
export const REQUEST = `${WHOLE}?request`;

/** The shape of a schema: the body by itself, the parameters by themselves, or a group of both. */
export type Shape = 'body' | 'parameters' | 'both';

/** The shape that a description has by itself. A body that is no object is in a group in any case: a form has fields. */
export const shapeOf = ({ parameters, body }: Description): Shape =>
  !body ? 'parameters' : parameters.length > 0 || body.format === 'text' || body.format === 'file' ? 'both' : 'body';

/** A reference from there to a place in the description. */
const refTo = (at: string): JsonObject => ({ $ref: at.includes('#') ? encodeURI(at) : `${WHOLE}#${encodeURI(at)}` });

/** What a form must not put into a path: as a whole segment, it would lead to another address. */
const NO_SEGMENTS = { not: { enum: ['.', '..'] } };

/** The schema of a file. */
const fileSchema = (kind: 'file' | 'files', rules: readonly JsonObject[]): JsonObject => {
  const { type, keywords } = writingOf(kind)!;
  return { type, ...keywords, gate: { kind, ...(rules.length > 0 && { rules }) } };
};

function ofParameter({ at, in: where, hint }: Parameter, resources: Resources): JsonObject {
  const schema = resources.find(at);
  const isText = isObject(schema) && schema['type'] === 'string';
  return { ...refTo(at), ...(hint !== undefined && { description: hint }), ...(where === 'path' && isText && NO_SEGMENTS) };
}

function ofParameters(parameters: readonly Parameter[], resources: Resources): JsonObject {
  return {
    type: 'object',
    properties: Object.fromEntries(parameters.map((each) => [each.key, ofParameter(each, resources)])),
    required: parameters.filter(({ isRequired }) => isRequired).map(({ key }) => key),
  };
}

function ofBody({ at, format }: Body): JsonObject {
  if (format === 'file') return fileSchema('file', []);
  return at === undefined ? (format === 'text' ? { type: 'string' } : {}) : refTo(at);
}

/** The document. */
export function requestDocument({ title, hint, parameters, body }: Description, shape: Shape, resources: Resources): JsonObject {
  const about = { title, ...(hint !== undefined && { description: hint }) };
  if (shape === 'parameters') return { ...about, ...ofParameters(parameters, resources) };
  if (shape === 'body') return { ...about, ...ofBody(body!) };
  return {
    ...about,
    type: 'object',
    properties: {
      ...(parameters.length > 0 && { parameters: { title: 'Parameters', ...ofParameters(parameters, resources) } }),
      body: { title: 'Body', ...ofBody(body!) },
    },
    required: [...(parameters.some(({ isRequired }) => isRequired) ? ['parameters'] : []), ...(body!.isRequired ? ['body'] : [])],
  };
}

/** The properties that the schema at a place describes, with what it combines. */
function propertiesAt(resources: Resources, at: string, seen = new Set<string>(), depth = 0): Map<string, string> {
  if (depth > DEEPEST) throw tooDeep(at);
  const found = new Map<string, string>();
  const schema = resources.find(at);
  if (!isObject(schema) || seen.has(at)) return found;
  seen.add(at);
  const inner = [
    ...(schema['$ref'] === undefined ? [] : [resources.follow(schema['$ref'], at).at]),
    ...(isList(schema['allOf']) ? schema['allOf'].map((_, i) => under(at, 'allOf', i)) : []),
  ];
  for (const place of inner) for (const [key, where] of propertiesAt(resources, place, seen, depth + 1)) found.set(key, where);
  for (const key of Object.keys(isObject(schema['properties']) ? schema['properties'] : {})) found.set(key, under(at, 'properties', key));
  return found;
}

/** Whether a schema describes bytes as they are: as OpenAPI 3.0 says it, and as 3.1 does. */
const isBytes = (schema: unknown): schema is JsonObject =>
  isObject(schema) &&
  (schema['format'] === 'binary' ||
    (typeof schema['contentMediaType'] === 'string' && schema['contentEncoding'] === undefined && schema['properties'] === undefined));

/** What a schema of bytes, and its encoding, say of a file. */
function rulesOf({ maxLength: max, contentMediaType }: JsonObject, encoding: Encoding | undefined): readonly JsonObject[] {
  const accept = encoding?.contentType ?? contentMediaType;
  const isOpen = typeof accept !== 'string' || /octet-stream|\*\/\*/.test(accept);
  return [...(isOpen ? [] : [{ rule: 'fileType', accept }]), ...(max === undefined ? [] : [{ rule: 'fileSize', max }])];
}

/** The parts of a multipart body that are files, in words that a form reads, by their places. */
export function filesIn(body: Body | undefined, resources: Resources): ReadonlyMap<string, JsonObject> {
  const found = new Map<string, JsonObject>();
  if (body?.format !== 'multipart' || body.at === undefined) return found;
  for (const [name, at] of propertiesAt(resources, body.at)) {
    const { schema, at: place } = resources.endOf({ schema: resources.find(at), at });
    if (!isObject(schema)) continue;
    const { items } = schema;
    const one = isObject(items) ? resources.endOf({ schema: items, at: under(place, 'items') }).schema : schema;
    if (!isBytes(one)) continue;
    const about = Object.fromEntries(
      ['title', 'description', 'minItems', 'maxItems', 'minLength'].flatMap((key) =>
        schema[key] === undefined ? [] : [[key, schema[key]]],
      ),
    );
    found.set(place, { ...about, ...fileSchema(one === schema ? 'file' : 'files', rulesOf(one, body.encodings.get(name))) });
  }
  return found;
}
