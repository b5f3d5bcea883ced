// Values of a script as controls hold them: a file in there is all that is known of one.

import { isField } from '../schema/field.ts';
import { isFile } from '../schema/files.ts';
import { isPlain } from '../schema/json.ts';
import type { Part } from '../schema/part.ts';

/** A file of a form has content. (Nobody reads it here.) */
const withContent = (value: unknown): unknown =>
  isPlain(value) && isFile(value) && !('slice' in value) ? { ...value, slice: () => ({}) } : value;

/** A value of a part as its controls hold it. */
export function asHeld(part: Part | undefined, value: unknown): unknown {
  if (!part) return value;
  if (part.row) return asHeld(part.row(), value);
  if (isField(part)) {
    if (part.traits.holds === 'files' && Array.isArray(value)) return value.map(withContent);
    return part.traits.holds === 'file' ? withContent(value) : value;
  }
  if (Array.isArray(value)) return value.map((each, i) => asHeld(part.locate?.(String(i))?.part, each));
  return isPlain(value)
    ? Object.fromEntries(Object.entries(value).map(([key, each]) => [key, asHeld(part.locate?.(key, value)?.part, each)]))
    : value;
}
