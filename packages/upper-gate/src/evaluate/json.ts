// Values that have JSON's types: what a part takes, and what it may be left out for.

import { jsonTypeIn } from '../schema/field.ts';
import type { Part } from '../schema/part.ts';
import { INACCESSIBLE, jsonTypeOf } from '../schema/safeAccess.ts';

/** Whether JSON leaves a value out that it may leave out, or has `null` where that stands for a whole that has parts. */
export const isAbsent = ({ settings: { inJson }, traits, required }: Part, raw: unknown): boolean =>
  raw === undefined
    ? inJson?.absent === 'accepted'
    : raw === null && inJson?.nullable === true && (inJson.absent === 'accepted' || (traits.hasParts === true && !required));

/** Whether JSON may not leave a value out, and does. */
export const isRefused = ({ settings: { inJson } }: Part, raw: unknown): boolean => inJson?.absent === 'refused' && raw === undefined;

/** What a part is read from in JSON: no value for `null` where that is taken, nothing that can be read for another type. */
export function rawInJson(part: Part, raw: unknown): unknown {
  if (raw === undefined || (raw === null && part.settings.inJson?.nullable)) return undefined;
  const json = jsonTypeIn(part);
  return json === 'any' || json === jsonTypeOf(raw) ? raw : INACCESSIBLE;
}
