// Values of a schema for property tests: of its shape, and mostly right. What rules of groups want of several fields at once
// is not in it: `samples` searches for that.

import { evaluateField, readValue } from '../../evaluate/field.ts';
import { isDictionary } from '../../schema/dictionary/dictionary.ts';
import { isField, type FieldPart } from '../../schema/field.ts';
import { isGroup } from '../../schema/group.ts';
import { isList } from '../../schema/list/list.ts';
import type { Node } from '../../schema/node.ts';
import { partOf, type Part } from '../../schema/part.ts';
import { blocks } from '../../schema/severity.ts';
import { severityOf } from '../../evaluate/finding.ts';
import type { Found } from '../../schema/verdict.ts';
import { isVariant } from '../../schema/variant/variant.ts';
import { candidatesOf, type MakeTexts } from './candidates.ts';

/** What of the module `fast-check` is used. */
type Used = 'constant' | 'constantFrom' | 'oneof' | 'record' | 'array' | 'dictionary' | 'stringMatching' | 'sample';

/** The module `fast-check`: `import * as fc from 'fast-check'`. */
export type PropertyLibrary = Readonly<Record<Used, (...args: never[]) => unknown>>;

/** A generator of values, as that module has it. */
export interface Arbitrary<T> {
  map<U>(change: (value: T) => U): Arbitrary<U>;
}

/** The module by what is used of it. */
export interface Generators {
  constant<T>(value: T): Arbitrary<T>;
  constantFrom<T>(...values: T[]): Arbitrary<T>;
  oneof<T>(...options: Arbitrary<T>[]): Arbitrary<T>;
  record(fields: Record<string, Arbitrary<unknown>>): Arbitrary<Record<string, unknown>>;
  array<T>(item: Arbitrary<T>, limits: { minLength: number; maxLength: number }): Arbitrary<T[]>;
  dictionary<T>(keys: Arbitrary<string>, item: Arbitrary<T>, limits: { minKeys: number; maxKeys: number }): Arbitrary<Record<string, T>>;
  stringMatching(pattern: RegExp): Arbitrary<string>;
  sample<T>(of: Arbitrary<T>, options: { seed: number; numRuns: number }): T[];
}

/** The module, whichever version: its own types are no part of ours. */
export const generatorsOf = (fc: PropertyLibrary): Generators => fc as unknown as Generators;

/** The module, for what cannot do without. @throws Error where it is not installed */
export async function loadGenerators(who: string): Promise<Generators> {
  const module: PropertyLibrary = await import('fast-check').catch((cause: unknown) => {
    throw new Error(`${who}() needs fast-check. Run npm install -D fast-check.`, { cause });
  });
  return generatorsOf(module);
}

/** How many texts are made for an expression. */
const TEXTS = 6;
/** How deep parts within themselves are followed. */
const DEEPEST = 3;

/** Makes texts for expressions, the same ones for the same seed. */
export const textMaker =
  (fc: Generators, seed: number): MakeTexts =>
  (pattern) => {
    try {
      return fc.sample(fc.stringMatching(pattern), { seed, numRuns: TEXTS });
    } catch {
      // An expression that the generator does not know: other values are tried all the same.
      return [];
    }
  };

const NOW = { now: () => new Date('2027-05-01T08:00:00Z'), fault: () => undefined };

/** What reading and the own rules of a field find in a raw value. */
export function findIn(part: FieldPart, raw: unknown): readonly Found[] {
  return evaluateField(part, readValue(part, raw, NOW), NOW);
}

const isRight = (part: FieldPart, raw: unknown): boolean =>
  findIn(part, raw).every(({ rule, verdict }) => !blocks({ severity: severityOf(rule, verdict) }));

/** What is worth a try in a field, by whether it is right by its own rules. */
export function poolOf(part: FieldPart, texts: MakeTexts): { readonly right: readonly unknown[]; readonly wrong: readonly unknown[] } {
  const all = candidatesOf(part, texts);
  return { right: all.filter((raw) => isRight(part, raw)), wrong: all.filter((raw) => !isRight(part, raw)) };
}

/** The limits of a list's length. */
function lengthOf({ ruleList, required }: Part): { minLength: number; maxLength: number } {
  const { min = required ? 1 : 0, max = 4 } = (ruleList.find(({ name }) => name === 'length')?.params ?? {}) as {
    min?: number;
    max?: number;
  };
  return { minLength: Math.min(min, max), maxLength: Math.max(min, Math.min(max, min + 2)) };
}

/** The arbitrary of a part. @param depth how often a part around it was entered again */
export function arbitraryIn(part: Part, fc: Generators, texts: MakeTexts, depth = 0): Arbitrary<unknown> {
  const inner = (of: Part): Arbitrary<unknown> => arbitraryIn(of, fc, texts, depth);
  if (isField(part)) {
    const { right } = poolOf(part, texts);
    return right.length > 0 ? fc.constantFrom(...right) : fc.constant(part.emptyRaw);
  }
  if (isGroup(part)) return fc.record(Object.fromEntries(part.keys.map((key, i) => [key, inner(part.parts[i]!)])));
  if (isList(part)) {
    const { part: item } = part;
    const isItself = item.traits.holds === 'itself';
    if (isItself && depth >= DEEPEST) return fc.constant([]);
    return isItself
      ? fc.array(arbitraryIn(item.row!(), fc, texts, depth + 1), { minLength: 0, maxLength: 2 })
      : fc.array(inner(item), lengthOf(part));
  }
  if (isDictionary(part))
    return fc.dictionary(fc.constantFrom('barge', 'canoe', 'yacht'), inner(part.part.row?.() ?? part.part), {
      minKeys: part.required ? 1 : 0,
      maxKeys: 3,
    });
  if (isVariant(part)) {
    const { key, cases } = part;
    return fc.oneof(
      ...Object.entries(cases).map(([value, group]) => inner(group).map((fields) => ({ ...(fields as object), [key]: value }))),
    );
  }
  return part.row && depth < DEEPEST ? arbitraryIn(part.row(), fc, texts, depth + 1) : fc.constant(undefined);
}

/**
 * Makes an arbitrary of a schema's raw values for property tests with `fast-check`: each field is right by its own rules, where a value
 * could be found. Rules that read several fields may still find something.
 *
 * @template F the type of that module
 * @param schema the schema
 * @param fc the module `fast-check`
 * @param options `seed`: other values for texts of patterns
 * @returns the arbitrary
 *
 * @example
 * fc.assert(fc.property(arbitraryOf(passage, fc), (raw) => Array.isArray(validate(passage, raw).findings)));
 */
export const arbitraryOf = <F extends PropertyLibrary>(
  schema: Node,
  fc: F,
  { seed = 1 }: { readonly seed?: number } = {},
): ReturnType<F['constant']> =>
  arbitraryIn(partOf(schema), generatorsOf(fc), textMaker(generatorsOf(fc), seed)) as ReturnType<F['constant']>;
