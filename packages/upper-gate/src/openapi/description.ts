// What an OpenAPI document says of one operation: where it is, its parameters, and the body that a form sends.

import { isList, isObject, JsonSchemaError, under, type JsonObject } from '../json-schema/document.ts';
import type { Resources, Spot } from '../json-schema/keywords/resources.ts';
import type { Written } from './style.ts';

/** Where a parameter stands in a request. */
type ParameterPlace = 'path' | 'query' | 'header';

/** A parameter of an operation. */
export interface Parameter extends Written {
  /** Its key among the values. */
  readonly key: string;
  readonly name: string;
  readonly in: ParameterPlace;
  readonly isRequired: boolean;
  readonly allowReserved: boolean;
  /** Whether it is written as JSON. */
  readonly isJson: boolean;
  readonly hint: string | undefined;
  /** The place of its schema. */
  readonly at: string;
}

/** How a part of a form body is written. */
export interface Encoding {
  readonly contentType: string | undefined;
  /** How it is written into a form body; nothing where its media type says so. */
  readonly written: Written | undefined;
}

/** How a body travels. */
type BodyFormat = 'json' | 'multipart' | 'urlencoded' | 'text' | 'file';

/** The body of a request. */
export interface Body {
  readonly contentType: string;
  readonly format: BodyFormat;
  readonly isRequired: boolean;
  /** The place of its schema; nothing where it has none. */
  readonly at: string | undefined;
  readonly encodings: ReadonlyMap<string, Encoding>;
}

/** One operation of a document. */
export interface Description {
  /** In capitals, such as `POST`. */
  readonly method: string;
  readonly path: string;
  readonly title: string;
  readonly hint: string | undefined;
  /** The address that paths are relative to. */
  readonly server: string;
  readonly parameters: readonly Parameter[];
  readonly body: Body | undefined;
}

const METHODS = ['get', 'put', 'post', 'delete', 'options', 'head', 'patch', 'trace'];
/** The specification says of these header parameters that they are none. */
const NO_PARAMETERS = ['accept', 'content-type', 'authorization'];

const textIn = (object: JsonObject, key: string): string | undefined => {
  const value = object[key];
  return typeof value === 'string' && value !== '' ? value : undefined;
};

/** A map of a document, entry by entry; nothing where there is none. */
const entriesOf = (value: unknown): [key: string, value: unknown][] => (isObject(value) ? Object.entries(value) : []);

/** Finds operations in a document. */
export class Descriptions {
  readonly #document: JsonObject;
  readonly #resources: Resources;

  /** @throws JsonSchemaError for what is no OpenAPI document of a version that can be read */
  constructor(document: unknown, resources: Resources) {
    const version = isObject(document) ? (document['openapi'] ?? document['swagger']) : undefined;
    if (!isObject(document) || !/^3\.[0-2]\b/.test(String(version)))
      throw new JsonSchemaError(
        '',
        version === undefined
          ? 'this is no OpenAPI document: "openapi" is missing. For a JSON Schema, use fromJsonSchema().'
          : `"openapi" is ${JSON.stringify(version)}. OpenAPI 3.0 and 3.1 can be read.`,
      );
    this.#document = document;
    this.#resources = resources;
  }

  /**
   * An operation.
   *
   * @param named its `operationId`, or its method and path
   * @param contentType how its body is to be sent; default: as JSON, else as a form
   * @throws JsonSchemaError where there is none
   */
  describe(named: string, contentType: string | undefined): Description {
    const { method, path, item, operation } = this.#find(named);
    const id = textIn(operation.schema as JsonObject, 'operationId') ?? `${method.toUpperCase()} ${path}`;
    const schema = operation.schema as JsonObject;
    return {
      method: method.toUpperCase(),
      path,
      title: textIn(schema, 'summary') ?? id,
      hint: textIn(schema, 'description'),
      server: this.#server([schema, item.schema as JsonObject, this.#document]),
      parameters: this.#parameters(path, item, operation),
      body: this.#body(operation, method, contentType),
    };
  }

