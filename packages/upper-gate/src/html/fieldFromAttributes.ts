// From HTML's constraint attributes to a field. Pure: no DOM is needed.

import { assertDistinct } from '../schema/definition.ts';
import type { DefinedRule } from '../rules/defineRule.ts';
import { check } from '../rules/crossField/check.ts';
import { patternRisk } from '../rules/patternRisk.ts';
import { email, pattern, url } from '../rules/text.ts';
import { length } from '../rules/length.ts';
import { range, step } from '../rules/range.ts';
import { required } from '../rules/required.ts';
import { momentAt, type MomentKind } from '../schema/calendar.ts';
import type { Field } from '../schema/field.ts';
import { date, dateTime, month, time, week } from '../schema/moments.ts';
import { NUMBER, number } from '../schema/number.ts';
import type { Mark, Rule } from '../schema/rule.ts';
import { text } from '../schema/text.ts';

/** Content attributes by lower-case name. Boolean attributes are `true` (or `''`). */
export interface Attributes {
  readonly [name: string]: string | true | undefined;
}

type FieldRule = Rule<never, unknown, Mark>;

const TEXTS = ['text', 'search', 'tel', 'url', 'email', 'password', 'textarea'];
const MOMENTS = {
  date: { kind: 'date', make: date },
  time: { kind: 'time', make: time },
  'datetime-local': { kind: 'dateTime', make: dateTime },
  month: { kind: 'month', make: month },
  week: { kind: 'week', make: week },
} as const satisfies Record<string, { kind: MomentKind; make: typeof date }>;

/** An attribute's value, as text; nothing where it is absent. */
const valueOf = (attributes: Attributes, name: string): string | undefined => {
  const value = attributes[name];
  return value === true ? '' : value;
};

/** HTML's rules for parsing non-negative integers: leading digits count, what follows does not. */
function wholeNumber(value: string | undefined): number | undefined {
  const digits = /^[\t\n\f\r ]*(?:\+|-(?=0+(?!\d)))?(\d+)/.exec(value ?? '')?.[1];
  return digits === undefined ? undefined : Number(digits);
}

/** A limit that the control can read; others are ignored, as browsers do. */
function limit(value: string | undefined, kind: MomentKind | undefined): number | string | undefined {
  if (value === undefined) return undefined;
  if (kind) return momentAt(kind, value) === undefined ? undefined : value;
  return NUMBER.test(value) && Number.isFinite(Number(value)) ? Number(value) : undefined;
}

/** The step that holds: `any` is none, what is no number above zero is the default. */
function stepSize(value: string | undefined, kind: MomentKind | undefined): number | undefined {
  if (value?.toLowerCase() === 'any') return undefined;
  const size = limit(value, undefined) as number | undefined;
  const usual = kind === 'time' || kind === 'dateTime' ? 60 : 1;
  if (size === undefined || size <= 0) return usual;
  // Whole days, weeks and months; thousandths of seconds.
  return kind === undefined ? size : usual === 60 ? Math.max(0.001, Math.round(size * 1000) / 1000) : Math.max(1, Math.round(size));
}

function textRules(
  attributes: Attributes,
  type: string,
  { trustPatterns = false, invalidPatterns }: FieldFromAttributesOptions,
): FieldRule[] {
  const rules: FieldRule[] = [];
  const min = wholeNumber(valueOf(attributes, 'minlength'));
  const max = wholeNumber(valueOf(attributes, 'maxlength'));
  // Each for itself: contradictory ones are both reported, as in a browser.
  if (min !== undefined) rules.push(length({ min }));
  if (max !== undefined) rules.push(length({ max }));
  const multiple = type === 'email' && attributes['multiple'] !== undefined;
  if (type === 'email') rules.push(email({ multiple }));
  if (type === 'url') rules.push(url());
  const source = type === 'textarea' ? undefined : valueOf(attributes, 'pattern');
  if (source !== undefined) {
    const expression = wholePattern(source, invalidPatterns === 'ignore');
    const risk = expression && !trustPatterns ? patternRisk(source, 'v') : undefined;
    if (risk !== undefined)
      throw new TypeError(
        `The pattern ${source} can take very long on a short text: ${risk}. Rewrite it, or pass { trustPatterns: true }.`,
      );
    if (expression && multiple) rules.push(eachMatches(expression));
    else if (expression) rules.push(pattern(expression));
  }
  return rules;
}

/** Of a list of addresses, each must match: a pattern that takes a comma must not reach over the next one. */
const eachMatches = (expression: RegExp): FieldRule =>
  check((value: string) => value.split(',').every((address) => address.trim() === '' || expression.test(address.trim())), {
    code: 'patternMismatch',
  });

/**
 * The whole value must match, under the `v` flag.
 *
 * @param ignoresInvalid whether a pattern that cannot be read is no rule
 * @throws TypeError for such a pattern: a newer browser may read it, and nobody else would look
 */
