// From a field to HTML's constraint attributes, so that a browser can validate before the script has loaded.

import { DEV } from '#development';
import { assertUse } from '../schema/assertUse.ts';
import { isField } from '../schema/field.ts';
import { partOf } from '../schema/part.ts';
import type { Node } from '../schema/node.ts';
import { isBlocking, type AnyRule } from '../schema/rule.ts';
import type { Traits } from '../schema/traits.ts';
import { isRuleName, type RuleName } from '../schema/vocabulary.ts';
import type { Attributes } from './fieldFromAttributes.ts';

/** The types of input that HTML limits by `min`, `max` and `step`. */
const LIMITED: readonly (string | undefined)[] = ['number', 'range', 'date', 'time', 'datetime-local', 'month', 'week'];

type Written = Record<string, string | true>;

/** What a rule's attributes depend on. */
interface Context {
  readonly traits: Traits;
  readonly details: Readonly<Record<string, unknown>>;
  readonly mandatory: boolean;
  /** All rules of a name that block. */
  readonly rulesOf: (name: string) => readonly AnyRule[];
}

/** The strictest of the limits that several rules set. */
function strictest(rules: readonly AnyRule[], key: 'min' | 'max'): number | string | undefined {
  const limits = rules.filter(({ params }) => params[key] !== undefined).map(({ params }) => params[key] as number | string);
  // What day it is today is not known to HTML.
  if (limits.includes('today')) return undefined;
  return limits.sort((a, b) => (a < b ? -1 : 1)).at(key === 'min' ? -1 : 0);
}

// White space around a text counts for HTML. Where it is dropped before the text is validated, the text may be longer as
// it is typed; and blanks alone are no value, which has no length.
const asTyped = ({ details }: Context): boolean => details['trim'] === false;

function lengthAttributes(rules: readonly AnyRule[], context: Context): Written {
  // HTML counts in UTF-16 units only.
  const counted = context.traits.measures === 'text' ? rules.filter(({ params }) => params['count'] === undefined) : [];
  const [min, max] = [strictest(counted, 'min'), strictest(counted, 'max')];
  return {
    ...(min !== undefined && (asTyped(context) || context.mandatory) && { minlength: String(min) }),
    ...(max !== undefined && asTyped(context) && { maxlength: String(max) }),
  };
}

function patternAttributes(rules: readonly AnyRule[], context: Context): Written {
  const [shape] = rules;
  // One pattern, of the whole text, on the text as it is typed.
  if (rules.length !== 1 || context.details['case'] !== undefined || shape!.params['flags'] !== '') return {};
  const source = /^\^([\s\S]*[^\\])\$$/.exec(String(shape!.params['pattern']))?.[1];
  if (source === undefined || /(^|[^\\])\|/.test(source.replace(/\([^()]*\)/g, ''))) return {};
  const pattern = asTyped(context) ? source : `\\s*(?:(?:${source})\\s*)?`;
  try {
    new RegExp(pattern, 'v');
    return { pattern };
  } catch {
    // Browsers would ignore it.
    return {};
  }
}

function rangeAttributes(rules: readonly AnyRule[]): Written {
  const [min, max] = [strictest(rules, 'min'), strictest(rules, 'max')];
  return { ...(min !== undefined && { min: String(min) }), ...(max !== undefined && { max: String(max) }) };
}

/** What HTML can say of each rule; nothing where it cannot. */
const ATTRIBUTES: Readonly<Record<RuleName, ((rules: readonly AnyRule[], context: Context) => Written) | undefined>> = {
  required: () => ({ required: true }),
  length: lengthAttributes,
  pattern: patternAttributes,
  email: ([rule]) => ({ type: 'email', ...(rule!.params['multiple'] === true && { multiple: true }) }),
  url: (_, { rulesOf }) => (rulesOf('email').length > 0 ? {} : { type: 'url' }),
  range: rangeAttributes,
  fileType: ([rule]) => ({ accept: String(rule!.params['accept']) }),
  // With `range`, which may have steps too: see stepAttribute.
  step: undefined,
  requiredWhen: undefined,
  ipAddress: undefined,
  cardNumber: undefined,
  timestamp: undefined,
  uuid: undefined,
  oneOf: undefined,
  choicesFrom: undefined,
  asyncChoicesFrom: undefined,
  noDuplicates: undefined,
  fileSize: undefined,
  sameAs: undefined,
  differsFrom: undefined,
  after: undefined,
  before: undefined,
  check: undefined,
  asyncCheck: undefined,
};

/** What a rule of the author says itself: its only param, or that it is there. */
function ownAttribute({ definition, params }: AnyRule): Written {
  const [param, ...more] = Object.keys(definition?.params ?? {});
  if (definition?.attribute === undefined || more.length > 0) return {};
  return { [definition.attribute]: param === undefined ? true : String(params[param]) };
}

/** HTML counts steps from `min`, or from zero; the rule `range` does so too, `step` from its own base. */
function stepAttribute({ traits, rulesOf }: Context): Written {
  const ranges = rulesOf('range');
  const min = strictest(ranges, 'min');
  const steps = [...ranges.filter(({ params }) => params['step'] !== undefined), ...rulesOf('step')];
  const [step] = steps;
  const base = step?.name === 'step' ? step.params['base'] : step?.params['min'];
  if (steps.length === 1 && base === min) return { step: String(step!.params['step']) };
  const isFromWhole = min === undefined || typeof min === 'string' || Number.isInteger(min);
  return traits.isStepped && isFromWhole && steps.length === 0 ? {} : { step: 'any' };
}

/**
 * Returns the constraint attributes of a field, as far as HTML has them. A browser with these attributes never refuses a value
 * that the field accepts. It may accept what the field refuses: blanks as a value, a domain without a dot, and whatever only
 * your own rules check.
 *
 * @param field of a schema; not a group or a list
 * @returns content attributes by lower-case name; those without a value are `true`. `accept` of files only helps picking.
 * @throws TypeError for a group or a list
 *
 * @example
 * toAttributes(number('Beam (m)', required(), range({ min: 0.5, max: 5.2 })))
 * // { type: 'number', required: true, min: '0.5', max: '5.2', step: 'any' }
 */
export function toAttributes(field: Node): Attributes {
  const part = partOf(field);
  assertUse(isField(part), DEV && `toAttributes() takes a field. It got a ${part.kind}. Call it for each of its fields.`);
  const { traits, mandatory, ruleList } = part;
  const { details = {} } = part.spec;
  const blocking = ruleList.filter(isBlocking);
  // (A rule of the author may have the name of a built-in one.)
  const builtIn = blocking.filter(({ definition }) => !definition);
  const context: Context = { traits, details, mandatory, rulesOf: (name) => builtIn.filter((rule) => rule.name === name) };
  const { holds, control: type } = traits;
  const isLimited = LIMITED.includes(type);
  const written: Written = {};
  if (type !== undefined) written['type'] = type;
  if (holds === 'files' || holds === 'options') written['multiple'] = true;
  for (const name of new Set(builtIn.map((rule) => rule.name)))
    if (isRuleName(name) && (name !== 'range' || isLimited)) Object.assign(written, ATTRIBUTES[name]?.(context.rulesOf(name), context));
  // (Of several with the same attribute, the first counts.)
  for (const rule of [...blocking].reverse()) Object.assign(written, ownAttribute(rule));
  if (isLimited) Object.assign(written, stepAttribute(context));
  return written;
}
