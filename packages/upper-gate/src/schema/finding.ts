// What a rule reports on one value.

import { pointerOf } from './pointer.ts';
import type { Severity } from './severity.ts';

/** The params of a finding by name, such as `{ min: 2, max: 40 }`. */
export type Params = Readonly<Record<string, unknown>>;

/** One result of a rule. */
export interface Finding {
  /** The path of the field: `''` for the whole form, `'email'`, `'crew.0.age'`. */
  readonly path: string;
  /** What is wrong: a name of HTML's `ValidityState` wherever HTML has one (`valueMissing`, `tooLong`, ...). */
  readonly code: string;
  readonly severity: Severity;
  /** A sentence for the user; plain text. */
  readonly message: string;
  /** The limits of the rule, as data (`{ min: 2 }`). */
  readonly params: Params;
}

/**
 * Returns the path of a finding as a JSON Pointer (RFC 6901).
 *
 * @param finding the finding
 * @returns the pointer, such as `/crew/0/name`; empty for the form
 *
 * @example
 * toJsonPointer({ path: 'crew.0.age', ... }) // '/crew/0/age'
 */
export function toJsonPointer(finding: Pick<Finding, 'path'>): string {
  return pointerOf(keysOf(finding.path));
}

/** A key as a step of a path: a dot in it is `\.`, a backslash `\\`; the key that is empty is `\e`. */
export const stepOf = (key: string | number): string => (key === '' ? '\\e' : String(key).replace(/[.\\]/g, '\\$&'));

/**
 * Returns the path of keys that are known only at run time. In a path, a dot of a key is written `\.`, a backslash `\\`, and the key
 * that is empty `\e`.
 *
 * @param keys the names of fields, the keys of entries, the indices of rows, from the outside in
 * @returns the path
 *
 * @example
 * pathOf(['tolls', 'v1.barge', 0]) // 'tolls.v1\\.barge.0'
 */
export const pathOf = (keys: readonly (string | number)[]): string => keys.map(stepOf).join('.');

/**
 * Returns the keys on a path: what `pathOf` has made a path of, as texts.
 *
 * @param path the path, of a finding or a handle
 * @returns its keys; none for the form
 *
 * @example
 * keysOf('tolls.v1\\.barge.0') // ['tolls', 'v1.barge', '0']
 */
export function keysOf(path: string): readonly string[] {
  if (path === '') return [];
  if (!path.includes('\\')) return path.split('.');
  const keys: string[] = [];
  let key = '';
  for (let i = 0; i < path.length; i += 1) {
    const sign = path[i]!;
    if (sign === '.') {
      keys.push(key);
      key = '';
    } else key += sign === '\\' ? escaped(path[(i += 1)]) : sign;
  }
  return [...keys, key];
}

/** What stands for itself, or for nothing, behind a backslash. */
const escaped = (sign = '\\'): string => (sign === 'e' ? '' : sign);

/** Stands in place of the key of a case, whose fields are beside the choice. (No key holds NUL.) */
export const BESIDE = '\0';

/** The path of what is further in: `join('crew', '0.name')` is `'crew.0.name'`. */
export const join = (path: string, relative: string): string => (path === '' ? relative : relative === '' ? path : `${path}.${relative}`);

/** The path of a child. */
export const childPath = (path: string, key: string | number): string => (key === BESIDE ? path : join(path, stepOf(key)));
