// Reading files, with errors that say what was wrong and what to do.

import { readFile, stat } from 'node:fs/promises';
import { Failure, firstLine } from './failure.ts';

/**
 * Reads a text file.
 *
 * @param what what the file is for, as in "No data at ..."
 * @throws Failure if there is none, or it is no file
 */
export async function readText(path: string, what: string): Promise<string> {
  const facts = await stat(path).catch((error: unknown) => {
    const missing = (error as { code?: string }).code === 'ENOENT';
    throw new Failure(missing ? `No ${what} at ${path}: check the path.` : `Cannot open ${path}: ${firstLine(error)}.`);
  });
  if (!facts.isFile()) throw new Failure(`${path} is not a file: give the path of one.`);
  return readFile(path, 'utf8');
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
