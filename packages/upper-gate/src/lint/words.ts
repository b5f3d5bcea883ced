// Messages that disagree with their rules, and texts that are missing.

import { en } from '../messages/en.ts';
import { inLanguage, textFor, type Catalogue, type Label, type Text } from '../messages/text.ts';
import { slotsOf } from '../evaluate/finding.ts';
import { momentAt, kindOfMoment } from '../schema/calendar.ts';
import { isGroup } from '../schema/group.ts';
import { UNNAMED } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import { factsOf, isRuleName, type RuleName } from '../schema/vocabulary.ts';
import { codesOf } from '../testing/samples/samples.ts';
import type { Found } from './finding.ts';
import type { Courses } from './courses.ts';
import { called, labelled, quoted } from './told.ts';
import type { Site } from './sites.ts';

/** The rules whose params are numbers that a message may state. */
const NUMBERED: ReadonlySet<string> = new Set<RuleName>(['length', 'range', 'step', 'fileSize']);
/** What findings of a rule carry beside its params. */
const REPORTED: Readonly<Partial<Record<RuleName, readonly string[]>>> = {
  range: ['nearest'],
  step: ['nearest'],
  fileSize: ['size', 'file'],
  fileType: ['file'],
  noDuplicates: ['row', 'first'],
  email: ['type'],
  url: ['type'],
  ipAddress: ['type'],
  cardNumber: ['type'],
  timestamp: ['type'],
  uuid: ['type'],
  sameAs: ['otherLabel'],
  differsFrom: ['otherLabel'],
  after: ['otherLabel', 'numeric'],
  before: ['otherLabel', 'numeric'],
  asyncCheck: ['reason'],
  asyncChoicesFrom: ['reason'],
};
/** What every message may speak about. */
const ALWAYS = ['label', 'kind', 'holds', 'locale'];

/** The texts of a message in all its languages; of a function, what it says for its params. */
function textsOf(text: Text, site: Site, rule: AnyRule): readonly string[] {
  if (typeof text === 'string') return [text];
  if (typeof text !== 'function') return Object.values(text);
  try {
    const said: unknown = text(slotsOf(site.part, rule.params, undefined, [rule]));
    return typeof said === 'string' ? [said] : [];
  } catch {
    // (What its function throws is told where messages are shown.)
    return [];
  }
}

