// The keys of entries.

import { unknown } from '../../messages/english.ts';
import type { Verdict } from '../verdict.ts';

/** The verdict on a key that cannot be one. */
export const noKey = (name: string): Verdict => ({ code: 'unknown', text: unknown, params: { name } });
