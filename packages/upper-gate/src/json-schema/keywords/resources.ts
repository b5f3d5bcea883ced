// The documents that a schema may refer to, and where references lead: pointers, anchors, identifiers of schemas. A place is written
// as a JSON Pointer into the document that is read, or as `uri#pointer` into another one. Nothing is fetched.

import { keysIn, pointerOf } from '../../schema/pointer.ts';
import { isList, isObject, JsonSchemaError, omit, type JsonObject } from '../document.ts';
import { dialectIn, dialectOf, spelt, type Dialect } from './dialect.ts';

/** A schema, and where it stands. */
export interface Spot {
  readonly schema: unknown;
  readonly at: string;
}

/** What holds no schemas, whatever it looks like. */
const VALUES = ['enum', 'const', 'default', 'example', 'examples', 'x-example'];
/** The address of the document that is read, where it has none itself. */
export const WHOLE = 'document:/';
/** Longer chains of references are taken for circles. */
const MOST_REFERENCES = 20;
/** Larger documents are not searched for identifiers. */
const MOST_PLACES = 2_000_000;

/** A schema with an address of its own, and the anchors in it. */
interface Resource {
  readonly uri: string;
  readonly at: string;
  readonly anchors: Map<string, string>;
  /** The names of those that may be replaced from outside (`$dynamicAnchor`). */
  readonly dynamic: Set<string>;
}

/** Which way values go: to a server (what is `readOnly` does not), or from it (`writeOnly`). */
type Direction = 'request' | 'response';

/** Writes the schema at a place in other words, for values that are not JSON; nothing where it stays. */
type Reword = (schema: JsonObject, at: string) => JsonObject | undefined;

/** How the documents are read. */
export interface ResourcesOptions {
  /** What only goes the other way is left out. */
  readonly direction?: Direction | undefined;
  readonly reword?: Reword | undefined;
}

/** Which branch the value of a property chooses. */
export interface Choices {
  readonly key: string;
  readonly byValue: ReadonlyMap<string, number>;
}

const isMarked = (schema: unknown, mark: string): boolean => isObject(schema) && schema[mark] === true;

const isText = (value: unknown): value is string => typeof value === 'string';

