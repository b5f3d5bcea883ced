// Finding a schema: an export of a module, or a JSON Schema document.

import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { basename, dirname, extname, join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import type * as Jiti from 'jiti';
import { isSchema, type Context, type ContextValue, type DefinedKind, type DefinedRule, type Node } from 'upper-gate';
import type { FromJsonSchemaOptions, JsonSchema } from 'upper-gate/json-schema';
import { readContext, tokensIn } from './context.ts';
import { Failure, firstLine } from './failure.ts';
import { factsOf, parseJson } from './files.ts';

/** A schema, and what is known of it. */
export interface Loaded {
  readonly schema: Node;
  /** What it is called: the name of its export, its place, or its file. */
  readonly name: string;
  /** Whether it is a JSON Schema document, so that values are read by JSON's types. */
  readonly isJson: boolean;
  /** What the schema reads from outside. */
  readonly context: readonly ContextValue[];
}

/** What a file holds, and the tokens of what it reads from outside. */
type Found = Omit<Loaded, 'context'> & { readonly tokens: ReadonlyMap<string, Context> };

/** Which schema of a file, and what it may need. */
export interface SchemaOptions {
  /** The export of a module; or the place in a document, as a JSON Pointer. Default: the only schema there is. */
  readonly export?: string;
  /** A module of functions, by the names that a document gives them. */
  readonly checks?: string;
  /** A JSON file with what the schema reads from outside, by the names of the tokens. */
  readonly context?: string;
  /** Whether patterns of a document may be such that they can hang. */
  readonly trustPatterns?: boolean;
}

/**
 * Loads a schema from a TypeScript or JavaScript module, or from a JSON Schema document (`.json`).
 *
 * @throws Failure if there is no such file, a module throws or exports no such schema, a document or the context cannot be read
 */
export async function loadSchema(path: string, options: SchemaOptions): Promise<Loaded> {
  await factsOf(path, 'schema');
  const isDocument = extname(path).toLowerCase() === '.json';
  const { tokens, ...found } = isDocument ? await fromDocument(path, options) : await fromModule(path, options.export);
  return { ...found, context: options.context === undefined ? [] : await readContext(options.context, tokens) };
}

async function fromDocument(path: string, { export: pointer = '', checks, trustPatterns = false }: SchemaOptions): Promise<Found> {
  const document = parseJson(await readFile(path, 'utf8'), path) as JsonSchema;
  const functions = checks === undefined ? {} : await load(checks, 'module of checks');
  const name = pointer.split('/').at(-1) || basename(path).split('.')[0]!;
  const { fromJsonSchema, JsonSchemaError } = await import('upper-gate/json-schema');
  try {
    const options = {
      pointer: pointer.replace(/^#/, ''),
      checks: functions,
      trustPatterns,
      ...definedIn(functions),
    } as FromJsonSchemaOptions;
    return { schema: fromJsonSchema<Node>(document, options), name, isJson: true, tokens: tokensIn(functions) };
  } catch (error) {
    if (error instanceof JsonSchemaError)
      throw new Failure(`${path}${error.message.replace('pass { trustPatterns: true }', 'add --trust-patterns')}`);
    throw error;
  }
}

/** The rules and kinds that a module defines. */
function definedIn(exported: Readonly<Record<string, unknown>>): Pick<FromJsonSchemaOptions, 'rules' | 'kinds'> {
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
async function load(path: string, what: string): Promise<Readonly<Record<string, unknown>>> {
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

async function fromModule(path: string, name: string | undefined): Promise<Found> {
  const exported = await load(path, 'schema');
  const tokens = tokensIn(exported);
  const names = Object.keys(exported).filter((each) => isSchema(exported[each]));
  const known = names.length > 0 ? `It exports ${names.join(', ')}.` : 'Export one made with group({ ... }).';
  if (name !== undefined) {
    const schema = exported[name];
    if (!isSchema(schema)) throw new Failure(`${path} has no schema named "${name}". ${known}`);
    return { schema, name, isJson: false, tokens };
  }
  // The default export may have a name too.
  const only = names.find((each) => each !== 'default') ?? names[0];
  if (only === undefined) throw new Failure(`${path} has no schema. ${known}`);
  if (new Set(names.map((each) => exported[each])).size > 1)
    throw new Failure(`${path} has several schemas. Choose one with --export. ${known}`);
  return { schema: exported[only] as Node, name: only === 'default' ? basename(path).split('.')[0]! : only, isJson: false, tokens };
}