/** The numbers in a text, each as it may be meant. Those in codes (`OT-1204`) do not count. */
const numbersIn = (text: string): readonly (readonly number[])[] =>
  [...text.replace(/\{\w+\}/g, ' ').matchAll(/(?<![\p{L}\d_#/.:-])\d(?:[\d.,’'\u00A0\u202F]*\d)?(?![\d/:-]|\p{Lu}\d)/gu)].map(
    ([written]) => {
      const plain = written.replace(/[’'\u00A0\u202F]/g, '');
      return [plain.replace(/,/g, ''), plain.replace(/\./g, '').replace(',', '.'), plain.replace(/[.,]/g, '')]
        .map(Number)
        .filter((each) => !Number.isNaN(each));
    },
  );

/** In what units a message may state a number. */
const UNITS = [1, 60, 3600, 86_400, 7, 12, 100, 1000, 1e6, 1e9, 1024, 1024 ** 2, 1024 ** 3];

/** The numbers that a message about params may state. */
function stated(params: AnyRule['params']): readonly number[] {
  return Object.values(params).flatMap((value) => {
    if (typeof value === 'number') return [value - 1, value, value + 1, ...UNITS.flatMap((unit) => [value / unit, value * unit])];
    if (typeof value !== 'string') return [];
    const kind = kindOfMoment(value);
    return kind && momentAt(kind, value) !== undefined ? (value.match(/\d+/g) ?? []).map(Number) : [];
  });
}
const isClose = (a: number, b: number): boolean => Math.abs(a - b) <= Math.abs(a) * 0.01 + 1e-9;

/** What is wrong with one message of a rule. */
function* wrongMessages(site: Site, rule: AnyRule, text: Text): Iterable<Found> {
  const { name, params } = rule;
  const on = { site, rule: name, declared: rule };
  const slots = [...ALWAYS, ...Object.keys(params), ...((isRuleName(name) && REPORTED[name]) || [])];
  // (A rule that moves has its params later; a function of the author may return some.)
  if (rule.moving && isRuleName(name)) slots.push(...Object.keys(factsOf(name).params), ...(REPORTED[name] ?? []));
  const isOpen =
    (rule.author !== undefined && !rule.moving && Function.prototype.toString.call(rule.author).includes('params')) ||
    rule.definition !== undefined;
  for (const each of textsOf(text, site, rule)) {
    const strange = isOpen ? undefined : [...each.matchAll(/\{(\w+)\}/g)].find(([, slot]) => !slots.includes(slot!));
    if (strange && typeof text !== 'function') {
      yield {
        id: 'unknown-placeholder',
        ...on,
        what: `The message ${quoted(each)} of ${called(rule)} has the slot ${strange[0]}, which the rule does not give. It gives ${slots.filter((slot) => params[slot] !== undefined || ALWAYS.includes(slot) || REPORTED[name as RuleName]?.includes(slot)).join(', ')}.`,
      };
      return;
    }
    if (!(NUMBERED.has(name) && !rule.definition) || rule.moving) continue;
    const may = stated(params);
    const other = numbersIn(each).find((readings) => !readings.some((number) => may.some((one) => isClose(number, one))));
    if (other && may.length > 0) {
      yield {
        id: 'other-number',
        ...on,
        what: `The message ${quoted(each)} states ${other[0]}, but the rule has ${Object.entries(params)
          .filter(([, value]) => value !== undefined)
          .map(([key, value]) => `${key} ${quoted(value)}`)
          .join(', ')}.`,
      };
      return;
    }
  }
}

const languageOf = ({ locale = 'en' }: Catalogue): string => locale;

/** Codes without a text in the catalogues that are in use. */
function* lackingTexts(site: Site, rule: AnyRule, seen: ReadonlySet<string>, catalogues: readonly Catalogue[]): Iterable<Found> {
  const isOwnRule = rule.author !== undefined && !rule.moving;
  const { params } = rule;
  // (Of `length` and `range`, the limits that there are.)
  const isPossible = (code: string): boolean =>
    !['tooShort', 'tooLong', 'tooFew', 'tooMany', 'rangeUnderflow', 'rangeOverflow', 'stepMismatch'].includes(code) ||
    rule.moving !== undefined ||
    { tooShort: 'min', tooFew: 'min', tooLong: 'max', tooMany: 'max', rangeUnderflow: 'min', rangeOverflow: 'max', stepMismatch: 'step' }[
      code
    ]! in params;
  const codes = new Set([...codesOf(rule).filter(isPossible), ...seen]);
  for (const catalogue of catalogues)
    for (const code of codes) {
      if (rule.message !== undefined || textFor(site.part.settings.messages, code) !== undefined || textFor(catalogue, code) !== undefined)
        continue;
      const isBuiltIn = textFor(en, code) !== undefined;
      // A code of the author falls back to the text of the rule; what a function reports has none.
      if (!isBuiltIn && (rule.definition ?? (!isOwnRule && !seen.has(code)))) continue;
      yield {
        id: 'no-text',
        site,
        rule: rule.name,
        declared: rule,
        what: `The catalogue ${quoted(languageOf(catalogue))} has no text for the code ${quoted(code)} of ${called(rule)} on ${labelled(site)}.`,
      };
      return;
    }
}

/** Texts by language that lack one of the languages in use. */
function* lackingLanguages(site: Site, catalogues: readonly Catalogue[]): Iterable<Found> {
  const { part, rules } = site;
  const texts: (readonly [what: string, text: Text | Label | undefined, declared?: AnyRule])[] = [
    ['label', part.label],
    ['hint', part.hint],
    ...rules.map(({ rule }) => [`message of ${called(rule)}`, rule.message, rule] as const),
  ];
  for (const [what, text, declared] of texts) {
    if (typeof text !== 'object') continue;
    for (const language of new Set(catalogues.map(languageOf)))
      if (text[language] === undefined)
        yield {
          id: 'no-translation',
          site,
          ...(declared && { rule: declared.name }),
          declared,
          what: `The ${what} of ${labelled(site)} is there in ${Object.keys(text).join(', ')}, but not in ${quoted(language)}.`,
        };
  }
}

/** Labels that are missing, or there twice. */
function* labels(site: Site): Iterable<Found> {
  const { part, inner, rules, path } = site;
  const isUnnamed = (label: Label): boolean =>
    (typeof label === 'string' ? [label] : Object.values(label)).some((text) => text.trim() === '');
  if (isUnnamed(part.label)) yield { id: 'no-label', site, what: `The label of ${quoted(path)} is empty.` };
  else if (isGroup(part) && part.label === UNNAMED && site.name && rules.length > 0)
    yield { id: 'no-label', site, what: `The group ${quoted(path)} has rules, whose messages call it ${quoted(UNNAMED)}.` };
  if (!isGroup(part)) return;
  const known = new Map<string, Site>();
  for (const field of inner) {
    const label = inLanguage(field.part.label, undefined);
    const other = known.get(label);
    known.set(label, field);
    // (Two that each have a condition are there by turns.)
    if (other && field.part.label !== UNNAMED && !(other.conditions.length > 0 && field.conditions.length > 0))
      yield { id: 'same-label', site: field, what: `${quoted(other.path)} and ${quoted(field.path)} are both called ${quoted(label)}.` };
  }
}

/** All that is wrong with words. */
export function* words(sites: readonly Site[], { rules: courses }: Courses, catalogues: readonly Catalogue[]): Iterable<Found> {
  const seen = new Map(courses.map(({ placed, codes }) => [placed, codes]));
  for (const site of sites) {
    yield* labels(site);
    for (const placed of site.rules) {
      const { rule } = placed;
      if (rule.message !== undefined) yield* wrongMessages(site, rule, rule.message);
      for (const code of codesOf(rule)) {
        const text = rule.message === undefined ? textFor(site.part.settings.messages, code) : undefined;
        if (text !== undefined) yield* wrongMessages(site, rule, text);
      }
      yield* lackingTexts(site, rule, seen.get(placed) ?? new Set(), catalogues);
    }
    yield* lackingLanguages(site, catalogues);
  }
}
