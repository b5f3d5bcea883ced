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
  return finding.path === '' ? '' : pointerOf(finding.path.split('.'));
}

/** The path of a child: `join('crew', 0)` is `'crew.0'`. */
export function join(path: string, key: string | number): string {
  return path === '' ? String(key) : key === '' ? path : `${path}.${key}`;
}
