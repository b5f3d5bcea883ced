// What JSON can hold.

import { isObjectLike } from './safeAccess.ts';
import { isWellFormed } from './wellFormed.ts';

/** A value that JSON can hold. */
export type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };

/** How deep it may lie; deeper values are taken for an attack on the stack. */
const DEEPEST = 100;

/** Whether a value is an object of no class, of whichever page or thread. */
export function isPlain(value: unknown): value is Readonly<Record<string, unknown>> {
  if (!isObjectLike(value) || Array.isArray(value)) return false;
  const prototype = Object.getPrototypeOf(value) as object | null;
  return prototype === null || Object.getPrototypeOf(prototype) === null;
}

/** Whether JSON can hold a value, with texts that a database can hold, too. */
export function isJson(value: unknown, depth = 0): value is Json {
  if (value === null || typeof value === 'boolean') return true;
  if (typeof value === 'number') return Number.isFinite(value);
  if (typeof value === 'string') return isWellFormed(value);
  if (depth === DEEPEST) return false;
  if (Array.isArray(value)) return value.every((each) => isJson(each, depth + 1));
  return isPlain(value) && Object.entries(value).every(([key, each]) => isWellFormed(key) && isJson(each, depth + 1));
}
