// Judging the records of files.

import { pointer, validateAsync, type Finding, type Node } from 'upper-gate';
import { parseJson, readText } from './files.ts';

/** A finding, and where its record stands. */
export interface Located extends Finding {
  readonly file: string;
  /** Its place in the file, as a JSON Pointer. */
  readonly pointer: string;
}

export interface Report {
  readonly records: number;
  /** The records in which no error was found. */
  readonly passed: number;
  readonly findings: readonly Located[];
}

/**
 * Judges JSON files: each holds one record, or a list of them.
 *
 * @throws Failure for a file that cannot be read
 */
export async function checkFiles(schema: Node, files: readonly string[]): Promise<Report> {
  const findings: Located[] = [];
  let records = 0;
  let passed = 0;
  for (const file of files) {
    const value = parseJson(await readText(file, 'data'), file);
    const isList = Array.isArray(value) && schema.kind !== 'list';
    for (const [index, record] of (isList ? (value as unknown[]) : [value]).entries()) {
      const judged = await validateAsync(schema, record);
      records += 1;
      if (judged.ok) passed += 1;
      findings.push(...judged.findings.map((finding) => ({ ...finding, file, pointer: (isList ? `/${index}` : '') + pointer(finding) })));
    }
  }
  return { records, passed, findings };
}