/** An address in relation to another; nothing for what is none. */
function addressIn(base: string, uri: string): string | undefined {
  try {
    return new URL(uri, base).href.replace(/#$/, '');
  } catch {
    return undefined;
  }
}

export class Resources {
  /** The documents, by what stands before the `#` of their places; `''` is the one that is read. */
  readonly #documents: ReadonlyMap<string, unknown>;
  /** Those names, by their whole addresses. */
  readonly #names: ReadonlyMap<string, string>;
  #byUri: Map<string, Resource> | undefined;
  /** The dialects of the documents, by their names. */
  readonly #dialects = new Map<string, Dialect>();
  /** The resources at which places begin, by the place. */
  readonly #at = new Map<string, Resource>();

  readonly #direction: Direction | undefined;
  /** Schemas in the words of 2020-12, by what they are. */
  readonly #spelt = new WeakMap<JsonObject, JsonObject>();

  readonly #reword: Reword | undefined;

  /** @param document the one that is read; others refer to it by `WHOLE` */
  constructor(document: unknown, others: Readonly<Record<string, unknown>> = {}, { direction, reword }: ResourcesOptions = {}) {
    this.#direction = direction;
    this.#reword = reword;
    this.#documents = new Map([['', document], ...Object.entries(others).map(([uri, each]) => [uri.replace(/#$/, ''), each] as const)]);
    const base = addressIn(WHOLE, idOf(document) ?? '')!;
    this.#names = new Map([...this.#documents.keys()].map((name) => [name === '' ? WHOLE : (addressIn(base, name) ?? name), name]));
  }

  /** A schema at a place, in the words of 2020-12, without the properties that do not go this way. */
  words(schema: JsonObject, at: string): JsonObject {
    const before = this.#spelt.get(schema);
    if (before) return before;
    const own = this.#thisWay(spelt(schema, this.#dialectAt(at, schema)), at);
    const now = this.#reword?.(own, at) ?? own;
    this.#spelt.set(schema, now);
    return now;
  }

  #thisWay(schema: JsonObject, at: string): JsonObject {
    const { properties, required } = schema;
    if (this.#direction === undefined || !isObject(properties)) return schema;
    const mark = this.#direction === 'request' ? 'readOnly' : 'writeOnly';
    const isOther = (each: unknown): boolean =>
      isObject(each) && (each[mark] === true || (isText(each['$ref']) && isMarked(this.follow(each['$ref'], at).schema, mark)));
    const others = Object.keys(properties).filter((key) => isOther(properties[key]));
    if (others.length === 0) return schema;
    return {
      ...schema,
      properties: omit(properties, others),
      ...(isList(required) && { required: required.filter((name) => !others.includes(name as string)) }),
    };
  }

  /**
   * Which branch the values of a telling property choose (`discriminator` of OpenAPI); nothing where there is none.
   *
   * @param branches the schemas of `oneOf` or `anyOf`
   */
  choicesOf({ discriminator }: JsonObject, branches: readonly unknown[], at: string): Choices | undefined {
    if (!isObject(discriminator) || !isText(discriminator['propertyName'])) return undefined;
    const mapping = isObject(discriminator['mapping']) ? Object.entries(discriminator['mapping']) : [];
    const targets = mapping.map(([value, target]) => [value, this.#mapped(target, at)] as const);
    const byValue = new Map<string, number>();
    for (const [i, branch] of branches.entries()) {
      if (!isObject(branch) || !isText(branch['$ref'])) return undefined;
      const place = this.follow(branch['$ref'], at).at;
      const values = targets.filter(([, target]) => target === place).map(([value]) => value);
      // (Unless it is mapped, a schema is chosen by its own name.)
      for (const value of values.length > 0 ? values : [keysIn(split(place)[1]).at(-1)!]) byValue.set(value, i);
    }
    return { key: discriminator['propertyName'], byValue };
  }

  /** Where a value of a mapping leads: a reference, or the name of a schema. */
  #mapped(target: unknown, at: string): string {
    if (!isText(target)) throw new JsonSchemaError(at, `"mapping" takes an object of strings. It has ${JSON.stringify(target)}.`);
    const isName = /^[\w.-]+$/.test(target) && isObject(this.#schemas(at)) && Object.hasOwn(this.#schemas(at) as object, target);
    return this.follow(isName ? `#/components/schemas/${target}` : target, at).at;
  }

  #schemas(at: string): unknown {
    const document = this.#documents.get(split(at)[0]);
    const components = isObject(document) ? document['components'] : undefined;
    return isObject(components) ? components['schemas'] : undefined;
  }

  /** The dialect of a schema at a place: its own, else that of its document. */
  #dialectAt(at: string, schema: JsonObject): Dialect {
    const own = schema['$schema'];
    if (own !== undefined) {
      const known = dialectOf(own);
      if (!known)
        throw new JsonSchemaError(at, `"$schema" is ${JSON.stringify(own)}. Only JSON Schema 2020-12, 2019-09 and draft-07 can be read.`);
      return known;
    }
    const [name] = split(at);
    const dialect = this.#dialects.get(name) ?? dialectIn(this.#documents.get(name));
    this.#dialects.set(name, dialect);
    return dialect;
  }

  /** What stands at a place. @throws JsonSchemaError if there is nothing @param asker who refers to it */
  find(at: string, asker = at): unknown {
    const [name, pointer] = split(at);
    let value = this.#documents.get(name);
    for (const key of keysIn(pointer)) {
      if (typeof value !== 'object' || value === null || !Object.hasOwn(value, key))
        throw new JsonSchemaError(asker, `there is nothing at ${at.includes('#') ? at : `#${at}`}.`);
      value = (value as JsonObject)[key];
    }
    return value;
  }

  /**
   * Where a reference leads.
   *
   * @param ref the reference
   * @param from the place of the schema that has it
   * @throws JsonSchemaError if nowhere that is known
   */
  follow(ref: unknown, from: string): Spot {
    if (!isText(ref)) throw new JsonSchemaError(from, `"$ref" takes a text. It is ${JSON.stringify(ref)}.`);
    const [address = '', fragment = ''] = ref.split(/#(.*)/s, 2);
    const own = this.resourceAt(from);
    const resource = address === '' ? own : this.#named(address, own, from, ref);
    let name: string;
    try {
      name = decodeURIComponent(fragment);
    } catch {
      throw new JsonSchemaError(from, `"$ref" is ${JSON.stringify(ref)}, which is escaped wrongly.`);
    }
    if (name === '' || name.startsWith('/')) {
      const at = resource.at + name;
      return { schema: this.find(at, from), at };
    }
    this.#index();
    const at = (this.#byUri!.get(resource.uri) ?? resource).anchors.get(name);
    if (at === undefined) throw new JsonSchemaError(from, `"$ref" is ${JSON.stringify(ref)}, but no schema has that anchor.`);
    return { schema: this.find(at, from), at };
  }

  /** Where what stands at a place is in the end: what refers to something else is followed. */
  endOf({ schema, at }: Spot): Spot {
    let end = { schema, at };
    for (let i = 0; i < MOST_REFERENCES && isObject(end.schema) && end.schema['$ref'] !== undefined; i += 1)
      end = this.follow(end.schema['$ref'], end.at);
    return end;
  }

  /** The resource that a place is in: the nearest schema around it that has an address of its own, else its document. */
  resourceAt(at: string): Resource {
    const known = this.#at.get(at);
    if (known) return known;
    const [name, pointer] = split(at);
    const root = this.#rootOf(name);
    let value = this.#documents.get(name);
    let resource = idOf(value) === undefined ? root : { ...root, uri: addressIn(root.uri, idOf(value)!) ?? root.uri };
    const keys: string[] = [];
    for (const key of keysIn(pointer)) {
      keys.push(key);
      value = isObject(value) || Array.isArray(value) ? (value as unknown as JsonObject)[key] : undefined;
      const id = idOf(value);
      if (id !== undefined) resource = { ...root, uri: addressIn(resource.uri, id) ?? resource.uri, at: root.at + pointerOf(keys) };
    }
    const found = this.#byUri?.get(resource.uri) ?? resource;
    this.#at.set(at, found);
    return found;
  }

  /** A document as a whole. */
  #rootOf(name: string): Resource {
    const uri = [...this.#names].find(([, each]) => each === name)?.[0] ?? name;
    return { uri, at: name === '' ? '' : `${name}#`, anchors: new Map(), dynamic: new Set() };
  }

  /** Where a dynamic reference leads: to the outermost of the schemas under evaluation that has such an anchor. */
  followDynamic(ref: unknown, from: string, scope: readonly string[]): Spot {
    const first = this.follow(ref, from);
    const name = isText(ref) ? (ref.split('#')[1] ?? '') : '';
    this.#index();
    const own = this.#byUri!.get(this.resourceAt(first.at).uri);
    if (!own?.dynamic.has(name)) return first;
    for (const place of scope) {
      const outer = this.#byUri!.get(this.resourceAt(place).uri);
      if (outer?.dynamic.has(name)) {
        const at = outer.anchors.get(name)!;
        return { schema: this.find(at, from), at };
      }
    }
    return first;
  }

  #named(address: string, own: Resource, from: string, ref: string): Resource {
    const uri = addressIn(own.uri, address);
    const name = uri === undefined ? undefined : this.#names.get(uri);
    if (name !== undefined) return this.resourceAt(name === '' ? '' : `${name}#`);
    this.#index();
    const found = uri === undefined ? undefined : this.#byUri!.get(uri);
    if (found) return found;
    throw new JsonSchemaError(
      from,
      `"$ref" is ${JSON.stringify(ref)}, a document that was not given. Pass it under "documents": { ${JSON.stringify(uri?.startsWith(WHOLE) ? address : uri)}: ... }.`,
    );
  }

  /** Finds all identifiers and anchors: only documents that need them are walked. */
  #index(): void {
    if (this.#byUri) return;
    this.#byUri = new Map();
    let places = 0;
    for (const [name, document] of this.#documents) {
      const root = this.#rootOf(name);
      const due: (readonly [value: unknown, at: string, around: Resource])[] = [[document, root.at, root]];
      this.#byUri.set(root.uri, root);
      for (let next = due.pop(); next && places < MOST_PLACES; next = due.pop()) {
        const [value, at, around] = next;
        places += 1;
        let resource = around;
        if (isObject(value)) {
          const id = idOf(value);
          const uri = id === undefined ? undefined : addressIn(around.uri, id);
          if (uri !== undefined && uri !== around.uri) {
            resource = { uri, at, anchors: new Map(), dynamic: new Set() };
            if (!this.#byUri.has(uri)) this.#byUri.set(uri, resource);
          }
          for (const keyword of ['$anchor', '$dynamicAnchor'])
            if (isText(value[keyword])) {
              resource.anchors.set(value[keyword], at);
              if (keyword === '$dynamicAnchor') resource.dynamic.add(value[keyword]);
            }
          // Before 2019-09, an anchor was an identifier that begins with a hash.
          const old = value['$id'] ?? value['id'];
          if (isText(old) && /^#\w/.test(old)) resource.anchors.set(old.slice(1), at);
          if (value['$recursiveAnchor'] === true) {
            resource.anchors.set('', at);
            resource.dynamic.add('');
          }
        }
        if (typeof value === 'object' && value !== null)
          for (const [key, inner] of Object.entries(value))
            if (typeof inner === 'object' && inner !== null && (Array.isArray(value) || !VALUES.includes(key)))
              due.push([inner, at + pointerOf([key]), resource]);
      }
    }
    this.#at.clear();
  }
}

/** The address that a schema gives itself. */
function idOf(schema: unknown): string | undefined {
  const id = isObject(schema) ? schema['$id'] : undefined;
  return isText(id) && !id.startsWith('#') ? id : undefined;
}

/** The document of a place, and the pointer in it. */
function split(at: string): readonly [name: string, pointer: string] {
  const hash = at.indexOf('#');
  return hash < 0 ? ['', at] : [at.slice(0, hash), at.slice(hash + 1)];
}
