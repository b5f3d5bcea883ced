// Whether a value may be left out: what JSON Schema says in `required` of the object around it, and a rule says here.

import { required } from '../rules/required.ts';
import { isField } from '../schema/field.ts';
import type { InJson } from '../schema/node.ts';
import { nodeOf, type Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import { isVariant } from '../schema/variant/variant.ts';
import { validate } from '../validate/validate.ts';

/** Whether a part refuses JSON in which it is left out. */
export function failsAbsent(part: Part): boolean {
  try {
    return !validate(nodeOf(part), undefined, { source: 'json', async: 'skip' }).ok;
  } catch {
    // It depends on a fact from outside, which nobody knows here.
    return false;
  }
}

/** Makes a part, given a rule that comes first, and whether JSON may leave it out. */
export type Make = (first: readonly AnyRule[], json: InJson) => Part;

/** Whether `required()` says that it must be there: it has no data where it is empty. */
export const takesRequired = (part: Part): boolean => isVariant(part) || (isField(part) && part.isEmpty(undefined));

/**
 * Makes a part that may be left out, or not.
 *
 * @param needed `'item'`: it is a row of a list, which is there; default: as its rules say
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