  /** What stands at a place, or where that refers to. */
  #follow(spot: Spot): Spot {
    const end = this.#resources.endOf(spot);
    if (!isObject(end.schema))
      throw new JsonSchemaError(
        spot.at,
        `an object is needed. It is ${end.schema === undefined ? 'missing' : JSON.stringify(end.schema)}.`,
      );
    return end;
  }

  #find(named: string): { method: string; path: string; item: Spot; operation: Spot } {
    const [, wanted, only] = /^([a-z]+)\s+(\/.*)$/i.exec(named) ?? [];
    const { paths } = this.#document;
    const known: string[] = [];
    const all = isObject(paths) ? paths : {};
    for (const path of only === undefined ? Object.keys(all) : Object.hasOwn(all, only) ? [only] : []) {
      const given = all[path];
      // (Only what refers to something else is looked up: there may be thousands.)
      const item =
        isObject(given) && given['$ref'] === undefined ? given : this.#follow({ schema: given, at: under('', 'paths', path) }).schema;
      for (const method of METHODS) {
        const schema = (item as JsonObject)[method];
        if (!isObject(schema)) continue;
        if (only === undefined ? schema['operationId'] === named : method === wanted!.toLowerCase()) {
          const spot = this.#follow({ schema: given, at: under('', 'paths', path) });
          return { method, path, item: spot, operation: { schema, at: under(spot.at, method) } };
        }
        known.push(textIn(schema, 'operationId') ?? `${method.toUpperCase()} ${path}`);
      }
    }
    const some = `${known.slice(0, 10).join(', ')}${known.length > 10 ? ` and ${known.length - 10} more` : ''}`;
    throw new JsonSchemaError(
      '/paths',
      `there is no operation "${named}". ${known.length === 0 ? 'Name it by its operationId, or as "POST /passages".' : `There is: ${some}.`}`,
    );
  }

  /** The first address that is said, the nearest first, with the defaults of its variables. */
  #server(around: readonly JsonObject[]): string {
    const lists = around.map(({ servers }) => servers).filter((servers) => isList(servers) && servers.length > 0);
    const [server] = (lists[0] ?? []) as readonly unknown[];
    if (!isObject(server)) return '';
    return entriesOf(server['variables']).reduce(
      (url, [name, variable]) => url.replaceAll(`{${name}}`, isObject(variable) ? String(variable['default']) : ''),
      textIn(server, 'url') ?? '',
    );
  }

  #parameters(path: string, ...around: readonly Spot[]): readonly Parameter[] {
    const found = new Map<string, Parameter>();
    for (const { schema, at } of around) {
      const { parameters } = schema as JsonObject;
      for (const [i, given] of (isList(parameters) ? parameters : []).entries()) {
        const parameter = this.#parameter(path, this.#follow({ schema: given, at: under(at, 'parameters', i) }));
        // (What an operation says replaces what its path says.)
        if (parameter) found.set(`${parameter.in} ${parameter.name}`, parameter);
      }
    }
    // Parameters of one name stand in different places.
    const names = new Set<string>();
    return [...found.values()].map((each) => {
      const key = names.has(each.name) ? `${each.name} (${each.in})` : each.name;
      names.add(key);
      return { ...each, key };
    });
  }

  /** A parameter; nothing for those that no form sends: cookies, and headers that are not for it to set. */
  #parameter(path: string, { schema, at }: Spot): Parameter | undefined {
    const given = schema as JsonObject;
    const name = textIn(given, 'name');
    if (name === undefined) throw new JsonSchemaError(at, 'a parameter needs a "name".');
    const { in: where, style, explode, required, content } = given;
    if (where === 'cookie' || (where === 'header' && NO_PARAMETERS.includes(name.toLowerCase()))) return undefined;
    if (where !== 'path' && where !== 'query' && where !== 'header')
      throw new JsonSchemaError(at, `"in" is path, query, header or cookie. It is ${JSON.stringify(where)}.`);
    if (where === 'path' && !path.includes(`{${name}}`))
      throw new JsonSchemaError(at, `the path ${path} has no {${name}}. Write it there, or take the parameter away.`);
    const [media] = entriesOf(content);
    const styles = STYLES[where];
    return {
      key: name,
      name,
      in: where,
      isRequired: required === true || where === 'path',
      allowReserved: given['allowReserved'] === true,
      ...(writtenIn({ style, explode }, styles, at) ?? { style: styles[0], explode: styles[0] === 'form' }),
      isJson: media !== undefined,
      hint: textIn(given, 'description'),
      at: media ? under(at, 'content', media[0], 'schema') : under(at, 'schema'),
    };
  }

  #body({ schema, at }: Spot, method: string, wanted: string | undefined): Body | undefined {
    const { requestBody } = schema as JsonObject;
    // (No browser sends one with these.)
    if (requestBody === undefined || ['get', 'head', 'trace'].includes(method)) return undefined;
    const body = this.#follow({ schema: requestBody, at: under(at, 'requestBody') });
    const { content, required } = body.schema as JsonObject;
    const all = entriesOf(content).flatMap(([type, media]) => {
      const format = formatOf(type);
      return format ? [{ type, format, media: isObject(media) ? media : {} }] : [];
    });
    const chosen =
      wanted === undefined
        ? FORMATS.map(([format]) => all.find((each) => each.format === format)).find((each) => each !== undefined)
        : all.find(({ type }) => type === wanted);
    if (!chosen)
      throw new JsonSchemaError(
        under(body.at, 'content'),
        wanted === undefined
          ? `a form sends JSON, multipart/form-data, application/x-www-form-urlencoded, text or a file. Here is: ${Object.keys(content ?? {}).join(', ') || 'nothing'}.`
          : `there is no content "${wanted}" that a form sends. There is: ${all.map(({ type }) => type).join(', ') || 'nothing'}.`,
      );
    const { type, format, media } = chosen;
    return {
      contentType: type.includes('*') ? SENT[format] : type,
      format,
      isRequired: required === true,
      at: media['schema'] === undefined ? undefined : under(body.at, 'content', type, 'schema'),
      encodings: new Map(
        entriesOf(media['encoding']).map(([name, each]) => [
          name,
          encodingOf(isObject(each) ? each : {}, under(body.at, 'content', type, 'encoding', name)),
        ]),
      ),
    };
  }
}

