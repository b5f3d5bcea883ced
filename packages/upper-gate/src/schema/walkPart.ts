// Judging by a part of a schema, wherever it stands. JSON is judged by its types first: form controls hold texts, JSON
// does not have to.

import { VALUE_MISSING } from './field.ts';
import type { Part } from './node.ts';
import { INACCESSIBLE } from './safeAccess.ts';
import { rejectValue, type Walk } from './walk.ts';

/**
 * Reads and judges a raw value. Findings go to the run, with paths relative to the part. Never throws.
 *
 * @returns the data, or `HOLE` where there is none of the right type
 */
export const walkPart = (part: Part, raw: unknown, run: Walk): unknown =>
  run.source === 'json' ? walkJson(part, raw, run) : part.walk(raw, run);

function walkJson(part: Part, raw: unknown, run: Walk): unknown {
  const { nullable, absent } = part.inJson ?? {};
  if (raw !== undefined && !(raw === null && nullable)) return part.walk(part.acceptsJson(raw) ? raw : INACCESSIBLE, run);
  if (raw === undefined && absent === 'refused')
    return rejectValue(
      run,
      part,
      part.ruleList.find((rule) => rule.requires),
      VALUE_MISSING,
    );
  return absent === 'accepted' ? undefined : part.walk(undefined, run);
}
