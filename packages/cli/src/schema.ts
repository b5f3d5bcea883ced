// Finding a schema: an export of a module, or a JSON Schema document.

import { existsSync, readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { basename, dirname, extname, join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import type * as Jiti from 'jiti';
import { isSchema, type Checks, type Context, type ContextValue, type DefinedKind, type DefinedRule, type Node } from 'upper-gate';
import type { FromJsonSchemaOptions, JsonObject } from 'upper-gate/json-schema';
import { readContext, tokensIn } from './context.ts';
import { Failure, firstLine } from './failure.ts';
import { factsOf, parseJson, parseYaml } from './files.ts';

/** A schema, and what is known of it. */
export interface Loaded {
  readonly schema: Node;
  /** What records are: the schema, or of an operation with parameters, its body alone. */
  readonly ofRecords: Node;
  /** What it is called: the name of its export, its place, or its file. */
  readonly name: string;
  /** Whether it came as a document, so that values are read by JSON's types. */
  readonly isJson: boolean;
  /** What its document says that has no meaning, with the places. */
  readonly notes: readonly string[];
  /** What the schema reads from outside. */
  readonly context: readonly ContextValue[];
  /** The contexts that are exported beside it. */
  readonly contexts: readonly Context[];
  /** Functions in place of those of async rules, by the names of the rules. */
  readonly checks: Checks;
}

/** What a file holds, and the tokens of what it reads from outside. */
type Found = Omit<Loaded, 'context' | 'contexts' | 'checks'> & { readonly tokens: ReadonlyMap<string, Context> };

/** Which schema of a file, and what it may need. */
export interface SchemaOptions {
  /** The export of a module; the place in a document, as a JSON Pointer; an operation of it. Default: the only schema there is. */
  readonly export?: string | undefined;
  /** A module of functions, by the names that a document gives them, or by those of async rules. */
  readonly checks?: string;
  /** A JSON file with what the schema reads from outside, by the names of the tokens. */
  readonly context?: string;
  /** Whether patterns of a document may be such that they can hang. */
  readonly trustPatterns?: boolean;
}

/** The extensions of documents. */
const DOCUMENTS = ['.json', '.yaml', '.yml'];

/**
 * Loads a schema from a TypeScript or JavaScript module, or from a document: JSON Schema or OpenAPI, as JSON or YAML.
 *
 * @param given its path; `#` and what is after it is the same as `options.export`
 * @throws Failure if there is no such file, a module throws or exports no such schema, a document or the context cannot be read
 */
export async function loadSchema(given: string, options: SchemaOptions): Promise<Loaded> {
  const { file, name } = placeOf(given, options);
  return load(file, options, async (functions) =>
    isDocument(file) ? [await fromDocument(file, name, options, functions)] : [onlyOne(file, await fromModule(file, name, functions))],
  ).then(([only]) => only!);
}

/**
 * Loads all schemas of a file: the exports of a module, the operations of an OpenAPI document, a JSON Schema; or the one after `#`.
 *
 * @throws Failure as `loadSchema`
 */
export async function loadSchemas(given: string, options: SchemaOptions): Promise<readonly Loaded[]> {
  const { file, name } = placeOf(given, options);
  return load(file, options, async (functions) =>
    isDocument(file) ? allOfDocument(file, name, options, functions) : fromModule(file, name, functions),
  );
}

/** The file, and which schema of it. */
function placeOf(given: string, options: SchemaOptions): { readonly file: string; readonly name: string | undefined } {
  const [, file = given, fragment] = existsSync(given) ? [] : (/^([^#]+)#(.*)$/s.exec(given) ?? []);
  if (fragment !== undefined && options.export !== undefined)
    throw new Failure(`${given} says which schema, and so does --export ${options.export}. Use one of them.`);
  return { file, name: fragment ?? options.export };
}

const isDocument = (file: string): boolean => DOCUMENTS.includes(extname(file).toLowerCase());

/** Loads a file, and what goes with it. */
async function load(
  file: string,
  options: SchemaOptions,
  find: (functions: Exports) => Promise<readonly Found[]>,
): Promise<readonly Loaded[]> {
  await factsOf(file, 'schema');
  const functions = options.checks === undefined ? {} : await loadModule(options.checks, 'module of checks');
  const found = await find(functions);
  return Promise.all(
    found.map(async ({ tokens, ...schema }) => ({
      ...schema,
      checks: checksIn(functions),
      contexts: [...tokens.values()],
      context: options.context === undefined ? [] : await readContext(options.context, tokens),
    })),
  );
}

/** What a module exports. */
type Exports = Readonly<Record<string, unknown>>;

/** The functions that a module exports. */
const checksIn = (exported: Exports): Checks =>
  Object.fromEntries(Object.entries(exported).filter((each): each is [string, Checks[string]] => typeof each[1] === 'function'));

async function readDocument(path: string): Promise<JsonObject> {
  const text = await readFile(path, 'utf8');
  return (extname(path).toLowerCase() === '.json' ? parseJson(text, path) : await parseYaml(text, path)) as JsonObject;
}

/** All operations of an OpenAPI document; of another, the schema that it is. */
async function allOfDocument(
  path: string,
  name: string | undefined,
  options: SchemaOptions,
  functions: Exports,
): Promise<readonly Found[]> {
  const { paths } = (await readDocument(path)) as { readonly paths?: Readonly<Record<string, Readonly<Record<string, unknown>>>> };
  if (name !== undefined || typeof (paths as unknown) !== 'object') return [await fromDocument(path, name, options, functions)];
  const operations = Object.values(paths ?? {})
    .flatMap((each) => Object.values(each))
    .flatMap((each) => (each as { operationId?: string } | null)?.operationId ?? []);
  return Promise.all(operations.map((operation) => fromDocument(path, operation, options, functions)));
}

async function fromDocument(path: string, place = '', { trustPatterns = false }: SchemaOptions, functions: Exports): Promise<Found> {
  const document = await readDocument(path);
  const options = { checks: functions, trustPatterns, ...definedIn(functions) } as FromJsonSchemaOptions;
  const pointer = place.replace(/^#/, '');
  const isOperation = pointer !== '' && !pointer.startsWith('/');
  const { fromJsonSchema, JsonSchemaError, notesOf } = await import('upper-gate/json-schema');
  try {
    const operation = isOperation
      ? (await import('upper-gate/openapi')).fromOpenApi<Node>(document, { ...options, operation: pointer })
      : undefined;
    const schema = operation?.schema ?? fromJsonSchema<Node>(document, { ...options, pointer });
    const notes = notesOf(schema).map(({ pointer: at, keyword }) => `${path}#${at}: "${keyword}" is not known, and validates nothing.`);
    const name = (isOperation ? pointer : pointer.split('/').at(-1)) || basename(path).split('.')[0]!;
    return { schema, ofRecords: operation?.body ?? schema, name, isJson: true, notes, tokens: tokensIn(functions) };
  } catch (error) {
    if (error instanceof JsonSchemaError) throw new Failure(`${path}${inCommandWords(error.message)}`);
    throw error;
  }
}

/** What an error of the library advises, as the command has it. */
const inCommandWords = (message: string): string =>
  message
    .replace('pass { trustPatterns: true }', 'add --trust-patterns')
    .replace(' With { strict: false } it says nothing.', '')
    .replace('For a JSON Schema, use fromJsonSchema().', 'For a place in a JSON Schema, write a JSON Pointer, such as #/$defs/Passage.');

/** The rules and kinds that a module defines. */
function definedIn(exported: Exports): Pick<FromJsonSchemaOptions, 'rules' | 'kinds'> {
  const defined = Object.values(exported).filter(
    (each): each is DefinedRule | DefinedKind => typeof each === 'function' && 'definition' in each,
  );
  return {
    rules: defined.filter((each): each is DefinedRule => 'params' in each.definition),
    kinds: defined.filter((each): each is DefinedKind => 'traits' in each.definition),
  };
}

/** The entries of the library that comes with the command, for modules in folders without one: all that it exports. */
function ownLibrary(): Readonly<Record<string, string>> {
  const manifest = createRequire(import.meta.url).resolve('upper-gate/package.json');
  const { exports } = JSON.parse(readFileSync(manifest, 'utf8')) as { exports: Readonly<Record<string, string | { default: string }>> };
  return Object.fromEntries(
    Object.entries(exports).flatMap(([entry, file]) =>
      // (A pattern stands for a folder.)
      typeof file === 'string'
        ? []
        : [[`upper-gate${entry.slice(1).replace('/*', '')}`, join(dirname(manifest), file.default.replace('/*.js', ''))]],
    ),
  );
}

/** Whether a module finds the library by itself. */
function findsLibrary(url: string): boolean {
  try {
    createRequire(url).resolve('upper-gate');
    return true;
  } catch {
    return false;
  }
}

/** The exports of a module. */
export async function loadModule(path: string, what: string): Promise<Exports> {
  await factsOf(path, what);
  const url = pathToFileURL(resolve(path)).href;
  // Required, not imported: Node reads through all of it for the names that it exports, otherwise.
  const { createJiti } = createRequire(import.meta.url)('jiti') as typeof Jiti;
  try {
    return await createJiti(url, { tsconfigPaths: true, alias: findsLibrary(url) ? {} : ownLibrary() }).import(url);
  } catch (error) {
    throw new Failure(`${path} cannot be loaded: ${firstLine(error)}`);
  }
}

/** The schemas that a module exports: the one of a name, or all, each once. */
async function fromModule(path: string, name: string | undefined, functions: Exports): Promise<readonly Found[]> {
  const exported = await loadModule(path, 'schema');
  const tokens = tokensIn(exported, functions);
  const names = Object.keys(exported).filter((each) => isSchema(exported[each]));
  const known = names.length > 0 ? `It exports ${names.join(', ')}.` : 'Export one made with group({ ... }).';
  if (name !== undefined && !isSchema(exported[name])) throw new Failure(`${path} has no schema named "${name}". ${known}`);
  if (names.length === 0) throw new Failure(`${path} has no schema. ${known}`);
  // The default export may have a name too.
  const named = new Map<unknown, string>();
  for (const each of name === undefined ? names : [name])
    if (!named.has(exported[each]) || named.get(exported[each]) === 'default') named.set(exported[each], each);
  return [...named].map(([schema, each]) => ({
    schema: schema as Node,
    ofRecords: schema as Node,
    // (Beside others, its file is no name for it.)
    name: each === 'default' && named.size === 1 ? basename(path).split('.')[0]! : each,
    isJson: false,
    notes: [],
    tokens,
  }));
}

/** @throws Failure for several */
function onlyOne(path: string, found: readonly Found[]): Found {
  const [only] = found;
  if (found.length > 1)
    throw new Failure(`${path} has several schemas. Choose one with --export. It exports ${found.map(({ name }) => name).join(', ')}.`);
  return only!;
}
