// Reading a rehearsal: a file of YAML, of which JSON is a part. What it may hold, its JSON Schema says.

import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { closest, distance } from 'fastest-levenshtein';
import type { Script } from 'upper-gate/testing';
import { Failure } from '../failure.ts';
import { factsOf, parseYaml } from '../files.ts';

/** What is needed of the JSON Schema of rehearsals. */
interface Shape {
  readonly properties: Readonly<Record<string, unknown>>;
  readonly required?: readonly string[];
}

const { properties: SETTINGS } = JSON.parse(
  readFileSync(createRequire(import.meta.url).resolve('upper-gate/schemas/rehearsal.schema.json'), 'utf8'),
) as Shape;
const STEPS = (SETTINGS['steps'] as { readonly items: { readonly oneOf: readonly Shape[] } }).items.oneOf;
/** The verb of a step, which comes first in it, and its other keys. */
const VERBS = new Map(STEPS.map((step) => [Object.keys(step.properties)[0]!, step]));

/** Larger files are no rehearsals. */
const MOST_BYTES = 4_000_000;

const isObject = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What was probably meant. */
const meant = (word: string, known: readonly string[]): string => {
  const near = closest(word, known);
  return distance(word, near) < 3 ? ` Did you mean "${near}"?` : ` It takes ${known.join(', ')}.`;
};

/** @throws Failure for a key that is not known, or one that is missing */
function assertKeys(value: Readonly<Record<string, unknown>>, { properties, required = [] }: Shape, where: string): void {
  const known = Object.keys(properties);
  for (const key of Object.keys(value))
    if (!known.includes(key)) throw new Failure(`${where} has an unknown key "${key}".${meant(key, known)}`);
  for (const key of required) if (!(key in value)) throw new Failure(`${where} has no "${key}".`);
}

/**
 * Reads a rehearsal.
 *
 * @throws Failure for a file that cannot be read, is no YAML, or no rehearsal
 */
export async function readScript(path: string): Promise<Script> {
  const { size } = await factsOf(path, 'rehearsal');
  if (size > MOST_BYTES) throw new Failure(`${path} has ${size} bytes: a rehearsal has at most ${MOST_BYTES}.`);
  const script = await parseYaml(await readFile(path, 'utf8'), path);
  if (!isObject(script)) throw new Failure(`${path} should hold a rehearsal: steps, and the answers that they need.`);
  assertKeys(script, { properties: SETTINGS, required: ['steps'] }, path);
  const { steps } = script;
  if (!Array.isArray(steps)) throw new Failure(`${path}: "steps" should be a list.`);
  for (const [index, step] of (steps as readonly unknown[]).entries()) {
    const where = `${path}, step ${index + 1},`;
    const verb = isObject(step) ? Object.keys(step).find((key) => VERBS.has(key)) : undefined;
    const [first = ''] = isObject(step) ? Object.keys(step) : [];
    if (verb === undefined) throw new Failure(`${where} has no verb.${meant(first, [...VERBS.keys()])}`);
    assertKeys(step as Readonly<Record<string, unknown>>, VERBS.get(verb)!, where);
  }
  return script as unknown as Script;
}
