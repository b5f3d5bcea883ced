// Whether a value may be left out: what JSON Schema says in `required` of the object around it, and a rule says here.

import { required } from '../rules/required.ts';
import { readValue } from '../evaluate/field.ts';
import { isField, isUnreadable } from '../schema/field.ts';
import { isGroup } from '../schema/group.ts';
import type { InJson } from '../schema/node.ts';
import { nodeOf, type Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import { isObjectLike, ownKeys, ownRaw } from '../schema/safeAccess.ts';
import { sameValue } from '../schema/sameValue.ts';
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

/** Has a form leave a part out as long as nothing in it is filled in: there is no other way to say there that it is not there. */
function leftOutIfBlank(part: Part): Part {
  part.isLeftOut = (raw) => isBlank(part, raw);
  return part;
}

/** Whether nothing in a value is filled in, as a form holds it. What somebody else has filled in (`default`) is not. */
function isBlank(part: Part, raw: unknown): boolean {
  if (raw === undefined || raw === null || raw === '') return true;
  if (isField(part)) {
    const value = readValue(part, raw, { fault: () => undefined, isJson: false, locale: undefined });
    return !isUnreadable(value) && (part.isEmpty(value) || sameValue(value, part.settings.default));
  }
  if (Array.isArray(raw)) return raw.length === 0;
  if (!isObjectLike(raw)) return false;
  if (isVariant(part)) return isBlank(part.chooser, ownRaw(raw, part.key));
  return isGroup(part) ? part.parts.every((child, i) => isBlank(child, ownRaw(raw, part.keys[i]!))) : ownKeys(raw).length === 0;
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
  if (json.absent === 'accepted') return leftOutIfBlank(part);
  if (needed === undefined || json.absent !== undefined) return part;
  const fails = failsAbsent(part);
  if (needed === false) return fails ? leftOutIfBlank(make([], { ...json, absent: 'accepted' })) : part;
  if (fails) return part;
  if (takesRequired(part) && json.nullable !== true) return make([required()], json);
  return needed === 'item' ? part : make([], { ...json, absent: 'refused' });
}
