// The keys of entries.

import { unknown } from '../../messages/english.ts';
import { UNREADABLE } from '../field.ts';
import { isName } from '../safeAccess.ts';
import type { Verdict } from '../verdict.ts';
import { isWellFormed } from '../wellFormed.ts';

/** Whether an entry can have a key: paths lead there, and databases hold it. */
export const isKey = (key: string): boolean => isName(key) && isWellFormed(key);

/** The verdict on a key that cannot be one. */
export const noKey = (name: string): Verdict =>
  isWellFormed(name) ? { code: 'unknown', text: unknown, params: { name } } : UNREADABLE.verdict;
