// The subcommand `lint`: looks for faults in schemas, and reports them.

import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import type { Catalogue } from 'upper-gate';
import { lint, recordPlaces } from 'upper-gate/lint';
import { Failure, firstLine } from '../failure.ts';
import { factsOf, parseJson } from '../files.ts';
import { print, printableDocument } from '../report/output.ts';
import { loadModule, loadSchemas, type SchemaOptions } from '../schema.ts';
import type { LintCommandOptions, Linted } from './formats.ts';
import { sarifOf } from './sarif.ts';
import { textOf } from './text.ts';

/** The reasons for what is accepted, by path and id, by the name of the schema. */
type Accepted = Readonly<Record<string, Readonly<Record<string, string>>>>;

const isObject = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

async function readJson(path: string, what: string): Promise<unknown> {
  await factsOf(path, what);
  return parseJson(await readFile(path, 'utf8'), path);
}

/** @param path the file, or that of the schema beside which it stands */
async function readAccepted(given: string | undefined, schema: string): Promise<Accepted> {
  const path = given ?? schema.replace(/\.\w+$/, '.lint.json');
  if (given === undefined && !existsSync(path)) return {};
  const accepted = await readJson(path, 'file of acceptances');
  const isRight =
    isObject(accepted) &&
    Object.values(accepted).every((each) => isObject(each) && Object.values(each).every((reason) => typeof reason === 'string'));
  if (!isRight)
    throw new Failure(
      `${path} should hold reasons by path and id, for each schema: {"passage": {"berth same-label": "as on the paper form"}}.`,
    );
  return accepted as Accepted;
}

async function readCatalogues(path: string | undefined): Promise<readonly Catalogue[]> {
  if (path === undefined) return [];
  const found = Object.values(await loadModule(path, 'module of catalogues')).filter((each) => isObject(each) && 'locale' in each);
  if (found.length === 0) throw new Failure(`${path} exports no catalogue: an object with a locale and texts by code.`);
  return found as readonly Catalogue[];
}

async function readValues(path: string | undefined): Promise<readonly unknown[]> {
  const values = path === undefined ? [] : await readJson(path, 'file of values');
  if (!Array.isArray(values)) throw new Failure(`${path!} should hold an array of values.`);
  return values as readonly unknown[];
}

/**
 * Looks for faults in the schemas of files, and prints them.
 *
 * @param style whether the text is for a terminal with colours; the version of the command
 * @returns whether something was found of the severity that is a failure
 * @throws Failure for a file that cannot be read
 */
export async function lintFiles(
  paths: readonly string[],
  options: SchemaOptions & LintCommandOptions,
  style: { readonly coloured: boolean; readonly version: string },
): Promise<boolean> {
  const { accept, exportedTo, failOn, format } = options;
  // (Before any module is loaded: findings name the lines of what is declared from now on.)
  recordPlaces();
  const catalogues = await readCatalogues(options.catalogues);
  const values = await readValues(options.values);
  const all: Linted[] = [];
  for (const path of paths) {
    const file = existsSync(path) ? path : path.replace(/#.*$/s, '');
    const accepted = await readAccepted(accept, file);
    for (const { schema, name, context, isJson } of await loadSchemas(path, options)) {
      try {
        const findings = await lint(schema, {
          catalogues,
          values,
          accept: accepted[name] ?? {},
          ...(options.context !== undefined && { context }),
          ...(exportedTo && { exportedTo }),
        });
        // (What is made of a document is declared there, not in this command.)
        all.push({ file, schema: name, findings: isJson ? findings.map(({ place: _, ...finding }) => finding) : findings });
      } catch (error) {
        if (error instanceof TypeError) throw new Failure(`${file}#${name}: ${firstLine(error)}`);
        throw error;
      }
    }
  }
  if (format === 'text') await print(textOf(all, style.coloured));
  else await print(`${printableDocument(JSON.stringify(format === 'json' ? all : sarifOf(all, style.version), null, 2))}\n`);
  return all.some(({ findings }) => findings.some(({ severity }) => severity === 'error' || failOn === 'warning'));
}
