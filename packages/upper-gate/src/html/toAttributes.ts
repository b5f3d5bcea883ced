// From a field to HTML's constraint attributes, so that a browser judges what it can before there is script.

import { DEV } from '#development';
import { WRONG_USE } from '../schema/brand.ts';
import { isField } from '../schema/field.ts';
import { partOf } from '../schema/part.ts';
import type { Node } from '../schema/node.ts';
import { isBlocking, type AnyRule } from '../schema/rule.ts';
import { CONTROL_TYPES } from './controlTypes.ts';
import type { Attributes } from './fieldFromAttributes.ts';

/** The kinds whose values HTML counts in steps of 1, as they are by themselves. */
const WHOLE = ['integer', 'date', 'month', 'week'];

type Found = Record<string, string | true>;

/** The strictest of the limits that several rules set. */
function limits(rules: readonly AnyRule[], name: string, key: 'min' | 'max'): readonly (number | string)[] {
  return rules.filter((rule) => rule.name === name && rule.params[key] !== undefined).map(({ params }) => params[key] as number | string);
}
const strictest = (values: readonly (number | string)[], key: 'min' | 'max'): number | string | undefined =>
  [...values].sort((a, b) => (a < b ? -1 : 1)).at(key === 'min' ? -1 : 0);

function textAttributes(rules: readonly AnyRule[], details: Readonly<Record<string, unknown>>, mandatory: boolean, found: Found): void {
  // HTML counts in UTF-16 units alone.
  const counted = rules.filter(({ params }) => params['count'] === undefined);
  const min = strictest(limits(counted, 'length', 'min'), 'min');
  const max = strictest(limits(counted, 'length', 'max'), 'max');
  // White space around a text counts for HTML. Where it is dropped before the text is judged, the text may be longer as it
  // is typed; and blanks alone are no value, which has no length.
  const asTyped = details['trim'] === false;
  if (min !== undefined && (asTyped || mandatory)) found['minlength'] = String(min);
  if (max !== undefined && asTyped) found['maxlength'] = String(max);
  const mail = rules.find(({ name }) => name === 'email');
  if (mail) found['type'] = 'email';
  if (mail?.params['multiple'] === true) found['multiple'] = true;
  if (!mail && rules.some(({ name }) => name === 'url')) found['type'] = 'url';
  const shapes = rules.filter(({ name }) => name === 'pattern');
  const [shape] = shapes;
  // One pattern, of the whole text, on the text as it is typed.
  if (shapes.length !== 1 || details['case'] !== undefined || shape!.params['flags'] !== '') return;
  const source = /^\^([\s\S]*[^\\])\$$/.exec(String(shape!.params['pattern']))?.[1];
  if (source === undefined || /(^|[^\\])\|/.test(source.replace(/\([^()]*\)/g, ''))) return;
  const whole = asTyped ? source : `\\s*(?:(?:${source})\\s*)?`;
  try {
    new RegExp(whole, 'v');
    found['pattern'] = whole;
  } catch {
    // Browsers would ignore it.
  }
}

function rangeAttributes(kind: string, rules: readonly AnyRule[], found: Found): void {
  const mins = limits(rules, 'range', 'min');
  const maxs = limits(rules, 'range', 'max');
  // What day it is today is not known to HTML.
  const min = mins.includes('today') ? undefined : strictest(mins, 'min');
  const max = maxs.includes('today') ? undefined : strictest(maxs, 'max');
  if (min !== undefined) found['min'] = String(min);
  if (max !== undefined) found['max'] = String(max);
  const steps = rules.filter(({ params }) => params['step'] !== undefined);
  const [step] = steps;
  // HTML counts from `min`, or from zero; the rule `range` does so too, `step` from its own base.
  const base = step?.name === 'step' ? step.params['base'] : step?.params['min'];
  const wholeStep = WHOLE.includes(kind) && (min === undefined || typeof min === 'string' || Number.isInteger(min)) && steps.length === 0;
  if (steps.length === 1 && base === min) found['step'] = String(step!.params['step']);
  else if (!wholeStep) found['step'] = 'any';
}

/**
 * The constraint attributes of a field: only what HTML can say too. A browser with these attributes never refuses a value
 * that the field accepts; it may accept what the field refuses (blanks as a value, a domain without a dot, and whatever
 * only your own rules know).
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
  if (!isField(part))
    throw new TypeError(DEV ? `toAttributes() takes a field. It got a ${part.kind}: call it for each of its fields.` : WRONG_USE);
  const { kind, spec, mandatory, ruleList } = part;
  const details = spec.details ?? {};
  const rules = ruleList.filter(isBlocking);
  const found: Found = {};
  // Numbers in local notation are text to HTML.
  const local = details['decimal'] !== undefined || details['locale'] !== undefined;
  if (CONTROL_TYPES[kind] !== undefined && !local) found['type'] = CONTROL_TYPES[kind];
  if (kind === 'files' || kind === 'choices') found['multiple'] = true;
  if (mandatory) found['required'] = true;
  if (kind === 'text') textAttributes(rules, details, mandatory, found);
  else if (found['type'] === 'number' || ['date', 'time', 'dateTime', 'month', 'week'].includes(kind)) rangeAttributes(kind, rules, found);
  const accept = rules.find(({ name }) => name === 'fileType')?.params['accept'];
  if (typeof accept === 'string') found['accept'] = accept;
  return found;
}
