// Reading files, with errors that say what was wrong and what to do.

import type { Stats } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Failure, firstLine } from './failure.ts';

/**
 * What is at a path.
 *
 * @param what what the file is for, as in "No data at ..."
 * @throws Failure if there is nothing, or a folder
 */
export async function factsOf(path: string, what: string): Promise<Stats> {
  const facts = await stat(path).catch((error: unknown) => {
    const missing = (error as { code?: string }).code === 'ENOENT';
    throw new Failure(missing ? `No ${what} at ${path}: check the path.` : `Cannot open ${path}: ${firstLine(error)}.`);
  });
  if (facts.isDirectory()) throw new Failure(`${path} is not a file: give the path of one.`);
  return facts;
}

/** Parses JSON. @throws Failure that says where it is broken */
export function parseJson(text: string, path: string): unknown {
  // A byte order mark is no part of the value.
  const json = text.replace(/^\uFEFF/, '');
  if (json.trim() === '') throw new Failure(`${path} is empty: it should hold JSON.`);
  try {
    return JSON.parse(json);
  } catch (error) {
    throw new Failure(`${path} is not JSON: ${firstLine(error)}.`);
  }
}

/** Parses YAML. @throws Failure that says where it is broken */
export async function parseYaml(text: string, path: string): Promise<unknown> {
  const { parseDocument } = await import('yaml');
  const document = parseDocument(text);
  try {
    const [broken] = document.errors;
    if (broken) throw broken;
    // (Aliases of aliases, which a short text makes millions of, are refused here.)
    return document.toJS();
  } catch (error) {
    throw new Failure(`${path} is not YAML: ${firstLine(error).replace(/:$/, '')}.`);
  }
}
