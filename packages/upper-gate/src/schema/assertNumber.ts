// Numbers that limit something.

import { DEV } from '#development';
import { WRONG_USE } from './brand.ts';

/**
 * Throws unless an option is a number from `least` on. In production too: a comparison with `NaN` or `undefined` is always
 * false, so that it would lift the limit.
 */
export function assertNumber(name: string, value: unknown, least: number): void {
  if (!(typeof value === 'number' && value >= least))
    throw new TypeError(DEV ? `${name} takes a number from ${least}. It got ${String(value)}.` : WRONG_USE);
}
