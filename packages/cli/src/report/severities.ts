// The severities, as reports count and paint them.

import { createColors } from 'picocolors';
import type { Severity } from 'upper-gate';

/** How many findings of each severity there are, to begin with; the gravest first. */
export const NONE: Readonly<Record<Severity, number>> = { error: 0, warning: 0, notice: 0 };
export const SEVERITIES = Object.keys(NONE) as readonly Severity[];

/** What paints each; `any` stands for several. */
export function paints(coloured: boolean): Readonly<Record<Severity | 'any', (text: string) => string>> {
  const { red, yellow, green } = createColors(coloured);
  return { error: red, warning: yellow, notice: green, any: String };
}
