// Judging by a part of a schema, wherever it stands. JSON is judged by its types first: form controls hold texts, JSON
// does not have to.

import { MISSING } from './field.ts';
import type { Part } from './node.ts';
import { ILLEGIBLE } from './outside.ts';
import { refuse, type Run } from './run.ts';

/**
 * Reads and judges a raw value. Findings go to the run, with paths relative to the part. Never throws.
 *
 * @returns the data, or `HOLE` where there is none of the right type
 */
export const judgePart = (part: Part, raw: unknown, run: Run): unknown => (run.json ? judgeJson(part, raw, run) : part.judge(raw, run));

function judgeJson(part: Part, raw: unknown, run: Run): unknown {
  const { nullable, absent } = part.json ?? {};
  if (raw !== undefined && !(raw === null && nullable)) return part.judge(part.takesJson(raw) ? raw : ILLEGIBLE, run);
  if (raw === undefined && absent === 'refused')
    return refuse(
      run,
      part,
      part.ruleList.find((rule) => rule.need),
      MISSING,
    );
  return absent === 'accepted' ? undefined : part.judge(undefined, run);
}
