// The rules, as JSON Schema writes them: which keywords carry their params, and how they are made of these again. The annotation
// `gate.rules` lists the rules of a value in their order, with what no keyword can hold; see ./writeRule.ts and ./readRules.ts.

import { asyncCheck, type ASYNC_DEFAULTS } from '../rules/asyncCheck/asyncCheck.ts';
import { asyncChoicesFrom } from '../rules/asyncChoicesFrom/asyncChoicesFrom.ts';
import { check } from '../rules/crossField/check.ts';
import { depending } from '../rules/depending.ts';
import { fileSize, fileType } from '../rules/files.ts';
import { length } from '../rules/length.ts';
import { noDuplicates } from '../rules/noDuplicates/noDuplicates.ts';
import { range, step } from '../rules/range.ts';
import { required } from '../rules/required.ts';
import { requiredWhen } from '../rules/crossField/requiredWhen.ts';
import { after, before, differsFrom, sameAs } from '../rules/crossField/siblings.ts';
import { choicesFrom, oneOf } from '../rules/options.ts';
import { cardNumber, email, ipAddress, pattern, url } from '../rules/text.ts';
import type { RuleDefinition } from '../schema/definition.ts';
import type { Params } from '../schema/finding.ts';
import type { AnyRule, AuthorFunction } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import { SEVERITY_NAMES } from '../schema/severity.ts';
import { factsOf, isRuleName, type NamedRule, type ParamType, type RuleName } from '../schema/vocabulary.ts';
import { FLAG, isObject, LABEL, LIMIT, listOf, NUMBER, omit, oneOfThese, STAGE, TEXT, type JsonObject, type Type } from './document.ts';
import { timestamp, uuid } from './formats.ts';

/** How a rule is written. */
interface Writing {
  /** The keywords that carry params, by param, for values of a JSON type. */
  readonly carry?: (type: string, params: Params) => Readonly<Record<string, string>>;
  /** Keywords that say the rule itself. */
  readonly keywords?: (type: string, params: Params) => JsonObject;
  /** The keyword that carries all params, in an object. */
  readonly whole?: string | undefined;
  /** Keywords that mean the same as those that carry it: they do not stand in one place. */
  readonly akin?: readonly string[];
  /** Params of the rule, or of several, where a document has keywords alone. */
  readonly fromKeywords?: (type: string, params: Params) => readonly Params[];
  readonly make: (params: Params, options: RuleOptions) => unknown;
}

/**
 * Calls what makes a rule with what a document has. Nobody knows the types of that: params were compared with the table, and a
 * function is the author's word.
 */
const untyped =
  (make: (...given: never[]) => unknown) =>
  (...given: readonly unknown[]): unknown =>
    make(...(given as never[]));

/** Params without those that are not there. */
const pickKnown = (params: Params): Params =>
  omit(
    params,
    Object.keys(params).filter((key) => params[key] === undefined),
  );

const sized = (type: string) => (type === 'string' ? { min: 'minLength', max: 'maxLength' } : { min: 'minItems', max: 'maxItems' });

/** The rules that are not made of a function of the author. */
export type Plain = Exclude<RuleName, NamedRule>;

export const isNamed = (name: RuleName): name is NamedRule => factsOf(name).isNamed === true;

const PARAM_TYPES: Readonly<Record<Extract<ParamType, string>, Type>> = {
  number: NUMBER,
  limit: LIMIT,
  text: TEXT,
  flag: FLAG,
  texts: listOf(TEXT),
  values: listOf({ fits: (value) => ['string', 'number', 'boolean'].includes(typeof value), words: 'a text, a number, true or false' }),
};
export const OBJECT: Type = { fits: isObject, words: 'an object' };
export const typeOfParam = (type: ParamType): Type => (typeof type === 'string' ? PARAM_TYPES[type] : oneOfThese(...type));