function wholePattern(source: string, ignoresInvalid: boolean): RegExp | undefined {
  try {
    // First by itself: parentheses that do not match must not be made to by those around it.
    new RegExp(source, 'v');
    return new RegExp(`^(?:${source})$`, 'v');
  } catch (error) {
    if (ignoresInvalid) return undefined;
    throw new TypeError(
      `The pattern ${source} cannot be read: ${(error as Error).message}. Correct it, or pass { invalidPatterns: 'ignore' }.`,
    );
  }
}

function rangeRules(attributes: Attributes, kind: MomentKind | undefined): FieldRule[] {
  const min = limit(valueOf(attributes, 'min'), kind);
  const max = limit(valueOf(attributes, 'max'), kind);
  const size = stepSize(valueOf(attributes, 'step'), kind);
  const rules: FieldRule[] = [];
  const wraps = kind === 'time' && min !== undefined && max !== undefined && min > max;
  if (wraps) rules.push(range<number | string>({ min, max }));
  else {
    if (min !== undefined) rules.push(range<number | string>({ min }));
    if (max !== undefined) rules.push(range<number | string>({ max }));
  }
  if (size !== undefined) rules.push(step<number | string>(size, min ?? limit(valueOf(attributes, 'value'), kind)));
  return rules;
}

/** Rules of the author, where the attributes have them. */
function definedRules(attributes: Attributes, defined: readonly Pick<DefinedRule, 'definition'>[]): FieldRule[] {
  assertDistinct(
    defined.map(({ definition }) => definition),
    ['attribute'],
  );
  return defined.flatMap(({ definition: { attribute, params, make } }) => {
    const value = attribute === undefined ? undefined : valueOf(attributes, attribute);
    if (value === undefined) return [];
    const [name, ...more] = Object.keys(params);
    if (name === undefined) return [make({}, {}) as FieldRule];
    const given = params[name] === 'number' ? limit(value, undefined) : value;
    // What cannot be read is ignored, as browsers do.
    return more.length > 0 || given === undefined ? [] : [make({ [name]: given }, {}) as FieldRule];
  });
}

/** The options of `fieldFromAttributes`. */
export interface FieldFromAttributesOptions {
  /** Whether to accept patterns that can take very long on a short text (nested repetition). By default they are errors. */
  readonly trustPatterns?: boolean;
  /** What a pattern means that is invalid under the `v` flag: `'ignore'`, nothing, as in a browser. By default it is an error. */
  readonly invalidPatterns?: 'ignore';
  /** Your own rules, which attributes may name. */
  readonly rules?: readonly Pick<DefinedRule, 'definition'>[];
}

/**
 * Builds a field from the constraint attributes of an HTML control. Its findings have the codes of the browser's
 * `ValidityState` flags. It ignores what HTML ignores: limits that cannot be read, attributes that don't apply to the type. As in HTML, a control that is `readonly` or `disabled` has no rules.
 *
 * @param attributes content attributes, by lower-case name
 * @param control the element; default `'input'`
 * @param options `trustPatterns`, `invalidPatterns`, and your own rules
 * @returns a field of text, number, or a moment, by the type
 * @throws TypeError for a pattern that can hang, unless the caller trusts it, and for one that is invalid under the `v` flag, unless the
 *   caller says that it is ignored; for two rules of one name or attribute
 *
 * @example
 * const beam = fieldFromAttributes({ type: 'number', required: true, min: '0.5', max: '5.2', step: '0.1' });
 * validate(group({ beam }), { beam: '6' }).findings[0]?.code; // 'rangeOverflow'
 */
export function fieldFromAttributes(
  attributes: Attributes,
  control: 'input' | 'textarea' = 'input',
  options: FieldFromAttributesOptions = {},
): Field {
  const { rules: defined = [] } = options;
  const given = control === 'textarea' ? 'textarea' : (valueOf(attributes, 'type') ?? 'text').toLowerCase();
  const settings = { label: valueOf(attributes, 'aria-label') ?? valueOf(attributes, 'title') ?? (valueOf(attributes, 'name') || 'Field') };
  // HTML bars a control that the user cannot change from validation.
  const isBarred = attributes['readonly'] !== undefined || attributes['disabled'] !== undefined;
  const requiredRules: FieldRule[] = attributes['required'] === undefined ? [] : [required()];
  const allRules = (others: FieldRule[]): [] =>
    isBarred ? [] : ([...requiredRules, ...others, ...definedRules(attributes, defined)] as []);
  if (given === 'number') return number(settings, ...allRules(rangeRules(attributes, undefined)));
  if (Object.hasOwn(MOMENTS, given)) {
    const { kind, make } = MOMENTS[given as keyof typeof MOMENTS];
    return make(settings, ...allRules(rangeRules(attributes, kind)));
  }
  const type = TEXTS.includes(given) ? given : 'text';
  // The control has stripped what HTML strips; other white space counts.
  return text({ ...settings, trim: false, wellFormed: false }, ...allRules(textRules(attributes, type, options)));
}
