// A field in which nothing can be chosen before another is filled in.

import type { BaseNode } from '../gate/node.ts';
import { VALUE_MISSING } from '../schema/field.ts';

/** The field that comes first, if that is wrong, too: then this one is no error of its own, and the way leads there. */
export function awaitedBy({ liveRules, verdicts }: BaseNode): BaseNode | undefined {
  const first = liveRules?.find(({ instead }) => instead)?.instead?.first as BaseNode | undefined;
  return first && first.errors > 0 && verdicts?.stored.some(({ verdict }) => verdict === VALUE_MISSING) ? first : undefined;
}