/** How bodies travel, by their media types, the first choice first. */
const FORMATS: readonly (readonly [BodyFormat, RegExp])[] = [
  ['json', /^(?:application\/(?:[\w.!#$&^+-]+\+)?json|\*\/\*|application\/\*)$/i],
  ['multipart', /^multipart\/form-data$/i],
  ['urlencoded', /^application\/x-www-form-urlencoded$/i],
  ['text', /^text\/(?!xml|html)/i],
  ['file', /^(?:application\/(?:octet-stream|pdf|zip|gzip)|image\/|audio\/|video\/)/i],
];
/** What is sent where a range of media types is accepted. */
const SENT: Readonly<Record<BodyFormat, string>> = {
  json: 'application/json',
  multipart: 'multipart/form-data',
  urlencoded: 'application/x-www-form-urlencoded',
  text: 'text/plain',
  file: 'application/octet-stream',
};

const formatOf = (type: string): BodyFormat | undefined => FORMATS.find(([, pattern]) => pattern.test(type.split(';')[0]!.trim()))?.[0];

/** The styles in which values are written in each place, the default first. */
const STYLES: Readonly<Record<ParameterPlace, readonly [string, ...string[]]>> = {
  path: ['simple', 'label', 'matrix'],
  query: ['form', 'spaceDelimited', 'pipeDelimited', 'deepObject'],
  header: ['simple'],
};

/** How a value is written, where `style` or `explode` says so; the first style is the default. @throws JsonSchemaError for a style that there is not */
function writtenIn({ style, explode }: JsonObject, styles: (typeof STYLES)[ParameterPlace], at: string): Written | undefined {
  if (style === undefined && explode === undefined) return undefined;
  const own = style ?? styles[0];
  if (typeof own !== 'string' || !styles.includes(own))
    throw new JsonSchemaError(at, `"style" is ${JSON.stringify(style)}. Here it can be ${styles.join(', ')}.`);
  return { style: own, explode: typeof explode === 'boolean' ? explode : own === 'form' };
}

const encodingOf = (encoding: JsonObject, at: string): Encoding => ({
  contentType: textIn(encoding, 'contentType'),
  written: writtenIn(encoding, STYLES.query, at),
});
