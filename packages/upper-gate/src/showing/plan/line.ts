// What the line above the form holds. The same for a live page and for one that is drawn again without script.

import type { Finding } from '../../schema/finding.ts';
import { blocks } from '../../schema/severity.ts';

/** A message of the line. */
export type LineMessage = Pick<Finding, 'message' | 'severity'>;

/**
 * What the line holds: what was found about the form as a whole, then what nothing else on the page can show; without the errors, where a
 * summary lists these.
 */
export const lineOf = (own: readonly LineMessage[], strays: readonly LineMessage[], isListed: boolean): readonly LineMessage[] =>
  [...own, ...strays].filter((message) => !isListed || !blocks(message));
