// What fields are tried with: the values at the limits of their rules, some that fit their kind, what functions of the author mention,
// what hints and messages give as examples, and the values that the caller gave.

import { findIn } from '../testing/samples/arbitrary.ts';
import { candidatesOf, harmless, type MakeTexts } from '../testing/samples/candidates.ts';
import { inLanguage } from '../messages/text.ts';
import { isField, type FieldPart } from '../schema/field.ts';
import type { AuthorFunction } from '../schema/rule.ts';
import type { Literals } from './literals.ts';
import { literalsIn } from './literals.ts';
import type { Site } from './sites.ts';

/** How many values of one function a field is tried with. */
const MOST = 60;
/** How long a text is made at most for a number that a function mentions. */
const LONGEST = 300;

/** The values that are worth a try since a function mentions them. Those that do not fit the kind of the field are left out. */
function mentioned(part: FieldPart, { texts, numbers, patterns }: Literals, make: MakeTexts): readonly unknown[] {
  const { holds, measures, json } = part.traits;
  if (holds !== 'value') return [];
  const beside = numbers.flatMap((each) => [each, each + 1, each - 1, each + 0.5]).map(String);
  const lengths = measures === 'text' ? numbers.filter((each) => Number.isInteger(each) && each >= 0 && each < LONGEST) : [];
  const all = [
    ...texts,
    ...(measures === 'number' || json === 'any' ? beside : []),
    ...(measures === 'text'
      ? [...patterns.flatMap(make), ...beside, ...lengths.flatMap((n) => [n, n + 1, Math.max(0, n - 1)]).map((n) => 'x'.repeat(n))]
      : []),
    // (A text may be wanted to begin, or to end, with one that is mentioned.)
    ...(measures === 'text' ? texts.flatMap((text) => [`${text}x`, `x${text}`]) : []),
  ];
  const isReadable = (raw: unknown): boolean => findIn(part, raw).every(({ verdict }) => verdict.code !== 'badInput');
  return [...new Set(all)].filter((raw) => measures === 'text' || isReadable(raw)).slice(0, MOST);
}

/** What a hint, or a message, may give as an example: its ends, as far as they have a digit or a capital. */
export const examplesIn = (text: string): readonly string[] => {
  const words = text.split(/\s+/).slice(-8);
  const ends = words.flatMap((word, i) => [words.slice(i).join(' '), word]);
  const bare = ends.map((end) => end.replace(/^[("'„“‘«]+|[.,;:!?)"'”’»]+$/g, ''));
  return [...new Set(bare)].filter((end) => /[\dA-Z@]/.test(end));
};

/** What fields are tried with. */
export interface Pools {
  /** @param first functions whose values come first */
  of(site: Site, first?: readonly AuthorFunction[]): readonly unknown[];
}

/** @param given values of the whole schema, as they are at paths of sites */
export function poolsOf(make: MakeTexts, given: ReadonlyMap<string, readonly unknown[]>): Pools {
  const known = new Map<Site, readonly unknown[]>();
  const usual = (site: Site, part: FieldPart): readonly unknown[] => {
    const before = known.get(site);
    if (before) return before;
    const own = site.rules.flatMap(({ rule }) => rule.author ?? []);
    const params = site.rules.flatMap(({ rule }) => (rule.definition ? Object.values(rule.params).flat() : []));
    const named: Literals = {
      texts: params.filter((each) => typeof each === 'string'),
      numbers: params.filter((each) => typeof each === 'number'),
      patterns: [],
    };
    const words = [part.hint, ...site.rules.map(({ rule }) => rule.message)].flatMap((text) =>
      text === undefined || typeof text === 'function' ? [] : [inLanguage(text, undefined)],
    );
    const pool = [
      ...candidatesOf(part, make),
      ...mentioned(part, named, make),
      ...own.flatMap((each) => mentioned(part, literalsIn(each), make)),
      ...(part.traits.measures === 'text' ? words.flatMap(examplesIn) : []),
    ];
    known.set(site, pool);
    return pool;
  };
  return {
    of(site, first = []) {
      const { part } = site;
      if (!isField(part)) return [];
      const all = new Set([
        ...(given.get(site.path) ?? []),
        ...first.flatMap((each) => mentioned(part, literalsIn(each), make)),
        ...usual(site, part),
      ]);
      return harmless(part, [...all]);
    },
  };
}
