// The kinds of fields and the rules that there are, each described once. What HTML, JSON Schema, the command and the
// docs say of them stands in one table each, typed by these names: one that misses a kind or a rule does not compile.
// Nothing here is in a bundle that only declares and validates.

import type { Code } from '../messages/codes.ts';
import type { JsonType } from './traits.ts';

interface KindFacts {
  /** The type of its values in JSON. */
  readonly json: JsonType;
  /** The settings that only this kind has. */
  readonly settings: readonly string[];
}

/** The kinds of fields by name: its JSON type, and what fits it. */
export const KINDS = {
  text: { json: 'string', settings: ['trim', 'wellFormed', 'case'] },
  number: { json: 'number', settings: ['decimal', 'locale', 'useGrouping'] },
  integer: { json: 'number', settings: ['decimal', 'locale', 'useGrouping'] },
  boolean: { json: 'boolean', settings: [] },
  date: { json: 'string', settings: ['locale'] },
  time: { json: 'string', settings: [] },
  dateTime: { json: 'string', settings: [] },
  month: { json: 'string', settings: [] },
  week: { json: 'string', settings: [] },
  color: { json: 'string', settings: [] },
  anyJson: { json: 'any', settings: [] },
  choice: { json: 'string', settings: [] },
  choices: { json: 'array', settings: [] },
  file: { json: 'object', settings: [] },
  files: { json: 'array', settings: [] },
  custom: { json: 'any', settings: [] },
  /** Made by `fromStandardSchema`. */
  standardSchema: { json: 'any', settings: [] },
  /** A part that contains itself, of a JSON Schema document. */
  deferred: { json: 'any', settings: [] },
} as const satisfies Record<string, KindFacts>;

/** The kinds of fields. */
export type KindName = keyof typeof KINDS;

/** What a param of a rule may be; a list: one of these. */
export type ParamType = 'number' | 'limit' | 'text' | 'flag' | 'texts' | 'values' | readonly (string | number)[];

interface RuleFacts {
  /** What its findings carry, and documents write. */
  readonly params: Readonly<Record<string, ParamType>>;
  /** What it reports; `customError` stands for any code of the author. */
  readonly codes: readonly Code[];
  /** The kinds of fields (and lists) whose values it validates; `'any'`: all, groups too. */
  readonly fits: 'any' | readonly (KindName | 'list')[];
  /** Whether it is made of a function of the author, whose name stands for it in documents. */
  readonly isNamed?: true;
  /** Whether it waits for an answer. */
  readonly isAsync?: true;
  /** Whether it reads another field, so that it stands in `fieldRules()`. */
  readonly readsOther?: true;
}

const TEXTS = ['text'] as const;
const MEASURED = ['number', 'integer', 'date', 'time', 'dateTime', 'month', 'week'] as const;

/** The built-in rules by name: their params, codes and the kinds that they fit. */
export const RULES = {
  required: { params: {}, codes: ['valueMissing'], fits: 'any' },
  requiredWhen: { params: {}, codes: ['valueMissing'], fits: 'any', isNamed: true, readsOther: true },
  length: {
    params: { min: 'number', max: 'number', count: ['characters', 'codePoints'] },
    codes: ['tooShort', 'tooLong', 'tooFew', 'tooMany'],
    fits: ['text', 'choices', 'files', 'list'],
  },
  pattern: { params: { pattern: 'text', flags: 'text' }, codes: ['patternMismatch'], fits: TEXTS },
  email: { params: { dot: 'flag', multiple: 'flag' }, codes: ['typeMismatch'], fits: TEXTS },
  url: { params: { schemes: 'texts' }, codes: ['typeMismatch'], fits: TEXTS },
  ipAddress: { params: { version: [4, 6] }, codes: ['typeMismatch'], fits: TEXTS },
  cardNumber: { params: {}, codes: ['typeMismatch'], fits: TEXTS },
  /** Of JSON Schema documents: the formats `date-time` and `time`, with their zones. */
  timestamp: { params: { format: ['date-time', 'time'] }, codes: ['typeMismatch'], fits: TEXTS },
  /** Of JSON Schema documents. */
  uuid: { params: {}, codes: ['typeMismatch'], fits: TEXTS },
  range: {
    params: { min: 'limit', max: 'limit', above: 'number', below: 'number', step: 'number' },
    codes: ['rangeUnderflow', 'rangeOverflow', 'stepMismatch'],
    fits: MEASURED,
  },
  step: { params: { step: 'number', base: 'limit' }, codes: ['stepMismatch'], fits: MEASURED },
  // (Of a boolean: `const` in JSON Schema documents.)
  oneOf: { params: { options: 'values' }, codes: ['notAllowed'], fits: ['text', 'number', 'integer', 'boolean'] },
  choicesFrom: {
    params: { options: 'values' },
    codes: ['notAllowed'],
    fits: ['text', 'number', 'integer', 'boolean', 'choice', 'choices'],
    isNamed: true,
  },
  asyncChoicesFrom: {
    params: { options: 'values' },
    codes: ['notAllowed', 'unanswered'],
    fits: ['text', 'number', 'integer', 'boolean', 'choice', 'choices'],
    isNamed: true,
    isAsync: true,
  },
  noDuplicates: { params: { by: 'text' }, codes: ['duplicate'], fits: ['list', 'choices'] },
  fileSize: { params: { max: 'number' }, codes: ['fileTooLarge'], fits: ['file', 'files'] },
  fileType: { params: { accept: 'text' }, codes: ['fileType'], fits: ['file', 'files'] },
  sameAs: { params: { other: 'text' }, codes: ['differs'], fits: 'any', readsOther: true },
  differsFrom: { params: { other: 'text' }, codes: ['duplicate'], fits: 'any', readsOther: true },
  after: { params: { other: 'text', orSame: 'flag' }, codes: ['rangeUnderflow'], fits: MEASURED, readsOther: true },
  before: { params: { other: 'text', orSame: 'flag' }, codes: ['rangeOverflow'], fits: MEASURED, readsOther: true },
  check: { params: {}, codes: ['customError'], fits: 'any', isNamed: true },
  asyncCheck: { params: {}, codes: ['customError', 'unanswered'], fits: 'any', isNamed: true, isAsync: true },
} as const satisfies Record<string, RuleFacts>;

/** The rules. */
export type RuleName = keyof typeof RULES;

/** The rules that are made of a function of the author. */
export type NamedRule = { [N in RuleName]: (typeof RULES)[N] extends { isNamed: true } ? N : never }[RuleName];

export const isRuleName = (name: string): name is RuleName => Object.hasOwn(RULES, name);
export const isKindName = (name: string): name is KindName => Object.hasOwn(KINDS, name);
/** What is known of a rule, whatever it is. */
export const factsOf = (name: RuleName): RuleFacts => RULES[name];
