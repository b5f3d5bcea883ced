// What a document says of a value beside what its fields and rules say: as one rule, which validates the value by the keywords. In JSON it
// sees the value as it came, with keys that no field has; in a form, what would be sent.

import { pathOf } from '../../schema/finding.ts';
import { attachCrossField } from '../../rules/crossField/live.ts';
import {
  badInput,
  duplicate,
  notAllowed,
  patternMismatch,
  rangeOverflow,
  rangeUnderflow,
  stepMismatch,
  tooFew,
  tooLong,
  tooMany,
  tooShort,
  unknown,
  valueMissing,
} from '../../messages/english.ts';
import { badValue as badValueOf } from '../../messages/englishEnter.ts';
import { makeRule, type AnyRule } from '../../schema/rule.ts';
import { blocks } from '../../schema/severity.ts';
import type { Part } from '../../schema/part.ts';
import type { Verdict } from '../../schema/verdict.ts';
import type { WalkedPart, Walker } from '../../schema/walker.ts';
import { isObjectLike } from '../../schema/safeAccess.ts';
import type { Place } from '../document.ts';
import type { Evaluation, Issue } from './evaluate.ts';
import type { Resources } from './resources.ts';

/** What each keyword reports. */
const VERDICTS: Readonly<Record<string, Verdict>> = {
  type: { code: 'badInput', text: badInput },
  format: { code: 'typeMismatch', text: badValueOf },
  enum: { code: 'notAllowed', text: notAllowed },
  const: { code: 'notAllowed', text: notAllowed },
  not: { code: 'notAllowed', text: badValueOf },
  oneOf: { code: 'notAllowed', text: badValueOf },
  propertyNames: { code: 'unknown', text: unknown },
  additionalProperties: { code: 'unknown', text: unknown },
  unevaluatedProperties: { code: 'unknown', text: unknown },
  unevaluatedItems: { code: 'tooMany', text: badValueOf },
  required: { code: 'valueMissing', text: valueMissing },
  minLength: { code: 'tooShort', text: tooShort },
  maxLength: { code: 'tooLong', text: tooLong },
  pattern: { code: 'patternMismatch', text: patternMismatch },
  minimum: { code: 'rangeUnderflow', text: rangeUnderflow },
  exclusiveMinimum: { code: 'rangeUnderflow', text: rangeUnderflow },
  maximum: { code: 'rangeOverflow', text: rangeOverflow },
  exclusiveMaximum: { code: 'rangeOverflow', text: rangeOverflow },
  multipleOf: { code: 'stepMismatch', text: stepMismatch },
  minItems: { code: 'tooFew', text: tooFew },
  maxItems: { code: 'tooMany', text: tooMany },
  minProperties: { code: 'tooFew', text: tooFew },
  maxProperties: { code: 'tooMany', text: tooMany },
  minContains: { code: 'tooFew', text: badValueOf },
  maxContains: { code: 'tooMany', text: badValueOf },
  uniqueItems: { code: 'duplicate', text: duplicate },
};
/** A value that nothing may be, or that is too deep. */
const REFUSED: Verdict = { code: 'notAllowed', text: badValueOf };

/** The verdict of an issue. */
function verdictOf({ keys, keyword, params, title }: Issue): Verdict {
  const verdict = VERDICTS[keyword] ?? REFUSED;
  // Further in, it is called what the document, or the key, calls it.
  const label = keys.length > 0 ? { label: title ?? keys.at(-1)! } : {};
  return { ...verdict, path: pathOf(keys), params: { ...params, ...label } };
}

/** Data as JSON has them: keys without a value are not there. */
function plain(value: unknown): unknown {
  if (Array.isArray(value)) return value.map((each) => plain(each) ?? null);
  if (!isObjectLike(value)) return value;
  return Object.fromEntries(Object.keys(value).flatMap((key) => (value[key] === undefined ? [] : [[key, plain(value[key])]])));
}

/** By what a rule validates, for writing it back. */
export interface Origin {
  readonly resources: Resources;
  readonly places: readonly Validated[];
}
const origins = new WeakMap<object, Origin>();
/** The places in a document by which a rule validates; nothing for any other rule. */
export const originOfRule = (rule: object): Origin | undefined => origins.get(rule);

/** A place by which values are validated. */
type Validated = Pick<Place, 'at' | 'nullable'>;

/**
 * What judges values of any type, of parts whose documents say none: they are written without one, and with what nothing else says of
 * values of other types.
 */
export const typeless = new WeakMap<object, Origin>();

/** Makes what validates a value by the schemas at several places: by all of them. */
export const validating =
  (evaluation: Evaluation, places: readonly Validated[]) =>
  (value: unknown): readonly Verdict[] => {
    const found = places.flatMap(({ at, nullable }) => (nullable && value === null ? [] : evaluation.issuesAt(at, value)));
    // Several keywords may find the same.
    const known = new Set<string>();
    return found.map(verdictOf).filter(({ path, code }) => known.size < known.add(`${code} ${path}`).size);
  };

/** Makes the rule. */
export function documentRule(resources: Resources, evaluation: Evaluation, places: readonly Validated[]): AnyRule {
  const verdicts = validating(evaluation, places);
  const walk = (rule: AnyRule, part: WalkedPart, data: unknown, walker: Walker): void => {
    const isWhole = (part as Part).traits.hasParts === true;
    const value = walker.isJson && isWhole ? walker.raw : data;
    // What a field has found itself is not found again.
    const before = new Set(
      isWhole
        ? walker.entries
            .slice(walker.start)
            .filter((entry) => 'severity' in entry && blocks(entry as never))
            .map(({ path }) => path)
        : [],
    );
    // Nor is a part missing of which a field has said that it is.
    const isSaid = ({ path = '', code }: Verdict): boolean =>
      before.has(path) || (code === 'valueMissing' && [...before].some((each) => each.startsWith(`${path}.`)));
    for (const verdict of verdicts(walker.isJson ? value : plain(value))) if (!isSaid(verdict)) walker.report(part, rule, verdict);
  };
  const test = (value: unknown): readonly Verdict[] => verdicts(plain(value));
  const document = function document(): boolean {
    return true;
  };
  const rule = makeRule('check', {}, { test, author: document, attach: attachCrossField, walk }, undefined) as AnyRule;
  origins.set(rule, { resources, places });
  return rule;
}