/** How rules are written, in the order in which they report where a document has keywords alone. */
const WRITINGS: Readonly<Record<Plain, Writing>> = {
  required: {
    keywords: (type): JsonObject => (type === 'boolean' ? { const: true } : {}),
    make: (_, options) => required(options as object),
  },
  length: {
    carry: sized,
    // JSON Schema counts code points, HTML and this library UTF-16 units.
    fromKeywords: (type, params) => [type === 'string' ? { ...params, count: 'codePoints' } : params],
    make: (params, options) => length(params, options),
  },
  pattern: {
    carry: (_, { pattern: source, flags = '' }): Record<string, string> =>
      source === undefined || (['', 'u'].includes(String(flags)) && isPattern(source as string)) ? { pattern: 'pattern' } : {},
    fromKeywords: (_, params) => [{ ...params, flags: 'u' }],
    make: ({ pattern: source, flags = '' }, options) => pattern(new RegExp(String(source), String(flags)), options),
  },
  email: {
    keywords: (_, { multiple }): JsonObject => (multiple === true ? {} : { format: 'email' }),
    make: (params, options) => email({ ...params, ...options }),
  },
  url: { keywords: () => ({ format: 'uri' }), make: (params, options) => url({ ...params, ...options }) },
  ipAddress: {
    keywords: (_, { version }): JsonObject => (version === undefined ? {} : { format: `ipv${version as number}` }),
    make: (params, options) => ipAddress({ ...params, ...options }),
  },
  timestamp: {
    keywords: (_, { format }) => ({ format }),
    make: ({ format }, options) => timestamp(format as 'time', options),
  },
  uuid: { keywords: () => ({ format: 'uuid' }), make: (_, options) => uuid(options) },
  cardNumber: { make: (_, options) => cardNumber(options) },
  range: {
    carry: (type): Record<string, string> =>
      type === 'number' ? { min: 'minimum', max: 'maximum', above: 'exclusiveMinimum', below: 'exclusiveMaximum' } : {},
    // A rule has one limit at each end.
    fromKeywords(_, { min, max, above, below }) {
      const both = (min !== undefined && above !== undefined) || (max !== undefined && below !== undefined);
      const all = { min, max, above, below };
      return (
        both
          ? [
              { min, max },
              { above, below },
            ]
          : [all]
      ).map((params) => pickKnown(params));
    },
    make: (params, options) => range(params, options),
  },
  step: {
    carry: (type, { base }): Record<string, string> => (type === 'number' && base === undefined ? { step: 'multipleOf' } : {}),
    make: ({ step: size, base }, options) => step(Number(size), base as number | undefined, options),
  },
  oneOf: {
    carry: () => ({ options: 'enum' }),
    akin: ['const', 'oneOf'],
    make: ({ options: values }, options) => oneOf(values as string[], options),
  },
  noDuplicates: {
    keywords: (_, { by }): JsonObject => (by === undefined ? { uniqueItems: true } : {}),
    make: (params, options) => noDuplicates({ ...params, ...options }),
  },
  fileSize: { make: (params, options) => fileSize(params as { max: number }, options) },
  fileType: { make: ({ accept }, options) => fileType(String(accept), options) },
  sameAs: { make: ({ other }, options) => untyped(sameAs)(other, options) },
  differsFrom: { make: ({ other }, options) => untyped(differsFrom)(other, options) },
  after: { make: ({ other, ...rest }, options) => untyped(after)(other, { ...rest, ...options }) },
  before: { make: ({ other, ...rest }, options) => untyped(before)(other, { ...rest, ...options }) },
};

/** What there is to say of a rule in documents, a built-in one or one of the author. */
export interface Row {
  readonly name: string;
  readonly params: RuleDefinition<AnyRule>['params'];
  readonly fits: RuleDefinition<AnyRule>['fits'];
  readonly readsOther?: boolean | undefined;
  /** Whether it needs all its params; if not, `make` checks which. */
  readonly needsAll?: true;
  readonly writing: Writing;
}

/** The row of a rule of the author: its keyword carries its only param, or an object of all. */
export function rowOfOwn({ name, params, fits, keyword, make }: RuleDefinition<AnyRule>): Row {
  const names = Object.keys(params);
  const carry = keyword === undefined || names.length !== 1 ? {} : { [names[0]!]: keyword };
  return { name, params, fits, needsAll: true, writing: { carry: () => carry, whole: names.length === 1 ? undefined : keyword, make } };
}

