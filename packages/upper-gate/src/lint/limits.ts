// What the params of rules say by themselves: which values they leave, and which rule another one implies.

import { kindOfMoment, momentAt } from '../schema/calendar.ts';
import { sameValue } from '../schema/sameValue.ts';
import { isBlocking, type AnyRule } from '../schema/rule.ts';
import { rank } from '../evaluate/stage.ts';

/** A limit on the number line: numbers as they are, moments in milliseconds or months. Undefined: not known before the rule runs. */
function at(limit: unknown): number | undefined {
  if (typeof limit === 'number') return limit;
  if (typeof limit !== 'string' || limit === 'today') return undefined;
  const kind = kindOfMoment(limit);
  return kind && momentAt(kind, limit);
}

/** What a rule of limits leaves: from, to, and whether the ends are left out. */
export interface Span {
  readonly low: number;
  readonly high: number;
  readonly isOpenBelow: boolean;
  readonly isOpenAbove: boolean;
}

const isBuiltIn = (rule: AnyRule, name: string): boolean => rule.name === name && !rule.definition && !rule.moving;

/** What a rule leaves of the numbers, moments or lengths; undefined for a rule of another sort, or limits that are not known. */
export function spanOf(rule: AnyRule, name: 'length' | 'range'): Span | undefined {
  if (!isBuiltIn(rule, name)) return undefined;
  const { min, max, above, below } = rule.params;
  const [low, high] = [at(min ?? above), at(max ?? below)];
  if ((min !== undefined && low === undefined) || (max !== undefined && high === undefined)) return undefined;
  // (Times may reach over midnight.)
  if (low !== undefined && high !== undefined && low > high) return undefined;
  return { low: low ?? -Infinity, high: high ?? Infinity, isOpenBelow: above !== undefined, isOpenAbove: below !== undefined };
}

/** What several spans have in common. */
export const common = (spans: readonly Span[]): Span =>
  spans.reduce((a, b) => {
    const low = Math.max(a.low, b.low);
    const high = Math.min(a.high, b.high);
    return {
      low,
      high,
      isOpenBelow: (a.low === low && a.isOpenBelow) || (b.low === low && b.isOpenBelow),
      isOpenAbove: (a.high === high && a.isOpenAbove) || (b.high === high && b.isOpenAbove),
    };
  });

/** Whether there is no value in a span. @param isWhole whether only whole numbers count */
export function isNothing({ low, high, isOpenBelow, isOpenAbove }: Span, isWhole: boolean): boolean {
  const isOpen = isOpenBelow || isOpenAbove;
  if (!isWhole) return low > high || (low === high && isOpen);
  const first = isOpenBelow && Number.isInteger(low) ? low + 1 : Math.ceil(low);
  const last = isOpenAbove && Number.isInteger(high) ? high - 1 : Math.floor(high);
  return first > last;
}

const isIn = (inner: Span, outer: Span): boolean =>
  (inner.low > outer.low || (inner.low === outer.low && (inner.isOpenBelow || !outer.isOpenBelow))) &&
  (inner.high < outer.high || (inner.high === outer.high && (inner.isOpenAbove || !outer.isOpenAbove)));

/** Whether a rule comes as early as another, and counts as much. */
const isBefore = (a: AnyRule, b: AnyRule): boolean =>
  rank(a.on ?? 'change') <= rank(b.on ?? 'change') &&
  (((a.severity ?? 'error') === (b.severity ?? 'error') && a.reveal === b.reveal) || (isBlocking(a) && b.severity === 'warning'));

const values = (of: unknown): readonly unknown[] => (Array.isArray(of) ? of : []);

/** Whether whatever passes one rule passes another: the second then never finds anything alone. */
export function implies(a: AnyRule, b: AnyRule): boolean {
  if (a === b || a.async || b.async || !isBefore(a, b)) return false;
  if (a.author !== undefined || b.author !== undefined) return a.author === b.author && a.name === b.name && a.author !== undefined;
  if (a.definition ?? b.definition) return a.definition === b.definition && sameValue(a.params, b.params);
  for (const name of ['length', 'range'] as const) {
    const [one, other] = [spanOf(a, name), spanOf(b, name)];
    // (A step is no limit: only the same one is implied.)
    if (one && other && a.params['count'] === b.params['count'])
      return (
        isIn(one, other) &&
        (b.params['step'] === undefined || sameValue([a.params['step'], a.params['min']], [b.params['step'], b.params['min']]))
      );
  }
  if (isBuiltIn(a, 'oneOf') && isBuiltIn(b, 'oneOf'))
    return values(a.params['options']).every((each) => values(b.params['options']).includes(each));
  if (isBuiltIn(a, 'fileSize') && isBuiltIn(b, 'fileSize')) return Number(a.params['max']) <= Number(b.params['max']);
  if (a.name === 'required' && b.name === 'requiredWhen') return true;
  return a.name === b.name && !a.moving && !b.moving && sameValue(a.params, b.params);
}

/** Expressions that match every text. */
const ALL = /^\^?(?:\[\\s\\S\]\*|\[\\d\\D\]\*|\[\\w\\W\]\*|\.\*|\(\?:\)|)\$?$/;

/** Why a rule can never fail, by its params alone; undefined where it can. */
export function whyNeverFails(rule: AnyRule, isText: boolean): string | undefined {
  const { name, params } = rule;
  if (rule.definition ?? rule.moving) return undefined;
  if (name === 'length') {
    const { min = 0, max } = params as { readonly min?: number; readonly max?: number };
    if (max !== undefined) return undefined;
    if (min === 0) return 'length() has no limit';
    if (min === 1 && isText) return 'length({ min: 1 }) never sees an empty text: empty fields are left to required()';
  }
  if (name === 'range' && ['min', 'max', 'above', 'below', 'step'].every((limit) => params[limit] === undefined))
    return 'range() has no limit';
  // (A dot leaves out line breaks, which only some controls hold.)
  if (
    name === 'pattern' &&
    ALL.test(String(params['pattern'])) &&
    (String(params['flags']).includes('s') || !String(params['pattern']).includes('.*$'))
  )
    return `the pattern /${String(params['pattern'])}/ matches every text`;
  return undefined;
}
