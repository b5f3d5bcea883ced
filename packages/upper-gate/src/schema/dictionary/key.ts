// The keys of entries.

import { unknown } from '../../messages/english.ts';
import { HOSTILE } from '../safeAccess.ts';
import type { Verdict } from '../verdict.ts';

/** Whether a key can be one of an entry: as of a field, so that paths lead there. */
export const isKey = (key: string): boolean => key !== '' && !key.includes('.') && !HOSTILE.includes(key);

/** The verdict on a key that cannot be one. */
export const noKey = (name: string): Verdict => ({ code: 'unknown', text: unknown, params: { name } });