export const builtIn = (name: Plain): Row => ({ name, ...factsOf(name), writing: WRITINGS[name] });

/** The rows of all of them. */
export const PLAIN_ROWS: readonly Row[] = /* @__PURE__ */ (Object.keys(WRITINGS) as Plain[]).map(builtIn);

/** The row of a rule; none for those that are the name of a function. */
export const rowOf = (name: string, own: RuleDefinition<AnyRule> | undefined): Row | undefined =>
  own ? rowOfOwn(own) : isRuleName(name) && !isNamed(name) ? builtIn(name) : undefined;

type Types = Readonly<Partial<Record<keyof typeof WAIT_KEYS, Type>>>;
const WAITING: Types = { timeout: NUMBER, unanswered: oneOfThese('warn', 'block') };

/** Rules of which documents know the name of a function, and options. */
export const NAMED: Readonly<
  Record<NamedRule, { types?: Types; make: (by: AuthorFunction, name: string, params: Params, options: RuleOptions) => unknown }>
> = {
  check: { make: (by, _, __, options) => untyped(check)(by, options) },
  requiredWhen: { make: (by, _, __, options) => untyped(requiredWhen)(by, options) },
  asyncCheck: {
    types: { debounce: NUMBER, cache: NUMBER, ...WAITING },
    make: (by, name, params, options) => untyped(asyncCheck)(by, { ...params, ...options, name }),
  },
  choicesFrom: { make: (by, _, __, options) => untyped(choicesFrom)(by, options) },
  asyncChoicesFrom: {
    types: WAITING,
    make: (by, name, params, options) => untyped(asyncChoicesFrom)(by, { ...params, ...options, name }),
  },
};

/** Rules of which params may be a function: documents know its name alone, too. */
export const MOVING: Readonly<Partial<Record<RuleName, (by: AuthorFunction, options: RuleOptions) => unknown>>> = {
  range: (by, options) => untyped(range)(depending(by), options),
  step: (by, options) => untyped(step)(depending(by), undefined, options),
  length: (by, options) => untyped(length)(depending(by), options),
  oneOf: (by, options) => untyped(oneOf)(depending(by), options),
};

/** Whether other readers of a document can use a pattern: they have it under the flag `u`. */
function isPattern(source: string): boolean {
  try {
    new RegExp(source, 'u');
    return true;
  } catch {
    return false;
  }
}

/** The rules for a `format`, by JSON type; none if the kind or a setting covers it. */
export const FORMATS: Readonly<Record<string, Readonly<Record<string, readonly [rule: Plain, params: Params] | undefined>>>> = {
  string: {
    email: ['email', {}],
    uri: ['url', {}],
    ipv4: ['ipAddress', { version: 4 }],
    ipv6: ['ipAddress', { version: 6 }],
    'date-time': ['timestamp', { format: 'date-time' }],
    time: ['timestamp', { format: 'time' }],
    uuid: ['uuid', {}],
    password: undefined,
  },
  // Those of OpenAPI's registry.
  number: { int32: ['range', { min: -(2 ** 31), max: 2 ** 31 - 1 }], int64: undefined, float: undefined, double: undefined },
};

/** The options of rules, by the keys that documents have for them: a document stays readable when options are renamed. */
export const OPTION_KEYS = {
  message: 'message',
  code: 'code',
  severity: 'severity',
  on: 'on',
  reveal: 'reveal',
} as const satisfies Readonly<Record<string, keyof RuleOptions>>;
export const OPTION_TYPES: Readonly<Record<keyof typeof OPTION_KEYS, Type>> = {
  message: LABEL,
  code: TEXT,
  severity: oneOfThese(...SEVERITY_NAMES),
  on: STAGE,
  reveal: STAGE,
};

/** The same for what rules take that wait for an answer. */
export const WAIT_KEYS = { debounce: 'debounce', timeout: 'timeout', cache: 'cache', unanswered: 'unanswered' } as const satisfies Readonly<
  Record<string, keyof typeof ASYNC_DEFAULTS>
>;
