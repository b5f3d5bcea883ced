// Whether a value may be left out: what JSON Schema says in `required` of the object around it, and a rule says here.

import { required } from '../rules/required.ts';
import { FieldPart } from '../schema/field.ts';
import { walkPart } from '../schema/walkPart.ts';
import type { InJson, Part } from '../schema/node.ts';
import type { AnyRule } from '../schema/rule.ts';
import { newWalk } from '../schema/walk.ts';
import { VariantPart } from '../schema/variant.ts';

/** Whether a part refuses JSON in which it is left out. */
export function failsAbsent(part: Part): boolean {
  const run = newWalk({ source: 'json' });
  walkPart(part, undefined, run);
  return run.entries.some((entry) => 'severity' in entry && entry.severity === 'error');
}

/** Makes a part, given a rule that comes first, and what JSON says of its absence. */
export type Make = (first: readonly AnyRule[], json: InJson) => Part;

/** Whether `required()` says that it must be there: it has no data where it is empty. */
export const takesRequired = (part: Part): boolean => part instanceof VariantPart || (part instanceof FieldPart && part.isEmpty(undefined));

/**
 * Makes a part that may be left out, or not.
 *
 * @param needed `'item'`: it is a row of a list, which is there; nothing: as its rules say
 * @param json what the document says outright
 */
export function makeNeeded(make: Make, needed: boolean | 'item' | undefined, json: InJson): Part {
  const part = make([], json);
  if (needed === undefined || json.absent !== undefined) return part;
  const fails = failsAbsent(part);
  if (needed === false) return fails ? make([], { ...json, absent: 'accepted' }) : part;
  if (fails) return part;
  if (takesRequired(part) && json.nullable !== true) return make([required()], json);
  return needed === 'item' ? part : make([], { ...json, absent: 'refused' });
}
